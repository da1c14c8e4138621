// The worker's side of pictures: a file in, what its pixels say or a drawing of it out.
import { readFile } from 'node:fs/promises';
import { promisify } from 'node:util';
import { gunzip } from 'node:zlib';
import type { FrameFigures } from '@meridiem/contract';
import type { FramePicture, MeasuredStar, PartName, SkyPosition, StarField } from '@meridiem/core';
import {
  brightened,
  figuresOf,
  histogram,
  partNamed,
  readFramePicture,
  SEARCH_RADIUS_DEG,
  pictureLight,
  skyBackground,
  solveField,
  zeroPointOf,
} from '@meridiem/core';
import type { StarTable } from '../sky/star-table.ts';
import { loadStars, solvingCatalogue } from '../sky/star-table.ts';
import type { CalibratedBy } from './calibrating.ts';
import { calibratedBy } from './calibrating.ts';
import { greyPng } from './grey-png.ts';

export interface DrawJob {
  readonly path: string;
  readonly part: PartName;
  readonly px: number;
  /** null: as it was taken. */
  readonly by: CalibratedBy | null;
  /** Where means of calibration frames are kept. */
  readonly cacheFolder: string | null;
}

const BINS = 96;
/** What sixteen bits hold; a file with larger values is spread over what it has. */
const SIXTEEN_BITS = 65_535;

export async function drawJob({ path, part, px, by, cacheFolder }: DrawJob): Promise<Uint8Array> {
  const taken = await pictureOf(path);
  const picture = by ? await calibratedBy(taken, by, { cacheFolder, read: pictureOf }) : taken;
  return greyPng(brightened(picture, skyBackground(picture), partNamed(picture, part, px), px));
}

/** Where a picture is thought to point, and what it was taken with. */
export interface PointingHint {
  /** null: no place is known, so none is looked for. */
  readonly near: SkyPosition | null;
  readonly scaleArcsecPerPx: number;
  readonly exposureSec: number;
  /** Whether the rendered faint stars are in it. */
  readonly isSimulated: boolean;
}

export interface MeasureJob extends PointingHint {
  readonly path: string;
}

export async function measureJob({ path, ...hint }: MeasureJob): Promise<FrameFigures> {
  const picture = await pictureOf(path);
  let to = SIXTEEN_BITS;
  for (const value of picture.pixels) if (value > to) to = value;
  const { widthPx, heightPx } = picture;
  const { counts, saturatedShare } = histogram(picture, { bins: BINS, to });
  const { sky, stars, trails } = pictureLight(picture);
  return {
    ...{ widthPx, heightPx, ...figuresOf(sky, stars) },
    histogram: { to, counts: [...counts], saturatedShare },
    trails,
    ...pointingOf({ widthPx, heightPx, stars }, hint),
  };
}

let table: StarTable | null = null;

function pointingOf(
  field: StarField & { readonly stars: readonly MeasuredStar[] },
  { near, scaleArcsecPerPx, exposureSec, isSimulated }: PointingHint,
): Pick<FrameFigures, 'pointing' | 'notSolved' | 'zeroPoint'> {
  if (!near) return { pointing: null, notSolved: 'it is not known where it should point', zeroPoint: null };
  table ??= loadStars();
  const hint = { near, radiusDeg: SEARCH_RADIUS_DEG, scaleArcsecPerPx };
  const solved = solveField(field, hint, solvingCatalogue(table, isSimulated));
  if (!solved.isSolved) return { pointing: null, notSolved: solved.words, zeroPoint: null };
  const { centre, positionAngleDeg, isMirrored, matches, meanResidualArcsec } = solved;
  const known = matches.map(({ star, sky }) => ({ ...field.stars[star], mag: sky.mag }));
  return {
    pointing: {
      ...{ ...centre, positionAngleDeg, isMirrored, meanResidualArcsec },
      scaleArcsecPerPx: solved.scaleArcsecPerPx,
      starCount: matches.length,
    },
    notSolved: null,
    zeroPoint: zeroPointOf(known, exposureSec),
  };
}

const unzip = promisify(gunzip);
const pictureOf = async (path: string): Promise<FramePicture> =>
  (await readFramePicture(await readFile(path), (packed) => unzip(packed))).picture;

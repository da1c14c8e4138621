// The worker's side of pictures: a file in, what its pixels say or a drawing of it out.
import { readFile } from 'node:fs/promises';
import { promisify } from 'node:util';
import { gunzip } from 'node:zlib';
import type { FrameFigures } from '@meridiem/contract';
import type { FramePicture, PartName } from '@meridiem/core';
import {
  brightened,
  figuresOf,
  histogram,
  partNamed,
  readFramePicture,
  pictureLight,
  skyBackground,
} from '@meridiem/core';
import type { CalibratedBy } from './calibrating.ts';
import { calibratedBy } from './calibrating.ts';
import { greyPng } from './grey-png.ts';
import type { PointingHint, SolvingBy } from './pointing.ts';
import { pointingOf } from './pointing.ts';

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

export interface MeasureJob extends PointingHint, SolvingBy {
  readonly path: string;
}

export async function measureJob({ path, ...hint }: MeasureJob): Promise<FrameFigures> {
  const { picture, cards } = await frameOf(path);
  let to = SIXTEEN_BITS;
  for (const value of picture.pixels) if (value > to) to = value;
  const { widthPx, heightPx } = picture;
  const { counts, saturatedShare } = histogram(picture, { bins: BINS, to });
  const { sky, stars, trails } = pictureLight(picture);
  return {
    ...{ widthPx, heightPx, ...figuresOf(sky, stars) },
    histogram: { to, counts: [...counts], saturatedShare },
    trails,
    ...(await pointingOf({ path, cards, field: { widthPx, heightPx, stars } }, hint)),
  };
}

const unzip = promisify(gunzip);
const frameOf = async (path: string): ReturnType<typeof readFramePicture> =>
  readFramePicture(await readFile(path), (packed) => unzip(packed));
const pictureOf = async (path: string): Promise<FramePicture> => (await frameOf(path)).picture;

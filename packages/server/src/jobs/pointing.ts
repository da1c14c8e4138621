// Where a picture points and how much light it has: by its stars, by its file's own coordinates, or by a program of the site's own.
import type { FrameFigures } from '@meridiem/contract';
import type { FitsCard, MeasuredStar, NotSolved, SkyPosition, Solved, StarField } from '@meridiem/core';
import { SEARCH_RADIUS_DEG, solveAnywhere, solveField, wcsOf, zeroPointOf } from '@meridiem/core';
import type { DeepStars } from '../sky/deep-stars.ts';
import { loadDeepStars } from '../sky/deep-stars.ts';
import type { StarTable } from '../sky/star-table.ts';
import { loadStars, solvingCatalogue } from '../sky/star-table.ts';
import { askSolver } from './outside-solver.ts';

/** Where a picture is thought to point, and what it was taken with. */
export interface PointingHint {
  /** null: no place is known. */
  readonly near: SkyPosition | null;
  readonly scaleArcsecPerPx: number;
  readonly exposureSec: number;
  /** Whether the rendered faint stars are in it. */
  readonly isSimulated: boolean;
}

/** What the site has for pictures of its real sky. */
export interface SolvingBy {
  /** A packed list of faint stars; null: none was loaded. */
  readonly deepStarsFile: string | null;
  readonly solverProgram: string | null;
}

export interface PictureFile {
  readonly path: string;
  readonly cards: readonly FitsCard[];
  readonly field: StarField & { readonly stars: readonly MeasuredStar[] };
}

type Pointed = Pick<FrameFigures, 'pointing' | 'notSolved' | 'zeroPoint'>;

/** A picture with fewer stars is one of cloud: the whole sky is not searched for it. */
const WORTH_THE_WHOLE_SKY = 30;
/** A header whose scale is further from that of the optics is of another picture. */
const SCALE_WITHIN = 0.1;

let table: StarTable | null = null;
let deep: { readonly path: string | null; readonly stars: DeepStars | null } | null = null;

export async function pointingOf(picture: PictureFile, hint: PointingHint & SolvingBy): Promise<Pointed> {
  const solved = byStars(picture.field, hint);
  if (solved.isSolved) return fromStars(picture.field, hint, solved);
  const elsewhere = hint.isSimulated ? null : ((await bySolver(picture, hint)) ?? byHeader(picture, hint));
  return elsewhere ?? { pointing: null, notSolved: solved.words, zeroPoint: null };
}

function byStars(
  field: PictureFile['field'],
  { near, scaleArcsecPerPx, isSimulated, deepStarsFile }: PointingHint & SolvingBy,
): Solved | NotSolved {
  // prettier-ignore
  table ??= loadStars();
  if (deep?.path !== deepStarsFile) deep = { path: deepStarsFile, stars: loadDeepStars(deepStarsFile) };
  const catalogue = solvingCatalogue(table, deep.stars, isSimulated);
  const nearby = near && solveField(field, { near, radiusDeg: SEARCH_RADIUS_DEG, scaleArcsecPerPx }, catalogue);
  if (nearby && (nearby.isSolved || field.stars.length < WORTH_THE_WHOLE_SKY)) return nearby;
  const anywhere = solveAnywhere(field, { scaleArcsecPerPx }, catalogue);
  if (anywhere.isSolved) return anywhere;
  return nearby ?? { isSolved: false, words: `it is not known where it should point, and ${anywhere.words}` };
}

function fromStars(field: PictureFile['field'], { exposureSec }: PointingHint, solved: Solved): Pointed {
  const { centre, positionAngleDeg, scaleArcsecPerPx, isMirrored, matches, meanResidualArcsec } = solved;
  const known = matches.map(({ star, sky }) => ({ ...field.stars[star], mag: sky.mag }));
  const starCount = matches.length;
  return {
    pointing: { by: 'stars', ...centre, positionAngleDeg, scaleArcsecPerPx, isMirrored, starCount, meanResidualArcsec },
    notSolved: null,
    zeroPoint: zeroPointOf(known, exposureSec),
  };
}

/** Places that no star of ours has told: light can't be measured by them. */
const told = (
  by: 'header' | 'solver',
  place: Omit<NonNullable<Pointed['pointing']>, 'by' | 'starCount' | 'meanResidualArcsec'>,
): Pointed => ({
  // prettier-ignore
  pointing: { by, ...place, starCount: 0, meanResidualArcsec: 0 },
  notSolved: null,
  zeroPoint: null,
});

async function bySolver(
  { path }: PictureFile,
  { near, scaleArcsecPerPx, solverProgram }: PointingHint & SolvingBy,
): Promise<Pointed | null> {
  const answer = solverProgram && (await askSolver(solverProgram, path, { near, scaleArcsecPerPx }));
  return answer ? told('solver', answer) : null;
}

function byHeader(
  { cards, field: { widthPx, heightPx } }: PictureFile,
  { scaleArcsecPerPx: expected }: PointingHint,
): Pointed | null {
  // prettier-ignore
  const wcs = wcsOf(cards, widthPx, heightPx);
  if (!wcs || Math.abs(wcs.scaleArcsecPerPx / expected - 1) > SCALE_WITHIN) return null;
  const { centre, positionAngleDeg, scaleArcsecPerPx, isMirrored } = wcs;
  return told('header', { ...centre, positionAngleDeg, scaleArcsecPerPx, isMirrored });
}

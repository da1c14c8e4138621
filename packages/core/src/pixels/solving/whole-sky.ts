// Where a picture points when nobody knows where to begin: over the whole sky, piece by piece, by its brightest stars.
import type { SkyPosition } from '../../sky/site.ts';
import { toDeg, wrap360 } from '../../units.ts';
import type { NotSolved, Solved, StarCatalogue, StarField } from './solve-field.ts';
import { fieldSides, fromMiddle, lookFor, searchOf, shapesOf, solvedBy } from './solve-field.ts';

/** A smaller field shows too few of the stars that are told apart over the whole sky. */
export const LEAST_WHOLE_SKY_DEG = 1;
/** Stars of the picture that are looked for. */
const LOOKED_FOR = 24;
const FEWEST_STARS = 12;
/** Of the pieces that the sky is cut into. */
const PIECE_RADIUS_DEG = 6;

/** @returns where it points, or why nobody can say; for fields of a degree and more to their shorter side */
export function solveAnywhere(
  field: StarField,
  { scaleArcsecPerPx }: { readonly scaleArcsecPerPx: number },
  catalogue: StarCatalogue,
): Solved | NotSolved {
  const shorterDeg = Math.min(...fieldSides(field, scaleArcsecPerPx));
  if (shorterDeg < LEAST_WHOLE_SKY_DEG)
    return { isSolved: false, words: `a field of ${shorterDeg.toFixed(1)}° is not looked for over the whole sky` };
  const stars = fromMiddle(field);
  if (stars.length < FEWEST_STARS)
    return { isSolved: false, words: `${stars.length} stars are too few to know a field by over the whole sky` };
  const looked = stars.slice(0, LOOKED_FOR);
  let shapes: ReturnType<typeof shapesOf> | null = null;
  for (const near of skyPieces(PIECE_RADIUS_DEG)) {
    const search = searchOf(field, looked, { near, radiusDeg: PIECE_RADIUS_DEG, scaleArcsecPerPx }, catalogue);
    shapes ??= shapesOf(search);
    const plate = lookFor(search, shapes);
    if (plate) return solvedBy(plate, search, stars, catalogue);
  }
  return { isSolved: false, words: 'no field like it over the whole sky' };
}

/** On a spiral from pole to pole each point stands for as much sky; the furthest place lies so many of its sides away. */
const FURTHEST_SIDES = 0.83;
const GOLDEN_TURN_DEG = 180 * (3 - Math.sqrt(5));
const SKY_SQUARE_DEG = 360 ** 2 / Math.PI;

/** Middles of pieces with a radius that cover the sky. Source of the spiral: Swinbank & Purser 2006, Q. J. R. Meteorol. Soc. 132, 1769. */
export function skyPieces(radiusDeg: number): SkyPosition[] {
  const count = Math.ceil(SKY_SQUARE_DEG / (radiusDeg / FURTHEST_SIDES) ** 2);
  return Array.from({ length: count }, (_, i) => ({
    raDeg: wrap360(i * GOLDEN_TURN_DEG),
    decDeg: toDeg(Math.asin((2 * i + 1) / count - 1)),
  }));
}

// How much light a frame says that a star of a known magnitude gives.
import { medianOf, scatterAround } from '../../units.ts';

export interface ZeroPoint {
  /** The magnitude of a star that gives one unit of the picture a second. */
  readonly mag: number;
  /** Of single stars about it, one standard deviation by the median. */
  readonly scatterMag: number;
  readonly starCount: number;
}

export interface StarOfKnownMag {
  /** Above the sky, in the picture's units. */
  readonly flux: number;
  readonly isSaturated: boolean;
  /** In the catalogue's band. */
  readonly mag: number;
}

const FEWEST = 5;

/** @returns null where fewer than five stars tell it: there is no zero point then, and nothing that follows from one */
export function zeroPointOf(stars: readonly StarOfKnownMag[], exposureSec: number): ZeroPoint | null {
  const points = stars
    .filter(({ flux, isSaturated }) => flux > 0 && !isSaturated)
    .map(({ flux, mag }) => mag + 2.5 * Math.log10(flux / exposureSec));
  if (points.length < FEWEST || !(exposureSec > 0)) return null;
  const mag = medianOf(points);
  const scatterMag = scatterAround(mag, points);
  return { mag, scatterMag, starCount: points.length };
}

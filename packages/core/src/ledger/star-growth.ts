// How much larger stars get in thicker air, by the exposures themselves: seeing grows with airmass, but pixels, optics and guiding,
// which widen every star, do not.
import { medianOf } from '../units.ts';

/** Of seeing alone. Source: Roddier 1981, Progress in Optics 19, 281. */
export const SEEING_EXPONENT = 0.6;

export interface SizeInAir {
  readonly starSizePx: number;
  readonly airmass: number;
}

/** Closer ones say nothing about air. */
const LEAST_LOG_RATIO = 0.06;
const LEAST_PAIRS = 12;

/** The exponent of airmass with which stars grow: the median over pairs, as many of them as differ in air (Theil 1950, Sen 1968).
 * @returns between 0 and that of seeing alone, which is taken where too few pairs differ */
export function growthInAir(exposures: readonly SizeInAir[]): number {
  const logs = exposures.map(({ starSizePx, airmass }) => [Math.log(airmass), Math.log(starSizePx)] as const);
  const slopes: number[] = [];
  for (let i = 1; i < logs.length; i++)
    for (let j = 0; j < i; j++) {
      const thicker = logs[i][0] - logs[j][0];
      if (Math.abs(thicker) > LEAST_LOG_RATIO) slopes.push((logs[i][1] - logs[j][1]) / thicker);
    }
  if (slopes.length < LEAST_PAIRS) return SEEING_EXPONENT;
  return Math.min(SEEING_EXPONENT, Math.max(0, medianOf(slopes)));
}

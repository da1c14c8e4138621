// How a picture's values are spread: whether it is exposed long enough, and how much of it is burnt out.
import type { Picture } from './background.ts';

export interface Histogram {
  /** Values from here to there, in bins of equal width. */
  readonly from: number;
  readonly to: number;
  readonly counts: readonly number[];
  /** Share of pixels at or above saturation. */
  readonly saturatedShare: number;
}

/** @param to the largest value that can be: full well or the converter's end */
export function histogram(
  { pixels }: Picture,
  { bins, to }: { readonly bins: number; readonly to: number },
): Histogram {
  const counts = new Array<number>(bins).fill(0);
  let saturated = 0;
  for (let i = 0; i < pixels.length; i++) {
    const value = pixels[i];
    if (value >= to) saturated += 1;
    counts[Math.max(0, Math.min(bins - 1, Math.floor((value / to) * bins)))] += 1;
  }
  return { from: 0, to, counts, saturatedShare: pixels.length === 0 ? 0 : saturated / pixels.length };
}

// How a picture's values are spread: whether it is exposed long enough, and how much of it is burnt out.
import type { Picture } from './background.ts';

export interface Histogram {
  /** Values from 1 to this, in bins of equal ratio: faint sky and bright stars are both seen. Smaller ones are in the first bin. */
  readonly to: number;
  readonly counts: readonly number[];
  /** Share of pixels at or above saturation. */
  readonly saturatedShare: number;
}

/** @param to the largest value that can be: full well or the converter's end */
/** Where a bin's middle lies. */
export const binValue = (bin: number, bins: number, to: number): number => to ** ((bin + 0.5) / bins);

export function histogram(
  { pixels }: Picture,
  { bins, to }: { readonly bins: number; readonly to: number },
): Histogram {
  const counts = new Array<number>(bins).fill(0);
  const perLog = bins / Math.log(to);
  let saturated = 0;
  for (let i = 0; i < pixels.length; i++) {
    const value = pixels[i];
    if (value >= to) saturated += 1;
    counts[value < 1 ? 0 : Math.min(bins - 1, Math.floor(Math.log(value) * perLog))] += 1;
  }
  return { to, counts, saturatedShare: pixels.length === 0 ? 0 : saturated / pixels.length };
}

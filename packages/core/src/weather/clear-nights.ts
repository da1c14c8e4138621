// Whether nights are clear, drawn: a chain of two states whose odds are each night's own and which likes to stay as it is.
import type { Random } from '../random.ts';

/** @param odds of each night to be clear, [0, 1]
 * @param persistence correlation of one night with the next, [0, 1): 0 draws each night apart
 * @param before whether the night before the first was clear; null where nobody knows
 * @returns 1 for a clear night, 0 for another */
export function drawClearNights(
  odds: readonly number[],
  persistence: number,
  random: Random,
  before: boolean | null = null,
): Uint8Array {
  const clear = new Uint8Array(odds.length);
  odds.forEach((p, n) => {
    const last = n > 0 ? clear[n - 1] - odds[n - 1] : before === null ? 0 : Number(before) - p;
    clear[n] = random() < p + persistence * last ? 1 : 0;
  });
  return clear;
}

// When a project ends, from the ends of many played seasons: the median, and the range that holds in eight seasons of ten.

export const RANGE_SHARE = 0.8;
const TAIL = (1 - RANGE_SHARE) / 2;

export interface FinishingRange {
  /** Nights, by index; null where so many seasons don't end it. */
  readonly early: number | null;
  readonly middle: number | null;
  readonly late: number | null;
}

/** Ends come in whole nights: the range from one in ten to nine in ten holds more than eight, so that its rarer ends are left off while it still holds as many.
 * @param ends night of each season that ends it
 * @param seasons all that were played */
export function finishingRange(ends: readonly number[], seasons: number): FinishingRange {
  const sorted = ends.toSorted((a, b) => a - b);
  const by = (share: number): number | null => sorted[Math.max(0, Math.ceil(share * seasons - 1e-9) - 1)] ?? null;
  let [early, late] = [by(TAIL), by(1 - TAIL)];
  const middle = by(0.5);
  while (early !== null && late !== null && early < late) {
    const inside = sorted.filter((night) => night >= early! && night <= late!);
    const without = (end: number) => ({ end, left: inside.filter((night) => night !== end).length });
    const { end, left } = [without(early), without(late)].toSorted((a, b) => b.left - a.left)[0];
    if (left < RANGE_SHARE * seasons || end === middle) break;
    const rest = inside.filter((night) => night !== end);
    [early, late] = [rest[0], rest[rest.length - 1]];
  }
  return { early, middle, late };
}

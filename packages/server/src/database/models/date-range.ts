/** A dated fact's stretch of time as Sequelize reads and writes it: start and end, null where it is open. */
export type DateRange = readonly [
  { readonly value: Date | null; readonly inclusive: boolean },
  { readonly value: Date | null; readonly inclusive: boolean },
];

/** From one moment, inclusive, to another, exclusive; null leaves an end open. */
export const rangeOf = (startUtcMs: number | null, endUtcMs: number | null): DateRange => [
  { value: startUtcMs === null ? null : new Date(startUtcMs), inclusive: true },
  { value: endUtcMs === null ? null : new Date(endUtcMs), inclusive: false },
];

/** A dated fact's stretch of time as Sequelize reads and writes it: start and end, null where it is open. */
export type DateRange = readonly [
  { readonly value: Date | null; readonly inclusive: boolean },
  { readonly value: Date | null; readonly inclusive: boolean },
];

// The database's own moment in values and conditions of models, and dated facts that begin and end with it.
import { cast, col, fn, Op } from 'sequelize';
import type { DateRange } from './models/date-range.ts';

export const NOW = fn('now');

/** For a range of validity: in force now. */
export const IN_FORCE = { [Op.contains]: NOW };

/** The moment itself, not the transaction's: of several revisions within one transaction each has its time. */
const MOMENT = fn('clock_timestamp');

/** A fact that holds from now on. A new row takes a function as well as a value; its types only know of values. */
export const FROM_NOW = fn('tstzrange', MOMENT, cast(null, 'timestamptz')) as unknown as DateRange;

/** A fact that has held until now. */
export const UNTIL_NOW = fn(
  'tstzrange',
  fn('lower', col('during')),
  fn('greatest', MOMENT, fn('lower', col('during'))),
);

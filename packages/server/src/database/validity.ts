// Dated facts: what holds at a moment, what begins and ends with one. Rig, wheel, angle and horizon are asked for a moment here and nowhere else.
import { col, fn, Op } from 'sequelize';
import type { DateRange } from './models/date-range.ts';
import { rangeOf } from './models/date-range.ts';

let newestMs = 0;

/** The moment of a change: each in this process has its own, so that of two the later one holds. */
export const momentOfChange = (): Date => new Date((newestMs = Math.max(Date.now(), newestMs + 1)));

/** Now, with every change of this process behind it. */
export const thisMoment = (): Date => new Date(Math.max(Date.now(), newestMs));

/** For a range of validity: in force at a moment. */
export const inForce = (at: Date = thisMoment()) => ({ [Op.contains]: at });

export const since = (at: Date): DateRange => rangeOf(at.getTime(), null);

/** A fact that has held until a moment. */
export const until = (at: Date) =>
  fn('tstzrange', fn('lower', col('during')), fn('greatest', at, fn('lower', col('during'))));

// UTC milliseconds to the day counts that astronomy uses, with UT1 = UTC and TT − UTC = 69.184 s.
import type { UtcMs } from '../units.ts';
import { DAY_MS } from '../units.ts';

/** 2000-01-01T12:00:00Z. */
export const J2000_UTC_MS = 946_728_000_000;
/** TT − UTC in force since 2017; no later leap second is announced. */
export const TT_MINUS_UTC_SEC = 69.184;
export const DAYS_PER_CENTURY = 36_525;

/** Days of universal time since J2000.0. */
export const daysSinceJ2000 = (utcMs: UtcMs): number => (utcMs - J2000_UTC_MS) / DAY_MS;

/** Julian centuries of terrestrial time since J2000.0. */
export const ttCenturies = (utcMs: UtcMs): number =>
  (utcMs - J2000_UTC_MS + TT_MINUS_UTC_SEC * 1000) / DAY_MS / DAYS_PER_CENTURY;

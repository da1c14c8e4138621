// Observing nights: local civil noon to the next civil noon, named by the evening's date.
import { DateTime, IANAZone } from 'luxon';
import { CoreError } from '../errors.ts';
import type { NightDate, UtcMs } from '../units.ts';

/** A stretch of time, the end not included. */
export interface Interval {
  readonly startUtcMs: UtcMs;
  readonly endUtcMs: UtcMs;
}

export interface ObservingNight extends Interval {
  readonly nightDate: NightDate;
}

/** The night of an evening date in a time zone; 23 to 25 hours long where clocks change.
 * @throws NIGHT_DATE_INVALID, TIME_ZONE_UNKNOWN */
export function observingNight(nightDate: NightDate, timeZone: string): ObservingNight {
  const noon = localNoon(nightDate, timeZone);
  return { nightDate, startUtcMs: noon.toMillis(), endUtcMs: noon.plus({ days: 1 }).toMillis() };
}

/** The evening date of the night that a moment belongs to.
 * @throws TIME_ZONE_UNKNOWN */
export function nightDateAt(utcMs: UtcMs, timeZone: string): NightDate {
  const local = DateTime.fromMillis(utcMs, { zone: checkedZone(timeZone) });
  return (local.hour < 12 ? local.minus({ days: 1 }) : local).toISODate() as NightDate;
}

/** The night date a number of nights later (earlier when negative). */
export const nightDatePlus = (nightDate: NightDate, nights: number): NightDate =>
  DateTime.fromISO(nightDate, { zone: 'utc' }).plus({ days: nights }).toISODate() as NightDate;

/** The moment inside a night at which local clocks show a time; the first such moment where clocks repeat an hour.
 * @param clock minutes after local midnight, [0, 1440) */
export function clockTimeInNight(night: ObservingNight, clockMinutes: number, timeZone: string): UtcMs {
  const noon = DateTime.fromMillis(night.startUtcMs, { zone: checkedZone(timeZone) });
  const day = clockMinutes < 720 ? noon.plus({ days: 1 }) : noon;
  const hour = Math.floor(clockMinutes / 60);
  const minute = clockMinutes % 60;
  const moment = day.set({ hour, minute, second: 0, millisecond: 0 });
  // Where clocks go back by an hour, or by half of one, the same time came before.
  const before = REPEATED_MINUTES.map((minutes) => moment.minus({ minutes }));
  const first = before.find((earlier) => earlier.hour === moment.hour && earlier.minute === moment.minute);
  return (first ?? moment).toMillis();
}
const REPEATED_MINUTES = [120, 60, 30] as const;

function localNoon(nightDate: NightDate, timeZone: string): DateTime {
  const noon = DateTime.fromISO(`${nightDate}T12:00:00`, { zone: checkedZone(timeZone) });
  if (!/^\d{4}-\d{2}-\d{2}$/.test(nightDate) || !noon.isValid) {
    throw new CoreError('NIGHT_DATE_INVALID', `"${nightDate}" is no date of the form YYYY-MM-DD`, { nightDate });
  }
  return noon;
}

/** Whether a name is a zone of the IANA time zone database. */
export function isTimeZone(name: string): boolean {
  if (knownZones.has(name)) return true;
  const isKnown = IANAZone.isValidZone(name);
  if (isKnown) knownZones.add(name);
  return isKnown;
}
/** Asking is slow, and the same few zones are asked for again and again. */
const knownZones = new Set<string>();

function checkedZone(timeZone: string): string {
  if (!isTimeZone(timeZone))
    throw new CoreError('TIME_ZONE_UNKNOWN', `Time zone "${timeZone}" is not known`, { timeZone });
  return timeZone;
}

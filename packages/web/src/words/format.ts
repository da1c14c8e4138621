// Times, dates and quantities as people at a telescope write them.
import { DateTime } from 'luxon';

const at = (utcMs: number, zone: string): DateTime => DateTime.fromMillis(utcMs, { zone });

const QUARTER_MS = 900_000;
const MOST_OFFSETS = 5000;
const offsetsMs = new Map<string, number>();

/** Local time as "2026-12-03T22:05:31…". Zones change at quarters of an hour: each is asked once, for asking is slow and a plan shows hundreds of times. */
function localIso(utcMs: number, zone: string): string {
  const key = `${zone} ${Math.floor(utcMs / QUARTER_MS)}`;
  let offsetMs = offsetsMs.get(key);
  if (offsetMs === undefined) {
    if (offsetsMs.size > MOST_OFFSETS) offsetsMs.clear();
    offsetMs = at(utcMs, zone).offset * 60_000;
    offsetsMs.set(key, offsetMs);
  }
  return new Date(utcMs + offsetMs).toISOString();
}

/** "22:05" in a zone. */
export const clock = (utcMs: number | null, zone: string): string =>
  utcMs === null ? '—' : localIso(utcMs, zone).slice(11, 16);
/** "22:05:31" in a zone. */
export const clockSeconds = (utcMs: number, zone: string): string => localIso(utcMs, zone).slice(11, 19);
/** "Thu 3 Dec" */
export const dayOf = (nightDate: string): string => DateTime.fromISO(nightDate).toFormat('ccc d LLL');
/** "3 Dec 2026" */
export const shortDateOf = (nightDate: string): string => DateTime.fromISO(nightDate).toFormat('d LLL yyyy');
/** "Thursday 3 December 2026" */
export const longDayOf = (nightDate: string): string => DateTime.fromISO(nightDate).toFormat('cccc d LLLL yyyy');
/** "3 Dec 2026" in a zone. */
export const dateOf = (utcMs: number, zone: string): string => at(utcMs, zone).toFormat('d LLL yyyy');
/** "3 Dec 14:02" in a zone. */
export const dayAndClock = (utcMs: number, zone: string): string => at(utcMs, zone).toFormat('d LLL HH:mm');
/** The night a number of nights later. */
export const nightAfter = (nightDate: string, nights: number): string =>
  DateTime.fromISO(nightDate, { zone: 'utc' }).plus({ days: nights }).toISODate() ?? nightDate;

/** "2 h 05 min", "12 min", "0 min" */
export function duration(sec: number): string {
  const minutes = Math.round(sec / 60);
  if (minutes < 60) return `${minutes} min`;
  return `${Math.floor(minutes / 60)} h ${String(minutes % 60).padStart(2, '0')} min`;
}

/** "6.4" */
export const hours = (value: number): string => value.toFixed(1);
/** "84 %" */
export const percent = (share: number): string => `${Math.round(share * 100)} %`;
/** Whole counts plain, fractions with one digit. */
export const count = (value: number): string =>
  Math.abs(value - Math.round(value)) < 0.05 ? String(Math.round(value)) : value.toFixed(1);
/** "−31.20°" with a true minus. */
export const degrees = (value: number, decimals = 1): string =>
  `${value < 0 ? '−' : ''}${Math.abs(value).toFixed(decimals)}°`;

// Times, dates and quantities as people at a telescope write them.
import { DateTime } from 'luxon';

const at = (utcMs: number, zone: string): DateTime => DateTime.fromMillis(utcMs, { zone });

/** "22:05" in a zone. */
export const clock = (utcMs: number | null, zone: string): string =>
  utcMs === null ? '—' : at(utcMs, zone).toFormat('HH:mm');
/** "22:05:31" in a zone. */
export const clockSeconds = (utcMs: number, zone: string): string => at(utcMs, zone).toFormat('HH:mm:ss');
/** "Thu 3 Dec" */
export const dayOf = (nightDate: string): string => DateTime.fromISO(nightDate).toFormat('ccc d LLL');
/** "Thu 3 Dec 2026" */
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

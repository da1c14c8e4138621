// Twilights, rises, sets, darkness and transits of one interval over a site.
import type { Interval } from '../time/nights.ts';
import { EARTH_TURNS_PER_UT_DAY } from '../time/sidereal.ts';
import type { UtcMs } from '../units.ts';
import { DAY_MS, HOUR_MS } from '../units.ts';
import { directionOf, hourAngleDegOf } from './altitude.ts';
import type { Crossing } from './crossings.ts';
import { crossingsOf, extremeOf, intervalsBelow } from './crossings.ts';
import { apparentSiderealDeg, apparentVector, frameOfDate } from './frame-of-date.ts';
import type { Site, SkyPosition } from './site.ts';
import type { Luminary } from './sun-moon.ts';
import { luminaryDirection, RISE_SET_ALTITUDE_DEG } from './sun-moon.ts';

/** Astronomical night: the sun's centre is lower than this. Convention, not a measurement. */
export const ASTRONOMICAL_NIGHT_SUN_ALTITUDE_DEG = -18;

/** The sun's altitude turns over twice a day; samples this far apart miss none of it. */
const SUN_STEP_MS = HOUR_MS;

/** The evening and morning passage of one sun altitude; null where it does not happen. */
export interface SunPassage {
  readonly duskUtcMs: UtcMs | null;
  readonly dawnUtcMs: UtcMs | null;
}

/** Altitude of the sun or moon over a site as a function of time; one frame serves the whole interval. */
export function luminaryAltitude(
  site: Site,
  luminary: Luminary,
  { startUtcMs, endUtcMs }: Interval,
): (utcMs: UtcMs) => number {
  const frame = frameOfDate((startUtcMs + endUtcMs) / 2);
  return (utcMs) => luminaryDirection(site, luminary, utcMs, frame).altitudeDeg;
}

/** Dusk is the last fall through an altitude before the sun is lowest, dawn the first rise after.
 * @param sunAltitudeDeg any depression, negative below the horizon */
export function sunPassage(site: Site, interval: Interval, sunAltitudeDeg: number): SunPassage {
  const altitude = luminaryAltitude(site, 'sun', interval);
  const lowest = extremeOf(altitude, 'lowest', interval, SUN_STEP_MS);
  const crossings = crossingsOf(altitude, sunAltitudeDeg, interval, SUN_STEP_MS);
  const dusk = crossings.findLast((c) => !c.rising && c.utcMs <= lowest.utcMs);
  const dawn = crossings.find((c) => c.rising && c.utcMs >= lowest.utcMs);
  return { duskUtcMs: dusk?.utcMs ?? null, dawnUtcMs: dawn?.utcMs ?? null };
}

/** Rises and sets of the moon's centre through an altitude, in order. */
export const moonCrossings = (site: Site, interval: Interval, altitudeDeg: number): Crossing[] =>
  crossingsOf(luminaryAltitude(site, 'moon', interval), altitudeDeg, interval);

/** Stretches with the sun lower than an altitude. */
export const darkIntervals = (
  site: Site,
  interval: Interval,
  sunAltitudeDeg = ASTRONOMICAL_NIGHT_SUN_ALTITUDE_DEG,
): Interval[] => intervalsBelow(luminaryAltitude(site, 'sun', interval), sunAltitudeDeg, interval, SUN_STEP_MS);

/** Stretches of darkness with the moon set: its centre lower than where it rises and sets. */
export const darkMoonlessIntervals = (
  site: Site,
  interval: Interval,
  moonAltitudeDeg = RISE_SET_ALTITUDE_DEG,
): Interval[] =>
  darkIntervals(site, interval).flatMap((dark) =>
    intervalsBelow(luminaryAltitude(site, 'moon', dark), moonAltitudeDeg, dark),
  );

/** Stretches with the centre of the sun or moon above its rising and setting altitude. */
export function upIntervals(site: Site, luminary: Luminary, interval: Interval): Interval[] {
  const altitude = luminaryAltitude(site, luminary, interval);
  return intervalsBelow((utcMs) => -altitude(utcMs), -RISE_SET_ALTITUDE_DEG, interval);
}

/** Total length of stretches in hours. */
export const hoursOf = (intervals: readonly Interval[]): number =>
  intervals.reduce((sum, { startUtcMs, endUtcMs }) => sum + (endUtcMs - startUtcMs) / HOUR_MS, 0);

/** Upper transits of a position inside an interval, to 10 ms; a day of 24 hours can hold two. */
export function transitsOf(site: Site, position: SkyPosition, { startUtcMs, endUtcMs }: Interval): UtcMs[] {
  const frame = frameOfDate((startUtcMs + endUtcMs) / 2);
  const vector = apparentVector(frame, position);
  const hourAngle = (utcMs: UtcMs): number => hourAngleDegOf(site, vector, apparentSiderealDeg(frame, utcMs));
  const dayMs = DAY_MS / EARTH_TURNS_PER_UT_DAY;
  const ahead = -hourAngle(startUtcMs) / 360;
  const transits: UtcMs[] = [];
  for (let utcMs = startUtcMs + (ahead < 0 ? ahead + 1 : ahead) * dayMs; utcMs < endUtcMs; utcMs += dayMs) {
    transits.push(utcMs - (hourAngle(utcMs) / 360) * dayMs);
  }
  return transits.filter((utcMs) => utcMs >= startUtcMs && utcMs < endUtcMs);
}

/** Altitude of a catalogue position as a function of time. */
export function targetAltitude(
  site: Site,
  position: SkyPosition,
  { startUtcMs, endUtcMs }: Interval,
): (utcMs: UtcMs) => number {
  const frame = frameOfDate((startUtcMs + endUtcMs) / 2);
  return (utcMs) => directionOf(site, position, utcMs, frame).altitudeDeg;
}

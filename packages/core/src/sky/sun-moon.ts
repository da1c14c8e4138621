// Topocentric sun and moon from the astronomy-engine package, with TT − UTC held at 69.184 s. Sun within 2.5, moon within 8 arcsec of the reference.
import { AstroTime, Body, Equator, GeoVector, Observer, SearchMoonPhase, SetDeltaTFunction } from 'astronomy-engine';
import { daysSinceJ2000, TT_MINUS_UTC_SEC } from '../time/julian.ts';
import type { UtcMs } from '../units.ts';
import { toRad } from '../units.ts';
import { directionOfVector } from './altitude.ts';
import type { FrameOfDate, Vector3 } from './frame-of-date.ts';
import { angleBetweenDeg, apparentSiderealDeg, apparentVector, frameOfDate, unitVector } from './frame-of-date.ts';
import type { HorizonDirection, Site, SkyPosition } from './site.ts';

SetDeltaTFunction(() => TT_MINUS_UTC_SEC);

/** Altitude of a disc's centre when its upper limb is seen on a sea horizon: refraction 34′ and radius 16′. */
export const RISE_SET_ALTITUDE_DEG = -0.833;

export type Luminary = 'sun' | 'moon';
const BODIES = { sun: Body.Sun, moon: Body.Moon } as const;

/** Topocentric direction of the sun or moon, geometric, parallax and aberration included. */
export function luminaryDirection(
  site: Site,
  luminary: Luminary,
  utcMs: UtcMs,
  frame = frameOfDate(utcMs),
): HorizonDirection {
  return directionOfVector(site, luminaryVector(site, luminary, utcMs), apparentSiderealDeg(frame, utcMs));
}

/** Unit vector towards the sun or moon as seen from the site, on the axes of date. */
export function luminaryVector(site: Site, luminary: Luminary, utcMs: UtcMs): Vector3 {
  const place = Equator(BODIES[luminary], new AstroTime(daysSinceJ2000(utcMs)), observerAt(site), true, true);
  return unitVector({ raDeg: place.ra * 15, decDeg: place.dec });
}

/** Angle between the topocentric moon and a target, both as seen (aberration in both).
 * @returns degrees, [0, 180] */
export function moonSeparationDeg(
  site: Site,
  position: SkyPosition,
  utcMs: UtcMs,
  frame: FrameOfDate = frameOfDate(utcMs),
): number {
  return angleBetweenDeg(luminaryVector(site, 'moon', utcMs), apparentVector(frame, position));
}

export interface MoonPhase {
  /** Angle sun–moon–observer: 0 at full, 180 at new. */
  readonly phaseAngleDeg: number;
  /** Lit share of the disc, [0, 1]. */
  readonly illuminatedShare: number;
}

/** The moon's phase seen from the Earth's centre. Source: Meeus, Astronomical Algorithms, 2nd ed., eq. 48.1 and 48.3. */
export function moonPhase(utcMs: UtcMs): MoonPhase {
  const time = new AstroTime(daysSinceJ2000(utcMs));
  const moon = GeoVector(Body.Moon, time, true);
  const sun = GeoVector(Body.Sun, time, true);
  const fromMoonToSun: Vector3 = [sun.x - moon.x, sun.y - moon.y, sun.z - moon.z];
  const phaseAngleDeg = angleBetweenDeg([-moon.x, -moon.y, -moon.z], fromMoonToSun);
  return { phaseAngleDeg, illuminatedShare: (1 + Math.cos(toRad(phaseAngleDeg))) / 2 };
}

const observerAt = (site: Site): Observer => new Observer(site.latitudeDeg, site.longitudeDeg, site.elevationM);

const FULL_LONGITUDE_DEG = 180;
const LONGEST_MONTH_DAYS = 30;

/** Days to the nearest full moon: positive before it, negative after it. */
export function daysToFullMoon(utcMs: UtcMs): number {
  const now = new AstroTime(daysSinceJ2000(utcMs));
  const fullWithin = (days: number): number =>
    (SearchMoonPhase(FULL_LONGITUDE_DEG, now, days)?.ut ?? Number.POSITIVE_INFINITY) - now.ut;
  const [next, last] = [fullWithin(LONGEST_MONTH_DAYS), fullWithin(-LONGEST_MONTH_DAYS)];
  return next <= Math.abs(last) ? next : last;
}

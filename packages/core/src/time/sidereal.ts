// Universal time to sidereal time (IAU 2006), good to 0.01 arcsec until 2050.
import type { UtcMs } from '../units.ts';
import { wrap360 } from '../units.ts';
import { daysSinceJ2000, ttCenturies } from './julian.ts';

/** Turns of the Earth per day of universal time. Source: IERS Conventions (2010), eq. 5.15. */
export const EARTH_TURNS_PER_UT_DAY = 1.002_737_811_911_354_48;

/** Earth rotation angle. Source: IERS Conventions (2010), eq. 5.15.
 * @returns degrees, [0, 360) */
export function earthRotationAngleDeg(utcMs: UtcMs): number {
  const days = daysSinceJ2000(utcMs);
  return wrap360(360 * (0.779_057_273_264 + (EARTH_TURNS_PER_UT_DAY - 1) * days + (days % 1)));
}

/** Greenwich mean sidereal time. Source: Capitaine, Wallace & Chapront 2003, eq. 42.
 * @returns degrees, [0, 360) */
export function greenwichMeanSiderealDeg(utcMs: UtcMs): number {
  const t = ttCenturies(utcMs);
  const precessionArcsec = 0.014506 + t * (4612.156534 + t * (1.3915817 - t * 0.00000044));
  return wrap360(earthRotationAngleDeg(utcMs) + precessionArcsec / 3600);
}

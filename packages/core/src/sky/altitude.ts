// Places of date to altitude and azimuth over a site, diurnal aberration included.
import type { UtcMs } from '../units.ts';
import { asinClamped, toDeg, toRad, wrap360 } from '../units.ts';
import type { Vector3 } from './frame-of-date.ts';
import { apparentSiderealDeg, apparentVector, frameOfDate, toJ2000 } from './frame-of-date.ts';
import type { HorizonDirection, Site, SkyPosition } from './site.ts';

/** Diurnal aberration at the equator: the Earth's turning speed over the speed of light, in radians. */
export const DIURNAL_ABERRATION_RAD = 1.5472e-6;

/** True altitude, without refraction, of an equatorial position of date. Source: Meeus, Astronomical Algorithms, 2nd ed., eq. 13.6.
 * @param at.hourAngleDeg positive west of the meridian
 * @returns degrees, [−90, +90] */
export function altitudeDeg(at: { latitudeDeg: number; declinationDeg: number; hourAngleDeg: number }): number {
  const phi = toRad(at.latitudeDeg);
  const delta = toRad(at.declinationDeg);
  const h = toRad(at.hourAngleDeg);
  return toDeg(asinClamped(Math.sin(phi) * Math.sin(delta) + Math.cos(phi) * Math.cos(delta) * Math.cos(h)));
}

/** Where a catalogue position stands over a site at a moment: geometric altitude and azimuth, within 0.5 arcsec.
 * @param frame the frame of a moment within a day of `utcMs`; made for `utcMs` when left out */
export function directionOf(
  site: Site,
  position: SkyPosition,
  utcMs: UtcMs,
  frame = frameOfDate(utcMs),
): HorizonDirection {
  return directionOfVector(site, apparentVector(frame, position), apparentSiderealDeg(frame, utcMs));
}

/** Where on the sky something stands at a moment that is seen in a direction, J2000: the way back from `directionOf`, within a minute
 * of arc. */
export function positionAt(site: Site, { altitudeDeg, azimuthDeg }: HorizonDirection, utcMs: UtcMs): SkyPosition {
  const [altitude, azimuth, phi] = [altitudeDeg, azimuthDeg, site.latitudeDeg].map(toRad);
  const sinDec = Math.sin(altitude) * Math.sin(phi) + Math.cos(altitude) * Math.cos(phi) * Math.cos(azimuth);
  const hourAngle = Math.atan2(
    -Math.sin(azimuth) * Math.cos(altitude),
    Math.sin(altitude) * Math.cos(phi) - Math.cos(altitude) * Math.sin(phi) * Math.cos(azimuth),
  );
  const siderealDeg = apparentSiderealDeg(frameOfDate(utcMs), utcMs) + site.longitudeDeg;
  return toJ2000({ raDeg: wrap360(siderealDeg - toDeg(hourAngle)), decDeg: toDeg(Math.asin(sinDec)) }, utcMs);
}

/** Direction of a unit vector on the axes of date.
 * @param siderealDeg Greenwich apparent sidereal time */
export function directionOfVector(site: Site, [x, y, z]: Vector3, siderealDeg: number): HorizonDirection {
  const sidereal = toRad(siderealDeg + site.longitudeDeg);
  const phi = toRad(site.latitudeDeg);
  const towardsMeridian = x * Math.cos(sidereal) + y * Math.sin(sidereal);
  const east = -x * Math.sin(sidereal) + y * Math.cos(sidereal) + DIURNAL_ABERRATION_RAD * Math.cos(phi);
  const up = towardsMeridian * Math.cos(phi) + z * Math.sin(phi);
  const north = -towardsMeridian * Math.sin(phi) + z * Math.cos(phi);
  return {
    altitudeDeg: toDeg(Math.atan2(up, Math.hypot(east, north))),
    azimuthDeg: wrap360(toDeg(Math.atan2(east, north))),
  };
}

/** Hour angle of a unit vector on the axes of date, positive west.
 * @returns degrees, [−180, 180) */
export function hourAngleDegOf(site: Site, [x, y]: Vector3, siderealDeg: number): number {
  return wrap360(siderealDeg + site.longitudeDeg - toDeg(Math.atan2(y, x)) + 180) - 180;
}

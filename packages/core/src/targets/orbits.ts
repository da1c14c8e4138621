// Comets and minor planets: from the elements of an orbit to a place among the stars, by two-body motion.
import { AstroTime, Body, HelioState, Observer, ObserverVector } from 'astronomy-engine';
import { LIGHT_AU_PER_DAY, positionOf } from '../sky/frame-of-date.ts';
import type { Vector3 } from '../sky/frame-of-date.ts';
import type { Site, SkyPosition } from '../sky/site.ts';
import { daysSinceJ2000, J2000_UTC_MS, TT_MINUS_UTC_SEC } from '../time/julian.ts';
import type { UtcMs } from '../units.ts';
import { arcsecToRad, asinClamped, DAY_MS, MINUTE_MS, toDeg, toRad, wrap360 } from '../units.ts';

/** Two-body elements, J2000.0 ecliptic. Times are modified Julian dates of terrestrial time. */
export interface Orbit {
  readonly kind: 'comet' | 'minor_planet';
  readonly name: string;
  /** Moment the elements hold best; null where the source does not say. */
  readonly epochMjdTt: number | null;
  readonly perihelionMjdTt: number;
  readonly perihelionDistanceAu: number;
  /** 1 is a parabola, more a hyperbola. */
  readonly eccentricity: number;
  readonly inclinationDeg: number;
  readonly nodeDeg: number;
  readonly perihelionArgumentDeg: number;
}

export interface MovingPlace {
  readonly position: SkyPosition;
  /** From the observer, by the light that arrives now. */
  readonly distanceAu: number;
  readonly sunDistanceAu: number;
}

export interface MovingRate {
  readonly arcsecPerMin: number;
  /** Direction of the motion, east of north. */
  readonly positionAngleDeg: number;
}

/** Gaussian gravitational constant, AU^1.5 per day. */
export const GAUSS_K = 0.01720209895;
/** Obliquity of the J2000.0 ecliptic that orbit elements are published for (IAU 1976). */
const OBLIQUITY_RAD = arcsecToRad(84381.448);
const MJD_OF_J2000 = 51_544.5;

export const mjdTtOf = (utcMs: UtcMs): number =>
  MJD_OF_J2000 + (utcMs - J2000_UTC_MS + TT_MINUS_UTC_SEC * 1000) / DAY_MS;

export const utcMsOfMjdTt = (mjdTt: number): UtcMs =>
  (mjdTt - MJD_OF_J2000) * DAY_MS + J2000_UTC_MS - TT_MINUS_UTC_SEC * 1000;

/** Astrometric J2000.0 place: light time, no aberration. Within 1″ of the reference from the Earth's centre.
 * @param site where it is seen from; the Earth's centre when left out */
export function movingPlace(orbit: Orbit, utcMs: UtcMs, site?: Site): MovingPlace {
  const observer = observerPosition(utcMs, site);
  let lightDays = 0;
  let [fromSun, seen]: [Vector3, Vector3] = [observer, observer];
  for (let round = 0; round < 4; round++) {
    fromSun = heliocentric(orbit, mjdTtOf(utcMs) - lightDays);
    seen = minus(fromSun, observer);
    lightDays = lengthOf(seen) / LIGHT_AU_PER_DAY;
  }
  return { position: positionOf(seen), distanceAu: lengthOf(seen), sunDistanceAu: lengthOf(fromSun) };
}

/** How fast and where to it moves, from the places five minutes before and after. */
export function movingRate(orbit: Orbit, utcMs: UtcMs, site?: Site): MovingRate {
  const [before, after] = [-5, 5].map((minutes) => movingPlace(orbit, utcMs + minutes * MINUTE_MS, site).position);
  const east = Math.sin(toRad(after.raDeg - before.raDeg)) * Math.cos(toRad(after.decDeg));
  const north =
    Math.cos(toRad(before.decDeg)) * Math.sin(toRad(after.decDeg)) -
    Math.sin(toRad(before.decDeg)) * Math.cos(toRad(after.decDeg)) * Math.cos(toRad(after.raDeg - before.raDeg));
  return {
    arcsecPerMin: (3600 * toDeg(asinClamped(Math.hypot(east, north)))) / 10,
    positionAngleDeg: wrap360(toDeg(Math.atan2(east, north))),
  };
}

/** Longest exposure, tracked on the stars, whose trail stays within some pixels.
 * @returns seconds; Infinity for what does not move */
export const longestUntrailedSec = (rate: MovingRate, imageScaleArcsecPerPx: number, trailPx = 1): number =>
  (60 * trailPx * imageScaleArcsecPerPx) / rate.arcsecPerMin;

/** Elements are past their best after these days; nearer than this distance at once. */
const GOOD_DAYS = { comet: 30, minor_planet: 100 } as const;
const NEAR_AU = 0.2;

export type OrbitWarning = 'OLD_ELEMENTS' | 'NEAR_EARTH' | 'NO_EPOCH';

/** What should be known before pointing by these elements; the age in days comes with it.
 * @param distanceAu its distance at the moment */
export function orbitWarnings(
  orbit: Orbit,
  utcMs: UtcMs,
  distanceAu: number,
): { ageDays: number | null; warnings: OrbitWarning[] } {
  const ageDays = orbit.epochMjdTt === null ? null : Math.abs(mjdTtOf(utcMs) - orbit.epochMjdTt);
  const warnings: OrbitWarning[] = [];
  if (ageDays === null) warnings.push('NO_EPOCH');
  else if (ageDays > GOOD_DAYS[orbit.kind]) warnings.push('OLD_ELEMENTS');
  if (distanceAu < NEAR_AU) warnings.push('NEAR_EARTH');
  return { ageDays, warnings };
}

/** Of the Earth's centre or of a site, from the sun, equatorial J2000.0, AU. */
function observerPosition(utcMs: UtcMs, site: Site | undefined): Vector3 {
  const time = new AstroTime(daysSinceJ2000(utcMs));
  const earth = HelioState(Body.Earth, time);
  if (!site) return [earth.x, earth.y, earth.z];
  const from = ObserverVector(time, new Observer(site.latitudeDeg, site.longitudeDeg, site.elevationM), false);
  return [earth.x + from.x, earth.y + from.y, earth.z + from.z];
}

/** Position from the sun, equatorial J2000.0, AU. */
function heliocentric(orbit: Orbit, mjdTt: number): Vector3 {
  const { along, across } = onOrbitPlane(orbit, mjdTt - orbit.perihelionMjdTt);
  const [argument, node, inclination] = [orbit.perihelionArgumentDeg, orbit.nodeDeg, orbit.inclinationDeg].map(toRad);
  const u = along * Math.cos(argument) - across * Math.sin(argument);
  const v = along * Math.sin(argument) + across * Math.cos(argument);
  const x = u * Math.cos(node) - v * Math.cos(inclination) * Math.sin(node);
  const y = u * Math.sin(node) + v * Math.cos(inclination) * Math.cos(node);
  const z = v * Math.sin(inclination);
  return [
    x,
    y * Math.cos(OBLIQUITY_RAD) - z * Math.sin(OBLIQUITY_RAD),
    y * Math.sin(OBLIQUITY_RAD) + z * Math.cos(OBLIQUITY_RAD),
  ];
}

/** Place on the orbit's plane some days after perihelion, x towards perihelion. Kepler's equation in universal variables
 * holds for ellipses, parabolas and hyperbolas alike. Source: Danby, Fundamentals of Celestial Mechanics, 2nd ed., 6.9. */
function onOrbitPlane(orbit: Orbit, days: number): { along: number; across: number } {
  const { perihelionDistanceAu: q, eccentricity: e } = orbit;
  const alpha = (GAUSS_K * GAUSS_K * (1 - e)) / q;
  const whole = alpha > 0 ? (2 * Math.PI * GAUSS_K * GAUSS_K) / alpha ** 1.5 : Infinity;
  const t = Number.isFinite(whole) ? days - whole * Math.round(days / whole) : days;
  const time = (s: number): number => {
    const c = stumpff(alpha * s * s);
    return q * s * c[1] + GAUSS_K * GAUSS_K * s ** 3 * c[3] - t;
  };
  const radius = (s: number): number => {
    const c = stumpff(alpha * s * s);
    return q * c[0] + GAUSS_K * GAUSS_K * s * s * c[2];
  };
  const s = rootOf(time, radius, t / q);
  const [, c1, c2] = stumpff(alpha * s * s);
  return {
    along: q - GAUSS_K * GAUSS_K * s * s * c2,
    across: Math.sqrt(q * GAUSS_K * GAUSS_K * (1 + e)) * s * c1,
  };
}

/** Newton's way inside a bracket: the function rises everywhere, its slope is the distance from the sun. */
function rootOf(f: (s: number) => number, slope: (s: number) => number, guess: number): number {
  if (guess === 0) return 0;
  let far = guess;
  while (f(far) * guess < 0) far *= 2;
  let [low, high] = [Math.min(0, far), Math.max(0, far)];
  let s = (low + high) / 2;
  for (let round = 0; round < 100; round++) {
    const value = f(s);
    if (value > 0) high = s;
    else low = s;
    const newton = s - value / slope(s);
    const next = newton > low && newton < high ? newton : (low + high) / 2;
    if (Math.abs(next - s) <= 1e-15 * (1 + Math.abs(s))) return next;
    s = next;
  }
  return s;
}

/** The functions c0 … c3 of Stumpff: by series near 0, closed elsewhere. */
function stumpff(x: number): readonly [number, number, number, number] {
  if (Math.abs(x) < 0.1) {
    let [c2, c3] = [1, 1];
    for (let k = 9; k > 0; k--) {
      c2 = 1 - (x * c2) / ((2 * k + 1) * (2 * k + 2));
      c3 = 1 - (x * c3) / ((2 * k + 2) * (2 * k + 3));
    }
    [c2, c3] = [c2 / 2, c3 / 6];
    return [1 - x * c2, 1 - x * c3, c2, c3];
  }
  const root = Math.sqrt(Math.abs(x));
  const [c0, c1] = x > 0 ? [Math.cos(root), Math.sin(root) / root] : [Math.cosh(root), Math.sinh(root) / root];
  return [c0, c1, (1 - c0) / x, (1 - c1) / x];
}

const minus = (a: Vector3, b: Vector3): Vector3 => [a[0] - b[0], a[1] - b[1], a[2] - b[2]];
const lengthOf = (v: Vector3): number => Math.hypot(v[0], v[1], v[2]);

// J2000.0 directions to the true equator and equinox of date: IAU 2006 precession, 21-term nutation, annual aberration. Within 0.2 arcsec.
import { AstroTime, Body, HelioState } from 'astronomy-engine';
import { daysSinceJ2000, ttCenturies } from '../time/julian.ts';
import { greenwichMeanSiderealDeg } from '../time/sidereal.ts';
import type { UtcMs } from '../units.ts';
import { arcsecToRad, toDeg, toRad, wrap360 } from '../units.ts';
import type { SkyPosition } from './site.ts';

/** Speed of light. Source: IAU 2012 Resolution B2 with the SI value of c. */
export const LIGHT_AU_PER_DAY = 173.144_632_674;

export type Vector3 = readonly [x: number, y: number, z: number];
type Matrix3 = readonly [Vector3, Vector3, Vector3];

/** What turns catalogue places into places of date near one moment; good for a night around it. */
export interface FrameOfDate {
  readonly utcMs: UtcMs;
  /** From J2000.0 axes to the true equator and equinox of date. */
  readonly rotation: Matrix3;
  /** Velocity of the Earth on J2000.0 axes, in units of the speed of light. */
  readonly earthVelocity: Vector3;
  /** Equation of the equinoxes: apparent minus mean sidereal time. */
  readonly equinoxEquationDeg: number;
}

/** The frame of a moment. */
export function frameOfDate(utcMs: UtcMs): FrameOfDate {
  const t = ttCenturies(utcMs);
  const { longitudeRad, obliquityRad } = nutation(t);
  const meanObliquityRad = meanObliquity(t);
  const nutationMatrix = product(
    rotateX(-(meanObliquityRad + obliquityRad)),
    product(rotateZ(-longitudeRad), rotateX(meanObliquityRad)),
  );
  return {
    utcMs,
    rotation: product(nutationMatrix, precessionMatrix(t)),
    earthVelocity: earthVelocity(utcMs),
    equinoxEquationDeg: toDeg(longitudeRad * Math.cos(meanObliquityRad)),
  };
}

/** Greenwich apparent sidereal time by the frame's nutation.
 * @returns degrees, [0, 360) */
export const apparentSiderealDeg = (frame: FrameOfDate, utcMs: UtcMs): number =>
  wrap360(greenwichMeanSiderealDeg(utcMs) + frame.equinoxEquationDeg);

/** Unit vector towards an apparent place (aberration included) on the axes of date. */
export function apparentVector(frame: FrameOfDate, position: SkyPosition): Vector3 {
  const [x, y, z] = unitVector(position);
  const [vx, vy, vz] = frame.earthVelocity;
  return apply(frame.rotation, normalised([x + vx, y + vy, z + vz]));
}

/** A place on the axes of a moment's true equator and equinox, aberration left in, turned to J2000.0 axes. */
export function toJ2000(position: SkyPosition, equinoxUtcMs: UtcMs): SkyPosition {
  const { rotation } = frameOfDate(equinoxUtcMs);
  return positionOf(apply(transposed(rotation), unitVector(position)));
}

/** A J2000.0 place on the axes of a moment's true equator and equinox, without aberration: what a mount of date is told. */
export const toDate = (position: SkyPosition, equinoxUtcMs: UtcMs): SkyPosition =>
  positionOf(apply(frameOfDate(equinoxUtcMs).rotation, unitVector(position)));

const transposed = ([a, b, c]: Matrix3): Matrix3 => [
  [a[0], b[0], c[0]],
  [a[1], b[1], c[1]],
  [a[2], b[2], c[2]],
];

/** Unit vector towards right ascension and declination. */
export function unitVector({ raDeg, decDeg }: SkyPosition): Vector3 {
  const ra = toRad(raDeg);
  const dec = toRad(decDeg);
  return [Math.cos(dec) * Math.cos(ra), Math.cos(dec) * Math.sin(ra), Math.sin(dec)];
}

/** Right ascension in [0, 360) and declination of a direction of any length. */
export function positionOf([x, y, z]: Vector3): SkyPosition {
  return { raDeg: wrap360(toDeg(Math.atan2(y, x))), decDeg: toDeg(Math.atan2(z, Math.hypot(x, y))) };
}

/** Angle between two directions of any length, exact for small and for large angles.
 * @returns degrees, [0, 180] */
export function angleBetweenDeg(a: Vector3, b: Vector3): number {
  const cross = Math.hypot(a[1] * b[2] - a[2] * b[1], a[2] * b[0] - a[0] * b[2], a[0] * b[1] - a[1] * b[0]);
  return toDeg(Math.atan2(cross, a[0] * b[0] + a[1] * b[1] + a[2] * b[2]));
}

/** Against the sun instead of the barycentre: the sun's own 13 m/s are 0.01 arcsec of aberration. */
function earthVelocity(utcMs: UtcMs): Vector3 {
  const { vx, vy, vz } = HelioState(Body.Earth, new AstroTime(daysSinceJ2000(utcMs)));
  return [vx / LIGHT_AU_PER_DAY, vy / LIGHT_AU_PER_DAY, vz / LIGHT_AU_PER_DAY];
}

/** Source: Capitaine, Wallace & Chapront 2003, eq. 40. */
function precessionMatrix(t: number): Matrix3 {
  const zeta = 2.650545 + t * (2306.083227 + t * (0.2988499 + t * 0.01801828));
  const z = -2.650545 + t * (2306.077181 + t * (1.0927348 + t * 0.01826837));
  const theta = t * (2004.191903 + t * (-0.4294934 - t * 0.04182264));
  return product(rotateZ(-arcsecToRad(z)), product(rotateY(arcsecToRad(theta)), rotateZ(-arcsecToRad(zeta))));
}

/** Source: Hilton et al. 2006 (IAU 2006 obliquity). */
const meanObliquity = (t: number): number => arcsecToRad(84381.406 - t * (46.836769 + t * 0.0001831));

/** Multiples of l, l′, F, D, Ω; then sine of longitude (constant, per century) and cosine of obliquity, in 0.1 µas.
 * Source: McCarthy & Luzum 2003 (IAU 2000B), the largest terms. */
const NUTATION_TERMS: readonly (readonly number[])[] = [
  [0, 0, 0, 0, 1, -172064161, -174666, 92052331],
  [0, 0, 2, -2, 2, -13170906, -1675, 5730336],
  [0, 0, 2, 0, 2, -2276413, -234, 978459],
  [0, 0, 0, 0, 2, 2074554, 207, -897492],
  [0, 1, 0, 0, 0, 1475877, -3633, 73871],
  [0, 1, 2, -2, 2, -516821, 1226, 224386],
  [1, 0, 0, 0, 0, 711159, 73, -6750],
  [0, 0, 2, 0, 1, -387298, -367, 200728],
  [1, 0, 2, 0, 2, -301461, -36, 129025],
  [0, -1, 2, -2, 2, 215829, -494, -95929],
  [0, 0, 2, -2, 1, 128227, 137, -68982],
  [-1, 0, 2, 0, 2, 123457, 11, -53311],
  [-1, 0, 0, 2, 0, 156994, 10, -1235],
  [1, 0, 0, 0, 1, 63110, 63, -33228],
  [-1, 0, 0, 0, 1, -57976, -63, 31429],
  [-1, 0, 2, 2, 2, -59641, -11, 25543],
  [1, 0, 2, 0, 1, -51613, -42, 26366],
  [-2, 0, 2, 0, 1, 45893, 50, -24236],
  [0, 0, 0, 2, 0, 63384, 11, -1220],
  [0, 0, 2, 2, 2, -38571, -1, 16452],
];

function nutation(t: number): { longitudeRad: number; obliquityRad: number } {
  const arguments_ = [
    485868.249036 + 1717915923.2178 * t,
    1287104.79305 + 129596581.0481 * t,
    335779.526232 + 1739527262.8478 * t,
    1072260.70369 + 1602961601.209 * t,
    450160.398036 - 6962890.5431 * t,
  ].map(arcsecToRad);
  let longitude = 0;
  let obliquity = 0;
  for (const term of NUTATION_TERMS) {
    const angle = arguments_.reduce((sum, argument, i) => sum + term[i] * argument, 0);
    longitude += (term[5] + term[6] * t) * Math.sin(angle);
    obliquity += term[7] * Math.cos(angle);
  }
  return { longitudeRad: arcsecToRad(longitude * 1e-7), obliquityRad: arcsecToRad(obliquity * 1e-7) };
}

// Rotations of the axes (not of the vector), right-handed.
const rotateX = (a: number): Matrix3 => [
  [1, 0, 0],
  [0, Math.cos(a), Math.sin(a)],
  [0, -Math.sin(a), Math.cos(a)],
];
const rotateY = (a: number): Matrix3 => [
  [Math.cos(a), 0, -Math.sin(a)],
  [0, 1, 0],
  [Math.sin(a), 0, Math.cos(a)],
];
const rotateZ = (a: number): Matrix3 => [
  [Math.cos(a), Math.sin(a), 0],
  [-Math.sin(a), Math.cos(a), 0],
  [0, 0, 1],
];

const dot = (a: Vector3, b: Vector3): number => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
const apply = (m: Matrix3, v: Vector3): Vector3 => [dot(m[0], v), dot(m[1], v), dot(m[2], v)];

function product(a: Matrix3, b: Matrix3): Matrix3 {
  const column = (j: number): Vector3 => [b[0][j], b[1][j], b[2][j]];
  const row = (r: Vector3): Vector3 => [dot(r, column(0)), dot(r, column(1)), dot(r, column(2))];
  return [row(a[0]), row(a[1]), row(a[2])];
}

function normalised(v: Vector3): Vector3 {
  const length = Math.hypot(...v);
  return [v[0] / length, v[1] / length, v[2] / length];
}

// One night over one site as typed arrays: sun, moon and sidereal time per step, and targets sampled against them.
import { apparentSiderealDeg, apparentVector, frameOfDate } from './frame-of-date.ts';
import type { FrameOfDate, Vector3 } from './frame-of-date.ts';
import { DIURNAL_ABERRATION_RAD } from './altitude.ts';
import type { Site, SkyPosition } from './site.ts';
import { luminaryVector, moonPhase } from './sun-moon.ts';
import { EARTH_TURNS_PER_UT_DAY } from '../time/sidereal.ts';
import type { Interval } from '../time/nights.ts';
import type { UtcMs } from '../units.ts';
import { DAY_MS, MINUTE_MS, toDeg, toRad } from '../units.ts';

/** Sun and moon are computed this far apart and interpolated by cubics in between (error below 0.05 arcsec). */
const KNOT_MS = { sun: 60 * MINUTE_MS, moon: 30 * MINUTE_MS } as const;
/** The phase angle changes by half a degree an hour; between knots it is linear. */
const PHASE_KNOT_MS = 120 * MINUTE_MS;

/** What every target of a night shares. All arrays have `length` samples, `stepMs` apart from `startUtcMs`. */
export interface NightTable {
  readonly site: Site;
  readonly frame: FrameOfDate;
  readonly startUtcMs: UtcMs;
  readonly stepMs: number;
  readonly length: number;
  /** Cosine and sine of local apparent sidereal time. */
  readonly cosSidereal: Float64Array;
  readonly sinSidereal: Float64Array;
  readonly sunAltitudeDeg: Float64Array;
  readonly moonAltitudeDeg: Float64Array;
  /** Unit vectors towards the topocentric moon on the axes of date: x, y, z of sample 0, then of sample 1, … */
  readonly moonVectors: Float64Array;
  /** Sun–moon–Earth angle, 0 at full. */
  readonly moonPhaseAngleDeg: Float64Array;
  /** The moon's lit share at the middle of the table. */
  readonly moonIlluminatedShare: number;
}

/** One target through a night, sample by sample. */
export interface TargetSamples {
  readonly altitudeDeg: Float64Array;
  readonly azimuthDeg: Float64Array;
  readonly moonSeparationDeg: Float64Array;
  readonly hourAngleDeg: Float64Array;
}

/** Samples an interval, its end included, every `stepSec`. */
export function nightTable(site: Site, interval: Interval, stepSec: number): NightTable {
  const stepMs = stepSec * 1000;
  const length = Math.floor((interval.endUtcMs - interval.startUtcMs) / stepMs) + 1;
  const middleUtcMs = (interval.startUtcMs + interval.endUtcMs) / 2;
  const frame = frameOfDate(middleUtcMs);
  const { cosSidereal, sinSidereal } = siderealSamples(frame, site, interval.startUtcMs, stepMs, length);
  const sun = luminarySamples(site, 'sun', interval.startUtcMs, stepMs, length);
  const moon = luminarySamples(site, 'moon', interval.startUtcMs, stepMs, length);
  const shared = { site, cosSidereal, sinSidereal, length };
  return {
    ...shared,
    frame,
    startUtcMs: interval.startUtcMs,
    stepMs,
    sunAltitudeDeg: altitudesOf(shared, sun),
    moonAltitudeDeg: altitudesOf(shared, moon),
    moonVectors: moon,
    moonPhaseAngleDeg: phaseSamples(interval.startUtcMs, stepMs, length),
    moonIlluminatedShare: moonPhase(middleUtcMs).illuminatedShare,
  };
}

/** The moment of a sample; fractional samples lie between. */
export const momentOfSample = (table: NightTable, sample: number): UtcMs => table.startUtcMs + sample * table.stepMs;

/** Geometric altitude of a target at every sample, in degrees: the cheap half of `targetSamples`. */
export function targetAltitudes(
  table: NightTable,
  position: SkyPosition,
  into = new Float64Array(table.length),
): Float64Array {
  const [x, y, z] = apparentVector(table.frame, position);
  const cosPhi = Math.cos(toRad(table.site.latitudeDeg));
  const constant = z * Math.sin(toRad(table.site.latitudeDeg));
  const { cosSidereal, sinSidereal, length } = table;
  const ax = x * cosPhi;
  const ay = y * cosPhi;
  for (let i = 0; i < length; i++) into[i] = toDeg(Math.asin(ax * cosSidereal[i] + ay * sinSidereal[i] + constant));
  return into;
}

/** Altitude, azimuth, hour angle and moon distance of a target at every sample. */
export function targetSamples(table: NightTable, position: SkyPosition): TargetSamples {
  const { length, cosSidereal, sinSidereal, moonVectors } = table;
  const [x, y, z] = apparentVector(table.frame, position);
  const phi = toRad(table.site.latitudeDeg);
  const [cosPhi, sinPhi] = [Math.cos(phi), Math.sin(phi)];
  const samples = {
    altitudeDeg: new Float64Array(length),
    azimuthDeg: new Float64Array(length),
    moonSeparationDeg: new Float64Array(length),
    hourAngleDeg: new Float64Array(length),
  };
  for (let i = 0; i < length; i++) {
    const towardsMeridian = x * cosSidereal[i] + y * sinSidereal[i];
    const eastward = -x * sinSidereal[i] + y * cosSidereal[i];
    const east = eastward + DIURNAL_ABERRATION_RAD * cosPhi;
    const up = towardsMeridian * cosPhi + z * sinPhi;
    const north = -towardsMeridian * sinPhi + z * cosPhi;
    const azimuth = toDeg(Math.atan2(east, north));
    const moonCosine = x * moonVectors[3 * i] + y * moonVectors[3 * i + 1] + z * moonVectors[3 * i + 2];
    samples.altitudeDeg[i] = toDeg(Math.atan2(up, Math.hypot(east, north)));
    samples.azimuthDeg[i] = azimuth < 0 ? azimuth + 360 : azimuth;
    samples.moonSeparationDeg[i] = toDeg(Math.acos(Math.min(1, Math.max(-1, moonCosine))));
    samples.hourAngleDeg[i] = toDeg(Math.atan2(-eastward, towardsMeridian));
  }
  return samples;
}

function siderealSamples(frame: FrameOfDate, site: Site, startUtcMs: UtcMs, stepMs: number, length: number) {
  const cosSidereal = new Float64Array(length);
  const sinSidereal = new Float64Array(length);
  const firstDeg = apparentSiderealDeg(frame, startUtcMs) + site.longitudeDeg;
  const perStepDeg = (360 * EARTH_TURNS_PER_UT_DAY * stepMs) / DAY_MS;
  for (let i = 0; i < length; i++) {
    const sidereal = toRad(firstDeg + i * perStepDeg);
    cosSidereal[i] = Math.cos(sidereal);
    sinSidereal[i] = Math.sin(sidereal);
  }
  return { cosSidereal, sinSidereal };
}

function altitudesOf(
  table: Pick<NightTable, 'site' | 'cosSidereal' | 'sinSidereal' | 'length'>,
  vectors: Float64Array,
): Float64Array {
  const altitudes = new Float64Array(table.length);
  const phi = toRad(table.site.latitudeDeg);
  const [cosPhi, sinPhi] = [Math.cos(phi), Math.sin(phi)];
  for (let i = 0; i < table.length; i++) {
    const towardsMeridian = vectors[3 * i] * table.cosSidereal[i] + vectors[3 * i + 1] * table.sinSidereal[i];
    altitudes[i] = toDeg(Math.asin(towardsMeridian * cosPhi + vectors[3 * i + 2] * sinPhi));
  }
  return altitudes;
}

/** Unit vectors of the sun or moon at every sample, by cubic interpolation between knots. */
function luminarySamples(
  site: Site,
  luminary: 'sun' | 'moon',
  startUtcMs: UtcMs,
  stepMs: number,
  length: number,
): Float64Array {
  const knotMs = KNOT_MS[luminary];
  const knotCount = Math.ceil(((length - 1) * stepMs) / knotMs) + 4;
  const knots: Vector3[] = Array.from({ length: knotCount }, (_, k) =>
    luminaryVector(site, luminary, startUtcMs + (k - 1) * knotMs),
  );
  const vectors = new Float64Array(3 * length);
  for (let i = 0; i < length; i++) {
    const at = (i * stepMs) / knotMs;
    const before = Math.floor(at);
    const weights = cubicWeights(at - before);
    for (let axis = 0; axis < 3; axis++) {
      let sum = 0;
      for (let k = 0; k < 4; k++) sum += weights[k] * knots[before + k][axis];
      vectors[3 * i + axis] = sum;
    }
  }
  return vectors;
}

/** Phase angle at every sample. */
function phaseSamples(startUtcMs: UtcMs, stepMs: number, length: number): Float64Array {
  const knotCount = Math.ceil(((length - 1) * stepMs) / PHASE_KNOT_MS) + 2;
  const knots = Array.from({ length: knotCount }, (_, k) => moonPhase(startUtcMs + k * PHASE_KNOT_MS).phaseAngleDeg);
  return Float64Array.from({ length }, (_, i) => {
    const at = (i * stepMs) / PHASE_KNOT_MS;
    const before = Math.floor(at);
    return knots[before] + (at - before) * (knots[before + 1] - knots[before]);
  });
}

/** Lagrange weights of the knots at −1, 0, 1, 2 for a place in [0, 1]. Source: Meeus, Astronomical Algorithms, 2nd ed., ch. 3. */
function cubicWeights(u: number): readonly number[] {
  return [
    (-u * (u - 1) * (u - 2)) / 6,
    ((u + 1) * (u - 1) * (u - 2)) / 2,
    (-(u + 1) * u * (u - 2)) / 2,
    ((u + 1) * u * (u - 1)) / 6,
  ];
}

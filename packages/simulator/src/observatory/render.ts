// What falls on a sensor: the stars of the catalogue and rendered faint ones at the true pointing, spread by seeing, focus
// and trailing, dimmed by cloud, over the sky's own light, with its noise.
import type { SkyPosition, SkyStar } from '@meridiem/core';
import { faintStarsAround, normalFrom, seededRandom, toRad, toTangentPlane } from '@meridiem/core';
import type { Passing } from './passing.ts';
import type { RigFacts } from './rig-facts.ts';
import type { SensorMap } from './sensor.ts';
import { darkCurrentE } from './sensor.ts';

export interface LightFalling {
  /** Whether there is sky over the telescope at all. */
  readonly isOpen: boolean;
  /** How bright the light for flats is, of its most; dark where left out. */
  readonly flatLightShare?: number;
  readonly pointing: SkyPosition;
  /** Sky angle of the picture's upward side. */
  readonly positionAngleDeg: number;
  /** Width of the band the filter lets through, nm. */
  readonly widthNm: number;
  readonly seeingArcsec: number;
  /** Radius of the disc that a star out of focus is, pixels. */
  readonly defocusPx: number;
  /** Stars are drawn out along right ascension by so many pixels. */
  readonly trailPx: number;
  /** Light that arrives, [0, 1]. */
  readonly transparency: number;
  /** The sky's brightness, magnitudes per square arcsecond in V. */
  readonly skyMagV: number;
  readonly stars: readonly SkyStar[];
  /** What crosses the field meanwhile. */
  readonly passing?: readonly Passing[];
}

export interface FrameOrder {
  readonly exposureSec: number;
  readonly offset: number;
  readonly gain: number;
  readonly seed: number;
  /** In binned pixels. */
  readonly startX: number;
  readonly startY: number;
  readonly widthPx: number;
  readonly heightPx: number;
  readonly binning: number;
  /** The camera's own dust and glow; left out, it has none. */
  readonly sensor?: { readonly map: SensorMap; readonly sensorC: number };
}

export interface CameraFrame {
  readonly widthPx: number;
  readonly heightPx: number;
  readonly pixels: Uint16Array;
}

/** Photons a second of a star of magnitude 0 in one nm through one square centimetre. Source: Bessell 1979, rounded. */
const PHOTONS_0 = 10_000;
const THROUGHPUT = 0.5;
const FAINTEST_MAG = 15.5;
const FULL = 65_535;
const NOISE_TABLE = 1 << 16;
/** Of the generator whose upper half names a place in the table. Source: Press et al., Numerical Recipes, section 7.1. */
const [STATE_TIMES, STATE_MORE] = [1_664_525, 1_013_904_223];
const FWHM_TO_SIGMA = 2.3548;
const TRAIL_STEPS = 5;

/** Row by row, the top row first: up is the position angle, left is east of it as on a sensor behind a refractor. */
export function renderFrame(facts: RigFacts, light: LightFalling, order: FrameOrder): CameraFrame {
  const { widthPx, heightPx } = order;
  const scaleArcsec = (206.265 * facts.pixelUm * order.binning) / facts.focalLengthMm;
  const areaCm2 = Math.PI * (facts.apertureMm / 20) ** 2;
  const perMag0 = PHOTONS_0 * areaCm2 * THROUGHPUT * light.widthNm * order.exposureSec * light.transparency;
  const signal = new Float32Array(widthPx * heightPx);
  if (light.isOpen) {
    signal.fill(
      PHOTONS_0 *
        areaCm2 *
        THROUGHPUT *
        light.widthNm *
        order.exposureSec *
        10 ** (-0.4 * light.skyMagV) *
        scaleArcsec ** 2,
    );
    const optics = { scaleArcsec, perMag0, sensor: facts };
    addStars(signal, light, order, optics);
    addPassing(signal, light, order, optics);
  } else if (light.flatLightShare) addFlatLight(signal, light, order);
  if (order.sensor) throughSensor(signal, order, order.sensor);
  return { widthPx, heightPx, pixels: withNoise(signal, facts, order) };
}

/** Electrons a second in one nm of the band and one unbinned pixel. */
const FLAT_LIGHT_E = 200;

function addFlatLight(
  signal: Float32Array,
  { flatLightShare = 0, widthNm }: LightFalling,
  { exposureSec, binning }: FrameOrder,
): void {
  signal.fill(FLAT_LIGHT_E * flatLightShare * widthNm * exposureSec * binning ** 2);
}

/** What of the light arrives, and what the sensor adds by itself: of binned pixels, by the one in their corner. */
function throughSensor(
  signal: Float32Array,
  { widthPx, heightPx, startX, startY, binning, exposureSec }: FrameOrder,
  { map, sensorC }: NonNullable<FrameOrder['sensor']>,
): void {
  const darkE = darkCurrentE(sensorC) * exposureSec * binning ** 2;
  for (let y = 0, i = 0; y < heightPx; y++) {
    const row = Math.min(map.heightPx - 1, (startY + y) * binning) * map.widthPx;
    for (let x = 0; x < widthPx; x++, i++) {
      const at = row + Math.min(map.widthPx - 1, (startX + x) * binning);
      signal[i] = signal[i] * map.response[at] + darkE * map.glow[at];
    }
  }
}

interface Optics {
  readonly scaleArcsec: number;
  readonly perMag0: number;
  readonly sensor: Pick<RigFacts, 'widthPx' | 'heightPx'>;
}

function addStars(signal: Float32Array, light: LightFalling, order: FrameOrder, optics: Optics): void {
  const { scaleArcsec, perMag0, sensor } = optics;
  const turn = toRad(light.positionAngleDeg);
  const [cos, sin] = [Math.cos(turn), Math.sin(turn)];
  const [middleX, middleY] = [
    sensor.widthPx / order.binning / 2 - order.startX,
    sensor.heightPx / order.binning / 2 - order.startY,
  ];
  const reachDeg = (Math.hypot(sensor.widthPx, sensor.heightPx) / order.binning / 2) * (scaleArcsec / 3600) * 1.05;
  const sigma = spreadPx(light, order, scaleArcsec);
  const near = light.stars.filter(({ decDeg }) => Math.abs(decDeg - light.pointing.decDeg) <= reachDeg);
  for (const star of [...near, ...faintStarsAround(light.pointing, reachDeg, FAINTEST_MAG)]) {
    const plane = toTangentPlane(light.pointing, star);
    if (!plane || Math.hypot(plane.xDeg, plane.yDeg) > reachDeg) continue;
    const up = plane.yDeg * cos + plane.xDeg * sin;
    const east = plane.xDeg * cos - plane.yDeg * sin;
    const [x, y] = [middleX - (east * 3600) / scaleArcsec, middleY - (up * 3600) / scaleArcsec];
    const electrons = perMag0 * 10 ** (-0.4 * star.mag);
    if (light.trailPx < 0.3) addStar(signal, order, { x, y }, electrons, sigma);
    else
      for (let i = 0; i < TRAIL_STEPS; i++)
        addStar(
          signal,
          order,
          { x: x + light.trailPx * (i / (TRAIL_STEPS - 1) - 0.5), y },
          electrons / TRAIL_STEPS,
          sigma,
        );
  }
}

/** How wide a point of light is drawn. */
const spreadPx = (light: LightFalling, { binning }: FrameOrder, scaleArcsec: number): number =>
  Math.hypot(light.seeingArcsec / scaleArcsec / FWHM_TO_SIGMA, light.defocusPx / binning / 1.5, 0.35);

/** A point of light at every step along its line: the faster it goes, the less of it falls on each pixel. */
function addPassing(signal: Float32Array, light: LightFalling, order: FrameOrder, optics: Optics): void {
  const { scaleArcsec, perMag0, sensor } = optics;
  const [wide, high] = [sensor.widthPx / order.binning, sensor.heightPx / order.binning];
  const half = Math.hypot(wide, high) / 2;
  const sigma = spreadPx(light, order, scaleArcsec);
  for (const { x, y, angleRad, mag, arcsecPerSec } of light.passing ?? []) {
    const stepSec = (PASSING_STEP_PX * scaleArcsec) / arcsecPerSec;
    const electrons = (perMag0 / order.exposureSec) * 10 ** (-0.4 * mag) * stepSec;
    for (let along = -2 * half; along <= 2 * half; along += PASSING_STEP_PX) {
      const at = {
        x: wide / 2 - order.startX + x * half + along * Math.cos(angleRad),
        y: high / 2 - order.startY + y * half + along * Math.sin(angleRad),
      };
      addStar(signal, order, at, electrons, sigma);
    }
  }
}
const PASSING_STEP_PX = 0.5;

function addStar(
  signal: Float32Array,
  { widthPx, heightPx }: FrameOrder,
  at: { readonly x: number; readonly y: number },
  electrons: number,
  sigma: number,
): void {
  const reach = Math.ceil(Math.min(40, sigma * (electrons > 1e5 ? 5 : 4)));
  if (at.x < -reach || at.y < -reach || at.x > widthPx + reach || at.y > heightPx + reach) return;
  const [x0, y0] = [Math.floor(at.x), Math.floor(at.y)];
  const profile = (centre: number, first: number): Float64Array =>
    Float64Array.from({ length: 2 * reach + 1 }, (_, i) =>
      Math.exp(-((first - reach + i - centre + 0.5) ** 2) / (2 * sigma * sigma)),
    );
  const [px, py] = [profile(at.x, x0), profile(at.y, y0)];
  const each = electrons / (px.reduce((a, b) => a + b, 0) * py.reduce((a, b) => a + b, 0));
  const [left, bottom] = [x0 - reach, y0 - reach];
  const [fromI, toI] = [Math.max(0, -left), Math.min(px.length, widthPx - left)];
  const [fromJ, toJ] = [Math.max(0, -bottom), Math.min(py.length, heightPx - bottom)];
  for (let j = fromJ; j < toJ; j++) {
    const [row, light] = [(bottom + j) * widthPx + left, each * py[j]];
    for (let i = fromI; i < toI; i++) signal[row + i] += light * px[i];
  }
}

let noiseTable: Float32Array | null = null;

/** Electrons to counts: photon and read noise, offset, and what sixteen bits hold. */
function withNoise(signal: Float32Array, { readNoiseE, ePerAdu }: RigFacts, { offset, seed }: FrameOrder): Uint16Array {
  noiseTable ??= drawNoise();
  // Even steps through the table would draw lines across the picture: it is read in no order.
  let state = Math.floor(seededRandom(seed * 7919 + 13)() * 2 ** 32);
  const pixels = new Uint16Array(signal.length);
  const [readNoiseSq, perE, zero] = [readNoiseE * readNoiseE, 1 / ePerAdu, 10 * offset + 0.5];
  for (let i = 0; i < signal.length; i++) {
    const light = signal[i];
    state = (Math.imul(state, STATE_TIMES) + STATE_MORE) | 0;
    const counts = (light + noiseTable[state >>> 16] * Math.sqrt(light + readNoiseSq)) * perE + zero;
    // Cut off, a number of 0 and more is rounded down.
    pixels[i] = counts <= 0 ? 0 : counts >= FULL ? FULL : counts;
  }
  return pixels;
}

/** Each value with its opposite, or all pictures would share one small error of their mean. */
function drawNoise(): Float32Array {
  const random = seededRandom(4711);
  const table = new Float32Array(NOISE_TABLE);
  for (let i = 0; i < NOISE_TABLE; i += 2) {
    table[i] = normalFrom(random);
    table[i + 1] = -table[i];
  }
  return table;
}

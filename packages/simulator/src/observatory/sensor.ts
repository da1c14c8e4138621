// What a camera of its own does to light: optics darken the corners, dust on the window casts rings, the sensor glows a little by
// itself, more where it is warmer, and some of its pixels much more.
import { seededRandom } from '@meridiem/core';

/** By its unbinned pixels. */
export interface SensorMap {
  readonly widthPx: number;
  readonly heightPx: number;
  /** The share of the light that arrives. */
  readonly response: Float32Array;
  /** Dark current against that of a usual pixel. */
  readonly glow: Float32Array;
}

/** Corners get so much less. */
const VIGNETTING = 0.08;
const DUST_COUNT = 7;
const [LEAST_RING_PX, MOST_RING_PX] = [9, 26];
const [LEAST_RING, MOST_RING] = [0.015, 0.05];
/** One in so many pixels glows from ten to a thousand times as much. */
const HOT_IN = 3000;
/** Electrons a second and pixel at 0 °C; it doubles every so many degrees. */
const DARK_E_PER_SEC = 0.03;
const DOUBLES_C = 6;

export const darkCurrentE = (sensorC: number): number => DARK_E_PER_SEC * 2 ** (sensorC / DOUBLES_C);

const maps = new Map<string, SensorMap>();

/** The same camera has the same dust every night. */
export function sensorMap(seed: number, widthPx: number, heightPx: number): SensorMap {
  const key = `${seed} ${widthPx} ${heightPx}`;
  const known = maps.get(key);
  if (known) return known;
  const map = drawMap(seed, widthPx, heightPx);
  maps.set(key, map);
  return map;
}

function drawMap(seed: number, widthPx: number, heightPx: number): SensorMap {
  const random = seededRandom(seed * 31 + 5);
  const response = new Float32Array(widthPx * heightPx);
  const cornerSq = (widthPx ** 2 + heightPx ** 2) / 4;
  for (let y = 0, i = 0; y < heightPx; y++)
    for (let x = 0; x < widthPx; x++, i++)
      response[i] = 1 - (VIGNETTING * ((x - widthPx / 2) ** 2 + (y - heightPx / 2) ** 2)) / cornerSq;
  for (let n = 0; n < DUST_COUNT; n++) {
    const between = (least: number, most: number): number => least + (most - least) * random();
    castRing(response, widthPx, {
      x: widthPx * random(),
      y: heightPx * random(),
      radius: between(LEAST_RING_PX, MOST_RING_PX),
      depth: between(LEAST_RING, MOST_RING),
    });
  }
  const glow = new Float32Array(widthPx * heightPx).fill(1);
  for (let n = 0; n < glow.length / HOT_IN; n++) glow[Math.floor(random() * glow.length)] = 10 ** (1 + 2 * random());
  return { widthPx, heightPx, response, glow };
}

/** The shadow of a grain far out of focus: a ring with the telescope's own shadow in its middle. */
function castRing(
  response: Float32Array,
  widthPx: number,
  { x, y, radius, depth }: { readonly x: number; readonly y: number; readonly radius: number; readonly depth: number },
): void {
  const heightPx = response.length / widthPx;
  for (let row = Math.max(0, Math.floor(y - radius)); row < Math.min(heightPx, y + radius); row++)
    for (let column = Math.max(0, Math.floor(x - radius)); column < Math.min(widthPx, x + radius); column++) {
      const far = Math.hypot(column - x, row - y) / radius;
      if (far < 1 && far > 0.4) response[row * widthPx + column] *= 1 - depth;
    }
}

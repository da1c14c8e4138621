// The map of depth against what it stands for: rendered exposures of two panels that overlap, really stacked, and the noise of the
// stack measured square by square.
import { describe, expect, it } from '@jest/globals';
import type { DeepExposure, DepthGrid } from '@meridiem/core';
import { DEPTH_BOX_ARCSEC, DEPTH_SIGMAS, depthGrid, depthMap, faintStarsAround, findStars, pixelToSky, seededRandom, skyBackground, solveField, surfaceNoise, toTangentPlane, zeroPointOf } from '@meridiem/core'; // prettier-ignore
import type { CameraFrame, LightFalling } from './render.ts';
import { renderFrame } from './render.ts';
import type { RigFacts } from './rig-facts.ts';

/** 2.5″ a pixel: a square of 10″ is four by four of them. */
const SCALE_ARCSEC = 2.5;
const FACTS = { focalLengthMm: (206.265 * 9) / SCALE_ARCSEC, pixelUm: 9, apertureMm: 140, widthPx: 640, heightPx: 480, readNoiseE: 3, ePerAdu: 1 } as unknown as RigFacts; // prettier-ignore
const EACH = 5;
const CELLS = 12;
/** Of the sixteen that a square holds: fewer where it lies on an edge. */
const FEWEST_PIXELS = 10;

interface Taken extends DeepExposure {
  readonly frame: CameraFrame;
  readonly background: number;
}

/** Skies, clouds and lengths as they come; each pointing a little off. */
function taken(): Taken[] {
  const random = seededRandom(77);
  return [0, 1].flatMap((panel) =>
    Array.from({ length: EACH }, () => {
      const exposureSec = [60, 120][Math.floor(2 * random())];
      const pointing = { raDeg: 190 + 0.3 * panel + 0.01 * random(), decDeg: 30 + 0.08 * panel + 0.01 * random() };
      const positionAngleDeg = 12 + 8 * panel;
      const light: LightFalling = {
        ...{
          isOpen: true,
          pointing,
          positionAngleDeg,
          widthNm: 95,
          stars: [],
          seeingArcsec: 3,
          defocusPx: 0.2,
          trailPx: 0,
        },
        ...{ transparency: 0.5 + 0.45 * random(), skyMagV: 21.5 - 1.5 * random() },
      };
      const order = { exposureSec, offset: 10, gain: 75, seed: Math.floor(1e6 * random()), startX: 0, startY: 0, widthPx: FACTS.widthPx, heightPx: FACTS.heightPx, binning: 1 }; // prettier-ignore
      const frame = renderFrame(FACTS, light, order);
      return { ...measured(frame, pointing, exposureSec), frame };
    }),
  );
}

/** As a file is measured. */
function measured(frame: CameraFrame, near: LightFalling['pointing'], exposureSec: number): Omit<Taken, 'frame'> {
  const sky = skyBackground(frame);
  const stars = findStars(frame, sky);
  const { widthPx, heightPx } = frame;
  const hint = { near, radiusDeg: 1, scaleArcsecPerPx: SCALE_ARCSEC };
  const solved = solveField({ widthPx, heightPx, stars }, hint, faintStarsAround);
  if (!solved.isSolved) throw new Error(solved.words);
  const known = solved.matches.map(({ star, sky: { mag } }) => ({ ...stars[star], mag }));
  const { centre, positionAngleDeg, scaleArcsecPerPx } = solved;
  return {
    field: { centre, positionAngleDeg, scaleArcsecPerPx, widthPx, heightPx },
    ...{ noise: sky.noise, background: sky.level, exposureSec },
    zeroPointMag: zeroPointOf(known, exposureSec)!.mag,
  };
}

/** Squares of 10″ over the whole grid. */
interface Boxes {
  readonly side: number;
  readonly across: number;
  readonly down: number;
}

/** The stack's light by square, a square arcsecond, and how many exposures it is of; NaN where a square is covered in part. */
function stacked(exposures: readonly Taken[], grid: DepthGrid, { side, across, down }: Boxes): Float64Array {
  const [sums, weights] = [new Float64Array(across * down), new Float64Array(across * down)];
  for (const exposure of exposures) {
    const [light, inside] = [new Float64Array(across * down), new Uint16Array(across * down)];
    const { field, frame, background, exposureSec, zeroPointMag } = exposure;
    const toMag0 = 10 ** (-0.4 * zeroPointMag) / exposureSec / SCALE_ARCSEC ** 2;
    for (let row = 0; row < frame.heightPx; row++)
      for (let x = 0; x < frame.widthPx; x++) {
        // Rows are counted down by the frame, up by the sensor.
        const at = toTangentPlane(grid.centre, pixelToSky(field, { x: x + 0.5, y: frame.heightPx - row - 0.5 }))!;
        const box = boxAt(grid, at, { side, across, down });
        light[box] += (frame.pixels[row * frame.widthPx + x] - background) * toMag0;
        inside[box] += 1;
      }
    const weight = surfaceNoise(exposure) ** -2;
    inside.forEach((count, box) => {
      if (count === 0) return;
      if (count < FEWEST_PIXELS) weights[box] = NaN;
      sums[box] += (weight * light[box]) / count;
      weights[box] += weight;
    });
  }
  return sums.map((sum, box) => sum / weights[box]);
}

function boxAt(grid: DepthGrid, { xDeg, yDeg }: { xDeg: number; yDeg: number }, { side, across, down }: Boxes): number {
  const clipped = (value: number, most: number): number => Math.min(most - 1, Math.max(0, Math.floor(value)));
  const column = clipped(((grid.across * grid.stepDeg) / 2 - xDeg) / (grid.stepDeg / side), across);
  return clipped(((grid.down * grid.stepDeg) / 2 - yDeg) / (grid.stepDeg / side), down) * across + column;
}

/** Standard deviation without what stars brighten. */
function clippedSpread(values: readonly number[]): number {
  let kept = values;
  for (;;) {
    const mean = kept.reduce((sum, value) => sum + value, 0) / kept.length;
    const spread = Math.sqrt(kept.reduce((sum, value) => sum + (value - mean) ** 2, 0) / kept.length);
    const next = kept.filter((value) => Math.abs(value - mean) <= 3 * spread);
    // What the clipping takes of a normal spread besides.
    if (next.length === kept.length) return spread / 0.9866;
    kept = next;
  }
}

const medianOf = (values: readonly number[]): number => values.toSorted((a, b) => a - b)[values.length >> 1];

describe('a map of depth', () => {
  it('says what a stack of the same pictures shows, within 0.1 mag over 95 % of what was covered', () => {
    const exposures = taken();
    const grid = depthGrid(exposures.map(({ field }) => field), CELLS)!; // prettier-ignore
    const map = depthMap(exposures, grid);
    const side = Math.round((3600 * grid.stepDeg) / DEPTH_BOX_ARCSEC);
    const [across, down] = [grid.across * side, grid.down * side];
    const lights = stacked(exposures, grid, { side, across, down });
    const off = map.flatMap((mag, cell) => {
      const [left, top] = [(cell % grid.across) * side, Math.floor(cell / grid.across) * side];
      const own = Array.from(
        { length: side ** 2 },
        (_, i) => lights[(top + Math.floor(i / side)) * across + left + (i % side)],
      );
      // Cells that the edge of a field cuts are not of one depth.
      if (mag === null || own.some(Number.isNaN)) return [];
      const sigma = clippedSpread(own);
      return [mag - -2.5 * Math.log10(DEPTH_SIGMAS * sigma)];
    });
    const within = off.filter((by) => Math.abs(by) <= 0.1).length / off.length;
    console.log(`${off.length} cells of ${side ** 2} squares: ${(100 * within).toFixed(1)} % within 0.1 mag, median ${medianOf(off).toFixed(3)}, ${Math.min(...off).toFixed(3)} to ${Math.max(...off).toFixed(3)}`); // prettier-ignore
    expect(off.length).toBeGreaterThan(20);
    expect(within).toBeGreaterThanOrEqual(0.95);
  }, 300_000);
});

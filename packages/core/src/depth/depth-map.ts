// How faint a glow can be seen where: the limiting surface brightness of everything that was gathered over a field, from the noise,
// the zero point and the place that each exposure's own pixels tell.
import { WIDEST_PLANE_DEG } from '../framing/mosaic.ts';
import type { SensorOnSky } from '../framing/sensor.ts';
import { pixelToSky } from '../framing/sensor.ts';
import type { PlanePoint } from '../framing/tangent-plane.ts';
import { toTangentPlane } from '../framing/tangent-plane.ts';
import type { Vector3 } from '../sky/frame-of-date.ts';
import { positionOf, unitVector } from '../sky/frame-of-date.ts';
import type { SkyPosition } from '../sky/site.ts';
import { quantileOf } from '../units.ts';

/** Depth is told for a glow this many times brighter than the noise … */
export const DEPTH_SIGMAS = 3;
/** … of a square with sides of so many arcseconds. */
export const DEPTH_BOX_ARCSEC = 10;

export interface DeepExposure {
  /** Where it points, by its stars. */
  readonly field: SensorOnSky;
  /** Of the sky, a pixel, in the picture's units. */
  readonly noise: number;
  readonly exposureSec: number;
  /** Magnitude of a star that gives one unit a second. */
  readonly zeroPointMag: number;
}

/** Noise of an exposure's surface brightness in the box, as a share of a glow of magnitude zero per square arcsecond. */
export function surfaceNoise({ field, noise, exposureSec, zeroPointMag }: DeepExposure): number {
  // Noise adds up by the root of the pixels in the box, light by their number.
  const perSquareArcsec = noise / (exposureSec * field.scaleArcsecPerPx * DEPTH_BOX_ARCSEC);
  return perSquareArcsec * 10 ** (-0.4 * zeroPointMag);
}

/** @param weight the sum of 1 / noise² of what was stacked
 * @returns magnitudes per square arcsecond, in the band of the zero points; null where nothing was */
export const limitingMag = (weight: number): number | null =>
  weight > 0 ? -2.5 * Math.log10(DEPTH_SIGMAS / Math.sqrt(weight)) : null;

/** Cells on a plane that touches the sky in its middle: the first in the north-east corner, row by row. */
export interface DepthGrid {
  readonly centre: SkyPosition;
  readonly stepDeg: number;
  readonly across: number;
  readonly down: number;
}

/** Over all fields, with at most so many cells to a side.
 * @returns null without fields, or where they lie too far apart for one plane */
export function depthGrid(fields: readonly SensorOnSky[], mostCells: number): DepthGrid | null {
  if (fields.length === 0) return null;
  const centre = middleOf(fields.map((field) => field.centre));
  const corners = fields.flatMap((field) => cornersOn(centre, field) ?? []);
  if (corners.length < 4 * fields.length) return null;
  const widest = (of: (point: PlanePoint) => number): number =>
    Math.max(...corners.map((corner) => Math.abs(of(corner))));
  const [halfX, halfY] = [widest(({ xDeg }) => xDeg), widest(({ yDeg }) => yDeg)];
  if (Math.max(halfX, halfY) > WIDEST_PLANE_DEG / 2) return null;
  const stepDeg = (2 * Math.max(halfX, halfY)) / mostCells;
  return { centre, stepDeg, across: Math.ceil((2 * halfX) / stepDeg), down: Math.ceil((2 * halfY) / stepDeg) };
}

/** Where a cell's middle lies on the plane; east counts up. */
export const cellPlace = ({ stepDeg, across, down }: DepthGrid, index: number): PlanePoint => ({
  xDeg: (across / 2 - 0.5 - (index % across)) * stepDeg,
  yDeg: (down / 2 - 0.5 - Math.floor(index / across)) * stepDeg,
});

/** Depth by cell, each of what covers its middle: where panels overlap both count.
 * @returns magnitudes per square arcsecond; null where nothing was gathered */
export function depthMap(exposures: readonly DeepExposure[], grid: DepthGrid): (number | null)[] {
  const weights = new Float64Array(grid.across * grid.down);
  for (const exposure of exposures) {
    const corners = cornersOn(grid.centre, exposure.field);
    if (corners) addWithin(weights, grid, corners, surfaceNoise(exposure) ** -2);
  }
  return Array.from(weights, limitingMag);
}

function addWithin(weights: Float64Array, grid: DepthGrid, corners: readonly PlanePoint[], weight: number): void {
  const sides = corners.map((from, i) => ({ from, to: corners[(i + 1) % corners.length] }));
  const turn = Math.sign(sides.reduce((sum, { from, to }) => sum + from.xDeg * to.yDeg - to.xDeg * from.yDeg, 0));
  for (const index of cellsAround(grid, corners)) {
    const { xDeg, yDeg } = cellPlace(grid, index);
    const isInside = sides.every(
      ({ from, to }) =>
        turn * ((to.xDeg - from.xDeg) * (yDeg - from.yDeg) - (to.yDeg - from.yDeg) * (xDeg - from.xDeg)) >= 0,
    );
    if (isInside) weights[index] += weight;
  }
}

/** Cells of the box around these places. */
function* cellsAround({ stepDeg, across, down }: DepthGrid, places: readonly PlanePoint[]): Generator<number> {
  const cell = (deg: number, count: number): number =>
    Math.min(count - 1, Math.max(0, Math.floor(count / 2 - deg / stepDeg)));
  const [xs, ys] = [places.map(({ xDeg }) => xDeg), places.map(({ yDeg }) => yDeg)];
  const [left, right] = [cell(Math.max(...xs), across), cell(Math.min(...xs), across)];
  const [top, bottom] = [cell(Math.max(...ys), down), cell(Math.min(...ys), down)];
  for (let row = top; row <= bottom; row++)
    for (let column = left; column <= right; column++) yield row * across + column;
}

function cornersOn(centre: SkyPosition, field: SensorOnSky): PlanePoint[] | null {
  const [right, up] = [field.widthPx, field.heightPx];
  const corners = [[0, 0], [right, 0], [right, up], [0, up]].map(([x, y]) => toTangentPlane(centre, pixelToSky(field, { x, y }))); // prettier-ignore
  return corners.every((corner) => corner !== null) ? corners : null;
}

const middleOf = (places: readonly SkyPosition[]): SkyPosition =>
  positionOf(places.map(unitVector).reduce<Vector3>(([a, b, c], [d, e, f]) => [a + d, b + e, c + f], [0, 0, 0]));

export interface DepthSummary {
  readonly deepestMag: number;
  readonly medianMag: number;
  /** A tenth of what was covered is no deeper. */
  readonly shallowTenthMag: number;
}

/** @returns null where nothing was gathered */
export function depthSummary(cells: readonly (number | null)[]): DepthSummary | null {
  const covered = cells.filter((cell) => cell !== null);
  if (covered.length === 0) return null;
  return {
    deepestMag: Math.max(...covered),
    medianMag: quantileOf(covered, 0.5),
    shallowTenthMag: quantileOf(covered, 0.1),
  };
}

/** @returns the share of cells that are at least so deep, of those within the composition: all that were covered */
export function shareAsDeep(cells: readonly (number | null)[], wantedMag: number): number {
  const covered = cells.filter((cell) => cell !== null);
  return covered.length === 0 ? 0 : covered.filter((mag) => mag >= wantedMag).length / covered.length;
}

/** How many times the exposure a field needs, of the same kind over all of it, until a share of it is as deep as wanted: noise falls with the root of the time, so a magnitude costs 10^0.8 times of it.
 * @param share of what was covered, (0, 1]
 * @returns 1 or less where it is as deep already; null where nothing was gathered */
export function timesForDepth(cells: readonly (number | null)[], wantedMag: number, share: number): number | null {
  const covered = cells.filter((cell) => cell !== null).sort((a, b) => b - a);
  if (covered.length === 0) return null;
  const shallowest = covered[Math.max(0, Math.ceil(share * covered.length - 1e-9) - 1)];
  return 10 ** (0.8 * (wantedMag - shallowest));
}

// What crossed the picture while it was exposed: a satellite or an aircraft leaves a straight narrow line, often too faint to
// be seen at any one place and plain along its whole length.
import type { Picture, SkyBackground } from './background.ts';
import type { MeasuredStar } from './stars.ts';
import type { Line } from './line-search.ts';
import { brightestLine, clearLine, LEAST_SIGMAS, placesOf } from './line-search.ts';
import type { SkyCells } from './sky-cells.ts';
import { isInside, skyCells } from './sky-cells.ts';
import { meanAround } from './star-light.ts';

/** A straight line of light, from where it enters or begins to where it leaves or ends; pixels, as stars have them. */
export interface Trail {
  readonly fromX: number;
  readonly fromY: number;
  readonly toX: number;
  readonly toY: number;
  /** Its light over the noise of as much empty sky. */
  readonly sigmas: number;
}

/** A line is looked at in so many pieces. */
const PIECES = 12;
/** A trail lights at least so many of them one after the other, and nearly all between its ends. */
const LEAST_PIECES = 5;
const LEAST_LIT_SHARE = 0.8;
const LIT_SIGMAS = 1;
/** Light so many cells to either side is a nebula's or a galaxy's. */
const BESIDE_CELLS = 3;
const MOST_BESIDE_SHARE = 0.35;
/** Along the rows or columns themselves the lines are the sensor's own. */
const OWN_RISE_CELLS = 2;
const MOST_TRAILS = 6;
/** What is bright without being a trail is put aside so often. */
const MOST_LOOKS = 12;
/** So far to either side nothing more is looked for: what is no trail is wider. */
const TRAIL_CELLS = 3;
const OTHER_CELLS = 12;

/** The trails of a picture, the brightest first.
 * @param stars of the picture: bright ones are left out of the lines, pieces of trails among faint ones do no harm */
export function findTrails(picture: Picture, sky: SkyBackground, stars: readonly MeasuredStar[]): Trail[] {
  const cells = skyCells(picture, sky, stars);
  const trails: Trail[] = [];
  for (let looks = 0; looks < MOST_LOOKS && trails.length < MOST_TRAILS; looks++) {
    const line = brightestLine(cells);
    if (!line) break;
    const found = trailOn(cells, line);
    if (found) trails.push(inPixels(cells, line, found));
    clearLine(cells, line, found ? TRAIL_CELLS : OTHER_CELLS);
  }
  return trails.sort((a, b) => b.sigmas - a.sigmas);
}

/** Whether what was taken for a star is a piece of a trail: beside it, along the trail, there is much of its light as well. */
export function isOfTrail(picture: Picture, sky: SkyBackground, star: MeasuredStar, trail: Trail): boolean {
  const [dx, dy] = [trail.toX - trail.fromX, trail.toY - trail.fromY];
  const length = Math.hypot(dx, dy);
  const [ux, uy] = [dx / length, dy / length];
  const along = (star.x - trail.fromX) * ux + (star.y - trail.fromY) * uy;
  const beside = Math.abs((star.x - trail.fromX) * uy - (star.y - trail.fromY) * ux);
  if (beside > OF_TRAIL_PX + star.halfFluxRadiusPx || along < -OF_TRAIL_PX || along > length + OF_TRAIL_PX)
    return false;
  const lights: number[] = [];
  for (let step = 0; step < SAMPLES; step++)
    for (const side of [-1, 1]) {
      const far = side * (3 * star.halfFluxRadiusPx + 2 + SAMPLE_STEP_PX * step);
      const light = meanAround(picture, sky, star.x + far * ux, star.y + far * uy);
      if (Number.isFinite(light)) lights.push(light);
    }
  const trailLight = lights.reduce((sum, light) => sum + light, 0) / Math.max(1, lights.length);
  return trailLight > OF_TRAIL_SHARE * meanAround(picture, sky, star.x, star.y);
}
const OF_TRAIL_PX = 4;
const OF_TRAIL_SHARE = 0.3;
const SAMPLES = 10;
const SAMPLE_STEP_PX = 3;

interface Part {
  /** Places in the list of the line's cells. */
  readonly first: number;
  readonly last: number;
  readonly sigmas: number;
}

/** The part of a line that a trail lights; null where its light is not a trail's. */
function trailOn(cells: SkyCells, line: Line): Part | null {
  if (line.rise < OWN_RISE_CELLS) return null;
  const places = placesOf(line).filter((place) => isInside(cells, place));
  const pieces = piecesOf(cells, places);
  let best: Part | null = null;
  for (let first = 0; first < PIECES; first++)
    for (let last = first + LEAST_PIECES - 1; last < PIECES; last++) {
      const part = pieces.slice(first, last + 1);
      const lit = part.filter(({ light, used }) => light > LIT_SIGMAS * Math.sqrt(Math.max(1, used))).length;
      const sigmas = sumOf(part, 'light') / Math.sqrt(Math.max(1, sumOf(part, 'used')));
      if (lit < LEAST_LIT_SHARE * part.length || sigmas <= (best?.sigmas ?? LEAST_SIGMAS)) continue;
      best = { first: edgeOf(first, places.length), last: edgeOf(last + 1, places.length) - 1, sigmas };
    }
  return best && isNarrow(cells, line) ? best : null;
}

const edgeOf = (piece: number, count: number): number => Math.floor((piece * count) / PIECES);

interface Piece {
  readonly light: number;
  readonly used: number;
}
const sumOf = (pieces: readonly Piece[], of: keyof Piece): number => pieces.reduce((sum, piece) => sum + piece[of], 0);

const piecesOf = (cells: SkyCells, places: readonly number[]): Piece[] =>
  Array.from({ length: PIECES }, (_, piece) => lightOf(cells, places.slice(edgeOf(piece, places.length), edgeOf(piece + 1, places.length)))); // prettier-ignore

const lightOf = ({ sigmas, isUsed }: SkyCells, places: readonly number[]): Piece => ({
  light: places.reduce((sum, place) => sum + sigmas[place], 0),
  used: places.reduce((sum, place) => sum + isUsed[place], 0),
});

function isNarrow(cells: SkyCells, line: Line): boolean {
  const meanAt = (beside: number): number => {
    const { light, used } = lightOf(cells, placesOf(line, beside));
    return light / Math.max(1, used);
  };
  return (meanAt(-BESIDE_CELLS) + meanAt(BESIDE_CELLS)) / 2 < MOST_BESIDE_SHARE * meanAt(0);
}

function inPixels(cells: SkyCells, line: Line, { first, last, sigmas }: Part): Trail {
  const places = placesOf(line).filter((place) => isInside(cells, place));
  const pixel = (place: number): Place => {
    const { side, sidePx } = cells;
    return { x: (place % side) * sidePx + (sidePx - 1) / 2, y: Math.floor(place / side) * sidePx + (sidePx - 1) / 2 };
  };
  const [begin, end] = [pixel(places[first]), pixel(places[last])];
  const from = first === 0 ? toEdge(cells, end, begin) : begin;
  const to = last === places.length - 1 ? toEdge(cells, begin, end) : end;
  return { fromX: from.x, fromY: from.y, toX: to.x, toY: to.y, sigmas };
}

interface Place {
  readonly x: number;
  readonly y: number;
}

/** What leads out of the part that is looked at leads out of the picture. */
function toEdge({ widthPx, heightPx }: SkyCells, from: Place, through: Place): Place {
  const [dx, dy] = [through.x - from.x, through.y - from.y];
  const reach = (at: number, step: number, most: number): number =>
    step > 0 ? (most - at) / step : step < 0 ? -at / step : Infinity;
  const share = Math.min(reach(from.x, dx, widthPx - 1), reach(from.y, dy, heightPx - 1));
  return { x: from.x + share * dx, y: from.y + share * dy };
}

// What crossed the picture while it was exposed: a satellite or an aircraft leaves a straight narrow line, often too faint to
// be seen at any one place and plain along its whole length.
import type { Picture, SkyBackground } from './background.ts';
import type { MeasuredStar } from './stars.ts';
import { meanAround } from './star-light.ts';
import { lineCells, lineSums } from './line-sums.ts';

/** A straight line of light, from where it enters or begins to where it leaves or ends; pixels, as stars have them. */
export interface Trail {
  readonly fromX: number;
  readonly fromY: number;
  readonly toX: number;
  readonly toY: number;
  /** Its light over the noise of as much empty sky. */
  readonly sigmas: number;
}

/** Cells along the longer side at most; so many pixels of a small picture make one. */
const MOST_CELLS = 256;
const FEWEST_CELLS = 64;
const LEAST_CELL_PX = 4;
/** Of half a million lines chance makes none this bright; what is left of bright stars must not either. */
const LEAST_SIGMAS = 8;
/** One bright cell is no line. */
const MOST_OF_CELL = 3;
/** Nearer to the edge the level of the sky is only guessed. */
const MARGIN_PX = 32;
/** A cell with less dark sky says nothing. */
const LEAST_DARK_SHARE = 0.4;
/** A line is looked at in so many pieces. */
const PIECES = 12;
/** A trail lights at least so many of them one after the other, and nearly all between its ends. */
const LEAST_PIECES = 5;
const LEAST_LIT_SHARE = 0.8;
const LIT_SIGMAS = 1;
const LEAST_LENGTH_SHARE = 0.3;
/** Light so many cells to either side is a nebula's or a galaxy's. */
const BESIDE_CELLS = 3;
const MOST_BESIDE_SHARE = 0.35;
/** Along the rows or columns themselves the lines are the sensor's own. */
const OWN_RISE_CELLS = 2;
const MOST_TRAILS = 6;
/** So far to either side nothing more is looked for: what is no trail is wider. */
const TRAIL_CELLS = 3;
const OTHER_CELLS = 12;

/** The trails of a picture, the brightest first.
 * @param stars of the picture: bright ones are left out of the lines, pieces of trails among faint ones do no harm */
export function findTrails(picture: Picture, sky: SkyBackground, stars: readonly MeasuredStar[]): Trail[] {
  const cells = cellsOf(picture, sky, starLit(picture, sky, stars));
  const trails: Trail[] = [];
  while (trails.length < MOST_TRAILS) {
    const line = brightestLine(cells);
    if (!line) break;
    const found = trailOn(cells, line);
    if (found) trails.push(inPixels(cells, line, found));
    clear(cells, line, found ? TRAIL_CELLS : OTHER_CELLS);
    if (++cells.looked >= MOST_LOOKED) break;
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

/** What bright stars light: 0 elsewhere, for every pixel. */
function starLit({ widthPx, heightPx }: Picture, sky: SkyBackground, stars: readonly MeasuredStar[]): Uint8Array {
  const isLit = new Uint8Array(widthPx * heightPx);
  for (const { x, y, flux, halfFluxRadiusPx } of stars) {
    // A round star of this width is so bright in its middle.
    const peak = (0.22 * flux) / halfFluxRadiusPx ** 2;
    if (peak < BRIGHT_SIGMAS * sky.noise) continue;
    const reach = Math.ceil(LIT_RADII * halfFluxRadiusPx);
    for (let row = Math.max(0, Math.round(y) - reach); row <= Math.min(heightPx - 1, Math.round(y) + reach); row++)
      for (let at = Math.max(0, Math.round(x) - reach); at <= Math.min(widthPx - 1, Math.round(x) + reach); at++)
        isLit[row * widthPx + at] = 1;
  }
  return isLit;
}
const BRIGHT_SIGMAS = 12;
const LIT_RADII = 4;
/** What is bright without being a trail is put aside so often. */
const MOST_LOOKED = 12;

interface Cells extends Pick<Picture, 'widthPx' | 'heightPx'> {
  /** Of the square that they lie in. */
  readonly side: number;
  readonly sidePx: number;
  readonly across: number;
  readonly down: number;
  readonly margin: number;
  /** Light over its own noise; 0 where `isUsed` is. */
  readonly sigmas: Float32Array;
  readonly isUsed: Float32Array;
  looked: number;
}

function cellsOf(picture: Picture, sky: SkyBackground, isLit: Uint8Array): Cells {
  const { widthPx, heightPx } = picture;
  const longPx = Math.max(widthPx, heightPx);
  let side = FEWEST_CELLS;
  while (side < MOST_CELLS && longPx > side * LEAST_CELL_PX) side *= 2;
  const sidePx = Math.ceil(longPx / side);
  const [across, down] = [Math.floor(widthPx / sidePx), Math.floor(heightPx / sidePx)];
  const margin = Math.ceil(MARGIN_PX / sidePx);
  const sigmas = new Float32Array(side * side);
  const isUsed = new Float32Array(side * side);
  for (let row = margin; row < down - margin; row++)
    for (let column = margin; column < across - margin; column++) {
      const light = cellLight(picture, isLit, { x0: column * sidePx, y0: row * sidePx, sidePx });
      if (light.darkPx < LEAST_DARK_SHARE * sidePx * sidePx) continue;
      const middle = (sidePx - 1) / 2;
      const above = light.mean - sky.levelAt(column * sidePx + middle, row * sidePx + middle);
      const value = (above * Math.sqrt(light.darkPx)) / Math.max(sky.noise, 1e-9);
      sigmas[row * side + column] = Math.max(-MOST_OF_CELL, Math.min(MOST_OF_CELL, value));
      isUsed[row * side + column] = 1;
    }
  return { widthPx, heightPx, side, sidePx, across, down, margin, sigmas, isUsed, looked: 0 };
}

function cellLight(
  { widthPx, pixels }: Picture,
  isLit: Uint8Array,
  { x0, y0, sidePx }: { readonly x0: number; readonly y0: number; readonly sidePx: number },
): { mean: number; darkPx: number } {
  let [sum, darkPx] = [0, 0];
  for (let y = y0; y < y0 + sidePx; y++)
    for (let at = y * widthPx + x0; at < y * widthPx + x0 + sidePx; at++)
      if (!isLit[at]) {
        sum += pixels[at];
        darkPx++;
      }
  return { mean: darkPx === 0 ? 0 : sum / darkPx, darkPx };
}

/** A way of laying a square of cells so that every line rises by at most its side from left to right: across the columns or down the
 * rows, each as it is or turned over. */
interface Lay {
  readonly side: number;
  readonly isDown: boolean;
  readonly isTurned: boolean;
}
const laysOf = (side: number): Lay[] =>
  [false, true].flatMap((isDown) => [false, true].map((isTurned) => ({ side, isDown, isTurned })));

interface Line {
  readonly lay: Lay;
  readonly startRow: number;
  readonly rise: number;
  readonly sigmas: number;
}

function placeIn({ side, isDown, isTurned }: Lay, along: number, beside: number): number {
  const row = isTurned ? side - 1 - beside : beside;
  return isDown ? along * side + row : row * side + along;
}

function laid(values: Float32Array, lay: Lay): Float32Array {
  const turned = new Float32Array(values.length);
  const { side } = lay;
  for (let beside = 0; beside < side; beside++)
    for (let along = 0; along < side; along++) turned[beside * side + along] = values[placeIn(lay, along, beside)];
  return turned;
}

interface Span {
  readonly from: number;
  readonly to: number;
}

/** Where, along and beside, the cells lie that are looked at. */
function spansOf({ across, down, margin }: Cells, { side, isDown, isTurned }: Lay): { along: Span; beside: Span } {
  const [wide, high] = [
    { from: margin, to: across - margin },
    { from: margin, to: down - margin },
  ];
  const [along, beside] = isDown ? [high, wide] : [wide, high];
  return { along, beside: isTurned ? { from: side - beside.to, to: side - beside.from } : beside };
}

/** How many of the cells that are looked at a line passes, to within one. */
function lengthOn(
  { along, beside }: { along: Span; beside: Span },
  side: number,
  startRow: number,
  rise: number,
): number {
  const step = rise / (side - 1);
  const enters = step === 0 ? (startRow >= beside.from ? 0 : Infinity) : (beside.from - startRow) / step;
  const leaves = step === 0 ? (startRow < beside.to ? side : 0) : (beside.to - startRow) / step;
  return Math.min(along.to, leaves) - Math.max(along.from, enters);
}

/** @returns null where none is bright enough */
function brightestLine(cells: Cells): Line | null {
  const leastCells = LEAST_LENGTH_SHARE * Math.min(cells.across - 2 * cells.margin, cells.down - 2 * cells.margin);
  let best: Line | null = null;
  const { side } = cells;
  for (const lay of laysOf(side)) {
    const light = lineSums(laid(cells.sigmas, lay), side);
    const spans = spansOf(cells, lay);
    for (let rise = 0; rise < side; rise++) {
      const first = light.placeOf(0, rise);
      for (let startRow = -rise; startRow < side; startRow++) {
        const sum = light.values[first + startRow];
        // Lines without much light are most of them, and not worth a closer look.
        if (sum < (best?.sigmas ?? LEAST_SIGMAS) * Math.sqrt(leastCells)) continue;
        const length = lengthOn(spans, side, startRow, rise);
        if (length < leastCells) continue;
        const sigmas = sum / Math.sqrt(length);
        if (sigmas > (best?.sigmas ?? LEAST_SIGMAS)) best = { lay, startRow, rise, sigmas };
      }
    }
  }
  return best;
}

/** The cells that a line passes within the square, from its left end, and as many beside it. */
function placesOf({ lay, startRow, rise }: Line, besideCells = 0): number[] {
  const places: number[] = [];
  lineCells(lay.side, startRow, rise).forEach((row, column) => {
    const beside = row + besideCells;
    if (beside >= 0 && beside < lay.side) places.push(placeIn(lay, column, beside));
  });
  return places;
}

interface Part {
  /** Places in the list of the line's cells. */
  readonly first: number;
  readonly last: number;
  readonly sigmas: number;
}

/** The part of a line that a trail lights; null where its light is not a trail's. */
function trailOn(cells: Cells, line: Line): Part | null {
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

function isInside({ side, across, down, margin }: Cells, place: number): boolean {
  const [column, row] = [place % side, Math.floor(place / side)];
  return column >= margin && row >= margin && column < across - margin && row < down - margin;
}
const edgeOf = (piece: number, count: number): number => Math.floor((piece * count) / PIECES);

interface Piece {
  readonly light: number;
  readonly used: number;
}
const sumOf = (pieces: readonly Piece[], of: keyof Piece): number => pieces.reduce((sum, piece) => sum + piece[of], 0);

const piecesOf = (cells: Cells, places: readonly number[]): Piece[] =>
  Array.from({ length: PIECES }, (_, piece) => lightOf(cells, places.slice(edgeOf(piece, places.length), edgeOf(piece + 1, places.length)))); // prettier-ignore

const lightOf = ({ sigmas, isUsed }: Cells, places: readonly number[]): Piece => ({
  light: places.reduce((sum, place) => sum + sigmas[place], 0),
  used: places.reduce((sum, place) => sum + isUsed[place], 0),
});

function isNarrow(cells: Cells, line: Line): boolean {
  const meanAt = (beside: number): number => {
    const { light, used } = lightOf(cells, placesOf(line, beside));
    return light / Math.max(1, used);
  };
  return (meanAt(-BESIDE_CELLS) + meanAt(BESIDE_CELLS)) / 2 < MOST_BESIDE_SHARE * meanAt(0);
}

function inPixels(cells: Cells, line: Line, { first, last, sigmas }: Part): Trail {
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
function toEdge({ widthPx, heightPx }: Cells, from: Place, through: Place): Place {
  const [dx, dy] = [through.x - from.x, through.y - from.y];
  const reach = (at: number, step: number, most: number): number =>
    step > 0 ? (most - at) / step : step < 0 ? -at / step : Infinity;
  const share = Math.min(reach(from.x, dx, widthPx - 1), reach(from.y, dy, heightPx - 1));
  return { x: from.x + share * dx, y: from.y + share * dy };
}

/** So that the next line looked for is another one. */
function clear({ sigmas, isUsed }: Cells, line: Line, reach: number): void {
  for (let beside = -reach; beside <= reach; beside++)
    for (const place of placesOf(line, beside)) sigmas[place] = isUsed[place] = 0;
}

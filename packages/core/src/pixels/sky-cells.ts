// The sky of a picture without its bright stars, in cells: each the mean of its pixels over the noise of that mean.
import type { Picture, SkyBackground } from './background.ts';
import type { MeasuredStar } from './stars.ts';

/** Cells along the longer side at most; so many pixels of a small picture make one. */
const MOST_CELLS = 256;
const FEWEST_CELLS = 64;
const LEAST_CELL_PX = 4;
/** One bright cell is no line. */
const MOST_OF_CELL = 3;
/** Nearer to the edge the level of the sky is only guessed. */
const MARGIN_PX = 32;
/** A cell with less dark sky says nothing. */
const LEAST_DARK_SHARE = 0.4;
/** Stars this bright are left out, with all that they light; pieces of trails that were taken for stars are fainter. */
const BRIGHT_SIGMAS = 12;
const LIT_RADII = 4;

export interface SkyCells extends Pick<Picture, 'widthPx' | 'heightPx'> {
  /** Of the square that they lie in, a power of two. */
  readonly side: number;
  readonly sidePx: number;
  readonly across: number;
  readonly down: number;
  /** Cells from the edge on that are not looked at. */
  readonly margin: number;
  /** Light over its own noise; 0 where `isUsed` is. */
  readonly sigmas: Float32Array;
  readonly isUsed: Float32Array;
}

/** @param stars of the picture */
export function skyCells(picture: Picture, sky: SkyBackground, stars: readonly MeasuredStar[]): SkyCells {
  const { widthPx, heightPx } = picture;
  const isLit = starLit(picture, sky, stars);
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
  return { widthPx, heightPx, side, sidePx, across, down, margin, sigmas, isUsed };
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

/** Whether a cell is looked at. */
export function isInside({ side, across, down, margin }: SkyCells, place: number): boolean {
  const [column, row] = [place % side, Math.floor(place / side)];
  return column >= margin && row >= margin && column < across - margin && row < down - margin;
}

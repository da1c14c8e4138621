// A picture brightened for the eye: raw frames look black. The data stay as they are.
import type { Picture, SkyBackground } from './background.ts';

/** Grey levels from the top left, as pictures are drawn. */
export interface GreyPicture {
  readonly widthPx: number;
  readonly heightPx: number;
  readonly levels: Uint8Array;
}

/** A part of a picture: x from the left, y from the bottom row on. */
export interface PicturePart {
  readonly x: number;
  readonly y: number;
  readonly widthPx: number;
  readonly heightPx: number;
}

export const PARTS = ['whole', 'centre', 'top-left', 'top-right', 'bottom-left', 'bottom-right'] as const;
export type PartName = (typeof PARTS)[number];

/** The whole picture, or a square of its own pixels in its middle or a corner. */
export function partNamed({ widthPx, heightPx }: Picture, name: PartName, sidePx: number): PicturePart {
  if (name === 'whole') return { x: 0, y: 0, widthPx, heightPx };
  const [w, h] = [Math.min(sidePx, widthPx), Math.min(sidePx, heightPx)];
  const x = name.endsWith('left') ? 0 : name.endsWith('right') ? widthPx - w : (widthPx - w) >> 1;
  const y = name.startsWith('bottom') ? 0 : name.startsWith('top') ? heightPx - h : (heightPx - h) >> 1;
  return { x, y, widthPx: w, heightPx: h };
}

/** Black lies so many noises below the sky, white so many above it. */
const BLACK_SIGMA = 2;
const WHITE_SIGMA = 120;
/** How steeply faint light is raised. */
const SOFTNESS = 40;

/** Box means of a part, raised by an inverse hyperbolic sine between a little below the sky and far above it.
 * @param sky of the whole picture, so that parts of one picture are drawn alike
 * @param mostPx longest side of what comes out; never more than the part has */
export function brightened(picture: Picture, sky: SkyBackground, part: PicturePart, mostPx: number): GreyPicture {
  const share = Math.min(1, mostPx / Math.max(part.widthPx, part.heightPx));
  const widthPx = Math.max(1, Math.round(part.widthPx * share));
  const heightPx = Math.max(1, Math.round(part.heightPx * share));
  const means = boxMeans(picture, part, widthPx, heightPx);
  const noise = Math.max(sky.noise, 1e-6);
  const black = sky.level - BLACK_SIGMA * noise;
  const span = (BLACK_SIGMA + WHITE_SIGMA) * noise;
  const levels = new Uint8Array(means.length);
  for (let i = 0; i < means.length; i++) levels[i] = greyOf((means[i] - black) / span);
  return { widthPx, heightPx, levels };
}

/** The light at which each grey after the first begins: 255 asinh(SOFTNESS light) / asinh(SOFTNESS), rounded. */
const GREYS = Float64Array.from(
  { length: 255 },
  (_, grey) => Math.sinh(((grey + 0.5) / 255) * Math.asinh(SOFTNESS)) / SOFTNESS,
);

/** @param light 0 is black, 1 white */
function greyOf(light: number): number {
  let [from, to] = [0, GREYS.length];
  while (from < to) {
    const middle = (from + to) >> 1;
    if (GREYS[middle] <= light) from = middle + 1;
    else to = middle;
  }
  return from;
}

/** Means of the boxes that fall on each pixel of a smaller picture, from the top row down. */
function boxMeans(
  { widthPx: stride, pixels }: Picture,
  part: PicturePart,
  widthPx: number,
  heightPx: number,
): Float32Array {
  const means = new Float32Array(widthPx * heightPx);
  for (let row = 0; row < heightPx; row++) {
    const y0 = part.y + Math.floor(((heightPx - 1 - row) * part.heightPx) / heightPx);
    const y1 = Math.max(y0 + 1, part.y + Math.floor(((heightPx - row) * part.heightPx) / heightPx));
    for (let column = 0; column < widthPx; column++) {
      const x0 = part.x + Math.floor((column * part.widthPx) / widthPx);
      const x1 = Math.max(x0 + 1, part.x + Math.floor(((column + 1) * part.widthPx) / widthPx));
      let sum = 0;
      for (let y = y0; y < y1; y++) for (let x = x0; x < x1; x++) sum += pixels[y * stride + x];
      means[row * widthPx + column] = sum / ((x1 - x0) * (y1 - y0));
    }
  }
  return means;
}

// The light of one star: how much of it there is, how wide and how long it is drawn.
import type { Picture, SkyBackground } from './background.ts';

/** A pixel of a star: where it is from the star's middle, and its light above the sky. */
export interface LitPixel {
  readonly dx: number;
  readonly dy: number;
  readonly radius: number;
  readonly value: number;
}

/** Light of a star added up outward in steps of a twentieth of a pixel. */
export class GrowingLight {
  readonly #within: Float64Array;

  /** Pixels near the middle are cut five by five, those that a radius can't cut noticeably lie whole at theirs. */
  constructor(pixels: readonly LitPixel[], reachPx: number) {
    const rings = new Float64Array(Math.ceil(reachPx * STEPS) + 1);
    for (const { dx, dy, radius, value } of pixels) {
      if (radius > FINE_WITHIN_PX) {
        rings[Math.min(rings.length - 1, Math.round(radius * STEPS))] += value;
        continue;
      }
      const part = value / (CUTS * CUTS);
      for (let j = 0; j < CUTS; j++)
        for (let i = 0; i < CUTS; i++) {
          const [x, y] = [dx + (i + 0.5) / CUTS - 0.5, dy + (j + 0.5) / CUTS - 0.5];
          rings[Math.min(rings.length - 1, Math.ceil(Math.sqrt(x * x + y * y) * STEPS))] += part;
        }
    }
    for (let i = 1; i < rings.length; i++) rings[i] += rings[i - 1];
    this.#within = rings;
  }

  within(radiusPx: number): number {
    return this.#within[Math.min(this.#within.length - 1, Math.round(radiusPx * STEPS))];
  }

  /** Where, outward from a radius, rings of a pixel’s width are no brighter than so much a pixel. */
  darkFrom(radiusPx: number, brightness: number): number {
    const endPx = (this.#within.length - 1) / STEPS;
    for (let radius = radiusPx; radius < endPx - 1; radius += 0.5) {
      const ring = this.within(radius + 1) - this.within(radius);
      if (ring <= brightness * Math.PI * (2 * radius + 1)) return radius;
    }
    return endPx;
  }

  /** The radius that encloses half of the light out to another one. */
  halfWithin(radiusPx: number): number {
    const half = this.within(radiusPx) / 2;
    const at = this.#within.findIndex((light) => light >= half);
    const before = at > 0 ? this.#within[at - 1] : 0;
    const along = this.#within[at] > before ? (half - before) / (this.#within[at] - before) : 1;
    return Math.max(0, (at - 1 + along) / STEPS);
  }
}

const STEPS = 20;
const CUTS = 5;
const FINE_WITHIN_PX = 6;
/** Beyond so many half-flux radii a star has no light that counts, with wings or without. */
const WHOLE_WITHIN = 4.5;
const FIRST_RADIUS_PX = 4;
const ROUNDS = 3;

export interface WholeLight {
  readonly flux: number;
  readonly halfFluxRadiusPx: number;
  /** Beyond it nothing is counted. */
  readonly endPx: number;
  readonly light: GrowingLight;
}

/** A star's whole light and the radius that encloses half of it: out to where it ends, found in a few rounds.
 * @returns null where there is no light */
export function wholeLight(pixels: readonly LitPixel[], reachPx: number): WholeLight | null {
  const light = new GrowingLight(pixels, reachPx);
  let endPx = FIRST_RADIUS_PX;
  for (let round = 0; round < ROUNDS; round++) {
    if (light.within(endPx) <= 0) return null;
    endPx = Math.min(reachPx, Math.max(FIRST_RADIUS_PX, WHOLE_WITHIN * light.halfWithin(endPx)));
  }
  const flux = light.within(endPx);
  return flux > 0 ? { flux, halfFluxRadiusPx: light.halfWithin(endPx), endPx, light } : null;
}

export interface Spread {
  /** Longer over shorter axis, 1 and more. */
  readonly elongation: number;
  /** Of the longer axis, from the rows, radians. */
  readonly angleRad: number;
}

/** How light is drawn out, by its second moments within a radius. */
export function spreadOf(pixels: readonly LitPixel[], endPx: number): Spread {
  let [sum, xx, yy, xy] = [0, 0, 0, 0];
  for (const { radius, dx, dy, value } of pixels) {
    if (radius > endPx || value <= 0) continue;
    sum += value;
    xx += dx * dx * value;
    yy += dy * dy * value;
    xy += dx * dy * value;
  }
  const angleRad = Math.atan2(2 * xy, xx - yy) / 2;
  const [mean, half] = [(xx + yy) / 2, Math.hypot((xx - yy) / 2, xy)];
  return { elongation: sum <= 0 || mean - half <= 0 ? 1 : Math.sqrt((mean + half) / (mean - half)), angleRad };
}

/** As far along its longer axis, in half-flux radii, a star is dark; what passes through the picture is not. */
const ALONG = [2.5, 3.2] as const;
const [LEAST_STEP_PX, MOST_STEP_PX] = [3.6, 5];
const AS_BRIGHT = 0.4;

/** Whether light at a place is a piece of a line: of a satellite or an aircraft. It goes on to both sides. */
export function isOfLine(
  picture: Picture,
  sky: SkyBackground,
  { x, y, halfFluxRadiusPx }: { readonly x: number; readonly y: number; readonly halfFluxRadiusPx: number },
  { angleRad }: Spread,
): boolean {
  const middle = meanAround(picture, sky, x, y);
  const step = Math.min(MOST_STEP_PX, Math.max(LEAST_STEP_PX, halfFluxRadiusPx));
  return [-1, 1].every((side) =>
    ALONG.every((radii) => {
      const [dx, dy] = [Math.cos(angleRad) * step * radii * side, Math.sin(angleRad) * step * radii * side];
      return meanAround(picture, sky, x + dx, y + dy) > AS_BRIGHT * middle;
    }),
  );
}

/** Above the sky, over a pixel and its neighbours; infinite beyond the edge. */
export function meanAround({ widthPx, heightPx, pixels }: Picture, sky: SkyBackground, x: number, y: number): number {
  const [cx, cy] = [Math.round(x), Math.round(y)];
  // Beyond the edge a line goes on for all one knows.
  if (cx < 1 || cy < 1 || cx >= widthPx - 1 || cy >= heightPx - 1) return Infinity;
  let sum = 0;
  for (let dy = -1; dy <= 1; dy++) for (let dx = -1; dx <= 1; dx++) sum += pixels[(cy + dy) * widthPx + cx + dx];
  return sum / 9 - sky.levelAt(cx, cy);
}

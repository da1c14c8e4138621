// Stars of a picture: where they are, how wide and how long they are drawn.
import type { Picture, SkyBackground } from './background.ts';
import { sortedMedian, skyBackground } from './background.ts';

export interface MeasuredStar {
  readonly x: number;
  readonly y: number;
  /** Above the sky, in the picture's units. */
  readonly flux: number;
  /** Radius that encloses half the flux. */
  readonly halfFluxRadiusPx: number;
  /** Longer over shorter axis of the light's spread, 1 and more. */
  readonly elongation: number;
  readonly isSaturated: boolean;
}

export interface PictureFigures {
  readonly background: number;
  readonly noise: number;
  readonly starCount: number;
  /** Median over unsaturated stars; null where there are fewer than three. */
  readonly halfFluxRadiusPx: number | null;
  readonly elongation: number | null;
}

export interface StarRules {
  /** A star's smoothed peak over the smoothed noise. */
  readonly thresholdSigma: number;
  /** Light is gathered within this radius. */
  readonly reachPx: number;
  /** A pixel at or above this is saturated. */
  readonly saturation: number;
}

export const DEFAULT_STAR_RULES: StarRules = { thresholdSigma: 5, reachPx: 12, saturation: 64_000 };
/** Smoothing by three by three pixels lowers noise to this share. */
const SMOOTHED_NOISE = 1 / 3;
const FEWEST_FOR_MEDIAN = 3;

/** Figures of a picture by its stars and its sky. */
export function measurePicture(picture: Picture, rules: StarRules = DEFAULT_STAR_RULES): PictureFigures {
  const sky = skyBackground(picture);
  const stars = findStars(picture, sky, rules);
  const whole = stars.filter(({ isSaturated }) => !isSaturated);
  const median = (of: (star: MeasuredStar) => number): number | null =>
    whole.length < FEWEST_FOR_MEDIAN ? null : sortedMedian(Float64Array.from(whole, of));
  return {
    background: sky.level,
    noise: sky.noise,
    starCount: stars.length,
    halfFluxRadiusPx: median((star) => star.halfFluxRadiusPx),
    elongation: median((star) => star.elongation),
  };
}

/** Local peaks of the smoothed picture above the threshold, the brightest first; of two within reach the brighter stays. */
export function findStars(picture: Picture, sky: SkyBackground, rules: StarRules = DEFAULT_STAR_RULES): MeasuredStar[] {
  const { widthPx, heightPx, pixels } = picture;
  const limit = rules.thresholdSigma * SMOOTHED_NOISE * Math.max(sky.noise, 1e-9);
  const peaks: { x: number; y: number; value: number }[] = [];
  const smooth = (x: number, y: number): number => {
    let sum = 0;
    for (let dy = -1; dy <= 1; dy++) for (let dx = -1; dx <= 1; dx++) sum += pixels[(y + dy) * widthPx + x + dx];
    return sum / 9;
  };
  for (let y = 2; y < heightPx - 2; y++)
    for (let x = 2; x < widthPx - 2; x++) {
      const at = pixels[y * widthPx + x];
      if (at - sky.level < limit) continue;
      if (!isPeak(pixels, widthPx, x, y)) continue;
      const value = smooth(x, y) - sky.levelAt(x, y);
      if (value >= limit) peaks.push({ x, y, value });
    }
  peaks.sort((a, b) => b.value - a.value);
  const taken = new Uint8Array(widthPx * heightPx);
  const stars: MeasuredStar[] = [];
  for (const peak of peaks) {
    if (taken[peak.y * widthPx + peak.x]) continue;
    const star = measureStar(picture, sky, peak, rules);
    claim(taken, picture, peak, Math.max(3, Math.ceil(2.5 * (star?.halfFluxRadiusPx ?? 1))));
    if (star) stars.push(star);
  }
  return stars;
}

function isPeak(pixels: ArrayLike<number>, widthPx: number, x: number, y: number): boolean {
  const at = pixels[y * widthPx + x];
  for (let dy = -1; dy <= 1; dy++)
    for (let dx = -1; dx <= 1; dx++) {
      const other = pixels[(y + dy) * widthPx + x + dx];
      // Of equal neighbours the first in reading order is the peak.
      if (dy < 0 || (dy === 0 && dx < 0) ? other >= at : other > at) return false;
    }
  return true;
}

function claim(taken: Uint8Array, { widthPx, heightPx }: Picture, at: { x: number; y: number }, radius: number): void {
  for (let y = Math.max(0, at.y - radius); y <= Math.min(heightPx - 1, at.y + radius); y++)
    for (let x = Math.max(0, at.x - radius); x <= Math.min(widthPx - 1, at.x + radius); x++)
      if ((x - at.x) ** 2 + (y - at.y) ** 2 <= radius ** 2) taken[y * widthPx + x] = 1;
}

/** A star's light above a sky taken from the ring around it; null where there is none or it is one hot pixel. */
function measureStar(
  { widthPx, heightPx, pixels }: Picture,
  sky: SkyBackground,
  peak: { readonly x: number; readonly y: number },
  { reachPx, saturation }: StarRules,
): MeasuredStar | null {
  if (peak.x < reachPx || peak.y < reachPx || peak.x >= widthPx - reachPx || peak.y >= heightPx - reachPx) return null;
  const centre = centroid(pixels, widthPx, sky, peak);
  const light: { radius: number; dx: number; dy: number; value: number }[] = [];
  let isSaturated = false;
  for (let y = peak.y - reachPx + 1; y < peak.y + reachPx; y++)
    for (let x = peak.x - reachPx + 1; x < peak.x + reachPx; x++) {
      const [dx, dy] = [x - centre.x, y - centre.y];
      const radius = Math.hypot(dx, dy);
      if (radius > reachPx - 1) continue;
      const value = pixels[y * widthPx + x];
      if (value >= saturation) isSaturated = true;
      light.push({ radius, dx, dy, value: value - sky.levelAt(x, y) });
    }
  light.sort((a, b) => a.radius - b.radius);
  const flux = fluxWithin(light, sky.noise);
  if (flux.total <= 0 || flux.radius < 1.5) return null;
  const halfFluxRadiusPx = halfRadius(light, flux.total, flux.radius);
  if (halfFluxRadiusPx < 0.5) return null;
  return { ...centre, flux: flux.total, halfFluxRadiusPx, elongation: elongationOf(light, flux.radius), isSaturated };
}

function centroid(
  pixels: ArrayLike<number>,
  widthPx: number,
  sky: SkyBackground,
  peak: { readonly x: number; readonly y: number },
): { x: number; y: number } {
  let [sum, sx, sy] = [0, 0, 0];
  for (let dy = -2; dy <= 2; dy++)
    for (let dx = -2; dx <= 2; dx++) {
      const value = Math.max(0, pixels[(peak.y + dy) * widthPx + peak.x + dx] - sky.level);
      sum += value;
      sx += dx * value;
      sy += dy * value;
    }
  return sum > 0 ? { x: peak.x + sx / sum, y: peak.y + sy / sum } : { ...peak };
}

type Light = readonly { readonly radius: number; readonly dx: number; readonly dy: number; readonly value: number }[];

/** Light out to where rings no longer stand above the noise. */
function fluxWithin(light: Light, noise: number): { total: number; radius: number } {
  let [total, radius, i] = [0, 0, 0];
  for (let outer = 1; i < light.length; outer++) {
    let [ring, count] = [0, 0];
    for (; i < light.length && light[i].radius <= outer; i++, count++) ring += light[i].value;
    if (outer > 2 && (count === 0 || ring / Math.sqrt(count) < noise)) break;
    total += ring;
    radius = outer;
  }
  return { total, radius };
}

/** Pixels are squares: at the half of the light the radius lies between two of them. */
function halfRadius(light: Light, total: number, reach: number): number {
  let sum = 0;
  let before = 0;
  for (const { radius, value } of light) {
    if (radius > reach) break;
    if (sum + value >= total / 2) {
      const along = value > 0 ? (total / 2 - sum) / value : 0;
      return Math.max(
        before + along * (radius - before),
        radius * along,
        PIXEL_RADIUS * Math.sqrt(total > 0 ? Math.min(1, total / 2 / Math.max(value, 1e-9)) : 1),
      );
    }
    sum += value;
    before = radius;
  }
  return before;
}

/** Radius of a disc of one pixel's area. */
const PIXEL_RADIUS = 1 / Math.sqrt(Math.PI);

function elongationOf(light: Light, reach: number): number {
  let [sum, xx, yy, xy] = [0, 0, 0, 0];
  for (const { radius, dx, dy, value } of light) {
    if (radius > reach || value <= 0) continue;
    sum += value;
    xx += dx * dx * value;
    yy += dy * dy * value;
    xy += dx * dy * value;
  }
  if (sum <= 0) return 1;
  const [mean, spread] = [(xx + yy) / 2, Math.hypot((xx - yy) / 2, xy)];
  return mean - spread <= 0 ? 1 : Math.sqrt((mean + spread) / (mean - spread));
}

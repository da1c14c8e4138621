// Stars of a picture: where they are, how wide and how long they are drawn.
import type { Picture, SkyBackground } from './background.ts';
import { sortedMedian, skyBackground, skyBetween } from './background.ts';
import type { LitPixel } from './star-light.ts';
import { isOfLine, spreadOf, wholeLight } from './star-light.ts';
import type { Trail } from './trails.ts';
import { findTrails, isOfTrail } from './trails.ts';

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
const FEWEST_FOR_MEDIAN = 3;

/** Figures of a picture by its stars and its sky. */
export function measurePicture(picture: Picture, rules: StarRules = DEFAULT_STAR_RULES): PictureFigures {
  const { sky, stars } = pictureLight(picture, rules);
  return figuresOf(sky, stars);
}

/** Counted up by whoever changes how pictures are measured: what was measured otherwise is measured again. */
export const MEASURING_METHOD = 3;

export interface PictureLight {
  readonly sky: SkyBackground;
  readonly stars: MeasuredStar[];
  readonly trails: Trail[];
}

/** The stars of a picture, the sky between them, and what crossed it. */
export function pictureLight(picture: Picture, rules: StarRules = DEFAULT_STAR_RULES): PictureLight {
  const sky = skyBackground(picture);
  const found = findStars(picture, sky, rules);
  const trails = findTrails(picture, sky, found);
  const stars = found.filter((star) => !trails.some((trail) => isOfTrail(picture, sky, star, trail)));
  const isLit = new Uint8Array(picture.widthPx * picture.heightPx);
  for (const { x, y, halfFluxRadiusPx } of stars)
    claim(isLit, picture, { x: Math.round(x), y: Math.round(y) }, Math.ceil(LIT_RADII * halfFluxRadiusPx));
  return { sky: skyBetween(picture, sky, isLit), stars, trails };
}
/** A star's light beyond so many of its half-flux radii is lost in the noise of the sky. */
const LIT_RADII = 3.5;

/** Of a picture whose sky and stars are known. */
export function figuresOf(sky: SkyBackground, stars: readonly MeasuredStar[]): PictureFigures {
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

/** The stars of a picture, the brightest first: a few bright ones tell how wide stars are, then all are looked for with as much
 * smoothing as suits them. */
export function findStars(picture: Picture, sky: SkyBackground, rules: StarRules = DEFAULT_STAR_RULES): MeasuredStar[] {
  const bright = { ...rules, thresholdSigma: rules.thresholdSigma * BRIGHT };
  const telling = starsSmoothed(picture, sky, { rules: bright, reach: 1, most: TELLING_STARS }).filter(({ isSaturated }) => !isSaturated); // prettier-ignore
  const radiusPx = telling.length < FEWEST_FOR_MEDIAN ? 1 : sortedMedian(Float64Array.from(telling, (star) => star.halfFluxRadiusPx)); // prettier-ignore
  const reach = Math.max(1, Math.min(MOST_SMOOTHED, Math.round(radiusPx)));
  return starsSmoothed(picture, sky, { rules, reach, most: Infinity });
}

/** So many of the brightest, so many times brighter than the faintest, tell how wide stars are. */
const TELLING_STARS = 60;
const BRIGHT = 6;
const MOST_SMOOTHED = 3;

interface Looking {
  readonly rules: StarRules;
  /** Pixels to each side that are added up. */
  readonly reach: number;
  readonly most: number;
}

/** Local peaks above the threshold; of two within reach the brighter stays. */
function starsSmoothed(picture: Picture, sky: SkyBackground, { rules, reach, most }: Looking): MeasuredStar[] {
  const { widthPx, heightPx } = picture;
  // Noise that is added up over a square falls by the length of its side.
  const limit = (rules.thresholdSigma / (2 * reach + 1)) * Math.max(sky.noise, 1e-9);
  const peaks = smoothedPeaks(picture, sky, { limit, reach, marginPx: rules.reachPx });
  peaks.sort((a, b) => b.value - a.value);
  const taken = new Uint8Array(widthPx * heightPx);
  const stars: MeasuredStar[] = [];
  for (const peak of peaks) {
    if (taken[peak.y * widthPx + peak.x]) continue;
    const found = measureStar(picture, sky, peak, { rules, limit });
    claim(taken, picture, peak, found?.ownPx ?? 3);
    if (found?.star && stars.push(found.star) >= most) break;
  }
  return stars;
}

interface Peak {
  readonly x: number;
  readonly y: number;
  /** Smoothed, above the sky. */
  readonly value: number;
}

/** @param marginPx nearer to the edge no star is measured */
function smoothedPeaks(
  { widthPx, heightPx, pixels }: Picture,
  sky: SkyBackground,
  { limit, reach, marginPx }: { readonly limit: number; readonly reach: number; readonly marginPx: number },
): Peak[] {
  const peaks: Peak[] = [];
  const least = sky.level + limit;
  for (let y = marginPx; y < heightPx - marginPx; y++) {
    const end = (y + 1) * widthPx - marginPx;
    for (let at = y * widthPx + marginPx; at < end; at++) {
      if (pixels[at] < least || !isPeak(pixels, widthPx, at)) continue;
      const smoothed = smoothedAt(pixels, widthPx, at, reach);
      const x = at - y * widthPx;
      const value = smoothed - sky.levelAt(x, y);
      if (value >= limit && !risesAround(pixels, widthPx, { at, reach, smoothed })) peaks.push({ x, y, value });
    }
  }
  return peaks;
}

/** Mean over a square of `reach` pixels to each side. */
function smoothedAt(pixels: ArrayLike<number>, widthPx: number, at: number, reach: number): number {
  const side = 2 * reach + 1;
  let sum = 0;
  for (let row = at - reach * widthPx - reach, j = 0; j < side; j++, row += widthPx)
    for (let i = row; i < row + side; i++) sum += pixels[i];
  return sum / (side * side);
}

/** On the flank of a brighter star the smoothed light still rises towards it. */
function risesAround(
  pixels: ArrayLike<number>,
  widthPx: number,
  { at, reach, smoothed }: { readonly at: number; readonly reach: number; readonly smoothed: number },
): boolean {
  const step = reach + 1;
  for (let j = -step; j <= step; j += step)
    for (let i = -step; i <= step; i += step)
      if (smoothedAt(pixels, widthPx, at + j * widthPx + i, reach) > smoothed) return true;
  return false;
}

/** Of equal neighbours the first in reading order is the peak. */
function isPeak(pixels: ArrayLike<number>, widthPx: number, at: number): boolean {
  const value = pixels[at];
  if (pixels[at - 1] >= value || pixels[at + 1] > value) return false;
  const [above, below] = [at - widthPx, at + widthPx];
  return (
    pixels[above] < value &&
    pixels[below] <= value &&
    pixels[above - 1] < value &&
    pixels[above + 1] < value &&
    pixels[below - 1] <= value &&
    pixels[below + 1] <= value
  );
}

function claim(taken: Uint8Array, { widthPx, heightPx }: Picture, at: { x: number; y: number }, radius: number): void {
  for (let y = Math.max(0, at.y - radius); y <= Math.min(heightPx - 1, at.y + radius); y++)
    for (let x = Math.max(0, at.x - radius); x <= Math.min(widthPx - 1, at.x + radius); x++)
      if ((x - at.x) ** 2 + (y - at.y) ** 2 <= radius ** 2) taken[y * widthPx + x] = 1;
}

interface Found {
  /** Null where the light is one hot pixel's, too faint as a whole, or a piece of a line. */
  readonly star: MeasuredStar | null;
  /** Peaks within belong to this light. */
  readonly ownPx: number;
}

/** The light around a peak above the sky; null where there is none. */
function measureStar(
  picture: Picture,
  sky: SkyBackground,
  peak: { readonly x: number; readonly y: number },
  { rules: { reachPx, saturation, thresholdSigma }, limit }: { readonly rules: StarRules; readonly limit: number },
): Found | null {
  const { widthPx, pixels } = picture;
  const centre = centroid(pixels, widthPx, sky, peak);
  const light: LitPixel[] = [];
  let isSaturated = false;
  for (let y = peak.y - reachPx + 1; y < peak.y + reachPx; y++)
    for (let x = peak.x - reachPx + 1; x < peak.x + reachPx; x++) {
      const [dx, dy] = [x - centre.x, y - centre.y];
      const radius = Math.sqrt(dx * dx + dy * dy);
      if (radius > reachPx - 1) continue;
      const value = pixels[y * widthPx + x];
      if (value >= saturation) isSaturated = true;
      light.push({ radius, dx, dy, value: value - sky.levelAt(x, y) });
    }
  const whole = wholeLight(light, reachPx - 1);
  if (!whole) return null;
  const { flux, halfFluxRadiusPx, endPx } = whole;
  const ownPx = Math.ceil(whole.light.darkFrom(Math.max(2, 2.5 * halfFluxRadiusPx), limit) + 1);
  const isFaint = whole.light.within(halfFluxRadiusPx) < (thresholdSigma / 2) * sky.noise * Math.sqrt(Math.PI) * halfFluxRadiusPx; // prettier-ignore
  if (halfFluxRadiusPx < LEAST_RADIUS_PX || isFaint) return { star: null, ownPx };
  const spread = spreadOf(light, Math.min(endPx, SPREAD_WITHIN * halfFluxRadiusPx));
  if (isOfLine(picture, sky, { ...centre, halfFluxRadiusPx }, spreadOf(light, LINE_WITHIN_PX)))
    return { star: null, ownPx };
  return { star: { ...centre, flux, halfFluxRadiusPx, elongation: spread.elongation, isSaturated }, ownPx };
}

/** Half the light of one pixel alone lies within 0.4 of its middle. */
const LEAST_RADIUS_PX = 0.6;
/** Moments beyond are of the noise more than of the star. */
const SPREAD_WITHIN = 3;
/** The direction of a line shows near its middle, before other stars come in. */
const LINE_WITHIN_PX = 6;

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

// From a night's samples to what the strip draws; pure, so that it can be tested without drawing.
import type { NightSky } from '@meridiem/contract';

export interface StripScale {
  readonly width: number;
  readonly startUtcMs: number;
  readonly endUtcMs: number;
}

export const stripScale = (sky: NightSky, width: number): StripScale => ({
  width,
  startUtcMs: sky.viewStartUtcMs,
  endUtcMs: sky.viewEndUtcMs,
});

/** Place of a moment, in pixels from the left; outside the view it lies outside [0, width]. */
export const xOf = ({ width, startUtcMs, endUtcMs }: StripScale, utcMs: number): number =>
  ((utcMs - startUtcMs) / (endUtcMs - startUtcMs)) * width;

/** Moment under a place. */
export const momentAt = ({ width, startUtcMs, endUtcMs }: StripScale, x: number): number =>
  startUtcMs + (x / width) * (endUtcMs - startUtcMs);

/** How far the night has fallen: 0 with the sun at the horizon or above, 1 at −18° and below. */
export const nightShare = (sunAltitudeDeg: number): number => Math.min(1, Math.max(0, -sunAltitudeDeg / 18));

/** Value of a sampled quantity at a moment, linear between samples, held at the ends. */
export function sampleAt(sky: NightSky, values: readonly number[], utcMs: number): number {
  const place = Math.min(values.length - 1, Math.max(0, (utcMs - sky.viewStartUtcMs) / sky.stepMs));
  const before = Math.floor(place);
  const after = Math.min(values.length - 1, before + 1);
  return values[before] + (place - before) * (values[after] - values[before]);
}

/** Whole hours inside the view, for the scale. */
export function hourMarks(scale: StripScale, offsetMs: number): number[] {
  const hour = 3_600_000;
  const first = Math.ceil((scale.startUtcMs + offsetMs) / hour) * hour - offsetMs;
  const marks: number[] = [];
  for (let utcMs = first; utcMs < scale.endUtcMs; utcMs += hour) marks.push(utcMs);
  return marks;
}

/** Path of an altitude curve: 0° at the bottom, 90° at the top; what is below the ground is left out. */
export function altitudePath(
  sky: NightSky,
  altitudesDeg: readonly number[],
  scale: StripScale,
  height: number,
): string {
  let path = '';
  let down = true;
  altitudesDeg.forEach((altitude, i) => {
    if (altitude < 0) {
      down = true;
      return;
    }
    const x = xOf(scale, sky.viewStartUtcMs + i * sky.stepMs);
    path += `${down ? 'M' : 'L'}${x.toFixed(1)} ${(height * (1 - altitude / 90)).toFixed(1)}`;
    down = false;
  });
  return path;
}

/** Outline of the moon's ribbon: it follows the moon's altitude and is as wide as it brightens the zenith. */
export function moonRibbon(sky: NightSky, scale: StripScale, height: number, widest: number): string {
  const upper: string[] = [];
  const lower: string[] = [];
  sky.moonAltitudeDeg.forEach((altitude, i) => {
    const half = Math.min(widest, sky.moonBrighteningMag[i] * (widest / 3.5)) / 2;
    if (altitude < -0.8 || half < 0.1) return;
    const x = xOf(scale, sky.viewStartUtcMs + i * sky.stepMs).toFixed(1);
    const y = height * (1 - Math.max(0, altitude) / 90);
    upper.push(`${x} ${Math.max(0, y - half).toFixed(1)}`);
    lower.unshift(`${x} ${Math.min(height, y + half).toFixed(1)}`);
  });
  return upper.length < 2 ? '' : `M${upper.join('L')}L${lower.join('L')}Z`;
}

/** What a letter and a line of a name take, pixels. */
const LETTER_PX = 5.6;
const LINE_PX = 13;
/** The brackets of the darkness keep the top. */
const TOP_PX = 36;

/** Names where they are wanted, moved down a line at a time until none covers another.
 * @param names wanted middle and baseline of each, most important first */
export function namePlaces<T extends { readonly name: string; readonly x: number; readonly y: number }>(
  names: readonly T[],
  width: number,
  height: number,
): T[] {
  const placed: T[] = [];
  for (const name of names) {
    const half = (name.name.length * LETTER_PX) / 2;
    const x = Math.min(width - half, Math.max(half, name.x));
    const covers = (y: number): boolean =>
      placed.some(
        (other) =>
          Math.abs(other.x - x) < half + (other.name.length * LETTER_PX) / 2 + 4 && Math.abs(other.y - y) < LINE_PX,
      );
    let y = Math.max(TOP_PX, name.y);
    while (covers(y) && y + LINE_PX < height) y += LINE_PX;
    placed.push({ ...name, x, y });
  }
  return placed;
}

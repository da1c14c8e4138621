import { describe, expect, it } from '@jest/globals';
import { seededRandom } from '../random.ts';
import { skyBackground } from './background.ts';
import { brightened, partNamed } from './brighten.ts';
import { binValue, histogram } from './histogram.ts';

/** A sky of 1000 with noise 10 and one star in its lower left quarter. */
function pictureOf(widthPx: number, heightPx: number) {
  const random = seededRandom(4);
  const normal = (): number => Math.sqrt(-2 * Math.log(1 - random())) * Math.cos(2 * Math.PI * random());
  const pixels = Float32Array.from({ length: widthPx * heightPx }, () => 1000 + 10 * normal());
  for (let y = 58; y < 63; y++) for (let x = 38; x < 43; x++) pixels[y * widthPx + x] = 30_000;
  return { widthPx, heightPx, pixels };
}

describe('a brightened picture', () => {
  const picture = pictureOf(320, 240);
  const sky = skyBackground(picture);

  it('shows the sky dark but not black, a star white, and keeps its proportions', () => {
    const grey = brightened(picture, sky, partNamed(picture, 'whole', 0), 160);
    expect([grey.widthPx, grey.heightPx, grey.levels.length]).toEqual([160, 120, 160 * 120]);
    const middle = grey.levels.toSorted()[grey.levels.length >> 1];
    expect(middle).toBeGreaterThan(15);
    expect(middle).toBeLessThan(90);
    // Rows come from the top: the star is in the lower part.
    const at = (x: number, y: number): number => grey.levels[y * 160 + x];
    expect(at(20, 119 - 30)).toBe(255);
    expect(at(20, 30)).toBeLessThan(120);
  });

  it('is never larger than what it is made of, and a part is of its own pixels', () => {
    const part = partNamed(picture, 'bottom-left', 100);
    expect(part).toEqual({ x: 0, y: 0, widthPx: 100, heightPx: 100 });
    const grey = brightened(picture, sky, part, 500);
    expect([grey.widthPx, grey.heightPx]).toEqual([100, 100]);
    expect(grey.levels[(99 - 60) * 100 + 40]).toBe(255);
    expect(partNamed(picture, 'top-right', 100)).toMatchObject({ x: 220, y: 140 });
    expect(partNamed(picture, 'centre', 1000)).toEqual({ x: 0, y: 0, widthPx: 320, heightPx: 240 });
  });

  it('raises light by an inverse hyperbolic sine, to the nearest grey', () => {
    const pixels = Float32Array.from({ length: 4000 }, (_, i) => 900 + i);
    const { levels } = brightened(
      { widthPx: 4000, heightPx: 1, pixels },
      { ...sky, level: 1000, noise: 10 },
      { x: 0, y: 0, widthPx: 4000, heightPx: 1 },
      4000,
    );
    const raised = (light: number): number => (255 * Math.asinh(40 * light)) / Math.asinh(40);
    pixels.forEach((value, i) => {
      const light = Math.max(0, Math.min(1, (value - 980) / 1220));
      expect(Math.abs(levels[i] - raised(light))).toBeLessThanOrEqual(0.5 + 1e-9);
    });
  });

  it('leaves the data alone', () => {
    const before = picture.pixels.slice();
    brightened(picture, sky, partNamed(picture, 'centre', 64), 64);
    expect(picture.pixels).toEqual(before);
  });

  it('counts every pixel once, and says how much is burnt out', () => {
    const { counts, saturatedShare } = histogram(picture, { bins: 64, to: 30_000 });
    expect(counts.reduce((sum, count) => sum + count, 0)).toBe(320 * 240);
    const fullest = counts.indexOf(Math.max(...counts));
    expect(binValue(fullest, 64, 30_000)).toBeGreaterThan(850);
    expect(binValue(fullest, 64, 30_000)).toBeLessThan(1150);
    expect(saturatedShare).toBeCloseTo(25 / (320 * 240), 9);
  });
});

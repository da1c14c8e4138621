import { describe, expect, it } from '@jest/globals';
import { normalFrom, seededRandom } from '../random.ts';
import type { RealPicture } from './apply.ts';
import { calibrated, levelledFlat, MeanFrame } from './apply.ts';

const [WIDTH, HEIGHT] = [60, 40];
const random = seededRandom(5);
/** Light of every pixel through optics that darken the corners, on a sensor with an offset, a glow to one side and hot pixels. */
function frame(light: number, seconds: number, readNoise = 2): RealPicture {
  const pixels = new Float32Array(WIDTH * HEIGHT);
  for (let y = 0, i = 0; y < HEIGHT; y++)
    for (let x = 0; x < WIDTH; x++, i++)
      pixels[i] = 300 + glow(x, i) * seconds + light * share(x, y) + readNoise * normalFrom(random);
  return { widthPx: WIDTH, heightPx: HEIGHT, pixels };
}
const glow = (x: number, i: number): number => 0.05 * x + (i % 97 === 0 ? 40 : 0);
const share = (x: number, y: number): number => 1 - 0.3 * (((x - 30) / 36) ** 2 + ((y - 20) / 36) ** 2);
const meanOf = (frames: readonly RealPicture[]) => {
  const mean = new MeanFrame();
  for (const one of frames) mean.add(one);
  return mean.mean();
};
const many = (count: number, of: () => RealPicture) => Array.from({ length: count }, of);
const spread = (pixels: Float32Array): number => {
  const mean = pixels.reduce((a, b) => a + b, 0) / pixels.length;
  return Math.sqrt(pixels.reduce((sum, value) => sum + (value - mean) ** 2, 0) / pixels.length);
};

describe('a calibrated picture', () => {
  const dark = meanOf(many(20, () => frame(0, 300)));
  const flatDark = meanOf(many(20, () => frame(0, 2)));
  // Flats of the sky: each brighter than the one before.
  let brightness = 8_000;
  const flat = meanOf(many(12, () => levelledFlat(frame((brightness *= 1.1), 2), flatDark)));

  it('is even where the light was even, whatever sensor and optics did to it', () => {
    const light = frame(500, 300);
    expect(spread(light.pixels)).toBeGreaterThan(500);
    const onlyDarks = calibrated(light, { dark });
    expect(spread(onlyDarks.pixels)).toBeGreaterThan(30);
    const whole = calibrated(light, { dark, flat });
    expect(spread(whole.pixels)).toBeLessThan(5);
    // As bright as the pixels of middling light.
    expect(whole.pixels.reduce((a, b) => a + b, 0) / whole.pixels.length).toBeCloseTo(455, -1);
  });

  it('knows no cosmic ray of one of five frames, and keeps all of four', () => {
    const hit = frame(0, 2, 0);
    hit.pixels[7] = 60_000;
    const others = many(4, () => frame(0, 2, 0));
    expect(meanOf([hit, ...others]).pixels[7]).toBeCloseTo(others[0].pixels[7], 3);
    expect(meanOf([hit, ...others.slice(0, 3)]).pixels[7]).toBeGreaterThan(10_000);
  });

  it('is made of frames of one size, and of flats with light', () => {
    const small = { widthPx: 2, heightPx: 1, pixels: new Float32Array(2) };
    const mean = new MeanFrame();
    mean.add(small);
    expect(() => mean.add(dark)).toThrow('not of one size');
    expect(() => new MeanFrame().mean()).toThrow('no calibration frame');
    expect(() => calibrated(small, { dark })).toThrow('not as large');
    expect(() => calibrated(dark, { dark, flat: small })).toThrow('not as large');
    expect(() => levelledFlat(small, null)).toThrow('no light');
    expect(() => levelledFlat(small, dark)).toThrow('not of one size');
  });
});

import { describe, expect, it } from '@jest/globals';
import { normalFrom, seededRandom } from '../random.ts';
import { skyBackground, skyBetween } from './background.ts';
import { findStars, measurePicture, pictureLight } from './stars.ts';

const [WIDTH, HEIGHT] = [320, 256];
interface Drawn {
  readonly x: number;
  readonly y: number;
  readonly flux: number;
}

/** Gaussian stars over a sloping sky with its noise. */
function picture(
  stars: readonly Drawn[],
  { sigma = 1.6, stretch = 1, sky = 1000, slope = 0.2, noise = 12, seed = 1 } = {},
) {
  const random = seededRandom(seed);
  const pixels = new Float64Array(WIDTH * HEIGHT);
  for (let y = 0; y < HEIGHT; y++)
    for (let x = 0; x < WIDTH; x++) {
      let value = sky + slope * x + noise * normalFrom(random);
      for (const star of stars) {
        const [dx, dy] = [(x - star.x) / stretch, y - star.y];
        if (Math.abs(dx) > 12 || Math.abs(dy) > 12) continue;
        value += (star.flux / (2 * Math.PI * sigma ** 2 * stretch)) * Math.exp(-(dx ** 2 + dy ** 2) / (2 * sigma ** 2));
      }
      pixels[y * WIDTH + x] = value;
    }
  return { widthPx: WIDTH, heightPx: HEIGHT, pixels };
}
const field = (count: number, flux = 8000): Drawn[] => {
  const random = seededRandom(7);
  return Array.from({ length: count }, (_, i) => ({
    x: 20 + ((i * 53) % (WIDTH - 40)) + random(),
    y: 20 + ((i * 37) % (HEIGHT - 40)) + random(),
    flux: flux * (1 + random()),
  }));
};

describe('the sky of a picture', () => {
  it('is measured under the stars: level, slope and noise', () => {
    const sky = skyBackground(picture(field(30)));
    expect(Math.abs(sky.level - (1000 + (0.2 * WIDTH) / 2))).toBeLessThan(3);
    expect(Math.abs(sky.noise / 12 - 1)).toBeLessThan(0.1);
    expect(sky.levelAt(300, 100) - sky.levelAt(20, 100)).toBeGreaterThan(35);
  });

  it.each([
    ['whole numbers', 1],
    ['shares of the whole', 65_535],
  ])('is not raised by the wings of stars, in %s', (_, whole) => {
    const { pixels, ...size } = picture(field(90, 3000), { sky: 300, slope: 0, noise: 4, sigma: 2 });
    const shot = { ...size, pixels: pixels.map((value) => (whole === 1 ? Math.round(value) : value / whole)) };
    const errorOf = ({ level }: { level: number }): number => level * whole - 300;
    // Pixels without a value, as calibrated pictures have them, say nothing of the others.
    for (let at = 0; at < shot.pixels.length; at += 64) shot.pixels[at] = 0;
    expect(errorOf(skyBackground(shot))).toBeGreaterThan(0.2);
    expect(Math.abs(errorOf(pictureLight(shot).sky))).toBeLessThan(0.1);
  });

  it('of a picture without noise, or full of stars, is told all the same', () => {
    const flat = { widthPx: 100, heightPx: 90, pixels: new Float64Array(9000).fill(7) };
    expect(pictureLight(flat)).toMatchObject({ sky: { level: 7, noise: 0 }, stars: [] });
    const shot = picture(field(30));
    const allLit = new Uint8Array(WIDTH * HEIGHT).fill(1);
    const sky = skyBackground(shot);
    expect(skyBetween(shot, sky, allLit).level).toBeCloseTo(sky.level, 0);
  });
});

describe('stars of a picture', () => {
  it('are all found where they are, and nothing else', () => {
    const drawn = field(30);
    const shot = picture(drawn);
    const found = findStars(shot, skyBackground(shot));
    expect(found.length).toBe(drawn.length);
    for (const { x, y } of drawn)
      expect(Math.min(...found.map((star) => Math.hypot(star.x - x, star.y - y)))).toBeLessThan(0.4);
    expect(findStars(picture([]), skyBackground(picture([])))).toEqual([]);
  });

  // Half of a Gaussian's light lies within 1.1774 sigma.
  it.each([1.2, 1.6, 2.4, 3.2])('of sigma %d px have a half-flux radius of 1.1774 times that', (sigma) => {
    const { halfFluxRadiusPx } = measurePicture(picture(field(25, 30_000), { sigma }));
    // A pixel is lit alike all over, which widens a star by a twelfth of a square pixel.
    expect(Math.abs(halfFluxRadiusPx! / (1.1774 * Math.sqrt(sigma ** 2 + 1 / 12)) - 1)).toBeLessThan(0.02);
  });

  it('that are wide and faint are found, and nothing on the flanks of bright ones', () => {
    const shot = picture([...field(14, 300_000), ...field(29, 1500).slice(14)], { sigma: 2.8 });
    expect(findStars(shot, skyBackground(shot))).toHaveLength(29);
  });

  it('are no pieces of a line across the picture', () => {
    const shot = picture(field(20));
    for (let y = 0; y < HEIGHT; y++)
      for (let x = 0; x < WIDTH; x++) {
        const away = (x - 30) * 0.6 - (y - 10) * 0.8;
        shot.pixels[y * WIDTH + x] += 90 * Math.exp(-(away ** 2) / (2 * 1.6 ** 2));
      }
    const found = findStars(shot, skyBackground(shot));
    const isDrawn = (star: { x: number; y: number }): boolean => field(20).some(({ x, y }) => Math.hypot(x - star.x, y - star.y) < 2); // prettier-ignore
    expect(found.filter((star) => !isDrawn(star)).length).toBeLessThanOrEqual(1);
    expect(found.filter(isDrawn).length).toBeGreaterThanOrEqual(17);
  });

  it('drawn out are longer than round ones', () => {
    const round = measurePicture(picture(field(25, 30_000))).elongation!;
    const long = measurePicture(picture(field(25, 30_000), { stretch: 1.8 })).elongation!;
    expect(round).toBeLessThan(1.15);
    expect(Math.abs(long - 1.8)).toBeLessThan(0.2);
  });

  it('that saturate are counted and not measured; too few give no figure', () => {
    const drawn = field(2, 900_000);
    const figures = measurePicture(picture(drawn), { thresholdSigma: 5, reachPx: 12, saturation: 30_000 });
    expect([figures.starCount, figures.halfFluxRadiusPx]).toEqual([2, null]);
  });
});

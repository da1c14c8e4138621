import { describe, expect, it } from '@jest/globals';
import { normalFrom, seededRandom } from '../random.ts';
import { pictureLight } from './stars.ts';
import type { Trail } from './trails.ts';

interface Streak {
  readonly from: readonly [number, number];
  readonly to: readonly [number, number];
  /** Light of a pixel on its middle line. */
  readonly peak: number;
}
const [WIDTH, HEIGHT, NOISE, SIGMA] = [640, 480, 10, 1.5];

/** Stars, a sloping sky, its noise and straight streaks. */
function shot(streaks: readonly Streak[], { seed = 1, stars = 120, add = (_x: number, _y: number): number => 0 } = {}) {
  const random = seededRandom(seed);
  const pixels = new Float64Array(WIDTH * HEIGHT);
  for (let y = 0, at = 0; y < HEIGHT; y++)
    for (let x = 0; x < WIDTH; x++, at++)
      pixels[at] = 500 + 0.05 * x + 0.03 * y + NOISE * normalFrom(random) + add(x, y) + lightOf(streaks, x, y);
  for (let n = 0; n < stars; n++) {
    const [sx, sy, flux] = [WIDTH * random(), HEIGHT * random(), 900 / (0.004 + random())];
    for (let y = Math.max(0, Math.floor(sy - 12)); y < Math.min(HEIGHT, sy + 12); y++)
      for (let x = Math.max(0, Math.floor(sx - 12)); x < Math.min(WIDTH, sx + 12); x++)
        pixels[y * WIDTH + x] +=
          (flux / (2 * Math.PI * SIGMA ** 2)) * Math.exp(-((x - sx) ** 2 + (y - sy) ** 2) / (2 * SIGMA ** 2));
  }
  return { widthPx: WIDTH, heightPx: HEIGHT, pixels };
}

function lightOf(streaks: readonly Streak[], x: number, y: number): number {
  let light = 0;
  for (const { from, to, peak } of streaks) {
    const [dx, dy] = [to[0] - from[0], to[1] - from[1]];
    const along = ((x - from[0]) * dx + (y - from[1]) * dy) / (dx * dx + dy * dy);
    if (along < 0 || along > 1) continue;
    const beside = ((x - from[0]) * dy - (y - from[1]) * dx) / Math.hypot(dx, dy);
    light += peak * Math.exp(-(beside ** 2) / (2 * SIGMA ** 2));
  }
  return light;
}

const trailsIn = (picture: ReturnType<typeof shot>): Trail[] => pictureLight(picture).trails;

/** Greatest distance of a trail's ends from a streak's line. */
const farFrom = ({ from, to }: Streak, { fromX, fromY, toX, toY }: Trail): number =>
  Math.max(
    ...[[fromX, fromY], [toX, toY]].map(([x, y]) => Math.abs((x - from[0]) * (to[1] - from[1]) - (y - from[1]) * (to[0] - from[0])) / Math.hypot(to[0] - from[0], to[1] - from[1])), // prettier-ignore
  );
const lengthOf = ({ fromX, fromY, toX, toY }: Trail): number => Math.hypot(toX - fromX, toY - fromY);

describe('a trail', () => {
  it.each([
    ['falling', [0, 60], [639, 410]],
    ['rising steeply', [210, 0], [330, 479]],
    ['nearly along the rows', [0, 200], [639, 218]],
    ['across a corner', [420, 0], [639, 260]],
  ] as const)('%s is found far below the noise of its pixels', (_, from, to) => {
    const streak = { from, to, peak: 0.6 * NOISE };
    const trails = trailsIn(shot([streak]));
    expect(trails).toHaveLength(1);
    expect(trails[0].sigmas).toBeGreaterThan(8);
    expect(farFrom(streak, trails[0])).toBeLessThan(6);
    expect(lengthOf(trails[0])).toBeGreaterThan(0.8 * Math.hypot(to[0] - from[0], to[1] - from[1]));
  });

  it.each([0.7, 2, 6, 40])('%s times as bright as the noise leaves the stars as they were', (share) => {
    const streak: Streak = { from: [100, 0], to: [300, 479], peak: share * NOISE };
    const [without, with_] = [pictureLight(shot([])), pictureLight(shot([streak]))];
    expect(with_.trails).toHaveLength(1);
    expect(Math.abs(with_.stars.length / without.stars.length - 1)).toBeLessThan(0.08);
  });

  it('that begins in the picture is marked from there', () => {
    const streak: Streak = { from: [300, 240], to: [639, 400], peak: 1.2 * NOISE };
    const [trail] = trailsIn(shot([streak]));
    expect(farFrom(streak, trail)).toBeLessThan(6);
    expect(Math.min(trail.fromX, trail.toX)).toBeGreaterThan(240);
  });

  it('beside another is another', () => {
    const streaks: Streak[] = [
      { from: [0, 60], to: [639, 410], peak: NOISE },
      { from: [100, 479], to: [500, 0], peak: 3 * NOISE },
    ];
    const trails = trailsIn(shot(streaks));
    expect(trails).toHaveLength(2);
    expect(farFrom(streaks[1], trails[0])).toBeLessThan(6);
    expect(farFrom(streaks[0], trails[1])).toBeLessThan(6);
  });

  it('is none in pictures of stars alone, however many or bright', () => {
    for (let seed = 1; seed <= 4; seed++) expect(trailsIn(shot([], { seed, stars: 180 * seed }))).toEqual([]);
  });

  it.each([
    ['the disc of a galaxy seen from its side', (x: number, y: number) => 60 * Math.exp(-(((y - 200 - 0.3 * (x - 300)) / 14) ** 2) - ((x - 300) / 120) ** 2)],
    ['a row of the sensor that is brighter', (_: number, y: number) => (y === 133 ? 40 : 0)],
    ['columns that are brighter', (x: number) => (x === 300 || x === 301 ? 40 : 0)],
    ['light of dusk from one side', (x: number, y: number) => 0.2 * x + 0.001 * y * y],
  ])('is not %s', (_, add) => expect(trailsIn(shot([], { add }))).toEqual([])); // prettier-ignore
});

import { describe, expect, it } from '@jest/globals';
import { seededRandom } from '../random.ts';
import { drawClearNights } from './clear-nights.ts';

const NIGHTS = 200_000;
const mean = (values: ArrayLike<number>): number =>
  Array.from(values).reduce((sum, value) => sum + value, 0) / values.length;

/** Of a series with the same odds each night. */
function correlation(clear: Uint8Array, odds: number): number {
  let sum = 0;
  for (let n = 1; n < clear.length; n++) sum += (clear[n] - odds) * (clear[n - 1] - odds);
  return sum / (clear.length - 1) / (odds * (1 - odds));
}

describe('drawn weather', () => {
  it.each([
    [0.6, 0],
    [0.6, 0.35],
    [0.3, 0.8],
  ])('has odds of %d and a persistence of %d', (odds, persistence) => {
    const clear = drawClearNights(new Array<number>(NIGHTS).fill(odds), persistence, seededRandom(4));
    expect(Math.abs(mean(clear) - odds)).toBeLessThan(0.01);
    expect(Math.abs(correlation(clear, odds) - persistence)).toBeLessThan(0.02);
  });

  it('starts from the night before where it is known', () => {
    const first = (before: boolean | null): number =>
      mean(Array.from({ length: 20_000 }, (_, i) => drawClearNights([0.5], 0.6, seededRandom(i), before)[0]));
    expect(first(true)).toBeCloseTo(0.8, 1);
    expect(first(false)).toBeCloseTo(0.2, 1);
    expect(first(null)).toBeCloseTo(0.5, 1);
  });

  it('by hand: two clear nights are had by the second with 0.36, by the third with 0.648', () => {
    const draws = Array.from({ length: 100_000 }, (_, i) => drawClearNights([0.6, 0.6, 0.6], 0, seededRandom(i)));
    const by = (nights: number): number =>
      mean(draws.map((draw) => Number(mean(draw.slice(0, nights)) * nights > 1.5)));
    expect(Math.abs(by(2) - 0.36)).toBeLessThan(0.006);
    expect(Math.abs(by(3) - 0.648)).toBeLessThan(0.006);
  });
});

import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { normalFrom, seededRandom } from './random.ts';
import { medianOf, quantileOf, scatterAround, wrap180, wrap360 } from './units.ts';

describe('angles', () => {
  it('wrap into their half-open ranges', () => {
    fc.assert(
      fc.property(fc.double({ min: -1e6, max: 1e6, noNaN: true }), (deg) => {
        expect(wrap360(deg)).toBeGreaterThanOrEqual(0);
        expect(wrap360(deg)).toBeLessThanOrEqual(360);
        expect(Math.abs(wrap180(deg))).toBeLessThanOrEqual(180);
      }),
    );
  });
});

describe('order statistics', () => {
  it('take the mean of the two middle values', () => expect(medianOf([4, 1, 3, 2])).toBe(2.5));
  it('are NaN for an empty list', () => expect(medianOf([])).toBeNaN());
  it('tell the scatter of normal noise, and hardly see a few wild values', () => {
    const random = seededRandom(3);
    const values = Array.from({ length: 20_000 }, () => 7 + 2 * normalFrom(random));
    expect(scatterAround(medianOf(values), values)).toBeCloseTo(2, 1);
    const wild = [...values, ...Array.from({ length: 1000 }, () => 1e6)];
    expect(scatterAround(medianOf(wild), wild)).toBeLessThan(2.2);
  });
  it('give the nearest rank', () => expect(quantileOf([1, 2, 3, 4, 5, 6, 7, 8, 9, 10], 0.95)).toBe(10));
});

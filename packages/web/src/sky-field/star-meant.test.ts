import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { starMeant } from './star-meant.ts';

const stars = [
  [10, -30, 9],
  [10.02, -30, 6],
  [10.2, -30, 2],
] as const;

describe('the star that a click means', () => {
  it('is the brightest within reach, not the nearest', () => {
    expect(starMeant({ raDeg: 10, decDeg: -30 }, stars, 0.05)).toEqual({ raDeg: 10.02, decDeg: -30 });
  });

  it('is the place itself where none is near', () => {
    const place = { raDeg: 11, decDeg: -30 };
    expect(starMeant(place, stars, 0.05)).toBe(place);
    expect(starMeant(place, [], 5)).toBe(place);
  });

  it('is found across 0h and at a pole', () => {
    fc.assert(
      fc.property(fc.double({ min: 0, max: 360, noNaN: true }), (raDeg) => {
        expect(starMeant({ raDeg, decDeg: 89.99 }, [[200, 89.99, 5]], 0.03)).toEqual({ raDeg: 200, decDeg: 89.99 });
      }),
    );
    expect(starMeant({ raDeg: 359.99, decDeg: 0 }, [[0.01, 0, 5]], 0.03)).toEqual({ raDeg: 0.01, decDeg: 0 });
  });
});

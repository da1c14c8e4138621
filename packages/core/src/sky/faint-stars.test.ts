import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { seededRandom } from '../random.ts';
import { FAINT_FROM_MAG, faintStarsAround, galacticLatitudeDeg, starsPerSquareDeg } from './faint-stars.ts';

const anywhere = fc.record({
  raDeg: fc.double({ min: 0, max: 359.99, noNaN: true }),
  decDeg: fc.double({ min: -90, max: 90, noNaN: true }),
});
const keyOf = (star: { raDeg: number; decDeg: number; mag: number }): string =>
  `${star.raDeg} ${star.decDeg} ${star.mag}`;

describe('faint stars', () => {
  it('are the same ones whoever asks: a small circle’s are those of the large one inside it', () => {
    fc.assert(
      fc.property(anywhere, fc.double({ min: 0.1, max: 1.5, noNaN: true }), (centre, radiusDeg) => {
        const wide = new Set(faintStarsAround({ ...centre, raDeg: (centre.raDeg + 0.2) % 360 }, 4, 11).map(keyOf));
        for (const star of faintStarsAround(centre, radiusDeg, 11)) expect(wide.has(keyOf(star))).toBe(true);
      }),
      { numRuns: 30 },
    );
  });

  it('stay where they are when fainter ones are asked for', () => {
    fc.assert(
      fc.property(anywhere, (centre) => {
        const deep = new Set(faintStarsAround(centre, 0.7, 13).map(keyOf));
        for (const star of faintStarsAround(centre, 0.7, 11.3)) expect(deep.has(keyOf(star))).toBe(true);
      }),
      { numRuns: 30 },
    );
  });

  it('begin where the catalogue ends and are as many as the counts say', () => {
    const random = seededRandom(77);
    let [found, expected] = [0, 0];
    for (let i = 0; i < 60; i++) {
      const centre = { raDeg: 360 * random(), decDeg: -90 + 180 * random() };
      const stars = faintStarsAround(centre, 2, 12);
      expect(stars.every(({ mag }) => mag >= FAINT_FROM_MAG && mag <= 12)).toBe(true);
      found += stars.length;
      const latitude = galacticLatitudeDeg(centre);
      expected += Math.PI * 4 * (starsPerSquareDeg(12, latitude) - starsPerSquareDeg(FAINT_FROM_MAG, latitude));
    }
    expect(found / expected).toBeGreaterThan(0.93);
    expect(found / expected).toBeLessThan(1.07);
  });

  it('crowd towards the Milky Way', () => {
    expect(galacticLatitudeDeg({ raDeg: 266.4, decDeg: -28.94 })).toBeCloseTo(0, 1);
    expect(galacticLatitudeDeg({ raDeg: 192.86, decDeg: 27.13 })).toBeCloseTo(90, 1);
    expect(starsPerSquareDeg(14, 0)).toBeGreaterThan(8 * starsPerSquareDeg(14, 90));
  });
});

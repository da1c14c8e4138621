import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import type { FilterHours } from './shift-counts.ts';
import { shiftedHours, worthSec } from './shift-counts.ts';

const field = { centre: { raDeg: 10, decDeg: -40 }, positionAngleDeg: 0, scaleArcsecPerPx: 2, widthPx: 100, heightPx: 100 }; // prettier-ignore
const shot = (noise: number, exposureSec = 300, zeroPointMag = 22) => ({ field, noise, exposureSec, zeroPointMag });

describe('what exposures are worth', () => {
  it('is their time where all are alike, however long each is', () => {
    expect(worthSec([])).toBe(0);
    expect(worthSec(Array.from({ length: 8 }, () => shot(20)))).toBeCloseTo(8 * 300, 6);
    // Noise of the sky grows by the root of the time.
    expect(worthSec([shot(20), shot(20), shot(20 * Math.SQRT2, 600)])).toBeCloseTo(1200, 6);
  });

  it('is less under a bright sky, by the square of its noise, and under cloud, by the square of its light', () => {
    const dark = Array.from({ length: 12 }, () => shot(20));
    expect(worthSec([...dark, shot(40)]) - 3600).toBeCloseTo(300 / 4, 6);
    expect(worthSec([...dark, shot(20, 300, 22 - 2.5 * Math.log10(2))]) - 3600).toBeCloseTo(300 / 4, 6);
  });
});

describe('hours shifted between filters', () => {
  const hours = fc.double({ min: 0.1, max: 20, noNaN: true });
  const filter = fc
    .record({ wantedHours: hours, gatheredHours: hours, worth: fc.double({ min: 0.2, max: 1, noNaN: true }) })
    .map(({ wantedHours, gatheredHours, worth }): FilterHours => ({ wantedHours, gatheredHours, worthHours: worth * gatheredHours })); // prettier-ignore
  const sum = (values: readonly number[]): number => values.reduce((a, b) => a + b, 0);

  it('are none where every hour was worth one', () => {
    const alike = [[10, 4], [4, 1], [4, 3]].map(([wantedHours, gatheredHours]) => ({ wantedHours, gatheredHours, worthHours: gatheredHours })); // prettier-ignore
    shiftedHours(alike).forEach(({ wantedHours, gain }, i) =>
      expect([wantedHours, gain]).toEqual([expect.closeTo(alike[i].wantedHours, 6), expect.closeTo(0, 9)]),
    );
  });

  it('go to the filter whose hours were worth less', () => {
    const [red, blue] = shiftedHours([
      { wantedHours: 6, gatheredHours: 2, worthHours: 2 },
      { wantedHours: 6, gatheredHours: 2, worthHours: 1 },
    ]);
    expect(red.wantedHours).toBeLessThan(6);
    expect(blue.wantedHours).toBeGreaterThan(6);
    expect([red.gain < 0, blue.gain > 0]).toEqual([true, true]);
    // Both end at the same share of what they want.
    expect(2 + (red.wantedHours - 2)).toBeCloseTo(1 + (blue.wantedHours - 2) / 2, 4);
  });

  it('want together no more than before, keep what is gathered, and leave no filter behind that could be helped', () =>
    fc.assert(
      fc.property(fc.array(filter, { minLength: 1, maxLength: 6 }), (filters) => {
        const shifted = shiftedHours(filters);
        const left = sum(filters.map(({ wantedHours, gatheredHours }) => Math.max(0, wantedHours - gatheredHours)));
        expect(sum(shifted.map(({ wantedHours }, i) => wantedHours - filters[i].gatheredHours))).toBeCloseTo(left, 4);
        shifted.forEach(({ wantedHours }, i) =>
          expect(wantedHours).toBeGreaterThanOrEqual(filters[i].gatheredHours - 1e-9),
        );
        const levels = shifted.map(({ wantedHours }, i) => {
          const { gatheredHours, worthHours, wantedHours: asked } = filters[i];
          const quality = Math.max(0.05, worthHours / gatheredHours);
          return { level: (worthHours + (wantedHours - gatheredHours) * quality) / asked, isMoved: wantedHours > gatheredHours + 1e-6 }; // prettier-ignore
        });
        const lowest = Math.min(...levels.map(({ level }) => level));
        for (const { level, isMoved } of levels) if (isMoved) expect(level).toBeCloseTo(lowest, 3);
      }),
      { numRuns: 200 },
    ));
});

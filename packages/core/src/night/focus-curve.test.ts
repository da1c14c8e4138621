import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { fitFocus } from './focus-curve.ts';

/** A defocused star: a hyperbola around the best place. */
const size = (position: number, best: number): number => Math.hypot(1.8, 0.008 * (position - best));
const points = (best: number, from: number) =>
  [0, 1, 2, 3, 4, 5, 6].map((i) => {
    const positionSteps = from + 250 * i;
    return { positionSteps, halfFluxRadiusPx: size(positionSteps, best) };
  });

describe('a focus curve', () => {
  it('finds the best place and the size there, wherever it lies among the places tried', () => {
    fc.assert(
      fc.property(fc.integer({ min: 29_500, max: 30_500 }), (best) => {
        const fit = fitFocus(points(best, 29_250));
        expect(fit.isFound && Math.abs(fit.bestSteps - best)).toBeLessThanOrEqual(1);
        expect(fit.isFound && fit.bestRadiusPx).toBeCloseTo(1.8, 6);
      }),
    );
  });
  it('says why there is none', () => {
    expect(fitFocus(points(33_000, 29_250))).toMatchObject({
      isFound: false,
      words: expect.stringContaining('beyond'),
    });
    expect(fitFocus(points(30_000, 29_250).slice(0, 4))).toMatchObject({ words: 'only 4 of 5 sizes were measured' });
    const bumpy = points(30_000, 29_250).map((point, i) => ({ ...point, halfFluxRadiusPx: 2 + (i % 2) }));
    expect(fitFocus(bumpy)).toMatchObject({ isFound: false });
    const flat = points(30_000, 29_250).map((point) => ({ ...point, halfFluxRadiusPx: 2 }));
    expect(fitFocus(flat).isFound).toBe(false);
  });
});

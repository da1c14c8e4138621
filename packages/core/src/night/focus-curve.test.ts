import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { fitFocus, fitFocusArms } from './focus-curve.ts';

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

describe('the arms of a focus curve', () => {
  it('meet at the best place, also where the sizes near it are bumpy', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 29_700, max: 30_300 }),
        fc.double({ min: 0, max: 0.8, noNaN: true }),
        (best, bump) => {
          const all = points(best, 29_250);
          const smallest = Math.min(...all.map(({ halfFluxRadiusPx }) => halfFluxRadiusPx));
          const bumpy = all.map((point) => (point.halfFluxRadiusPx === smallest ? { ...point, halfFluxRadiusPx: smallest - bump } : point)); // prettier-ignore
          const fit = fitFocusArms(bumpy.toReversed());
          expect(fit.isFound && Math.abs(fit.bestSteps - best)).toBeLessThanOrEqual(60);
        },
      ),
    );
  });
  it('say why they do not', () => {
    expect(fitFocusArms(points(30_000, 29_250).slice(0, 4))).toMatchObject({
      words: 'only 4 of 5 sizes were measured',
    });
    expect(fitFocusArms(points(33_000, 29_250))).toMatchObject({ words: expect.stringContaining('edge') });
    const jumping = points(30_000, 29_250).map((point, i) => ({ ...point, halfFluxRadiusPx: i === 3 ? 1 : 2 + (i % 2) })); // prettier-ignore
    expect(fitFocusArms(jumping)).toMatchObject({ isFound: false });
  });
});

import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { carriedOn, creditAfter } from './reframing.ts';
import { fromTangentPlane } from './tangent-plane.ts';

const sides = { widthDeg: 1.5, heightDeg: 1 };
const middle = { raDeg: 84, decDeg: -69 };
const at = (xDeg: number, yDeg: number, positionAngleDeg = 0) => ({
  centre: fromTangentPlane(middle, { xDeg, yDeg }),
  positionAngleDeg,
});
const grid = [at(0.7, 0.45), at(-0.7, 0.45), at(0.7, -0.45), at(-0.7, -0.45)];

describe('panels framed anew', () => {
  it('carry on in the pointing that shares most of their sky', () => {
    const moved = grid.map(({ centre }) => ({
      centre: { ...centre, decDeg: centre.decDeg + 0.1 },
      positionAngleDeg: 0,
    }));
    expect(carriedOn(grid, moved, sides)).toEqual([0, 1, 2, 3]);
    expect(carriedOn(grid, [...moved].reverse(), sides)).toEqual([3, 2, 1, 0]);
  });
  it('come new where there are more of them, and are left over where there are fewer', () => {
    expect(carriedOn(grid.slice(0, 2), grid, sides)).toEqual([0, 1, null, null]);
    expect(carriedOn(grid, grid.slice(2), sides)).toEqual([2, 3]);
  });
  it('carry on elsewhere too: a project without a place gets its first, a moved one keeps its panels', () => {
    expect(carriedOn([null], [at(0, 0)], sides)).toEqual([0]);
    expect(carriedOn(grid.slice(0, 2), [at(20, 0), at(22, 0)], sides)).toEqual([0, 1]);
  });
  it('never carry on twice', () =>
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.double({ min: -2, max: 2, noNaN: true }), fc.double({ min: -2, max: 2, noNaN: true })), { maxLength: 6 }), // prettier-ignore
        (places) => {
          const used = carriedOn(grid, places.map(([x, y]) => at(x, y)), sides).filter((from) => from !== null); // prettier-ignore
          expect(new Set(used).size).toBe(used.length);
          expect(used.length).toBe(Math.min(4, places.length));
        },
      ),
    ));
});

describe('credit after framing anew', () => {
  const taken = { ...at(0, 0), ...sides };
  it.each([
    [0.1, 'keep', 0.9],
    [0.3, 'ask', 0.7],
    [0.6, 'lose', 0.4],
  ] as const)('of a field moved by %d° is told to %s', (shift, fate, coverage) => {
    const outcome = creditAfter(taken, [at(0, shift * 0.999)], sides);
    expect(outcome.fate).toBe(fate);
    expect(outcome.coverage).toBeCloseTo(coverage, 2);
    expect(outcome.panel).toBe(fate === 'lose' ? null : 0);
  });
  it('goes to the panel that it covers best', () =>
    expect(creditAfter(taken, [at(0, 0.4), at(0.05, 0)], sides)).toMatchObject({ fate: 'keep', panel: 1 }));
  it('is kept upside down and lost by a quarter turn of a long field', () => {
    expect(creditAfter(taken, [at(0, 0, 180)], sides).fate).toBe('keep');
    expect(creditAfter({ ...taken, widthDeg: 3 }, [at(0, 0, 90)], { widthDeg: 3, heightDeg: 1 }).fate).toBe('lose');
    expect(creditAfter(taken, [], sides)).toEqual({ fate: 'lose', panel: null, coverage: 0 });
  });
});

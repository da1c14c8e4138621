import { describe, expect, it } from '@jest/globals';
import { cameraTurn } from '@meridiem/core';
import fc from 'fast-check';
import { turnByWords } from './camera-turn.ts';

describe('a turn by hand', () => {
  it('has degrees, direction and millimetres along the tube', () => {
    expect(turnByWords({ turnDeg: 12, direction: 'clockwise', drawtubeMm: 9.61 })).toBe('12.0° clockwise, seen from behind it: 9.6 mm along its tube'); // prettier-ignore
  });

  it('says that there are no millimetres where nobody has measured the tube', () => {
    expect(turnByWords({ turnDeg: 3, direction: 'counter-clockwise', drawtubeMm: null })).toMatch(/no millimetres$/);
  });

  it('is never more than a quarter turn, and as far back (any angles)', () => {
    const angle = fc.double({ min: 0, max: 359.9, noNaN: true });
    fc.assert(
      fc.property(angle, angle, fc.constantFrom('even' as const, 'odd' as const), (from, to, mirrors) => {
        const there = cameraTurn(from, to, { drawtubeMm: 80, mirrors });
        const back = cameraTurn(to, from, { drawtubeMm: 80, mirrors });
        expect(there === null).toBe(back === null);
        if (!there || !back) return;
        expect(there.turnDeg).toBeLessThanOrEqual(90);
        expect(back.turnDeg).toBeCloseTo(there.turnDeg, 9);
        // A quarter turn frames the same either way round.
        if (there.turnDeg < 89.999) expect(back.direction).not.toBe(there.direction);
        expect(there.drawtubeMm).toBeCloseTo((Math.PI * 80 * there.turnDeg) / 360, 9);
      }),
    );
  });
});

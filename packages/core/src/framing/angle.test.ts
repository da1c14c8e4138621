import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { angleApartDeg, cameraTurn } from './angle.ts';

const EVEN = { drawtubeMm: 114.6, mirrors: 'even' } as const;
const angle = fc.double({ min: 0, max: 360, noNaN: true, maxExcluded: true });

describe('turning a camera', () => {
  it('goes the shorter way to the same sky, counter-clockwise for growing angles', () => {
    expect(cameraTurn(10, 40, EVEN)).toMatchObject({ turnDeg: 30, direction: 'counter-clockwise' });
    expect(cameraTurn(350, 20, EVEN)).toMatchObject({ turnDeg: 30, direction: 'counter-clockwise' });
    expect(cameraTurn(10, 180, EVEN)).toMatchObject({ turnDeg: 10, direction: 'clockwise' });
    expect(cameraTurn(10, 190, EVEN)).toBeNull();
  });
  it('is turned round by an odd number of mirrors', () => {
    expect(cameraTurn(10, 40, { ...EVEN, mirrors: 'odd' })?.direction).toBe('clockwise');
  });
  it('is a millimetre for a degree on a tube of 114.6 mm, and unknown without the tube', () => {
    expect(cameraTurn(0, 1, EVEN)?.drawtubeMm).toBeCloseTo(1, 3);
    expect(cameraTurn(0, 1, { ...EVEN, drawtubeMm: null })?.drawtubeMm).toBeNull();
  });
  it('is as far as the angles are apart, and arrives', () => {
    fc.assert(
      fc.property(angle, angle, (from, to) => {
        const turn = cameraTurn(from, to, EVEN);
        const signed = turn ? turn.turnDeg * (turn.direction === 'clockwise' ? -1 : 1) : 0;
        expect(turn?.turnDeg ?? 0).toBeCloseTo(angleApartDeg(from, to), 5);
        expect(angleApartDeg(from + signed, to)).toBeLessThan(1e-5);
      }),
    );
  });
});

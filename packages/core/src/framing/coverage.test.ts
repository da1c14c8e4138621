import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import type { SkyField } from './coverage.ts';
import { coverageOf } from './coverage.ts';
import { fromTangentPlane, toTangentPlane } from './tangent-plane.ts';

const field = (raDeg: number, decDeg: number, positionAngleDeg = 0, widthDeg = 1.5, heightDeg = 1): SkyField => ({
  centre: { raDeg, decDeg },
  positionAngleDeg,
  widthDeg,
  heightDeg,
});
const anywhere = fc.record({
  raDeg: fc.double({ min: 0, max: 359.99, noNaN: true }),
  decDeg: fc.double({ min: -90, max: 90, noNaN: true }),
});
const turn = fc.double({ min: 0, max: 360, noNaN: true });

describe('the tangent plane', () => {
  it('is undone by its inverse, at the poles and across 0 h', () =>
    fc.assert(
      fc.property(
        anywhere,
        fc.double({ min: -20, max: 20, noNaN: true }),
        fc.double({ min: -20, max: 20, noNaN: true }),
        (tangent, xDeg, yDeg) => {
          const back = toTangentPlane(tangent, fromTangentPlane(tangent, { xDeg, yDeg }))!;
          expect(back.xDeg).toBeCloseTo(xDeg, 8);
          expect(back.yDeg).toBeCloseTo(yDeg, 8);
        },
      ),
    ));

  it('has no place for the far half of the sky', () =>
    expect(toTangentPlane({ raDeg: 0, decDeg: 0 }, { raDeg: 180, decDeg: 0 })).toBeNull());
});

describe('coverage', () => {
  it('is whole for the same field, and for the same field upside down', () =>
    fc.assert(
      fc.property(anywhere, turn, ({ raDeg, decDeg }, angle) => {
        expect(coverageOf(field(raDeg, decDeg, angle), field(raDeg, decDeg, angle))).toBeCloseTo(1, 9);
        expect(coverageOf(field(raDeg, decDeg, angle), field(raDeg, decDeg, angle + 180))).toBeCloseTo(1, 9);
      }),
    ));

  it('is the ratio of the sides for a field turned a quarter', () =>
    expect(coverageOf(field(80, -30), field(80, -30, 90))).toBeCloseTo(1 / 1.5, 3));

  it('falls by the shift for a small shift north, wherever on the sky', () =>
    fc.assert(
      fc.property(turn, fc.double({ min: -80, max: 80, noNaN: true }), (raDeg, decDeg) => {
        expect(coverageOf(field(raDeg % 360, decDeg), field(raDeg % 360, decDeg + 0.1))).toBeCloseTo(0.9, 2);
      }),
    ));

  it('is none for neighbours and for the other side of the sky', () => {
    expect(coverageOf(field(80, -30), field(82, -30))).toBe(0);
    expect(coverageOf(field(80, -30), field(260, 30))).toBe(0);
  });

  it('never leaves [0, 1]', () =>
    fc.assert(
      fc.property(anywhere, turn, turn, fc.double({ min: -2, max: 2, noNaN: true }), (at, a, b, shift) => {
        const other = fromTangentPlane(at, { xDeg: shift, yDeg: shift / 2 });
        const share = coverageOf(field(at.raDeg, at.decDeg, a), field(other.raDeg, other.decDeg, b));
        expect(share).toBeGreaterThanOrEqual(0);
        expect(share).toBeLessThanOrEqual(1);
      }),
    ));
});

import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { angleBetweenDeg, unitVector } from '../sky/frame-of-date.ts';
import { middleOf } from '../sky/middle.ts';
import type { SkyPosition } from '../sky/site.ts';
import { fromTangentPlane, toTangentPlane } from './tangent-plane.ts';

const place: fc.Arbitrary<SkyPosition> = fc.record({
  raDeg: fc.double({ min: 0, max: 360, maxExcluded: true, noNaN: true }),
  decDeg: fc.oneof(fc.double({ min: -90, max: 90, noNaN: true }), fc.constantFrom(-90, 90, 89.9999, -89.9999)),
});
const offset = fc.record({
  xDeg: fc.double({ min: -40, max: 40, noNaN: true }),
  yDeg: fc.double({ min: -40, max: 40, noNaN: true }),
});

const apartDeg = (a: SkyPosition, b: SkyPosition): number => angleBetweenDeg(unitVector(a), unitVector(b));

describe('the tangent plane', () => {
  it('gives every place back, at the poles and across 0 h', () =>
    fc.assert(
      fc.property(place, offset, (tangent, point) => {
        const there = fromTangentPlane(tangent, point);
        const again = toTangentPlane(tangent, there)!;
        expect(again.xDeg).toBeCloseTo(point.xDeg, 6);
        expect(again.yDeg).toBeCloseTo(point.yDeg, 6);
      }),
    ));
  it('is as far from its middle as the tangent of the angle', () =>
    fc.assert(
      fc.property(place, offset, (tangent, point) => {
        const angle = apartDeg(tangent, fromTangentPlane(tangent, point));
        const radius = (Math.hypot(point.xDeg, point.yDeg) * Math.PI) / 180;
        expect(Math.tan((angle * Math.PI) / 180)).toBeCloseTo(radius, 6);
      }),
    ));
  it('has no place for what lies a quarter of the sky away or further', () => {
    expect(toTangentPlane({ raDeg: 0, decDeg: 0 }, { raDeg: 180, decDeg: 0 })).toBeNull();
    expect(toTangentPlane({ raDeg: 0, decDeg: 90 }, { raDeg: 10, decDeg: -1 })).toBeNull();
  });
  it('shows great circles as straight lines', () =>
    fc.assert(
      fc.property(place, offset, offset, (tangent, a, b) => {
        const [from, to] = [fromTangentPlane(tangent, a), fromTangentPlane(tangent, b)];
        const between = middleOf([from, to])!;
        const middle = toTangentPlane(tangent, between)!;
        const cross = (b.xDeg - a.xDeg) * (middle.yDeg - a.yDeg) - (b.yDeg - a.yDeg) * (middle.xDeg - a.xDeg);
        expect(Math.abs(cross)).toBeLessThan(1e-6);
      }),
    ));
});

describe('the middle of places', () => {
  it('is as far from both of two', () =>
    fc.assert(
      fc.property(place, place, (a, b) => {
        const middle = middleOf([a, b]);
        if (apartDeg(a, b) > 179.99) return;
        expect(apartDeg(middle!, a)).toBeCloseTo(apartDeg(middle!, b), 5);
      }),
    ));
  it('is none of nothing, and none of what lies all around', () => {
    expect(middleOf([])).toBeNull();
    expect(
      middleOf([
        { raDeg: 10, decDeg: 0 },
        { raDeg: 190, decDeg: 0 },
      ]),
    ).toBeNull();
    expect(
      middleOf([
        { raDeg: 359, decDeg: 0 },
        { raDeg: 1, decDeg: 0 },
      ])!.raDeg % 360,
    ).toBeCloseTo(0, 9);
  });
});

import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { toTangentPlane } from '../framing/tangent-plane.ts';
import { toRad } from '../units.ts';
import type { FitsCard } from './fits-header.ts';
import { wcsOf } from './header-wcs.ts';

const [WIDTH, HEIGHT] = [6000, 4000];
const cards = (values: Readonly<Record<string, number>>): FitsCard[] =>
  Object.entries(values).map(([keyword, value]) => ({ keyword, value, comment: '' }));

const frames = fc.record({
  raDeg: fc.double({ min: 0, max: 359.999, noNaN: true }),
  decDeg: fc.double({ min: -89, max: 89, noNaN: true }),
  angleDeg: fc.double({ min: 0, max: 359.99, noNaN: true }),
  scaleArcsec: fc.double({ min: 0.2, max: 12, noNaN: true }),
  mirrored: fc.boolean(),
  refX: fc.integer({ min: 1, max: WIDTH }),
  refY: fc.integer({ min: 1, max: HEIGHT }),
});
type Frame = typeof frames extends fc.Arbitrary<infer T> ? T : never;

const reference = ({ raDeg, decDeg, refX, refY }: Frame) => ({ CRVAL1: raDeg, CRVAL2: decDeg, CRPIX1: refX, CRPIX2: refY }); // prettier-ignore
/** One frame's solution in each of the three ways of writing it. */
const forms: Readonly<Record<string, (frame: Frame) => Record<string, number>>> = {
  'a CD matrix': (frame) => {
    const [sx, sy, turn] = signs(frame);
    return {
      ...reference(frame),
      CD1_1: sx * Math.cos(turn),
      CD1_2: -sy * Math.sin(turn),
      CD2_1: sx * Math.sin(turn),
      CD2_2: sy * Math.cos(turn),
    };
  },
  'PC with CDELT': (frame) => {
    const [sx, sy, turn] = signs(frame);
    return {
      ...reference(frame),
      CDELT1: sx,
      CDELT2: sy,
      PC1_1: Math.cos(turn),
      PC1_2: (-sy / sx) * Math.sin(turn),
      PC2_1: (sx / sy) * Math.sin(turn),
      PC2_2: Math.cos(turn),
    };
  },
  'CDELT with CROTA2': (frame) => {
    const [sx, sy, turn] = signs(frame);
    return { ...reference(frame), CDELT1: sx, CDELT2: sy, CROTA2: (turn * 180) / Math.PI };
  },
};
const signs = ({ scaleArcsec, mirrored, angleDeg }: Frame): [sx: number, sy: number, turn: number] => [
  ((mirrored ? 1 : -1) * scaleArcsec) / 3600,
  scaleArcsec / 3600,
  // The upward axis stands at this angle from north through east.
  -toRad(angleDeg),
];
const apartDeg = (a: number, b: number): number => Math.abs(((((a - b) % 360) + 540) % 360) - 180);

describe('a frame’s world coordinates', () => {
  it.each(Object.entries(forms))('are the same from %s', (_, form) => {
    fc.assert(
      fc.property(frames, (frame) => {
        const found = wcsOf(cards(form(frame)), WIDTH, HEIGHT)!;
        expect(apartDeg(found.positionAngleDeg, frame.angleDeg)).toBeLessThan(1e-6);
        expect(found.scaleArcsecPerPx).toBeCloseTo(frame.scaleArcsec, 6);
        expect(found.isMirrored).toBe(frame.mirrored);
        const plane = toTangentPlane({ raDeg: frame.raDeg, decDeg: frame.decDeg }, found.centre)!;
        const offPx = Math.hypot((WIDTH + 1) / 2 - frame.refX, (HEIGHT + 1) / 2 - frame.refY);
        expect(Math.hypot(plane.xDeg, plane.yDeg)).toBeCloseTo((offPx * frame.scaleArcsec) / 3600, 6);
      }),
    );
  });

  it('have the middle of the frame where the reference pixel is elsewhere', () => {
    // Two hundred pixels of 3.6 arcsec east of the middle: east is left.
    const solution = { CRVAL1: 10, CRVAL2: 0, CRPIX1: (WIDTH + 1) / 2 - 200, CRPIX2: (HEIGHT + 1) / 2, CDELT1: -0.001, CDELT2: 0.001 }; // prettier-ignore
    const { centre, positionAngleDeg } = wcsOf(cards(solution), WIDTH, HEIGHT)!;
    expect(centre.raDeg).toBeCloseTo(9.8, 5);
    expect(centre.decDeg).toBeCloseTo(0, 9);
    expect(positionAngleDeg).toBeCloseTo(0, 9);
  });

  it.each([
    ['no reference value', { CRVAL1: NaN }],
    ['no matrix', { CDELT1: NaN, CDELT2: NaN }],
    ['a matrix that is flat', { CDELT2: 0 }],
    ['a declination that is none', { CRVAL2: 91 }],
  ])('are none with %s', (_, change) => {
    const whole = { CRVAL1: 10, CRVAL2: 0, CRPIX1: 1, CRPIX2: 1, CDELT1: -0.001, CDELT2: 0.001 };
    const kept = Object.entries({ ...whole, ...change }).filter(([, value]) => !Number.isNaN(value));
    expect(wcsOf(cards(whole), WIDTH, HEIGHT)).not.toBeNull();
    expect(wcsOf(cards(Object.fromEntries(kept)), WIDTH, HEIGHT)).toBeNull();
  });
});

import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { horizonAltitudeDeg, horizonProfile } from './horizon.ts';
import { formatHorizonFile, parseHorizonFile } from '../formats/horizon-file.ts';

describe('horizon profile', () => {
  const profile = horizonProfile([
    { azimuthDeg: 350, altitudeDeg: 20 },
    { azimuthDeg: 10, altitudeDeg: 10 },
    { azimuthDeg: 180, altitudeDeg: 0 },
  ]);

  it.each([
    [0, 15],
    [355, 17.5],
    [5, 12.5],
    [180, 0],
    [95, 5],
    [265, 10],
  ])('at azimuth %d° is %d° high', (azimuthDeg, expected) => {
    expect(horizonAltitudeDeg(profile, azimuthDeg)).toBeCloseTo(expected, 9);
  });

  it('is flat without points', () => expect(horizonAltitudeDeg(horizonProfile([]), 123)).toBe(0));
  it('holds one point everywhere', () =>
    expect(horizonAltitudeDeg(horizonProfile([{ azimuthDeg: 77, altitudeDeg: 9 }]), 300)).toBe(9));

  const points = fc.array(
    fc.record({ azimuthDeg: fc.integer({ min: 0, max: 359 }), altitudeDeg: fc.integer({ min: 0, max: 60 }) }),
    { minLength: 1, maxLength: 30 },
  );

  it('does not depend on the order of points and stays between the lowest and the highest', () => {
    fc.assert(
      fc.property(points, fc.double({ min: -720, max: 720, noNaN: true }), (list, azimuthDeg) => {
        const altitude = horizonAltitudeDeg(horizonProfile(list), azimuthDeg);
        expect(horizonAltitudeDeg(horizonProfile([...list].reverse()), azimuthDeg)).toBeCloseTo(altitude, 9);
        const altitudes = list.map((point) => point.altitudeDeg);
        expect(altitude).toBeGreaterThanOrEqual(Math.min(...altitudes) - 1e-9);
        expect(altitude).toBeLessThanOrEqual(Math.max(...altitudes) + 1e-9);
      }),
    );
  });

  it('comes back from its file unchanged', () => {
    fc.assert(fc.property(points, (list) => expect(parseHorizonFile(formatHorizonFile(list))).toEqual(list)));
  });

  it('names the line that can not be read', () => {
    expect(() => parseHorizonFile('0 10\n# trees\n90 ninety')).toThrow(/Line 3/);
  });
});

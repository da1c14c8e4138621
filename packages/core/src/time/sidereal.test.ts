import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { DAY_MS } from '../units.ts';
import { daysSinceJ2000, J2000_UTC_MS, ttCenturies } from './julian.ts';
import { EARTH_TURNS_PER_UT_DAY, earthRotationAngleDeg, greenwichMeanSiderealDeg } from './sidereal.ts';

const moments = fc.integer({ min: Date.UTC(1990, 0, 1), max: Date.UTC(2050, 0, 1) });
/** Nearest way around the circle. */
const apartDeg = (a: number, b: number): number => Math.abs(((((a - b) % 360) + 540) % 360) - 180);

describe('days', () => {
  it('are counted from noon of 1 January 2000', () => {
    expect(daysSinceJ2000(Date.UTC(2000, 0, 1, 12))).toBe(0);
    expect(daysSinceJ2000(Date.UTC(2000, 0, 2))).toBe(0.5);
    expect(ttCenturies(J2000_UTC_MS - 69_184)).toBe(0);
    expect(ttCenturies(J2000_UTC_MS + 36_525 * DAY_MS - 69_184)).toBeCloseTo(1, 12);
  });
});

describe('sidereal time', () => {
  it('begins where the definitions say', () => {
    // IERS Conventions (2010), eq. 5.15, at t = 0.
    expect(earthRotationAngleDeg(J2000_UTC_MS)).toBeCloseTo(280.46061837504, 8);
    // 18h 41m 50.548s at the epoch, the same to 0.02 s with the minute of dynamical time that lies between.
    expect(apartDeg(greenwichMeanSiderealDeg(J2000_UTC_MS), 280.46062)).toBeLessThan(1e-4);
  });

  it('gains a turn on the sun in a year', () => {
    const year = 365.2422 * DAY_MS;
    fc.assert(
      fc.property(moments, (utcMs) => {
        const gainDeg = earthRotationAngleDeg(utcMs + year) - earthRotationAngleDeg(utcMs);
        expect(apartDeg(gainDeg, 365.2422 * EARTH_TURNS_PER_UT_DAY * 360)).toBeLessThan(1e-5);
      }),
    );
  });

  it('runs 3 min 56.56 s a day ahead of the clock', () => {
    fc.assert(
      fc.property(moments, (utcMs) => {
        const aheadDeg = apartDeg(greenwichMeanSiderealDeg(utcMs + DAY_MS), greenwichMeanSiderealDeg(utcMs));
        expect((aheadDeg / 360) * 86_400).toBeCloseTo(236.555, 2);
      }),
    );
  });
});

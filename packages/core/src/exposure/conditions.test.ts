import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { directionOf } from '../sky/altitude.ts';
import { transitsOf } from '../sky/events.ts';
import type { TakenExposure } from './conditions.ts';
import { exposureConditions } from './conditions.ts';
import { DEFAULT_MOON_FACTORS } from './filter-sky.ts';

const site = { latitudeDeg: -31.62, longitudeDeg: 137.85, elevationM: 610 };
const filter = (letter: string, widthNm: number, zenithMag: number) => ({
  class: widthNm < 30 ? ('narrowband' as const) : ('broadband' as const),
  centreNm: 550,
  widthNm,
  extinctionMagPerAirmass: 0.15,
  zenithMag,
  moonFactor: DEFAULT_MOON_FACTORS[letter],
});
const detector = {
  apertureMm: 305,
  obstructionShare: 0.42,
  focalLengthMm: 1830,
  pixelUm: 7.4,
  throughput: 0.5,
  readNoiseE: 1.5,
  darkCurrentEPerSec: 0.004,
  binning: 1,
};
const taken = (change: Partial<TakenExposure> = {}): TakenExposure => ({
  site,
  zenithMagV: 21.8,
  filter: filter('L', 300, 21.5),
  detector,
  target: { raDeg: 20, decDeg: -31.6 },
  startUtcMs: Date.parse('2026-10-11T15:00:00Z'),
  exposureSec: 120,
  ...change,
});

describe('the sky over an exposure', () => {
  it('is the target’s best at its transit in a dark night', () => {
    const { target } = taken();
    const night = { startUtcMs: Date.parse('2026-10-11T09:00:00Z'), endUtcMs: Date.parse('2026-10-11T20:00:00Z') };
    const [transit] = transitsOf(site, target, night);
    const conditions = exposureConditions(taken({ startUtcMs: transit - 60_000 }))!;
    expect(conditions.altitudeDeg).toBeGreaterThan(89.5);
    expect(conditions.airmass).toBeCloseTo(1, 3);
    expect(conditions.rateShare).toBeGreaterThan(0.97);
    expect(conditions.rateShare).toBeLessThanOrEqual(1.0001);
  });

  it('is brightened by a full moon, L far more than Ha', () => {
    const startUtcMs = Date.parse('2026-10-26T13:00:00Z');
    const sky = (letter: string, widthNm: number) =>
      exposureConditions(taken({ startUtcMs, filter: filter(letter, widthNm, 21.5) }))!;
    expect(sky('L', 300).skyRatio).toBeGreaterThan(3);
    expect(sky('Ha', 7).skyRatio).toBeLessThan(0.6 * sky('L', 300).skyRatio);
    expect(sky('Ha', 7).rateShare).toBeGreaterThan(sky('L', 300).rateShare);
  });

  it('is none below the horizon, and else what the database takes', () =>
    fc.assert(
      fc.property(
        fc.double({ min: 0, max: 359.9, noNaN: true }),
        fc.double({ min: -89, max: 89, noNaN: true }),
        fc.integer({ min: 0, max: 365 * 24 }),
        (raDeg, decDeg, hour) => {
          const startUtcMs = Date.parse('2026-01-01T00:00:00Z') + hour * 3_600_000;
          const { altitudeDeg } = directionOf(site, { raDeg, decDeg }, startUtcMs + 60_000);
          const conditions = exposureConditions(taken({ target: { raDeg, decDeg }, startUtcMs }));
          if (altitudeDeg <= 0) return expect(conditions).toBeNull();
          expect(conditions!.airmass).toBeGreaterThanOrEqual(1);
          expect(conditions!.transparency).toBeGreaterThan(0);
          expect(conditions!.transparency).toBeLessThanOrEqual(1);
          expect(conditions!.skyRatio).toBeGreaterThan(0);
          expect(conditions!.rateShare).toBeGreaterThanOrEqual(0);
        },
      ),
      { numRuns: 60 },
    ));
});

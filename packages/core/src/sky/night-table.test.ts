import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { angleBetweenDeg } from './frame-of-date.ts';
import { directionOf } from './altitude.ts';
import { luminaryDirection, moonSeparationDeg } from './sun-moon.ts';
import { momentOfSample, nightTable, targetAltitudes, targetSamples } from './night-table.ts';

const ARCSEC = 1 / 3600;
const SITE = { latitudeDeg: -31.2, longitudeDeg: -70.1, elevationM: 1900 };
const START = Date.parse('2029-03-01T23:00:00Z');
const table = nightTable(SITE, { startUtcMs: START, endUtcMs: START + 10 * 3_600_000 }, 120);

describe('night tables', () => {
  it('agree with fresh positions of sun and moon to an arcsecond', () => {
    for (let i = 0; i < table.length; i += 17) {
      const utcMs = momentOfSample(table, i);
      expect(Math.abs(table.sunAltitudeDeg[i] - luminaryDirection(SITE, 'sun', utcMs).altitudeDeg)).toBeLessThan(
        ARCSEC,
      );
      expect(Math.abs(table.moonAltitudeDeg[i] - luminaryDirection(SITE, 'moon', utcMs).altitudeDeg)).toBeLessThan(
        ARCSEC,
      );
    }
  });

  it('agree with fresh positions of any target', () => {
    const place = fc.record({
      raDeg: fc.double({ min: 0, max: 359.99, noNaN: true }),
      decDeg: fc.double({ min: -89.9, max: 89.9, noNaN: true }),
    });
    fc.assert(
      fc.property(place, fc.integer({ min: 0, max: table.length - 1 }), (position, i) => {
        const samples = targetSamples(table, position);
        const utcMs = momentOfSample(table, i);
        const fresh = directionOf(SITE, position, utcMs);
        expect(Math.abs(samples.altitudeDeg[i] - fresh.altitudeDeg)).toBeLessThan(ARCSEC);
        expect(Math.abs(samples.moonSeparationDeg[i] - moonSeparationDeg(SITE, position, utcMs))).toBeLessThan(
          2 * ARCSEC,
        );
        expect(Math.abs(targetAltitudes(table, position)[i] - fresh.altitudeDeg)).toBeLessThan(ARCSEC);
      }),
      { numRuns: 60 },
    );
  });

  it('measure small angles without losing them', () => {
    expect(angleBetweenDeg([1, 0, 0], [1, 1e-9, 0])).toBeCloseTo(5.7e-8, 9);
  });
});

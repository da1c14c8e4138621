import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { observingNight } from '../time/nights.ts';
import { directionOf } from './altitude.ts';
import {
  darkIntervals,
  darkMoonlessIntervals,
  hoursOf,
  luminaryAltitude,
  moonCrossings,
  sunPassage,
  targetAltitude,
  transitsOf,
} from './events.ts';
import { luminaryDirection, RISE_SET_ALTITUDE_DEG } from './sun-moon.ts';

const STATION = { latitudeDeg: -31.62, longitudeDeg: 137.85, elevationM: 610 };
const NORTH = { latitudeDeg: 70.1, longitudeDeg: 26.9, elevationM: 150 };
const night = (nightDate: string) => observingNight(nightDate, 'Australia/Adelaide');
const ALTITUDE_TOLERANCE_DEG = 1e-4;

describe('sun passages', () => {
  it('stand at the asked altitude, for any depth', () => {
    fc.assert(
      fc.property(fc.double({ min: -35, max: -1, noNaN: true }), fc.integer({ min: 0, max: 364 }), (levelDeg, day) => {
        const date = new Date(Date.UTC(2027, 0, 1 + day)).toISOString().slice(0, 10);
        const { duskUtcMs, dawnUtcMs } = sunPassage(STATION, night(date), levelDeg);
        for (const utcMs of [duskUtcMs, dawnUtcMs]) {
          if (utcMs !== null)
            expect(Math.abs(luminaryDirection(STATION, 'sun', utcMs).altitudeDeg - levelDeg)).toBeLessThan(
              ALTITUDE_TOLERANCE_DEG,
            );
        }
      }),
      { numRuns: 40 },
    );
  });

  it('follow one another: sunset, dusks of growing depth, dawns back, sunrise', () => {
    const passages = [-0.833, -6, -12, -18].map((level) => sunPassage(STATION, night('2027-03-10'), level));
    const moments = [...passages.map((p) => p.duskUtcMs!), ...[...passages].reverse().map((p) => p.dawnUtcMs!)];
    expect([...moments].sort((a, b) => a - b)).toEqual(moments);
  });

  it('do not happen in the polar day, nor darkness', () => {
    const summer = observingNight('2027-06-21', 'Europe/Helsinki');
    expect(sunPassage(NORTH, summer, -0.833)).toEqual({ duskUtcMs: null, dawnUtcMs: null });
    expect(darkIntervals(NORTH, summer)).toEqual([]);
  });

  it('do not happen in the polar night either, which is not dark all day', () => {
    const winter = observingNight('2027-12-21', 'Europe/Helsinki');
    expect(sunPassage(NORTH, winter, -0.833)).toEqual({ duskUtcMs: null, dawnUtcMs: null });
    expect(hoursOf(darkIntervals(NORTH, winter))).toBeGreaterThan(10);
    expect(hoursOf(darkIntervals(NORTH, winter))).toBeLessThan(18);
  });
});

describe('darkness', () => {
  it('without the moon is part of darkness', () => {
    for (const date of ['2027-01-08', '2027-01-15', '2027-01-22', '2027-01-29']) {
      const dark = darkIntervals(STATION, night(date));
      const moonless = darkMoonlessIntervals(STATION, night(date));
      expect(hoursOf(moonless)).toBeLessThanOrEqual(hoursOf(dark) + 1e-9);
      for (const part of moonless)
        expect(dark.some((whole) => part.startUtcMs >= whole.startUtcMs && part.endUtcMs <= whole.endUtcMs)).toBe(true);
    }
  });

  it('is longest at the winter solstice of the hemisphere', () => {
    expect(hoursOf(darkIntervals(STATION, night('2027-06-21')))).toBeGreaterThan(
      hoursOf(darkIntervals(STATION, night('2027-12-21'))) + 3,
    );
  });
});

describe('the moon', () => {
  it('rises and sets in turn, near 50 minutes later each day', () => {
    const rises = Array.from(
      { length: 8 },
      (_, i) => moonCrossings(STATION, night(`2027-02-0${i + 1}`), -0.833).find((crossing) => crossing.rising)?.utcMs,
    ).filter((utcMs) => utcMs !== undefined);
    for (let i = 1; i < rises.length; i++) {
      const laterMin = (rises[i] - rises[i - 1]) / 60_000 - 1440;
      expect(laterMin).toBeGreaterThan(20);
      expect(laterMin).toBeLessThan(90);
    }
  });
});

describe('transits', () => {
  it('are where a target is highest, on the meridian', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0, max: 359.9, noNaN: true }),
        fc.double({ min: -85, max: 50, noNaN: true }),
        (raDeg, decDeg) => {
          const position = { raDeg, decDeg };
          const span = night('2027-04-04');
          for (const utcMs of transitsOf(STATION, position, span)) {
            const { azimuthDeg, altitudeDeg } = directionOf(STATION, position, utcMs);
            const offMeridian = Math.min(azimuthDeg, Math.abs(azimuthDeg - 180), 360 - azimuthDeg);
            expect(offMeridian * Math.cos((altitudeDeg * Math.PI) / 180)).toBeLessThan(0.001);
            const curve = targetAltitude(STATION, position, span);
            expect(curve(utcMs)).toBeGreaterThanOrEqual(curve(utcMs + 600_000) - 1e-6);
            expect(curve(utcMs)).toBeGreaterThanOrEqual(curve(utcMs - 600_000) - 1e-6);
          }
        },
      ),
      { numRuns: 40 },
    );
  });

  it('come once or twice in a night of 23 to 25 hours', () => {
    for (let raDeg = 0; raDeg < 360; raDeg += 15) {
      const count = transitsOf(STATION, { raDeg, decDeg: -20 }, night('2027-04-03')).length;
      expect([1, 2]).toContain(count);
    }
  });
});

it('altitudes of sun and moon as functions agree with fresh positions', () => {
  const span = night('2027-05-05');
  for (const luminary of ['sun', 'moon'] as const) {
    const altitude = luminaryAltitude(STATION, luminary, span);
    for (let utcMs = span.startUtcMs; utcMs < span.endUtcMs; utcMs += 3_000_000)
      expect(Math.abs(altitude(utcMs) - luminaryDirection(STATION, luminary, utcMs).altitudeDeg)).toBeLessThan(
        ALTITUDE_TOLERANCE_DEG,
      );
  }
});

describe('a night without a day', () => {
  const site = { latitudeDeg: 85, longitudeDeg: 20, elevationM: 10 };
  const night = observingNight('2026-12-15', 'UTC');
  it('is dark from noon to noon', () => {
    expect(darkIntervals(site, night, -12)).toEqual([{ startUtcMs: night.startUtcMs, endUtcMs: night.endUtcMs }]);
  });
  it('has moonless hours that begin where the moon sets', () => {
    const place = { latitudeDeg: -31, longitudeDeg: 138, elevationM: 300 };
    const other = observingNight('2026-10-20', 'Australia/Adelaide');
    const sets = moonCrossings(place, other, RISE_SET_ALTITUDE_DEG).filter(({ rising }) => !rising);
    const [first] = darkMoonlessIntervals(place, other).filter(({ startUtcMs }) => startUtcMs > sets[0].utcMs - 1000);
    expect(Math.abs(first.startUtcMs - sets[0].utcMs)).toBeLessThan(1000);
  });
});

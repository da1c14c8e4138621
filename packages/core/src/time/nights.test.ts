import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { clockTimeInNight, nightDateAt, nightDatePlus, observingNight } from './nights.ts';

const ADELAIDE = 'Australia/Adelaide';
const HOUR_MS = 3_600_000;
const hoursOf = (nightDate: string, zone: string): number => {
  const night = observingNight(nightDate, zone);
  return (night.endUtcMs - night.startUtcMs) / HOUR_MS;
};

describe('observing nights', () => {
  it('run from local noon to local noon', () => {
    expect(new Date(observingNight('2026-11-23', ADELAIDE).startUtcMs).toISOString()).toBe('2026-11-23T01:30:00.000Z');
  });

  // Clocks in South Australia go forward on the first Sunday of October and back on the first Sunday of April.
  it.each([
    ['2026-10-03', 23],
    ['2026-04-04', 25],
    ['2026-07-01', 24],
  ])('of %s last %d hours where clocks change', (nightDate, hours) => expect(hoursOf(nightDate, ADELAIDE)).toBe(hours));

  it('are named by the evening, also after midnight', () => {
    expect(nightDateAt(Date.parse('2026-11-23T17:00:00Z'), ADELAIDE)).toBe('2026-11-23');
  });

  it('contain every moment that is named after them', () => {
    const zones = fc.constantFrom(ADELAIDE, 'Europe/Bucharest', 'America/Santiago', 'Pacific/Auckland', 'UTC');
    fc.assert(
      fc.property(
        fc.integer({ min: Date.parse('2024-01-01'), max: Date.parse('2035-12-31') }),
        zones,
        (utcMs, zone) => {
          const night = observingNight(nightDateAt(utcMs, zone), zone);
          expect(utcMs).toBeGreaterThanOrEqual(night.startUtcMs);
          expect(utcMs).toBeLessThan(night.endUtcMs);
        },
      ),
    );
  });

  it('follow one another without a gap', () => {
    for (let i = 0; i < 400; i++) {
      const here = nightDatePlus('2026-01-01', i);
      expect(observingNight(here, ADELAIDE).endUtcMs).toBe(observingNight(nightDatePlus(here, 1), ADELAIDE).startUtcMs);
    }
  });

  it('place a clock time before noon on the following day', () => {
    const night = observingNight('2026-11-23', ADELAIDE);
    expect(new Date(clockTimeInNight(night, 90, ADELAIDE)).toISOString()).toBe('2026-11-23T15:00:00.000Z');
    expect(new Date(clockTimeInNight(night, 21 * 60, ADELAIDE)).toISOString()).toBe('2026-11-23T10:30:00.000Z');
  });

  it.each(['2026-2-3', 'tonight', '2026-13-01'])('refuse the date %s', (nightDate) => {
    expect(() => observingNight(nightDate, ADELAIDE)).toThrow(expect.objectContaining({ code: 'NIGHT_DATE_INVALID' }));
  });

  it('refuse an unknown zone', () => {
    expect(() => observingNight('2026-11-23', 'Mars/Olympus')).toThrow(
      expect.objectContaining({ code: 'TIME_ZONE_UNKNOWN' }),
    );
  });
});

// Adelaide's clocks go back at 03:00 on 5 April 2026: half past two comes at 16:00 and at 17:00 UTC.
it.each([
  [150, '2026-04-04T16:00:00.000Z'],
  [120, '2026-04-04T15:30:00.000Z'],
  [180, '2026-04-04T17:30:00.000Z'],
  [90, '2026-04-04T15:00:00.000Z'],
])('a clock time that occurs twice means the first: %d minutes after midnight', (minutes, expected) => {
  const night = observingNight('2026-04-04', 'Australia/Adelaide');
  expect(new Date(clockTimeInNight(night, minutes, 'Australia/Adelaide')).toISOString()).toBe(expected);
});
it('on an island whose clocks go back by half an hour, too', () => {
  const night = observingNight('2026-04-04', 'Australia/Lord_Howe');
  const at = new Date(clockTimeInNight(night, 105, 'Australia/Lord_Howe')).toISOString();
  expect(at).toBe('2026-04-04T14:45:00.000Z');
});

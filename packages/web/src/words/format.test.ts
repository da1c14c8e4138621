import { describe, expect, it } from '@jest/globals';
import { DateTime } from 'luxon';
import { clock, clockSeconds, count, dayOf, degrees, duration, nightAfter } from './format.ts';

describe('times and quantities', () => {
  it('show a clock in the named zone', () =>
    expect(clock(Date.parse('2026-11-23T11:35:00Z'), 'Australia/Adelaide')).toBe('22:05'));
  it('show a clock on both sides of a change of the zone, whatever was asked before', () => {
    const changeUtcMs = Date.parse('2026-10-03T16:30:00Z');
    const times = [-60_000, 0, 60_000, -60_000].map((ms) => clock(changeUtcMs + ms, 'Australia/Adelaide'));
    expect(times).toEqual(['01:59', '03:00', '03:01', '01:59']);
    for (const zone of ['UTC', 'Asia/Kathmandu', 'America/St_Johns', 'Australia/Lord_Howe'])
      for (let i = 0; i < 400; i++) {
        const utcMs = changeUtcMs + i * 78_437_000;
        expect(clockSeconds(utcMs, zone)).toBe(DateTime.fromMillis(utcMs, { zone }).toFormat('HH:mm:ss'));
      }
  });
  it('show nothing as a dash', () => expect(clock(null, 'UTC')).toBe('—'));
  it('name a night by its evening', () => expect(dayOf('2026-12-03')).toBe('Thu 3 Dec'));
  it('step over the end of a year', () => expect(nightAfter('2026-12-31', 1)).toBe('2027-01-01'));
  it.each([
    [0, '0 min'],
    [59 * 60, '59 min'],
    [125 * 60, '2 h 05 min'],
  ])('%d s last %s', (sec, words) => expect(duration(sec)).toBe(words));
  it('use a true minus', () => expect(degrees(-31.25, 2)).toBe('−31.25°'));
  it('keep whole counts whole', () => expect([count(12), count(12.5)]).toEqual(['12', '12.5']));
});

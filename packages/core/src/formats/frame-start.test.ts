import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { DAY_MS, HOUR_MS } from '../units.ts';
import type { FitsCard } from './fits-header.ts';
import { startOf } from './frame-start.ts';

const ZONE = 'Australia/Adelaide';
const read = (values: Readonly<Record<string, string | number>>, comment = '') => {
  const cards: FitsCard[] = Object.entries(values).map(([keyword, value]) => ({ keyword, value, comment }));
  const doubts: string[] = [];
  return { start: startOf(cards, ZONE, doubts), doubts };
};
const iso = (text: string): number => Date.parse(text);
const mjdOf = (utcMs: number): number => utcMs / DAY_MS + 40_587;

describe('the start of an exposure', () => {
  it.each([
    ['a full date', { 'DATE-OBS': '2026-10-11T13:04:05.250' }, '2026-10-11T13:04:05.250Z', 1],
    ['a date that says it is universal', { 'DATE-OBS': '2026-10-11T13:04:05Z' }, '2026-10-11T13:04:05Z', 1000],
    ['a date and a time of day', { 'DATE-OBS': '2026-10-11', UT: '13:04:05.5' }, '2026-10-11T13:04:05.500Z', 100],
    ['the form before 1997', { 'DATE-OBS': '11/10/2026', 'TIME-OBS': '13:04:05' }, '2026-10-11T13:04:05Z', 1000],
    ['a Julian date alone', { JD: 2_461_324.5 }, '2026-10-11T00:00:00Z', 1000],
    ['a modified Julian date alone', { 'MJD-OBS': 61_323.5 }, '2026-10-10T12:00:00Z', 1000],
    ['an empty date beside a Julian date', { 'DATE-OBS': ' ', JD: 2_461_324.5 }, '2026-10-11T00:00:00Z', 1000],
  ])('is read from %s', (_, values, expected, stepMs) => {
    const { start, doubts } = read(values as Record<string, string | number>);
    expect(start).toEqual({ utcMs: iso(expected), stepMs });
    expect(doubts).toEqual([]);
  });

  it('has its century guessed and said', () => {
    expect(read({ 'DATE-OBS': '11/10/26', UT: '01:00:00' })).toEqual({
      start: { utcMs: iso('2026-10-11T01:00:00Z'), stepMs: 1000 },
      doubts: ['DATE-OBS has a two-digit year, read as 2026'],
    });
    expect(read({ 'DATE-OBS': '11/10/95', UT: '01:00:00' }).start!.utcMs).toBe(iso('1995-10-11T01:00:00Z'));
  });

  it('is local where its comment says so, in the observatory’s zone', () => {
    const { start, doubts } = read({ 'DATE-OBS': '2026-10-11T23:00:00' }, 'local time of start');
    // Adelaide is 10 h 30 min ahead in October.
    expect(start!.utcMs).toBe(iso('2026-10-11T12:30:00Z'));
    expect(doubts).toEqual([`DATE-OBS is local time; read in ${ZONE}`]);
  });

  it('is none, and says why, where nothing tells the time', () => {
    expect(read({})).toEqual({ start: null, doubts: [] });
    expect(read({ 'DATE-OBS': '2026-10-11' })).toEqual({
      start: null,
      doubts: ['DATE-OBS has no time of day and no other card gives one'],
    });
    expect(read({ 'DATE-OBS': 'yesterdayT' })).toEqual({
      start: null,
      doubts: ['DATE-OBS "yesterdayT" can\'t be read'],
    });
  });

  it('is told from local time by the Julian date, whatever the zone', () => {
    const moments = fc.integer({ min: iso('2000-01-01T00:00:00Z'), max: iso('2045-01-01T00:00:00Z') });
    const quarters = fc.integer({ min: -48, max: 56 }).filter((quarter) => Math.abs(quarter) >= 2);
    fc.assert(
      fc.property(moments, quarters, (ms, quarter) => {
        const utcMs = Math.round(ms / 1000) * 1000;
        const offsetMs = (quarter * HOUR_MS) / 4;
        const written = new Date(utcMs + offsetMs).toISOString().slice(0, 19);
        const { start, doubts } = read({ 'DATE-OBS': written, 'MJD-OBS': mjdOf(utcMs) });
        expect(start).toEqual({ utcMs, stepMs: 1000 });
        expect(doubts).toHaveLength(1);
      }),
    );
  });

  it('is taken as written where the Julian date is off by less than a zone', () => {
    const utcMs = iso('2026-10-11T13:00:00Z');
    fc.assert(
      fc.property(fc.integer({ min: -1000, max: 1000 }), (offSec) => {
        const { start, doubts } = read({ 'DATE-OBS': '2026-10-11T13:00:00', 'MJD-OBS': mjdOf(utcMs + offSec * 1000) });
        expect(start!.utcMs).toBe(utcMs);
        expect(doubts).toEqual([]);
      }),
    );
  });
});

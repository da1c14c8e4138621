import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { LIMIT_KEYS, limitRow, limitText, readLimit, typedLimit } from './limit-table.ts';

/** 28 November 2026. */
const TODAY = Date.UTC(2026, 10, 28) / 86_400_000;
const december3 = Date.UTC(2026, 11, 3) / 86_400_000;

describe('limits as text', () => {
  it.each([
    ['minAltitudeDeg', 32, '32°'],
    ['sunAltitudeMaxDeg', -17, '−17°'],
    ['minAltitudeDeg', null, 'off'],
    ['notBeforeClockMin', 65, '01:05'],
    ['moonlightToleranceMag', 1.2, '1.2 mag'],
    ['moonSeparationMinDeg', 50, '50°'],
    ['firstNightDay', 20_000, '4 Oct 2024'],
  ] as const)('%s of %p is written %s', (key, value, words) => expect(limitText(key, value)).toBe(words));

  it.each([
    ['notBeforeClockMin', '22:00', 1320],
    ['notBeforeClockMin', '2200', 1320],
    ['notAfterClockMin', '3.30', 210],
    ['firstNightDay', '3 Dec', december3],
    ['firstNightDay', '3 December 2026', december3],
    ['lastNightDay', '2026-12-03', december3],
    ['lastNightDay', '3. dec', december3],
    ['sunAltitudeMaxDeg', '−17°', -17],
    ['moonSeparationMinDeg', '50°', 50],
    ['moonlightToleranceMag', '1,2 mag', 1.2],
    ['minAltitudeDeg', 'OFF', null],
    ['minAltitudeDeg', '', null],
  ] as const)('%s typed as "%s" is %p', (key, text, value) => expect(readLimit(key, text, TODAY)).toBe(value));

  it.each([
    ['notBeforeClockMin', '25:00', 'LIMIT_UNREADABLE'],
    ['notBeforeClockMin', 'soon', 'LIMIT_UNREADABLE'],
    ['firstNightDay', '31 Feb', 'LIMIT_UNREADABLE'],
    ['firstNightDay', '12', 'LIMIT_UNREADABLE'],
    ['minAltitudeDeg', '30 m', 'LIMIT_UNREADABLE'],
    ['minAltitudeDeg', '95', 'LIMIT_OUT_OF_RANGE'],
    ['sunAltitudeMaxDeg', '3', 'LIMIT_OUT_OF_RANGE'],
  ] as const)('%s typed as "%s" is refused', (key, text, code) =>
    expect(() => readLimit(key, text, TODAY)).toThrow(expect.objectContaining({ code })),
  );

  it('take a date without a year as the next one, or the one just gone', () => {
    const january = Date.UTC(2027, 0, 10) / 86_400_000;
    const october = Date.UTC(2026, 9, 10) / 86_400_000;
    expect(readLimit('lastNightDay', '10 Jan', TODAY)).toBe(january);
    expect(readLimit('firstNightDay', '10 Oct', TODAY)).toBe(october);
  });

  it.each(LIMIT_KEYS)('%s reads what it writes, over its whole range', (key) => {
    const { range, typed } = limitRow(key);
    const values =
      typed === 'number'
        ? fc.double({ min: range[0], max: range[1], noNaN: true })
        : fc.integer({ min: range[0], max: range[1] });
    fc.assert(
      fc.property(values, (value) =>
        expect(readLimit(key, typedLimit(key, value), TODAY)).toBe(value === 0 ? 0 : value),
      ),
    );
  });
});

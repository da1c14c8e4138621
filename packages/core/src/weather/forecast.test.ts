import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { CoreError } from '../errors.ts';
import { FORECAST_COLUMNS, parseForecast } from '../formats/forecast-text.ts';
import type { ForecastHour } from './forecast.ts';
import { nightOutlook } from './forecast.ts';

const HOUR = 3_600_000;
const dark = { startUtcMs: 10.5 * HOUR, endUtcMs: 18.5 * HOUR };
const source = (name: string, cloudShares: readonly number[], changes: Partial<ForecastHour> = {}): ForecastHour[] =>
  cloudShares.map((cloudShare, i) => ({
    source: name,
    utcMs: (10 + i) * HOUR,
    cloudShare,
    windMPerSec: 3,
    humidityShare: 0.5,
    ...changes,
  }));
const nine = (share: number): number[] => Array.from({ length: 9 }, () => share);

describe('the call of a night', () => {
  it('counts the dark part of each clear hour', () => {
    const outlook = nightOutlook(source('a', [0, 0, 0, 1, 1, 1, 1, 1, 0]), dark);
    expect(outlook.hoursDark).toBe(8);
    expect(outlook.hoursClear).toBe(3);
    expect(outlook.call).toBe('wait');
  });

  it('is what most sources lead to, and wait where none does', () => {
    const split = [...source('a', nine(0)), ...source('b', nine(1)), ...source('c', nine(0.2))];
    expect(nightOutlook(split, dark)).toMatchObject({ call: 'go', agreeing: 2, hoursClear: 8 });
    const torn = [...source('a', nine(0)), ...source('b', nine(1))];
    expect(nightOutlook(torn, dark)).toMatchObject({ call: 'wait', agreeing: 0 });
  });

  it('minds wind and humidity as it minds cloud', () => {
    expect(nightOutlook(source('a', nine(0), { windMPerSec: 20 }), dark).call).toBe('no_go');
    expect(nightOutlook(source('a', nine(0), { humidityShare: 0.97 }), dark).call).toBe('no_go');
  });

  it('is none without a source or without darkness', () => {
    expect(nightOutlook([], dark).call).toBeNull();
    expect(nightOutlook(source('a', nine(0)), null).call).toBeNull();
  });

  it('never expects more than there is', () => {
    fc.assert(
      fc.property(fc.array(fc.double({ min: 0, max: 1, noNaN: true }), { minLength: 1, maxLength: 9 }), (shares) => {
        const { hoursClear, hoursDark } = nightOutlook(source('a', shares), dark);
        expect(hoursClear).toBeLessThanOrEqual(hoursDark + 1e-9);
      }),
    );
  });
});

describe('a forecast as a file', () => {
  const csv = (line: string): string => `${FORECAST_COLUMNS.join(',')}\n${line}`;
  const words = (text: string): string => {
    try {
      parseForecast(text);
      return 'read';
    } catch (error) {
      return error instanceof CoreError ? error.message : String(error);
    }
  };

  it('is read or refused in words, whatever JSON it is', () =>
    fc.assert(
      fc.property(fc.array(fc.jsonValue(), { minLength: 1, maxLength: 4 }), (lines) => {
        expect(words(JSON.stringify(lines))).toMatch(/^Hour \d+/);
      }),
    ));

  it('is read or refused in words, whatever text it is', () =>
    fc.assert(
      fc.property(fc.string(), fc.string(), (head, tail) => {
        for (const text of [head, csv(tail), `[${tail}`]) expect(words(text)).not.toMatch(/^(Type|Range|Syntax)Error/);
      }),
    ));

  it('is read from CSV and JSON alike, hours cut to the full one', () => {
    const expected = [
      { source: 'a', utcMs: Date.parse('2026-10-11T22:00Z'), cloudShare: 0.4, windMPerSec: 3, humidityShare: 0.6 },
    ];
    expect(parseForecast(csv('a,2026-10-11T22:20,40,3,60'))).toEqual(expected);
    const json = [
      { source: 'a', hour_utc: '2026-10-11T22:20Z', cloud_percent: 40, wind_m_per_s: 3, humidity_percent: 60 },
    ];
    expect(parseForecast(JSON.stringify(json))).toEqual(expected);
  });

  it.each([
    ['source,hour_utc\na,b', 'The columns cloud_percent, wind_m_per_s, humidity_percent are missing'],
    [csv('a,tomorrow,40,3,60'), 'Hour 1: "tomorrow" is no time like 2026-10-11T22:00Z'],
    [csv('a,2026-10-11T22:00,140,3,60'), 'Hour 1: cloud_percent "140" is no number from 0 to 100'],
    [csv('a,2026-10-11T22:00,,3,60'), 'Hour 1: cloud_percent "" is no number from 0 to 100'],
    [csv(',2026-10-11T22:00,4,3,60'), 'Hour 1 names no source'],
    ['[nonsense', 'This begins like JSON but is none'],
    ['[]', 'There is no hour in it'],
  ])('names what is wrong with %j', (text, expected) => expect(words(text)).toBe(expected));
});

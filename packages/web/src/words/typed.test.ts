import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { typedClockMin, typedDate, typedNumber } from './typed.ts';

describe('a date as typed', () => {
  it.each([
    ['3 Dec', '2026-12-03'],
    ['3 December', '2026-12-03'],
    ['Thu 3 Dec', '2026-12-03'],
    ['3dec 2027', '2027-12-03'],
    ['3.12.', '2026-12-03'],
    ['3. 12. 2025', '2025-12-03'],
    ['2026-12-03', '2026-12-03'],
    ['3 Jan', '2027-01-03'],
    ['28 Aug', '2026-08-28'],
  ])('%s', (text, expected) => expect(typedDate(text, '2026-11-29')).toBe(expected));

  it.each(['soon', '31 Apr', '3 Foo', '2026-13-01', '12/03/2026', '0 Dec'])('%s is refused in words', (text) =>
    expect(() => typedDate(text, '2026-11-29')).toThrow(/write one like 3 Dec/),
  );

  it('empty is none; a leap day is in a leap year', () => {
    expect(typedDate('  ', '2026-11-29')).toBeNull();
    expect(typedDate('29 Feb', '2027-06-01')).toBe('2028-02-29');
  });

  it('written out comes back, whatever day is near', () =>
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 30_000 }), fc.integer({ min: 0, max: 30_000 }), (day, near) => {
        const iso = (days: number): string => new Date(days * 86_400_000).toISOString().slice(0, 10);
        const words = new Date(day * 86_400_000).toLocaleDateString('en-GB', { day: 'numeric', month: 'short', year: 'numeric', timeZone: 'UTC' }); // prettier-ignore
        expect(typedDate(words, iso(near))).toBe(iso(day));
      }),
    ));
});

it('times and numbers say what would be accepted', () => {
  expect([typedClockMin('17:00'), typedClockMin('0930'), typedNumber('−3,5', 'angle')]).toEqual([1020, 570, -3.5]);
  expect(() => typedClockMin('25:00')).toThrow(/like 17:00/);
  expect(() => typedNumber('many', 'count')).toThrow('"many" is no count; write a number like 12.5');
});

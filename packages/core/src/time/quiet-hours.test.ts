import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { DateTime } from 'luxon';
import { quietUntilUtcMs } from './quiet-hours.ts';

const at = (text: string, zone = 'Australia/Adelaide'): number => DateTime.fromISO(text, { zone }).toMillis();
const until = (text: string, fromMin: number, toMin: number): string =>
  DateTime.fromMillis(quietUntilUtcMs(at(text), { fromMin, toMin }, 'Australia/Adelaide'), { zone: 'Australia/Adelaide' }).toFormat('dd HH:mm'); // prettier-ignore

describe('quiet hours', () => {
  it.each([
    ['2026-11-29T21:59', 1320, 420, '29 21:59'],
    ['2026-11-29T22:00', 1320, 420, '30 07:00'],
    ['2026-11-30T03:30', 1320, 420, '30 07:00'],
    ['2026-11-30T07:00', 1320, 420, '30 07:00'],
    ['2026-11-30T12:30', 720, 780, '30 13:00'],
    ['2026-11-30T13:00', 720, 780, '30 13:00'],
  ] as const)('%s with %i to %i is %s', (text, fromMin, toMin, expected) =>
    expect(until(text, fromMin, toMin)).toBe(expected),
  );

  it('end at the clock time where clocks change in between', () => {
    // Clocks go forward at 2:00 on 4 October 2026 there: the night is an hour shorter.
    const end = quietUntilUtcMs(at('2026-10-03T23:00'), { fromMin: 1320, toMin: 420 }, 'Australia/Adelaide');
    expect((end - at('2026-10-03T23:00')) / 3_600_000).toBe(7);
  });

  it('never put a message off by more than a day, and let it go at their end', () =>
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 4e12 }),
        fc.integer({ min: 0, max: 1439 }),
        fc.integer({ min: 0, max: 1439 }),
        (utcMs, fromMin, toMin) => {
          // prettier-ignore
          fc.pre(fromMin !== toMin);
          const end = quietUntilUtcMs(utcMs, { fromMin, toMin }, 'America/Toronto');
          expect(end - utcMs).toBeGreaterThanOrEqual(0);
          expect(end - utcMs).toBeLessThanOrEqual(25 * 3_600_000);
          expect(quietUntilUtcMs(end, { fromMin, toMin }, 'America/Toronto')).toBe(end);
        },
      ),
    ));
});

import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import type { FitCosts, FittedRow, OpenStretches } from './fit-together.ts';
import { fitTogether, MOST_FITTED_ROWS } from './fit-together.ts';

const FREE: FitCosts = { arrivalSec: 0, filterChangeSec: 0 };
const stretch = (fromMin: number, toMin: number) => ({ startUtcMs: fromMin * 60_000, endUtcMs: toMin * 60_000 });
const row = (cycleSec: number, share = 1): FittedRow => ({ cycleSec, share });

describe('several filters in the same hours', () => {
  it('share them as they are wanted', () => {
    // 100 minutes, three filters of one minute, twice as many of the first: 50, 25, 25.
    const night = [[stretch(0, 100)], [stretch(0, 100)], [stretch(0, 100)]];
    expect(fitTogether([row(60, 2), row(60), row(60)], [night], FREE)).toEqual([50, 25, 25]);
  });
  it('are bound by the one that is open least', () => {
    // The second is open for 10 of 100 minutes: ten of it, so ten of the first; rounding leaves nothing to add for it.
    expect(fitTogether([row(60), row(60)], [[[stretch(0, 100)], [stretch(90, 100)]]], FREE)).toEqual([11, 10]);
  });
  it('pay for arriving and for changes of filter in each night', () => {
    const night = [[stretch(0, 60)], [stretch(0, 60)]];
    const costs = { arrivalSec: 300, filterChangeSec: 60 };
    // 3600 − 300 − 60 = 3240 s a night: 27 each of 60 s, 54 in two nights.
    expect(fitTogether([row(60), row(60)], [night], costs)).toEqual([27, 27]);
    expect(fitTogether([row(60), row(60)], [night, night], costs)).toEqual([54, 54]);
  });
  it('leave out what is never open, and bind the others by nothing of it', () => {
    expect(fitTogether([row(60), row(60)], [[[stretch(0, 10)], []]], FREE)).toEqual([10, 0]);
    expect(fitTogether([row(60)], [], FREE)).toEqual([0]);
  });
  it('are no more than a wheel holds', () =>
    expect(() => fitTogether(Array(MOST_FITTED_ROWS + 1).fill(row(1)), [], FREE)).toThrow('at most'));

  it('can really be taken: minutes handed out one by one hold them, and not one share more', () => {
    const window = fc.tuple(fc.nat(12), fc.nat(12)).map(([a, b]) => [stretch(Math.min(a, b), Math.max(a, b))]);
    fc.assert(
      fc.property(
        fc.array(fc.tuple(window, fc.integer({ min: 1, max: 3 })), { minLength: 1, maxLength: 4 }),
        (given) => {
          const night: OpenStretches = given.map(([open]) => open.filter((one) => one.endUtcMs > one.startUtcMs));
          const rows = given.map(([, share]) => row(60, share));
          const counts = fitTogether(rows, [night], FREE);
          expect(isTakeable(night, counts)).toBe(true);
          const more = counts.map((count, i) => (night[i].length > 0 ? count + rows[i].share : 0));
          if (more.some((count) => count > 0)) expect(isTakeable(night, more)).toBe(false);
        },
      ),
      { numRuns: 300 },
    );
  });
});

/** Whether whole minutes can be given to rows of one minute each, by augmenting paths. */
function isTakeable(night: OpenStretches, counts: readonly number[]): boolean {
  const wants = counts.flatMap((count, i) => Array<number>(count).fill(i));
  const takenBy = new Map<number, number>();
  const isOpen = (rowIndex: number, minute: number): boolean =>
    night[rowIndex].some(
      ({ startUtcMs, endUtcMs }) => startUtcMs <= minute * 60_000 && (minute + 1) * 60_000 <= endUtcMs,
    );
  const seat = (want: number, tried: Set<number>): boolean => {
    for (let minute = 0; minute < 12; minute++) {
      if (tried.has(minute) || !isOpen(wants[want], minute)) continue;
      tried.add(minute);
      const other = takenBy.get(minute);
      if (other === undefined || seat(other, tried)) {
        takenBy.set(minute, want);
        return true;
      }
    }
    return false;
  };
  return wants.every((_, want) => seat(want, new Set()));
}

import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { countForHours, goalTime, hoursForCount } from './goal-time.ts';
import { DEFAULT_STEP_COSTS, exposureCycleSec } from './time-cost.ts';
import { exposuresThatFit } from './what-fits.ts';

const settings = fc.record({
  exposureSec: fc.integer({ min: 1, max: 1800 }),
  pauseSec: fc.constantFrom(0, 5),
  ditherEvery: fc.integer({ min: 0, max: 10 }),
});

describe('counts and hours', () => {
  it('3 h of 180 s are 60 exposures, and 60 exposures 3 h', () => {
    expect(countForHours(3, 180)).toBe(60);
    expect(hoursForCount(60, 180)).toBe(3);
  });
  it('a count for hours reaches them, and one less doesn’t', () =>
    fc.assert(
      fc.property(
        fc.double({ min: 0, max: 500, noNaN: true }),
        fc.integer({ min: 1, max: 3600 }),
        (hours, exposureSec) => {
          const count = countForHours(hours, exposureSec);
          expect(hoursForCount(count, exposureSec)).toBeGreaterThanOrEqual(hours - 1e-9);
          if (count > 0) expect(hoursForCount(count - 1, exposureSec)).toBeLessThan(hours);
        },
      ),
    ));
  it('a count is the same after a way through hours', () =>
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 100_000 }), fc.integer({ min: 1, max: 3600 }), (count, exposureSec) =>
        expect(countForHours(hoursForCount(count, exposureSec), exposureSec)).toBe(count),
      ),
    ));
  it('take their exposures and, apart from them, their overhead', () =>
    fc.assert(
      fc.property(settings, fc.integer({ min: 0, max: 5000 }), (one, count) => {
        const { exposingSec, overheadSec } = goalTime(DEFAULT_STEP_COSTS, one, count);
        expect(exposingSec).toBe(count * one.exposureSec);
        expect(exposingSec + overheadSec).toBeCloseTo(count * exposureCycleSec(DEFAULT_STEP_COSTS, one), 4);
        expect(overheadSec).toBeGreaterThanOrEqual(0);
      }),
    ));
});

describe('what fits', () => {
  const costs = fc.record({
    cycleSec: fc.integer({ min: 60, max: 700 }),
    exposureSec: fc.integer({ min: 30, max: 600 }),
    changeSec: fc.integer({ min: 0, max: 300 }),
  });
  it('is found one exposure after the other', () =>
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: 0, max: 40_000 }), { maxLength: 5 }),
        costs,
        (nights, { cycleSec, exposureSec, changeSec }) => {
          const cycle = Math.max(cycleSec, exposureSec);
          let fits = 0;
          for (const sec of nights) for (let at = changeSec; at + exposureSec <= sec; at += cycle) fits += 1;
          expect(exposuresThatFit(nights, { cycleSec: cycle, exposureSec, changeSec })).toBe(fits);
        },
      ),
    ));
});

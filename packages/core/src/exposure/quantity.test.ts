import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { countForHours, goalTime, hoursForCount } from './goal-time.ts';
import { parseWish } from './quantity.ts';
import { DEFAULT_STEP_COSTS, exposureCycleSec } from './time-cost.ts';

describe('a wish as typed', () => {
  it.each([
    ['60', 60],
    ['3h', 60],
    ['3 h', 60],
    ['2 h 30 m', 50],
    ['180s × 60', 60],
    ['90 x 120', 60],
    ['45 min', 15],
    ['open', null],
    ['0', 0],
  ])('%s through 180 s is %p', (text, count) => expect(parseWish(text, 180).count).toBe(count));

  it.each(['', 'many', '-5', '3 weeks'])('%s is refused with what would be accepted', (text) => {
    expect(() => parseWish(text, 180)).toThrow(/write a count like 60/);
  });

  it('says how it was read', () => expect(parseWish('3h', 180).words).toBe('60 × 180 s = 3.00 h'));
});

describe('counts and hours', () => {
  it('go there and back', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 5000 }), fc.integer({ min: 1, max: 1800 }), (count, exposureSec) =>
        expect(countForHours(hoursForCount(count, exposureSec), exposureSec)).toBe(count),
      ),
    );
  });

  it('show overhead apart from exposing', () => {
    const settings = { exposureSec: 120, pauseSec: 0, ditherEvery: 3 };
    const { exposingSec, overheadSec } = goalTime(DEFAULT_STEP_COSTS, settings, 30);
    expect(exposingSec).toBe(3600);
    expect(overheadSec).toBeGreaterThan(200);
    expect(exposingSec + overheadSec).toBeCloseTo(30 * exposureCycleSec(DEFAULT_STEP_COSTS, settings), 6);
  });

  it('take dithering off as a value', () => {
    const off = exposureCycleSec(DEFAULT_STEP_COSTS, { exposureSec: 60, pauseSec: 0, ditherEvery: 0 });
    const each = exposureCycleSec(DEFAULT_STEP_COSTS, { exposureSec: 60, pauseSec: 0, ditherEvery: 1 });
    expect(each - off).toBeGreaterThan(9);
  });
});

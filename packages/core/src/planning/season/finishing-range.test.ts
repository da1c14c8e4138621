import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { finishingRange } from './finishing-range.ts';

const times = (night: number, count: number): number[] => new Array<number>(count).fill(night);

describe('the range of finishing nights', () => {
  it('leaves off a rare end of its tenths while it holds in eight of ten', () => {
    // From one in ten to nine in ten these are nights 4 to 9, which hold 95 of 100.
    const ends = [...times(2, 5), ...times(4, 10), ...times(5, 50), ...times(6, 24), ...times(9, 11)];
    expect(finishingRange(ends, 100)).toEqual({ early: 5, middle: 5, late: 9 });
    expect(finishingRange([...times(3, 9), ...times(5, 91)], 100)).toEqual({ early: 5, middle: 5, late: 5 });
  });

  it('has no late end, and no middle, where too many seasons don’t end it', () => {
    expect(finishingRange([...times(3, 20), ...times(7, 40)], 100)).toEqual({ early: 3, middle: 7, late: null });
    expect(finishingRange(times(3, 20), 100)).toEqual({ early: 3, middle: null, late: null });
    expect(finishingRange([], 100)).toEqual({ early: null, middle: null, late: null });
    expect(finishingRange([], 0)).toEqual({ early: null, middle: null, late: null });
  });

  it('holds in at least eight of ten seasons, with the middle inside, and lies within the tenths (any ends)', () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 0, max: 30 }), { minLength: 1, maxLength: 200 }), (ends) => {
        const { early, middle, late } = finishingRange(ends, ends.length);
        const sorted = ends.toSorted((a, b) => a - b);
        const inside = ends.filter((night) => night >= early! && night <= late!).length;
        expect(inside).toBeGreaterThanOrEqual(0.8 * ends.length);
        expect(early! <= middle! && middle! <= late!).toBe(true);
        expect(early!).toBeGreaterThanOrEqual(sorted[Math.max(0, Math.ceil(0.1 * ends.length - 1e-9) - 1)]);
        expect(late!).toBeLessThanOrEqual(sorted[Math.ceil(0.9 * ends.length - 1e-9) - 1]);
      }),
    );
  });
});

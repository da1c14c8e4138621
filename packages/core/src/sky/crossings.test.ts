import { describe, expect, it } from '@jest/globals';
import { crossingsOf, extremeOf, intervalsBelow } from './crossings.ts';

const HOUR_MS = 3_600_000;
const wave = (utcMs: number): number => Math.sin((utcMs / (6 * HOUR_MS)) * 2 * Math.PI);
const DAY = { startUtcMs: 0, endUtcMs: 24 * HOUR_MS };

describe('crossings', () => {
  it('finds each crossing of a wave, rising and falling', () => {
    const found = crossingsOf(wave, 0.5, DAY);
    expect(found.map((crossing) => crossing.rising)).toEqual([true, false, true, false, true, false, true, false]);
    expect(found[0].utcMs).toBeCloseTo(0.5 * HOUR_MS, -1);
  });

  it('finds two crossings that hide between two samples', () => {
    const peak = (utcMs: number): number => 1 - ((utcMs - 3 * HOUR_MS - 123_456) / 60_000) ** 2;
    const found = crossingsOf(peak, 0, { startUtcMs: 0, endUtcMs: 6 * HOUR_MS });
    expect(found.map((crossing) => Math.round(crossing.utcMs / 1000))).toEqual([10863, 10983]);
  });

  it('turns crossings into stretches, cut at the ends', () => {
    expect(intervalsBelow(wave, 0, DAY)).toHaveLength(4);
    expect(intervalsBelow(() => -1, 0, DAY)).toEqual([DAY]);
    expect(intervalsBelow(() => 1, 0, DAY)).toEqual([]);
  });

  it('finds the lowest moment', () => {
    expect(extremeOf(wave, 'lowest', { startUtcMs: 0, endUtcMs: 6 * HOUR_MS }).utcMs / HOUR_MS).toBeCloseTo(4.5, 3);
  });
});

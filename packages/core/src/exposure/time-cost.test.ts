import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { DEFAULT_STEP_COSTS, exposureCycleSec, filterChangeSec, panelChangeSec } from './time-cost.ts';

const here = { raDeg: 10, decDeg: -30 };

describe('time between exposures', () => {
  it('is never shorter than exposure, pause and download', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 1800 }),
        fc.integer({ min: 0, max: 60 }),
        fc.integer({ min: 0, max: 20 }),
        (exposureSec, pauseSec, ditherEvery) => {
          const cycle = exposureCycleSec(DEFAULT_STEP_COSTS, { exposureSec, pauseSec, ditherEvery });
          expect(cycle).toBeGreaterThanOrEqual(exposureSec + pauseSec + DEFAULT_STEP_COSTS.downloadSec);
        },
      ),
    );
  });

  it('shares a dither among the exposures between two', () => {
    const cycle = (ditherEvery: number): number =>
      exposureCycleSec({ ...DEFAULT_STEP_COSTS, autofocusEveryMin: 0 }, { exposureSec: 100, pauseSec: 0, ditherEvery });
    expect(cycle(1) - cycle(0)).toBeCloseTo(10, 9);
    expect(cycle(5) - cycle(0)).toBeCloseTo(2, 9);
  });

  it('downloads a part of the sensor in its share of the time', () => {
    const costs = { ...DEFAULT_STEP_COSTS, autofocusEveryMin: 0, downloadSec: 20 };
    const cycle = (shareRead?: number) =>
      exposureCycleSec(costs, { exposureSec: 60, pauseSec: 0, ditherEvery: 0, shareRead });
    // 60 s + 20 s: 45 of them in an hour. A quarter of the sensor takes 5 s: 55.
    expect([cycle(), cycle(1), cycle(0.25)]).toEqual([80, 80, 65]);
    expect([3600 / cycle(), Math.floor(3600 / cycle(0.25))]).toEqual([45, 55]);
  });

  it('leaves autofocus out where it never runs by the clock', () => {
    const settings = { exposureSec: 3600, pauseSec: 0, ditherEvery: 0 };
    const hourly = exposureCycleSec(DEFAULT_STEP_COSTS, settings);
    const never = exposureCycleSec({ ...DEFAULT_STEP_COSTS, autofocusEveryMin: 0 }, settings);
    expect(hourly - never).toBeCloseTo(150, 0);
  });
});

describe('changes', () => {
  it('of panel take longer the further they are', () => {
    const near = panelChangeSec(DEFAULT_STEP_COSTS, here, { raDeg: 12, decDeg: -30 });
    const far = panelChangeSec(DEFAULT_STEP_COSTS, here, { raDeg: 190, decDeg: 30 });
    expect(far - near).toBeCloseTo((180 - 1.732) / 3, 0);
  });
  it('of panel are as long there as back', () => {
    const there = { raDeg: 100, decDeg: 12 };
    expect(panelChangeSec(DEFAULT_STEP_COSTS, here, there)).toBeCloseTo(
      panelChangeSec(DEFAULT_STEP_COSTS, there, here),
      9,
    );
  });
  it('of filter refocus unless both offsets are known', () => {
    expect(filterChangeSec(DEFAULT_STEP_COSTS, true)).toBe(8);
    expect(filterChangeSec(DEFAULT_STEP_COSTS, false)).toBe(158);
  });
});

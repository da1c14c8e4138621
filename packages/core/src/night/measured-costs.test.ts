import { describe, expect, it } from '@jest/globals';
import { measuredCosts } from './measured-costs.ts';

describe('what steps have taken', () => {
  it('is added up to what plans count, by the rarest of its parts', () => {
    const steps = [
      { kind: 'guide' as const, medianSec: 42, count: 9 },
      { kind: 'settle' as const, medianSec: 11, count: 40 },
      { kind: 'filter' as const, medianSec: 4, count: 30 },
    ];
    expect(measuredCosts(steps)).toEqual([
      { key: 'guidingStartSec', sec: 53, count: 9 },
      { key: 'filterChangeSec', sec: 4, count: 30 },
    ]);
  });
  it('is not said of what was measured a few times only', () =>
    expect(measuredCosts([{ kind: 'focus', medianSec: 90, count: 4 }])).toEqual([]));
});

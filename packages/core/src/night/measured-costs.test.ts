import { describe, expect, it } from '@jest/globals';
import { DEFAULT_STEP_COSTS } from '../exposure/time-cost.ts';
import { costsMeasured, learnedCosts, measuredCosts } from './measured-costs.ts';

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

describe('times that were measured', () => {
  const costs = { ...DEFAULT_STEP_COSTS, autofocusSec: 120, filterChangeSec: 8 };
  it('take the place of those set, in whole seconds, and leave the others', () =>
    expect(costsMeasured(costs, [{ key: 'autofocusSec', sec: 96.6 }])).toEqual({ ...costs, autofocusSec: 97 }));

  it('are offered only where they differ, and learned only where that is worth a revision', () => {
    expect([costsMeasured(costs, [{ key: 'filterChangeSec', sec: 8.2 }]), costsMeasured(costs, [])]).toEqual([null, null]); // prettier-ignore
    expect(costsMeasured(costs, [{ key: 'autofocusSec', sec: 118 }])).toMatchObject({ autofocusSec: 118 });
    expect(learnedCosts(costs, [{ key: 'autofocusSec', sec: 118 }])).toBeNull();
    expect(learnedCosts(costs, [{ key: 'autofocusSec', sec: 118 }, { key: 'filterChangeSec', sec: 12 }])).toMatchObject({ autofocusSec: 118, filterChangeSec: 12 }); // prettier-ignore
  });
});

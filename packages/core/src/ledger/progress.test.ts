import { describe, expect, it } from '@jest/globals';
import {
  countingInForce,
  acceptanceRate,
  creditShare,
  doneCount,
  doneShare,
  exposuresToPlan,
  isGoalDone,
  panelShare,
} from './progress.ts';

const tally = { accepted: 10, undecided: 5, rejected: 3, wanted: 20 };

describe('counting policies', () => {
  it('count what nobody has judged when all but rejected counts', () => expect(doneCount(tally, 'all')).toBe(15));
  it.each(['after_rules', 'after_person'] as const)('count only accepted %s', (policy) =>
    expect(doneCount(tally, policy)).toBe(10),
  );
  it('never count rejected', () => expect(doneCount({ ...tally, rejected: 99 }, 'all')).toBe(15));
});

describe('what planning asks for', () => {
  it('is wanted − accepted − q · undecided', () => expect(exposuresToPlan(tally, 'after_person', 0.9)).toBe(6));
  it('takes undecided for done when all counts', () => expect(exposuresToPlan(tally, 'all', 0.9)).toBe(5));
  it('asks for one more when one is rejected', () => {
    expect(exposuresToPlan({ ...tally, undecided: 4, rejected: 4 }, 'all', 0.9)).toBe(6);
  });
  it('tells nothing left tonight from finished', () => {
    const waiting = { accepted: 10, undecided: 10, rejected: 0, wanted: 19 };
    expect(exposuresToPlan(waiting, 'after_person', 0.9)).toBe(0);
    expect(isGoalDone(waiting, 'after_person')).toBe(false);
  });
  it('never ends for an open-ended goal', () => {
    expect(exposuresToPlan({ ...tally, wanted: null }, 'all', 1)).toBeGreaterThan(1000);
    expect(doneShare({ ...tally, wanted: null }, 'all')).toBe(0);
  });
  it('asks for nothing when nothing is wanted', () =>
    expect(exposuresToPlan({ ...tally, wanted: 0 }, 'all', 1)).toBe(0));
});

describe('credit', () => {
  it.each([
    [180, 180, 1],
    [181, 180, 1],
    [240, 180, 240 / 180],
    [90, 180, 0.5],
  ])('of %d s toward %d s is %d', (taken, goal, expected) => expect(creditShare(taken, goal)).toBeCloseTo(expected, 9));
  it('starts an acceptance rate at 0.9 and follows the history', () => {
    expect(acceptanceRate(0, 0)).toBeCloseTo(0.9, 9);
    expect(acceptanceRate(0, 200)).toBeLessThan(0.1);
  });
  it('takes a panel for its least-served goal', () => expect(panelShare([0.9, 0.2, 1])).toBe(0.2));
});

describe('"after rules"', () => {
  const reach = { judging: true, hasRules: true, wanted: 20 };
  it('waits for rules where they can decide', () => expect(countingInForce('after_rules', reach)).toBe('after_rules'));
  it('waits for rules on a goal without end', () =>
    expect(countingInForce('after_rules', { ...reach, wanted: null })).toBe('after_rules'));
  it.each([{ judging: false }, { hasRules: false }, { wanted: 7 }])('counts all but rejected with %p', (change) =>
    expect(countingInForce('after_rules', { ...reach, ...change })).toBe('all'),
  );
  it.each(['all', 'after_person'] as const)('leaves "%s" as it is', (policy) =>
    expect(countingInForce(policy, { judging: false, hasRules: false, wanted: 1 })).toBe(policy),
  );
});

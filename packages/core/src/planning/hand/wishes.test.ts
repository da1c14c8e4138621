import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import type { NightProblem, PlanGoal, TimeWindow } from '../problem.ts';
import { changeSecBetween } from '../problem.ts';
import type { NightWish } from './wishes.ts';
import { isBanned, pinnedRuns, startsFrom, windowsLeft } from './wishes.ts';

const NIGHT_SEC = 30_000;
const ORIGIN = Date.parse('2029-01-13T00:00:00Z');

const windows: fc.Arbitrary<TimeWindow[]> = fc
  .uniqueArray(fc.integer({ min: 0, max: NIGHT_SEC }), { minLength: 2, maxLength: 6 })
  .map((edges) => {
    const sorted = edges.sort((a, b) => a - b);
    return Array.from({ length: sorted.length >> 1 }, (_, i) => ({ fromSec: sorted[2 * i], toSec: sorted[2 * i + 1] }));
  });
const goal = (id: number): fc.Arbitrary<PlanGoal> =>
  fc.record({
    id: fc.constant(`g${id}`),
    project: fc.constant(0),
    panel: fc.integer({ min: 0, max: 1 }),
    exposureSec: fc.constantFrom(60, 120, 300),
    cycleSec: fc.constantFrom(300, 330),
    count: fc.integer({ min: 0, max: 40 }),
    value: fc.constant(1),
    windows,
    rate: fc.constant({ stepSec: NIGHT_SEC, values: Float64Array.of(1) }),
  });
const problem: fc.Arbitrary<NightProblem> = fc.tuple(goal(0), goal(1), goal(2)).map((goals) => ({
  lengthSec: NIGHT_SEC,
  goals,
  panelCount: 2,
  panelChangeSec: [
    [90, 90],
    [0, 120],
    [120, 0],
  ],
  goalChangeSec: () => 10,
  projectBonus: [0],
  balances: [],
  minStayOfPanelSec: [1200, 1200, 1200],
}));
const pins: fc.Arbitrary<NightWish[]> = fc
  .array(
    fc.record({
      goalId: fc.constantFrom('g0', 'g1', 'g2', 'gone'),
      startUtcMs: fc.integer({ min: -2000, max: NIGHT_SEC }).map((sec) => ORIGIN + sec * 1000),
      count: fc.integer({ min: 1, max: 30 }),
    }),
    { maxLength: 5 },
  )
  .map((list) => list.map((wish, i) => ({ id: `w${i}`, kind: 'pin' as const, ...wish })));

describe('exposures from a moment on', () => {
  it('lie inside windows, a cycle or more apart, and begin at the moment or not at all', () =>
    fc.assert(
      fc.property(
        goal(0),
        fc.integer({ min: 0, max: NIGHT_SEC }),
        fc.integer({ min: 1, max: 60 }),
        (one, fromSec, count) => {
          const starts = startsFrom(one, fromSec, count);
          expect(starts.length).toBeLessThanOrEqual(count);
          if (starts.length > 0) expect(starts[0]).toBe(fromSec);
          starts.forEach((sec, i) => {
            expect(one.windows.some((w) => sec >= w.fromSec - 0.01 && sec + one.exposureSec <= w.toSec + 0.01)).toBe(
              true,
            );
            if (i > 0) expect(sec - starts[i - 1]).toBeGreaterThanOrEqual(one.cycleSec);
          });
        },
      ),
    ));
  it('are as many as there is room for', () => {
    const one = {
      exposureSec: 100,
      cycleSec: 100,
      windows: [
        { fromSec: 0, toSec: 350 },
        { fromSec: 500, toSec: 800 },
      ],
    } as unknown as PlanGoal;
    expect(startsFrom(one, 0, 99)).toEqual([0, 100, 200, 500, 600, 700]);
    expect(startsFrom(one, 300, 99)).toEqual([]);
  });
});

describe('pinned runs', () => {
  it('keep limits, counts and changes whatever is pinned, and say all that they leave out', () =>
    fc.assert(
      fc.property(problem, pins, (night, wishes) => {
        const { pinned, broken } = pinnedRuns(night, wishes, ORIGIN);
        const placed = night.goals.map(() => 0);
        pinned.forEach(({ goal: g, startsSec }, i) => {
          placed[g] += startsSec.length;
          const before = pinned[i - 1];
          const ready = before
            ? before.startsSec.at(-1)! + night.goals[before.goal].cycleSec + changeSecBetween(night, before.goal, g)
            : changeSecBetween(night, -1, g);
          expect(startsSec[0]).toBeGreaterThanOrEqual(ready - 0.01);
        });
        placed.forEach((count, g) => expect(count).toBeLessThanOrEqual(night.goals[g].count));
        const known = wishes.flatMap((wish) => (wish.kind === 'pin' && wish.goalId !== 'gone' ? [wish.count] : []));
        const asked = known.reduce((sum, count) => sum + count, 0);
        const missing = broken.reduce((sum, wish) => sum + wish.asked - wish.kept, 0);
        expect(placed.reduce((sum, count) => sum + count, 0)).toBe(asked - missing);
      }),
    ));
  it('do not depend on the order in which they were set', () =>
    fc.assert(
      fc.property(problem, pins, (night, wishes) =>
        expect(pinnedRuns(night, [...wishes].reverse(), ORIGIN)).toEqual(pinnedRuns(night, wishes, ORIGIN)),
      ),
    ));
});

describe('windows that hands leave open', () => {
  const interval = (fromMin: number, toMin: number) => ({
    startUtcMs: ORIGIN + fromMin * 60_000,
    endUtcMs: ORIGIN + toMin * 60_000,
  });
  const hold = (kind: 'not_before' | 'not_after', min: number, panelId = 'p'): NightWish => ({
    id: `${kind} ${min}`,
    kind,
    panelId,
    utcMs: ORIGIN + min * 60_000,
  });
  const open = [interval(0, 60), interval(90, 200)];
  it('are cut where they are held back or cut off, the narrower of several', () => {
    expect(windowsLeft([], 'p', open)).toEqual(open);
    expect(windowsLeft([hold('not_before', 30)], 'p', open)).toEqual([interval(30, 60), interval(90, 200)]);
    expect(windowsLeft([hold('not_before', 30), hold('not_before', 100), hold('not_after', 150)], 'p', open)).toEqual([
      interval(100, 150),
    ]);
    expect(windowsLeft([hold('not_before', 200)], 'p', open)).toEqual([]);
  });
  it('of another panel are left alone', () => {
    expect(windowsLeft([hold('not_before', 30, 'q')], 'p', open)).toEqual(open);
    expect(isBanned([{ id: 'b', kind: 'ban', panelId: 'q' }], 'p')).toBe(false);
    expect(isBanned([{ id: 'b', kind: 'ban', panelId: 'p' }], 'p')).toBe(true);
  });
});

// The benchmark that lives seasons through counts as the planner counts: with every night clear and every exposure accepted, a plan that is followed is worth what the planner says.
import { describe, expect, it } from '@jest/globals';
import { nightInstance } from '../../../../../bench/instances.ts';
import { liveSeason } from '../../../../../bench/season-life.ts';
import { seededRandom } from '../../random.ts';
import { nightDatePlus, observingNight } from '../../time/nights.ts';
import { planSeason } from './plan-season.ts';
import { seasonOfNights } from './season-of-nights.ts';
import { valueOfSeason } from './season-value.ts';
import type { SeasonPlan, SeasonProblem } from './season-problem.ts';

const request = nightInstance({ seed: 5, goals: 16, night: 12 });
const { problem: odded } = seasonOfNights({
  rigs: [{ rigId: 'rig', request, acceptance: {} }],
  nights: Array.from({ length: 6 }, (_, i) => ({
    night: observingNight(nightDatePlus(request.night.nightDate, i), request.timeZone),
    odds: 0.5,
  })),
});
const problem: SeasonProblem = { ...odded, lanes: odded.lanes.map((lane) => ({ ...lane, odds: 1 })) };
const { plan, value } = planSeason(problem, { iterations: 40_000, seed: 1 });
const follow = (rest: SeasonProblem): SeasonPlan => plan.slice(plan.length - rest.lanes.length);
const world = (fields: Partial<Parameters<typeof liveSeason>[2]> = {}) => ({
  clear: new Uint8Array(6).fill(1),
  random: seededRandom(1),
  acceptance: 1,
  odds: 0.5,
  persistence: 0.3,
  ...fields,
});

describe('a season lived through', () => {
  it('is worth what its plan is worth, where every night is clear and every exposure accepted', () => {
    const lived = liveSeason(problem, follow, world());
    expect(lived.value).toBeCloseTo(value, 6);
    expect(lived.value).toBeCloseTo(lived.light + lived.balance + lived.completion, 9);
  });

  it('takes nothing on nights that are not clear', () => {
    const clear = Uint8Array.from([1, 0, 1, 0, 0, 1]);
    const { value: less, spentSec } = liveSeason(problem, follow, world({ clear }));
    const followed = plan.map((runs, l) => (clear[problem.lanes[l].night] ? runs : []));
    expect(less).toBeCloseTo(valueOfSeason(problem, followed), 6);
    const secOf = (runs: SeasonPlan[number]): number => runs.reduce((sum, { goal, count }) => sum + count * problem.goals[goal].cycleSec, 0); // prettier-ignore
    const spent = followed.reduce((sum, runs) => sum + secOf(runs), 0);
    expect(spentSec.reduce((sum, sec) => sum + sec, 0)).toBeCloseTo(spent, 3);
    expect(liveSeason(problem, follow, world({ clear: new Uint8Array(6) })).value).toBe(0);
  });

  it('is worth less where exposures are rejected, and asks for more of them', () => {
    const asked: number[] = [];
    const lived = liveSeason(
      problem,
      (rest) => {
        asked.push(rest.goals.reduce((sum, { count }) => sum + count, 0));
        return follow(rest);
      },
      world({ acceptance: 0.7 }),
    );
    expect(lived.value).toBeLessThan(value);
    expect(asked[0]).toBeGreaterThanOrEqual(problem.goals.reduce((sum, { count }) => sum + count, 0) / 0.7);
  });

  it('knows that tonight is clear, and nights after it more likely the nearer they are', () => {
    const seen: number[][] = [];
    liveSeason(
      problem,
      (rest) => {
        seen.push(rest.lanes.map(({ odds }) => odds));
        return follow(rest);
      },
      world(),
    );
    expect(seen[0][0]).toBe(1);
    expect(seen[0][1]).toBeCloseTo(0.5 + 0.3 * 0.5);
    for (const odds of seen) expect(odds).toEqual(odds.toSorted((a, b) => b - a));
  });

  it('hands each evening the plan of the one before, from tonight on', () => {
    const handed: (number | null)[] = [];
    const clear = Uint8Array.from([1, 0, 1, 1, 0, 1]);
    liveSeason(
      problem,
      (rest, before) => {
        handed.push(before && before.length - rest.lanes.length);
        return follow(rest);
      },
      world({ clear }),
    );
    expect(handed).toEqual([null, 0, 0, 0]);
  });

  it('finishes a project in the night in which its last goal has all it wants', () => {
    const lived = liveSeason(problem, follow, world());
    lived.finished.forEach((night, r) => {
      const own = problem.goals.flatMap((goal, g) => (problem.panels[goal.panel].project === r ? [g] : []));
      const takenBy = (last: number, g: number): number =>
        plan.slice(0, last + 1).reduce((sum, runs) => sum + runs.reduce((all, run) => all + (run.goal === g ? run.count : 0), 0), 0); // prettier-ignore
      const isWhole = (last: number): boolean => own.every((g) => takenBy(last, g) >= problem.goals[g].count);
      if (night < 0) expect(isWhole(5)).toBe(false);
      else if (own.some((g) => problem.goals[g].count > 0)) {
        expect(isWhole(night)).toBe(true);
        expect(night === 0 || !isWhole(night - 1)).toBe(true);
      }
    });
  });
});

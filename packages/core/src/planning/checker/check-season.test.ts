// The season checker finds what is planted, and the planner that breaks a rule is caught by it.
import { describe, expect, it } from '@jest/globals';
import { randomSeason } from '../../../test/random-seasons.ts';
import { planSeason } from '../season/plan-season.ts';
import type { SeasonPlan, SeasonProblem } from '../season/season-problem.ts';
import { checkSeason } from './check-season.ts';

const codes = (problem: SeasonProblem, plan: SeasonPlan): string[] =>
  checkSeason(problem, plan).violations.map(({ code }) => code);

const one: SeasonProblem = {
  slotSec: 300,
  goals: [
    { panel: 0, filter: 0, row: 0, exposureSec: 300, cycleSec: 300, wanted: 4, done: 0, count: 4, value: 1 },
    { panel: 1, filter: 1, row: 1, exposureSec: 300, cycleSec: 300, wanted: 4, done: 0, count: 4, value: 1 },
  ],
  panels: [
    { project: 0, balance: 1 },
    { project: 0, balance: 1 },
  ],
  projects: [{ bonus: 2 }],
  lanes: [0, 1].map((night) => ({ night, rig: 0, slots: 8, odds: 1, rates: Float32Array.from({ length: 16 }, (_, i) => (i === 7 || i === 15 ? 0 : 1)) })), // prettier-ignore
  panelChangeSec: Float64Array.from([0, 300, 300, 0]),
  filterChangeSec: Float64Array.from([0, 60, 60, 0]),
  filters: 2,
};

describe('the season checker', () => {
  it('counts light, balance and completion of a plan that breaks no rule', () => {
    const plan = [[{ goal: 0, count: 4, startSec: 0 }], [{ goal: 1, count: 4, startSec: 600 }]];
    expect(checkSeason(one, plan)).toEqual({ value: 12, light: 8, balance: 2, completion: 2, finished: 1, open: 1, violations: [] }); // prettier-ignore
  });

  it.each([
    ['WRONG_LANES', [[]]],
    ['UNKNOWN_GOAL', [[{ goal: 7, count: 1, startSec: 0 }], []]],
    ['BAD_COUNT', [[{ goal: 0, count: 0, startSec: 0 }], []]],
    ['BEFORE_START', [[{ goal: 0, count: 1, startSec: -2 }], []]],
    ['CLOSED', [[{ goal: 0, count: 2, startSec: 1800 }], []]],
    ['PAST_NIGHT_END', [[{ goal: 0, count: 2, startSec: 2100 }], []]],
    ['TOO_MANY', [[{ goal: 0, count: 4, startSec: 0 }], [{ goal: 0, count: 1, startSec: 0 }]]],
    ['OVERLAP', [[{ goal: 0, count: 2, startSec: 0 }, { goal: 1, count: 1, startSec: 500 }], []]], // prettier-ignore
    ['CHANGE_TOO_SHORT', [[{ goal: 0, count: 2, startSec: 0 }, { goal: 1, count: 1, startSec: 930 }], []]], // prettier-ignore
  ] as const)('finds %s', (code, plan) => {
    expect(codes(one, plan)).toContain(code);
  });

  it('finds one night that holds more than is wanted, though the odds would allow it', () => {
    const lanes = one.lanes.map((lane) => ({ ...lane, odds: 0.5 }));
    expect(codes({ ...one, lanes }, [[{ goal: 0, count: 5, startSec: 0 }], []])).toEqual(['TOO_MANY_IN_NIGHT']);
  });

  /** What the planner is told instead of what holds. */
  const mutants: readonly (readonly [string, (problem: SeasonProblem) => SeasonProblem])[] = [
    ['ignores caps over nights', (p) => ({ ...p, goals: p.goals.map((goal) => ({ ...goal, count: goal.count + 3, wanted: goal.wanted + 3 })) })], // prettier-ignore
    ['ignores what is closed', (p) => ({ ...p, lanes: p.lanes.map((lane) => ({ ...lane, rates: lane.rates.map(() => 1) })) })], // prettier-ignore
    ['ignores travel', (p) => ({ ...p, panelChangeSec: p.panelChangeSec.map(() => 0), filterChangeSec: p.filterChangeSec.map(() => 0) })], // prettier-ignore
    ['ignores the odds', (p) => ({ ...p, lanes: p.lanes.map((lane) => ({ ...lane, odds: lane.odds / 4 })) })],
  ];
  it.each(mutants)('catches a planner that %s', (_, mutated) => {
    const caught = Array.from({ length: 20 }, (_unused, i) => randomSeason(i + 1, true)).filter((problem) => {
      const { plan } = planSeason(mutated(problem), { iterations: 1500, seed: 1 });
      return checkSeason(problem, plan).violations.length > 0;
    });
    expect(caught.length).toBeGreaterThan(0);
  });

  /** Slots of a project's goals closed in some lanes: after its last night, or in all where the camera stands at another angle. */
  const closedFor = (problem: SeasonProblem, project: number, isClosed: (night: number) => boolean): SeasonProblem => ({
    ...problem,
    lanes: problem.lanes.map((lane) => {
      const rates = lane.rates.slice();
      if (isClosed(lane.night))
        for (const { panel, row } of problem.goals)
          if (problem.panels[panel].project === project) rates.fill(0, row * lane.slots, (row + 1) * lane.slots);
      return { ...lane, rates };
    }),
  });
  it.each([
    ['the last night of a project', (night: number) => night > 0],
    ['an angle that only a visit would set', () => true],
  ] as const)('catches a planner that ignores %s', (_, isClosed) => {
    const caught = Array.from({ length: 20 }, (_unused, i) => randomSeason(i + 1)).filter((problem) => {
      const { plan } = planSeason(problem, { iterations: 1500, seed: 1 });
      return codes(closedFor(problem, 0, isClosed), plan).includes('CLOSED');
    });
    expect(caught.length).toBeGreaterThan(10);
    for (const problem of caught) {
      const held = closedFor(problem, 0, isClosed);
      expect(codes(held, planSeason(held, { iterations: 1500, seed: 1 }).plan)).toEqual([]);
    }
  });
});

import { describe, expect, it } from '@jest/globals';
import { randomCase } from '../../../test/random-cases.ts';
import type { PlannerCase } from '../cases.ts';
import { caseNight, doneAtStart } from '../cases.ts';
import { couldAllBeFinished } from './finishable.ts';
import type { NightProblem } from '../problem.ts';
import { placedCounts } from '../problem.ts';
import { solveNight } from './solve-night.ts';

const nights = Array.from({ length: 200 }, (_, i): NightProblem => {
  const source = randomCase(i + 1) as PlannerCase;
  return { ...caseNight(source, 0, doneAtStart(source)), minStayOfPanelSec: [0, 0, 0, 0, 0, 0, 0, 0] };
});

describe('goals that could not all be finished', () => {
  const goalsOf = (problem: NightProblem, project: number): number[] =>
    problem.goals.flatMap((goal, g) => (goal.project === project ? [g] : []));
  const verdicts = nights.flatMap((problem) =>
    problem.projectBonus.map((_, project) => {
      const own = goalsOf(problem, project);
      // A bonus above everything else: the exact plan finishes the project if any plan can.
      const projectBonus = problem.projectBonus.map((_bonus, p) => (p === project ? 1e6 : 0));
      const placed = placedCounts(problem, solveNight({ ...problem, projectBonus }).placements);
      return { couldBe: couldAllBeFinished(problem, own), is: own.every((g) => placed[g] >= problem.goals[g].count) };
    }),
  );

  it('are finished by no plan', () => {
    for (const { couldBe, is } of verdicts) if (is) expect(couldBe).toBe(true);
  });

  it('are told from those that are finished in most nights', () => {
    expect(verdicts.filter(({ couldBe }) => !couldBe).length).toBeGreaterThan(20);
    expect(verdicts.filter(({ is }) => is).length).toBeGreaterThan(20);
    const missed = verdicts.filter(({ couldBe, is }) => couldBe && !is).length;
    expect(missed).toBeLessThan(verdicts.length / 5);
  });
});

it('two panels need the way between them', () => {
  const goal = { id: 'a', project: 0, exposureSec: 600, cycleSec: 600, count: 3, value: 1 };
  const rate = { stepSec: 3600, values: Float64Array.from([1]) };
  const problem: NightProblem = {
    lengthSec: 3600,
    goals: [0, 1].map((panel) => ({ ...goal, id: `g${panel}`, panel, windows: [{ fromSec: 0, toSec: 3600 }], rate })),
    panelCount: 2,
    panelChangeSec: [
      [0, 0],
      [0, 60],
      [60, 0],
    ],
    goalChangeSec: () => 0,
    projectBonus: [1],
    balances: [],
    minStayOfPanelSec: [0, 0, 0, 0],
  };
  expect(couldAllBeFinished(problem, [0])).toBe(true);
  expect(couldAllBeFinished(problem, [0, 1])).toBe(false);
  expect(couldAllBeFinished({ ...problem, panelChangeSec: [[0, 0], [0, 0], [0, 0]] }, [0, 1])).toBe(true); // prettier-ignore
});

import { describe, expect, it } from '@jest/globals';
import { alternated } from './alternate.ts';
import { checkNight } from '../checker/check-night.ts';
import type { NightProblem, Placement, PlanGoal } from '../problem.ts';

const goal = (id: string, panel: number, toSec = 20_000): PlanGoal => ({
  id,
  project: 0,
  panel,
  exposureSec: 100,
  cycleSec: 110,
  count: 9,
  value: 1,
  windows: [{ fromSec: 0, toSec }],
  rate: { stepSec: 60, values: Float64Array.from({ length: 400 }, (_, i) => 1 - i / 1000) },
});

const problemOf = (change: Partial<NightProblem> = {}): NightProblem => ({
  lengthSec: 24_000,
  goals: [goal('R', 0), goal('G', 0), goal('L', 1)],
  panelCount: 2,
  panelChangeSec: [
    [0, 0],
    [0, 60],
    [60, 0],
  ],
  goalChangeSec: () => 0,
  projectBonus: [0],
  balances: [],
  minStayOfPanelSec: [0, 0],
  groups: [3, 3, 0],
  ...change,
});

const run = (of: number, fromSec: number, count: number): Placement => ({
  goal: of,
  startsSec: Array.from({ length: count }, (_, i) => fromSec + i * 110),
});
const stay = [run(0, 0, 7), run(1, 770, 5), run(2, 1380, 4)];
const solutionOf = (problem: NightProblem, placements: readonly Placement[]) => ({
  placements,
  value: checkNight(problem, placements).value,
});
const dealt = (problem: NightProblem, placements: readonly Placement[] = stay) => {
  const { placements: runs, value } = alternated(problem, solutionOf(problem, placements));
  return { runs: runs.map(({ goal: of, startsSec }) => [of, startsSec[0], startsSec.length]), value, placements: runs };
};

describe('filters that alternate', () => {
  it('are dealt out in their groups, each with as many exposures as before', () => {
    const problem = problemOf();
    const { runs, value, placements } = dealt(problem);
    expect(runs).toEqual([
      [0, 0, 3],
      [1, 330, 3],
      [0, 660, 3],
      [1, 990, 2],
      [0, 1210, 1],
      [2, 1380, 4],
    ]);
    const checked = checkNight(problem, placements);
    expect(checked.violations).toEqual([]);
    expect(value).toBeCloseTo(checked.value, 9);
  });

  it('stay in blocks where their project wants each filter finished', () => {
    expect(dealt(problemOf({ groups: [0, 0, 0] })).runs).toEqual(stay.map((one) => [one.goal, one.startsSec[0], one.startsSec.length])); // prettier-ignore
    expect(dealt(problemOf({ groups: undefined })).placements).toEqual(stay);
  });

  it('are dealt while both are open where one of them closes before the stay ends', () => {
    const goals = [goal('R', 0, 1150), goal('G', 0), goal('L', 1)];
    const problem = problemOf({ goals });
    const { runs, placements } = dealt(problem);
    expect(runs).toEqual([
      [0, 0, 3],
      [1, 330, 3],
      [0, 660, 4],
      [1, 1100, 2],
      [2, 1380, 4],
    ]);
    expect(checkNight(problem, placements).violations).toEqual([]);
  });

  it('stay in blocks where one closes too early for its turns', () => {
    const goals = [goal('R', 0, 800), goal('G', 0), goal('L', 1)];
    expect(dealt(problemOf({ goals })).runs[0]).toEqual([0, 0, 7]);
  });

  it('are dealt on each side of a gap, and never across it', () => {
    const parts = [run(0, 0, 4), run(1, 440, 4), run(0, 3000, 4), run(1, 3440, 4)];
    const problem = problemOf({ groups: [2, 2, 0] });
    const { runs, placements } = dealt(problem, parts);
    expect(runs).toEqual([
      [0, 0, 2],
      [1, 220, 2],
      [0, 440, 2],
      [1, 660, 2],
      [0, 3000, 2],
      [1, 3220, 2],
      [0, 3440, 2],
      [1, 3660, 2],
    ]);
    expect(checkNight(problem, placements).violations).toEqual([]);
  });

  it('stay where they are put by hand', () => {
    const pinned = [run(1, 770, 5)];
    expect(dealt(problemOf({ pinned })).placements).toEqual(stay);
  });

  it('of another panel are another stay', () => {
    const { runs } = dealt(problemOf({ groups: [3, 3, 2] }), [run(0, 0, 4), run(2, 500, 3), run(1, 900, 4)]);
    expect(runs).toEqual([
      [0, 0, 4],
      [2, 500, 3],
      [1, 900, 4],
    ]);
  });
});

// Stays whose filters alternate: the runs of a solved stay dealt out in groups, a few exposures of each filter in turn.
import { exactRates, goalRecords } from './objective.ts';
import type { NightProblem, NightSolution, Placement } from './problem.ts';

/** Deals out the stays of goals that alternate. The time of changes is already in their cycles, so a stay keeps its length;
 * one whose filters may not be used throughout stays in blocks, as does whatever was set by hand. */
export function alternated(problem: NightProblem, solution: NightSolution): NightSolution {
  const groups = problem.groups;
  if (!groups?.some((group) => group > 0)) return solution;
  const placements = staysOf(problem, solution.placements).flatMap((stay) => dealt(problem, groups, stay) ?? stay);
  return { placements, value: solution.value + lightOf(problem, placements) - lightOf(problem, solution.placements) };
}

function staysOf({ goals }: NightProblem, placements: readonly Placement[]): Placement[][] {
  const stays: Placement[][] = [];
  for (const placement of placements) {
    const last = stays[stays.length - 1];
    if (last && goals[last[0].goal].panel === goals[placement.goal].panel) last.push(placement);
    else stays.push([placement]);
  }
  return stays;
}

function dealt(problem: NightProblem, groups: readonly number[], stay: readonly Placement[]): Placement[] | null {
  const filters = new Set(stay.map(({ goal }) => goal));
  if (filters.size < 2 || stay.some(({ goal }) => groups[goal] === 0 || isPinned(problem, goal))) return null;
  const left = new Map<number, number>();
  for (const { goal, startsSec } of stay) left.set(goal, (left.get(goal) ?? 0) + startsSec.length);
  const runs: { goal: number; startsSec: number[] }[] = [];
  let clockSec = stay[0].startsSec[0];
  for (let turn = 0; [...left.values()].some((count) => count > 0); turn++) {
    for (const goal of filters) {
      const count = Math.min(groups[goal], left.get(goal)!);
      if (count === 0) continue;
      const { cycleSec } = problem.goals[goal];
      const startsSec = Array.from({ length: count }, (_, i) => clockSec + i * cycleSec);
      if (!startsSec.every((startSec) => isOpen(problem, goal, startSec))) return null;
      left.set(goal, left.get(goal)! - count);
      clockSec += count * cycleSec;
      const last = runs[runs.length - 1];
      if (last?.goal === goal) last.startsSec.push(...startsSec);
      else runs.push({ goal, startsSec });
    }
  }
  return runs;
}

const isPinned = ({ pinned }: NightProblem, goal: number): boolean => (pinned ?? []).some((run) => run.goal === goal);

const isOpen = ({ goals }: NightProblem, goal: number, startSec: number): boolean =>
  goals[goal].windows.some(
    ({ fromSec, toSec }) => startSec >= fromSec - 1e-6 && startSec + goals[goal].exposureSec <= toSec + 1e-6,
  );

function lightOf(problem: NightProblem, placements: readonly Placement[]): number {
  const records = goalRecords(problem);
  return placements.reduce(
    (sum, { goal, startsSec }) =>
      sum +
      startsSec.reduce((light, startSec) => light + records[goal].value * exactRates(records[goal], startSec, 1), 0),
    0,
  );
}

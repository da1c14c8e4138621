// Stays whose filters alternate: the runs of a solved stay dealt out in groups, a few exposures of each filter in turn.
import { exactRates, goalRecords } from '../objective.ts';
import type { NightProblem, NightSolution, Placement } from '../problem.ts';

/** Deals out the stays of goals that alternate. The time of changes is already in their cycles, so a stay keeps its length;
 * one whose filters may not be used throughout stays in blocks, as does whatever was set by hand. */
export function alternated(problem: NightProblem, solution: NightSolution): NightSolution {
  const groups = problem.groups;
  if (!groups?.some((group) => group > 0)) return solution;
  const placements = staysOf(problem, solution.placements).flatMap((stay) =>
    stretchesOf(problem, stay).flatMap((stretch) => dealt(problem, groups, stretch) ?? stretch),
  );
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

/** A stay in pieces without a gap: a flip, a wait or a closed window parts it, and nothing is dealt across. */
function stretchesOf({ goals }: NightProblem, stay: readonly Placement[]): Placement[][] {
  const stretches: Placement[][] = [];
  let endSec = -Infinity;
  for (const { goal, startsSec } of stay) {
    for (const startSec of startsSec) {
      if (startSec > endSec + GAP_SEC) stretches.push([]);
      const runs = stretches[stretches.length - 1];
      const last = runs[runs.length - 1];
      if (last?.goal === goal) runs[runs.length - 1] = { goal, startsSec: [...last.startsSec, startSec] };
      else runs.push({ goal, startsSec: [startSec] });
      endSec = startSec + goals[goal].cycleSec;
    }
  }
  return stretches;
}
/** Longer than any change between two filters of a panel. */
const GAP_SEC = 60;

/** Each filter in its turn; one that is closed at the time is passed over. Null where somebody's exposures find no place. */
function dealt(problem: NightProblem, groups: readonly number[], stay: readonly Placement[]): Placement[] | null {
  const filters = new Set(stay.map(({ goal }) => goal));
  if (filters.size < 2 || stay.some(({ goal }) => groups[goal] === 0 || isPinned(problem, goal))) return null;
  const left = new Map<number, number>();
  for (const { goal, startsSec } of stay) left.set(goal, (left.get(goal) ?? 0) + startsSec.length);
  const runs: { goal: number; startsSec: number[] }[] = [];
  let clockSec = stay[0].startsSec[0];
  // What closes first is dealt first, so that it still finds its turns.
  const inTurn = [...filters].sort((a, b) => closesSec(problem, a) - closesSec(problem, b));
  while ([...left.values()].some((count) => count > 0)) {
    const before = clockSec;
    for (const goal of inTurn) {
      const { cycleSec } = problem.goals[goal];
      const startsSec: number[] = [];
      // Where another round would leave it too late, all of it comes now.
      const roundSec = inTurn.reduce((sum, other) => sum + groups[other] * problem.goals[other].cycleSec, 0);
      const isLast = clockSec + roundSec + (left.get(goal)! - groups[goal]) * cycleSec > closesSec(problem, goal);
      const most = isLast ? left.get(goal)! : Math.min(groups[goal], left.get(goal)!);
      while (startsSec.length < most && isOpen(problem, goal, clockSec)) {
        startsSec.push(clockSec);
        clockSec += cycleSec;
      }
      if (startsSec.length === 0) continue;
      left.set(goal, left.get(goal)! - startsSec.length);
      const last = runs[runs.length - 1];
      if (last?.goal === goal) last.startsSec.push(...startsSec);
      else runs.push({ goal, startsSec });
    }
    if (clockSec === before) return null;
  }
  return runs;
}

const closesSec = ({ goals }: NightProblem, goal: number): number =>
  goals[goal].windows.reduce((latest, { toSec }) => Math.max(latest, toSec), 0);

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

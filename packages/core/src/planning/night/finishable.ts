// Whether goals could all be finished in one night: what no plan can do is credited by no bound and tried by no search.
import type { NightProblem, TimeWindow } from '../problem.ts';

/** False only where no plan can place every exposure of these goals: between some two moments they need more time than their windows have.
 * Source: the interval form of Hall's condition, P. Hall 1935, J. London Math. Soc. 10, 26; travel between their panels is part of the need. */
export function couldAllBeFinished(problem: NightProblem, goals: readonly number[]): boolean {
  const open = goals.filter((g) => problem.goals[g].count > 0);
  if (open.some((g) => problem.goals[g].windows.length === 0)) return false;
  const starts = new Set(open.map((g) => problem.goals[g].windows[0].fromSec));
  const ends = new Set(open.map((g) => problem.goals[g].windows.at(-1)!.toSec));
  for (const fromSec of starts)
    for (const toSec of ends) {
      const inside = open.filter((g) => {
        const { windows } = problem.goals[g];
        return windows[0].fromSec >= fromSec && windows.at(-1)!.toSec <= toSec;
      });
      if (neededSec(problem, inside) > lengthOfUnion(inside.flatMap((g) => problem.goals[g].windows)) + 1e-6)
        return false;
    }
  return true;
}

/** The least time that goals take: the download after the last exposure of a goal may run past its windows. */
function neededSec({ goals, panelChangeSec }: NightProblem, own: readonly number[]): number {
  const exposing = own.reduce((sum, g) => sum + (goals[g].count - 1) * goals[g].cycleSec + goals[g].exposureSec, 0);
  const panels = [...new Set(own.map((g) => goals[g].panel))];
  const arriving = panels.map((to) =>
    panels.reduce((least, from) => (from === to ? least : Math.min(least, panelChangeSec[from + 1][to])), Infinity),
  );
  // The first panel is reached before.
  return panels.length < 2 ? exposing : exposing + arriving.reduce((sum, sec) => sum + sec, 0) - Math.max(...arriving);
}

function lengthOfUnion(windows: readonly TimeWindow[]): number {
  let [lengthSec, endSec] = [0, -Infinity];
  for (const { fromSec, toSec } of [...windows].sort((a, b) => a.fromSec - b.fromSec)) {
    lengthSec += Math.max(0, toSec - Math.max(fromSec, endSec));
    endSec = Math.max(endSec, toSec);
  }
  return lengthSec;
}

// The simplest planner: whatever is worth most an hour right now, one exposure after the other.
import type { NightProblem, Placement } from '@meridiem/core';
import { changeSecBetween } from '@meridiem/core';

/** Takes the best value per hour (weight × rate) at each moment, changes included, with no look ahead. */
export function greedyNight(problem: NightProblem): Placement[] {
  const left = problem.goals.map((goal) => goal.count);
  const runs: { goal: number; startsSec: number[] }[] = [];
  let clockSec = 0;
  let last = -1;
  while (clockSec < problem.lengthSec) {
    let best = { goal: -1, perSec: 0, startSec: 0 };
    problem.goals.forEach((goal, g) => {
      if (left[g] <= 0) return;
      const change = changeSecBetween(problem, last, g);
      const startSec = clockSec + change;
      if (!goal.windows.some((w) => startSec >= w.fromSec && startSec + goal.exposureSec <= w.toSec)) return;
      const rate = goal.rate.values[Math.min(goal.rate.values.length - 1, Math.floor(startSec / goal.rate.stepSec))];
      const perSec = (goal.value * rate) / (goal.cycleSec + change);
      if (perSec > best.perSec) best = { goal: g, perSec, startSec };
    });
    if (best.goal < 0) {
      clockSec += 60;
      continue;
    }
    left[best.goal] -= 1;
    const previous = runs[runs.length - 1];
    if (previous?.goal === best.goal) previous.startsSec.push(best.startSec);
    else runs.push({ goal: best.goal, startsSec: [best.startSec] });
    clockSec = best.startSec + problem.goals[best.goal].cycleSec;
    last = best.goal;
  }
  return runs;
}

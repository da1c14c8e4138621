// The simplest season planner: what is worth most an hour right now, for up to an hour, then again.
import type { SeasonPlan, SeasonProblem, SeasonRun } from '@meridiem/core';
import { changeBetweenSec } from '@meridiem/core';

const STAY_SEC = 3600;

export function greedySeason(problem: SeasonProblem): SeasonPlan {
  const left = problem.goals.map(({ count }) => count);
  return problem.lanes.map((lane) => {
    const runs: SeasonRun[] = [];
    const lengthSec = lane.slots * problem.slotSec;
    const openUntil = (row: number, atSec: number): number => {
      let slot = Math.floor(atSec / problem.slotSec);
      while (slot < lane.slots && lane.rates[row * lane.slots + slot] > 0) slot += 1;
      return slot * problem.slotSec;
    };
    for (let clockSec = 0, last = -1; clockSec < lengthSec;) {
      let best = { goal: -1, perSec: 0, startSec: 0, count: 0 };
      problem.goals.forEach(({ row, cycleSec, value }, goal) => {
        if (left[goal] <= 0) return;
        const startSec = clockSec + (last < 0 ? 0 : changeBetweenSec(problem, last, goal));
        const rate = lane.rates[row * lane.slots + Math.min(lane.slots - 1, Math.floor(clockSec / problem.slotSec))];
        const fits = Math.floor((openUntil(row, startSec) - startSec + 1e-6) / cycleSec);
        const count = Math.min(left[goal], fits, Math.max(1, Math.floor(STAY_SEC / cycleSec)));
        const perSec = (value * rate) / cycleSec;
        if (count > 0 && perSec > best.perSec) best = { goal, perSec, startSec, count };
      });
      if (best.goal < 0) {
        clockSec += problem.slotSec;
        continue;
      }
      left[best.goal] -= best.count;
      runs.push({ goal: best.goal, count: best.count, startSec: best.startSec });
      clockSec = best.startSec + best.count * problem.goals[best.goal].cycleSec;
      last = best.goal;
    }
    return runs;
  });
}

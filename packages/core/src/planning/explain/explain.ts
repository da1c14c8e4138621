// Who holds the hours that a goal would have used, and at what price.
import { goalRecords, meanRate } from '../objective.ts';
import type { NightProblem, NightSolution } from '../problem.ts';

export interface OutbidBy {
  readonly rivalGoalId: string | null;
  readonly rivalPerHour: number;
  readonly ownPerHour: number;
}

/** The goal that holds most of another's windows, with both values per hour of light, completion and balance left aside. */
export function outbidBy(problem: NightProblem, { placements }: NightSolution, goal: number): OutbidBy {
  const goals = goalRecords(problem);
  const { windows } = problem.goals[goal];
  let rival = { goal: -1, held: 0, perHour: 0 };
  for (const { goal: other, startsSec } of placements) {
    const record = goals[other];
    const inside = startsSec.filter((startSec) => windows.some((w) => startSec >= w.fromSec && startSec < w.toSec));
    const held = inside.length * record.cycleSec;
    if (held <= rival.held) continue;
    const value = inside.reduce((sum, startSec) => sum + record.value * meanRate(record, startSec), 0);
    rival = { goal: other, held, perHour: (value / held) * 3600 };
  }
  const rivalGoalId = rival.goal < 0 ? null : problem.goals[rival.goal].id;
  return { rivalGoalId, rivalPerHour: rival.perHour, ownPerHour: bestPerHour(problem, goal) };
}

/** The most that an hour of a goal is worth anywhere in its windows. */
function bestPerHour(problem: NightProblem, goal: number): number {
  const record = goalRecords(problem)[goal];
  let best = 0;
  for (let w = 0; w < record.fromSec.length; w++) {
    for (let startSec = record.fromSec[w]; startSec + record.exposureSec <= record.toSec[w]; startSec += 300) {
      best = Math.max(best, (record.value * meanRate(record, startSec)) / record.cycleSec);
    }
  }
  return best * 3600;
}

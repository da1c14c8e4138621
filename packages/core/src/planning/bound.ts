// A proven upper bound on the value of a night: the priced night, its prices lowered step by step.
import { goalRecords } from './objective.ts';
import { nightPricer, timeShareCredits } from './priced-night.ts';
import type { NightProblem } from './problem.ts';

export interface BoundOptions {
  readonly stepSec: number;
  readonly rounds: number;
}

export const DEFAULT_BOUND_OPTIONS: BoundOptions = { stepSec: 60, rounds: 40 };

/** No plan of the problem is worth more. Any prices of 0 or more give a valid bound; rounds of subgradient steps tighten it. */
export function nightBound(problem: NightProblem, options: BoundOptions = DEFAULT_BOUND_OPTIONS): number {
  const goals = goalRecords(problem);
  const { credit, constant } = timeShareCredits(problem);
  const count = new Float64Array(goals.length);
  const priced = nightPricer(problem, goals, options.stepSec);
  let lowest = Infinity;
  for (let round = 0; round < options.rounds; round++) {
    const night = priced({ count, credit });
    const bound = night.total + constant + goals.reduce((sum, goal, g) => sum + count[g] * goal.count, 0);
    lowest = Math.min(lowest, bound);
    raisePrices(count, goals, night.usage, 0.5 / (1 + round / 4));
  }
  return lowest;
}

/** Moves each price along its subgradient: overused goals dearer, others cheaper, never below 0. */
export function raisePrices(
  prices: Float64Array,
  goals: readonly { readonly count: number; readonly value: number }[],
  usage: Float64Array,
  pace: number,
): void {
  goals.forEach((goal, g) => {
    const overuse = (usage[g] - goal.count) / Math.max(1, usage[g] + goal.count);
    prices[g] = Math.max(0, prices[g] + pace * goal.value * overuse);
  });
}

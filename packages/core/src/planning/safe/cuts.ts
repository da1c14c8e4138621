// A night that may end at any time, looked at: what the plan holds at each moment beside the best that was possible until then, and what safety costs.
import { DEFAULT_SOLVE_OPTIONS, nightOrders, solveNight } from '../night/solve-night.ts';
import type { SolveOptions } from '../night/solve-night.ts';
import type { NightProblem, NightSolution } from '../problem.ts';
import type { Gain } from './held.ts';
import { HeldNight } from './held.ts';

/** The plan where the night ends at a moment. */
export interface NightCut {
  readonly endSec: number;
  /** Exposures whole by then, per goal. */
  readonly counts: readonly number[];
  readonly worth: number;
  /** Of a night known from its start to end then; never less than `worth`. */
  readonly bestWorth: number;
}

export interface SafetyPrice {
  readonly safe: NightSolution;
  readonly uncut: NightSolution;
  /** What each is expected to hold under the problem's hazard. */
  readonly safeExpected: number;
  readonly uncutExpected: number;
}

/** What the safe order gives up in a night that lasts, and what it gains where nights end early.
 * @throws PROBLEM_INVALID as `solveNight` */
export function safetyPrice(problem: NightProblem, options: SolveOptions = DEFAULT_SOLVE_OPTIONS): SafetyPrice {
  const { safe, uncut } = nightOrders(problem, options);
  const held = new HeldNight(problem);
  const expected = ({ placements }: NightSolution): number => held.expected(placements, problem.endHazardPerHour ?? 0);
  return { safe, uncut, safeExpected: expected(safe), uncutExpected: expected(uncut) };
}

/** @param endsSec moments at which the night might end
 * @param others plans of the same night, none of which is to hold more by then than what is called the best
 * @throws PROBLEM_INVALID as `solveNight` */
export function cutsOf(
  problem: NightProblem,
  { placements }: Pick<NightSolution, 'placements'>,
  endsSec: readonly number[],
  { options = DEFAULT_SOLVE_OPTIONS, others = [] }: { options?: SolveOptions; others?: readonly NightSolution[] } = {},
): NightCut[] {
  const held = new HeldNight(problem);
  const [gains, ...otherGains] = [{ placements }, ...others].map((one) => held.gains(one.placements));
  return endsSec.map((endSec) => {
    const known = otherGains.map((one) => worthUntil(one, endSec));
    const worth = worthUntil(gains, endSec);
    const best = solveNight(endingAt(problem, endSec), options).value;
    return { endSec, counts: countsUntil(problem, gains, endSec), worth, bestWorth: Math.max(best, worth, ...known) };
  });
}

const worthUntil = (gains: readonly Gain[], endSec: number): number =>
  gains.reduce((sum, gain) => sum + (gain.endSec <= endSec ? gain.worth : 0), 0);

function countsUntil({ goals }: NightProblem, gains: readonly Gain[], endSec: number): number[] {
  const counts = goals.map(() => 0);
  for (const gain of gains) if (gain.endSec <= endSec) counts[gain.goal] += 1;
  return counts;
}

/** The same night, known to end at a moment. */
export const endingAt = (problem: NightProblem, endSec: number): NightProblem => ({
  ...problem,
  lengthSec: Math.min(problem.lengthSec, endSec),
  goals: problem.goals.map((goal) => ({
    ...goal,
    windows: goal.windows
      .filter(({ fromSec }) => fromSec < endSec)
      .map(({ fromSec, toSec }) => ({ fromSec, toSec: Math.min(toSec, endSec) })),
  })),
  pinned: problem.pinned
    ?.map(({ goal, startsSec }) => ({
      goal,
      startsSec: startsSec.filter((startSec) => startSec + problem.goals[goal].exposureSec <= endSec),
    }))
    .filter(({ startsSec }) => startsSec.length > 0),
  kept: undefined,
  endHazardPerHour: 0,
});

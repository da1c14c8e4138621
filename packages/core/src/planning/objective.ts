// What a set of counts is worth beyond the light itself: completion and balance.
import type { NightProblem, RateCurve } from './problem.ts';

/** A goal as the search sees it: flat arrays for the inner loop. */
export interface GoalRecord {
  readonly panel: number;
  readonly project: number;
  readonly exposureSec: number;
  readonly cycleSec: number;
  readonly count: number;
  readonly value: number;
  readonly fromSec: Float64Array;
  readonly toSec: Float64Array;
  readonly rateStepSec: number;
  /** Integral of the rate from the origin to each step edge, in seconds. */
  readonly cumulative: Float64Array;
}

export function goalRecords(problem: NightProblem): GoalRecord[] {
  return problem.goals.map((goal) => ({
    ...goal,
    fromSec: Float64Array.from(goal.windows, (w) => w.fromSec),
    toSec: Float64Array.from(goal.windows, (w) => Math.min(w.toSec, problem.lengthSec)),
    rateStepSec: goal.rate.stepSec,
    cumulative: cumulativeOf(goal.rate),
  }));
}

/** Rates of a night stay while it is planned again and again: each is summed up once. */
const summedUp = new WeakMap<RateCurve, Float64Array>();

function cumulativeOf(rate: RateCurve): Float64Array {
  let sums = summedUp.get(rate);
  if (!sums) {
    sums = new Float64Array(rate.values.length + 1);
    for (let i = 0; i < rate.values.length; i++) sums[i + 1] = sums[i] + rate.values[i] * rate.stepSec;
    summedUp.set(rate, sums);
  }
  return sums;
}

function integralTo({ cumulative, rateStepSec }: GoalRecord, atSec: number): number {
  const place = atSec / rateStepSec;
  const step = Math.min(cumulative.length - 2, Math.max(0, Math.floor(place)));
  return cumulative[step] + (place - step) * (cumulative[step + 1] - cumulative[step]);
}

/** Mean rate over the exposure that starts at a moment. */
export const meanRate = (goal: GoalRecord, startSec: number): number =>
  (integralTo(goal, startSec + goal.exposureSec) - integralTo(goal, startSec)) / goal.exposureSec;

/** Mean rate over a run of exposures, from its first start to its last end. */
export const meanRateOfRun = (goal: GoalRecord, startSec: number, count: number): number => {
  const lengthSec = (count - 1) * goal.cycleSec + goal.exposureSec;
  return (integralTo(goal, startSec + lengthSec) - integralTo(goal, startSec)) / lengthSec;
};

/** Sum of the mean rates of a run's exposures. */
export function exactRates(goal: GoalRecord, startSec: number, count: number): number {
  let sum = 0;
  for (let i = 0; i < count; i++) sum += meanRate(goal, startSec + i * goal.cycleSec);
  return sum;
}

/** Completion and balance of one problem, laid out for being asked often. */
export class Collective {
  readonly #finishing: readonly { readonly bonus: number; readonly goals: Int32Array; readonly counts: Int32Array }[];
  readonly #balances: readonly {
    readonly weight: number;
    readonly before: number;
    readonly goals: Int32Array;
    readonly done: Float64Array;
    readonly wanted: Float64Array;
  }[];

  constructor({ goals, projectBonus, balances }: NightProblem) {
    this.#finishing = projectBonus.flatMap((bonus, project) => {
      const own = goals.flatMap((goal, g) => (goal.project === project ? [g] : []));
      return bonus > 0 && own.length > 0
        ? [{ bonus, goals: Int32Array.from(own), counts: Int32Array.from(own, (g) => goals[g].count) }]
        : [];
    });
    this.#balances = balances
      .filter(({ members }) => members.length > 0)
      .map(({ weight, members }) => ({
        weight,
        before: Math.min(1, ...members.map(({ done, wanted }) => done / wanted)),
        goals: Int32Array.from(members, ({ goal }) => goal),
        done: Float64Array.from(members, ({ done }) => done),
        wanted: Float64Array.from(members, ({ wanted }) => wanted),
      }));
  }

  /** @param placed exposures placed per goal */
  value(placed: ArrayLike<number>): number {
    let value = 0;
    for (const { bonus, goals, counts } of this.#finishing) {
      let complete = true;
      for (let i = 0; complete && i < goals.length; i++) complete = placed[goals[i]] >= counts[i];
      if (complete) value += bonus;
    }
    for (const { weight, before, goals, done, wanted } of this.#balances) {
      let after = 1;
      for (let i = 0; i < goals.length; i++) after = Math.min(after, (done[i] + placed[goals[i]]) / wanted[i]);
      value += weight * (after - before);
    }
    return value;
  }
}

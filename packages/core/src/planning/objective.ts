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

interface Finishing {
  readonly bonus: number;
  readonly goals: Int32Array;
  readonly counts: Int32Array;
}

interface Balance {
  readonly weight: number;
  readonly before: number;
  readonly goals: Int32Array;
  readonly done: Float64Array;
  readonly wanted: Float64Array;
}

/** Completion and balance of one problem, laid out for being asked often. */
export class Collective {
  readonly #finishing: readonly Finishing[];
  readonly #balances: readonly Balance[];
  /** By goal, the terms that it is part of. */
  readonly #finishingOf: readonly Int32Array[];
  readonly #balancesOf: readonly Int32Array[];
  /** The asking in which each term was looked at last. */
  readonly #finishingSeen: Int32Array;
  readonly #balanceSeen: Int32Array;
  /** Paid though nothing is placed. */
  readonly #given: number;
  #asked = 0;

  constructor(problem: NightProblem) {
    this.#finishing = finishingOf(problem);
    this.#balances = balancesOf(problem);
    this.#finishingOf = termsByGoal(problem, this.#finishing);
    this.#balancesOf = termsByGoal(problem, this.#balances);
    this.#finishingSeen = new Int32Array(this.#finishing.length);
    this.#balanceSeen = new Int32Array(this.#balances.length);
    this.#given = this.value(new Int32Array(problem.goals.length));
  }

  /** @param placed exposures placed per goal */
  value(placed: ArrayLike<number>): number {
    let value = 0;
    for (const term of this.#finishing) if (isFinished(term, placed)) value += term.bonus;
    for (const term of this.#balances) value += gainOf(term, placed);
    return value;
  }

  /** The same, where nothing is placed of any other goal than some.
   * @param some may name a goal more than once
   * @param count how many of `some` are looked at */
  valueOfSome(placed: ArrayLike<number>, some: ArrayLike<number>, count: number): number {
    let value = this.#given;
    const asked = ++this.#asked;
    for (let i = 0; i < count; i++) {
      if (placed[some[i]] === 0) continue;
      for (const k of this.#finishingOf[some[i]]) {
        if (this.#finishingSeen[k] === asked) continue;
        this.#finishingSeen[k] = asked;
        if (isFinished(this.#finishing[k], placed)) value += this.#finishing[k].bonus;
      }
      for (const k of this.#balancesOf[some[i]]) {
        if (this.#balanceSeen[k] === asked) continue;
        this.#balanceSeen[k] = asked;
        value += gainOf(this.#balances[k], placed);
      }
    }
    return value;
  }
}

const finishingOf = ({ goals, projectBonus }: NightProblem): Finishing[] =>
  projectBonus.flatMap((bonus, project) => {
    const own = goals.flatMap((goal, g) => (goal.project === project ? [g] : []));
    return bonus > 0 && own.length > 0
      ? [{ bonus, goals: Int32Array.from(own), counts: Int32Array.from(own, (g) => goals[g].count) }]
      : [];
  });

const balancesOf = ({ balances }: NightProblem): Balance[] =>
  balances
    .filter(({ members }) => members.length > 0)
    .map(({ weight, members }) => ({
      weight,
      before: Math.min(1, ...members.map(({ done, wanted }) => done / wanted)),
      goals: Int32Array.from(members, ({ goal }) => goal),
      done: Float64Array.from(members, ({ done }) => done),
      wanted: Float64Array.from(members, ({ wanted }) => wanted),
    }));

function termsByGoal({ goals }: NightProblem, terms: readonly { readonly goals: Int32Array }[]): Int32Array[] {
  const own: number[][] = goals.map(() => []);
  terms.forEach((term, k) => term.goals.forEach((goal) => own[goal].push(k)));
  return own.map((ks) => Int32Array.from(ks));
}

function isFinished({ goals, counts }: Finishing, placed: ArrayLike<number>): boolean {
  for (let i = 0; i < goals.length; i++) if (placed[goals[i]] < counts[i]) return false;
  return true;
}

function gainOf({ weight, before, goals, done, wanted }: Balance, placed: ArrayLike<number>): number {
  let after = 1;
  for (let i = 0; i < goals.length; i++) after = Math.min(after, (done[i] + placed[goals[i]]) / wanted[i]);
  return weight * (after - before);
}

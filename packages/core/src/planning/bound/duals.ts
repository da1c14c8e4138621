// The night relaxed: counts, balances and completion paid for by prices, which are moved until the priced night's bound is low.
import { couldAllBeFinished } from '../night/finishable.ts';
import type { GoalRecord } from '../objective.ts';
import type { Prices } from './priced-night.ts';
import type { NightProblem } from '../problem.ts';

/** A value paid in proportion to the least of several goals' fractions: a panel's balance, or a project's completion.
 * The least is never more than any weighted mean of them, so whatever the shares, crediting each goal its share keeps the bound valid. */
export interface LeastTerm {
  readonly kind: 'balance' | 'completion';
  readonly weight: number;
  readonly goals: readonly number[];
  /** Fraction each goal has over the least one before the night, and the exposures that make a whole. */
  readonly ahead: readonly number[];
  readonly whole: readonly number[];
  /** Adding up to 1. */
  readonly share: Float64Array;
}

/** Where the prices stand. */
export interface Duals {
  /** Per exposure: what one of a goal's remaining count is worth elsewhere; 0 or more unless all of them must be placed. */
  readonly count: Float64Array;
  /** 1 for goals that are taken to be placed whole, whose price may be a reward. */
  readonly isWhole: Uint8Array;
  readonly terms: readonly LeastTerm[];
  /** What is paid whatever is done. */
  readonly constant: number;
  /** Exposures of each goal that any night can hold. */
  readonly most: Float64Array;
}

/** Prices of nothing; each term shared by the time its goals take, so that a second earns the same through every filter. */
export function firstDuals(problem: NightProblem): Duals {
  const most = Float64Array.from(problem.goals, (goal) => Math.min(goal.count, mostThatFit(goal)));
  const { terms, constant } = leastTerms(problem, most);
  const goals = problem.goals.length;
  return { count: new Float64Array(goals), isWhole: new Uint8Array(goals), terms, constant, most };
}

/** The duals of the nights in which a project is finished, or is not: a completion settled is paid for whole or not at all.
 * At first the bound is the one of the duals given, or lower; no night is in neither branch.
 * @param term index of a completion among the terms */
export function settled(duals: Duals, term: number, isFinished: boolean): Duals {
  const { weight, goals, whole, share } = duals.terms[term];
  const terms = duals.terms.flatMap((other, i) => (i === term ? [] : [{ ...other, share: other.share.slice() }]));
  const [count, isWhole] = [duals.count.slice(), duals.isWhole.slice()];
  if (!isFinished) return { ...duals, count, isWhole, terms };
  goals.forEach((g, i) => {
    count[g] -= (weight * share[i]) / whole[i];
    isWhole[g] = 1;
  });
  return { ...duals, count, isWhole, terms, constant: duals.constant + weight };
}

/** The prices as the priced night wants them, and what they promise beside it: bound = its total + `beside`. */
export function pricesOf({ count, terms, constant, most }: Duals): { prices: Prices; beside: number } {
  const credit = new Float64Array(count.length);
  let beside = constant;
  for (const { weight, goals, ahead, whole, share } of terms)
    goals.forEach((g, i) => {
      credit[g] += (weight * share[i]) / whole[i];
      beside += weight * share[i] * ahead[i];
    });
  for (let g = 0; g < count.length; g++) beside += count[g] * most[g];
  return { prices: { count, credit }, beside };
}

/** A goal, as far as the descent looks at it. */
type Priceable = Pick<GoalRecord, 'value'>;

export interface DescentOptions<Priced> {
  readonly rounds: number;
  /** Value of a plan that is known, for the length of the steps; asked in each round. */
  readonly reached: () => number;
  /** No need to go on below this; 0 where left out. */
  readonly enough?: number;
  /** Told each round's night, for building plans along it. */
  readonly onNight?: (night: Priced, prices: Prices, round: number) => void;
}

/** Share of the latest night in the mean of the nights met: what it may be at most, which shrinks while rounds go by, and at least of that. */
const LATEST = { most: 0.1, shrink: 0.7, everyRounds: 100, floor: 0.005, least: 0.1 } as const;
/** Lengths of steps as shares of Polyak's: longer after a lower bound where it was looked for, shorter after so many rounds without one. */
const LENGTH = { longest: 2, shortest: 1e-4, longer: 1.1, shorter: 0.66, patience: 10 } as const;

/** Lowers the bound by steps from the best prices met, along the subgradient of the mean of the nights met: the bound is creased,
 * and bare subgradients run back and forth across its folds.
 * Source: Barahona & Anbil 2000, Math. Program. 87, 385; lengths: Polyak 1969, USSR Comput. Math. Math. Phys. 9, 14.
 * @returns the lowest bound met: no plan of the problem is worth more; the duals are left where it was met */
export function loweredBound<Priced extends { readonly total: number; readonly usage: Float64Array }>(
  goals: readonly Priceable[],
  priced: (prices: Prices) => Priced,
  duals: Duals,
  { rounds, reached, enough = 0, onNight }: DescentOptions<Priced>,
): number {
  const mean = new Float64Array(duals.count.length);
  let best = { bound: Infinity, prices: copied(duals) };
  let [length, idle, most] = [1, 0, LATEST.most as number];
  for (let round = 0; round < rounds && best.bound > enough; round++) {
    const { prices, beside } = pricesOf(duals);
    const night = priced(prices);
    const bound = night.total + beside;
    onNight?.(night, prices, round);
    const isLower = bound < best.bound - 1e-9;
    if (isLower) best = { bound, prices: copied(duals) };
    else restore(duals, best.prices);
    if (round === 0) mean.set(night.usage);
    const [before, latest] = [slopesAt(goals, duals, mean), slopesAt(goals, duals, night.usage)];
    const share = shareOfLatest(before, latest, most);
    for (let g = 0; g < mean.length; g++) mean[g] += share * (night.usage[g] - mean[g]);
    idle = isLower ? 0 : idle + 1;
    if (isLower && round > 0 && dot(before, latest) > 0) length = Math.min(LENGTH.longest, length * LENGTH.longer);
    if (idle >= LENGTH.patience) [length, idle] = [Math.max(LENGTH.shortest, length * LENGTH.shorter), 0];
    if ((round + 1) % LATEST.everyRounds === 0) most = Math.max(LATEST.floor, most * LATEST.shrink);
    const slopes = slopesAt(goals, duals, mean);
    const steepness = dot(slopes, slopes);
    if (steepness < 1e-18) break;
    descend(goals, duals, slopes, (length * Math.max(1e-5 * best.bound, best.bound - reached())) / steepness);
  }
  restore(duals, best.prices);
  return best.bound;
}

interface DualPrices {
  readonly count: Float64Array;
  readonly shares: readonly Float64Array[];
}

const copied = ({ count, terms }: Duals): DualPrices => ({
  count: count.slice(),
  shares: terms.map(({ share }) => share.slice()),
});

function restore({ count, terms }: Duals, prices: DualPrices): void {
  count.set(prices.count);
  terms.forEach(({ share }, k) => share.set(prices.shares[k]));
}

/** Count prices are moved in units of the goal's own value. */
const scaleOf = ({ value }: Priceable): number => value || 1e-9;

/** How the bound changes with each count price and then each share, along directions that they can take, if a night uses so much. */
function slopesAt(
  goals: readonly Priceable[],
  { count, isWhole, terms, most }: Duals,
  usage: Float64Array,
): Float64Array {
  const slopes = new Float64Array(count.length + terms.reduce((sum, { share }) => sum + share.length, 0));
  for (let g = 0; g < count.length; g++) {
    const slope = (most[g] - usage[g]) * scaleOf(goals[g]);
    slopes[g] = !isWhole[g] && count[g] <= 0 && slope > 0 ? 0 : slope;
  }
  let at = count.length;
  for (const { weight, goals: own, ahead, whole } of terms) {
    let mean = 0;
    for (let i = 0; i < own.length; i++) {
      slopes[at + i] = weight * (ahead[i] + usage[own[i]] / whole[i]);
      mean += slopes[at + i] / own.length;
    }
    for (let i = 0; i < own.length; i++) slopes[at + i] -= mean;
    at += own.length;
  }
  return slopes;
}

/** The share that makes the mixture of two slopes shortest, within its limits. */
function shareOfLatest(before: Float64Array, latest: Float64Array, most: number): number {
  let [apart, along] = [0, 0];
  for (let i = 0; i < before.length; i++) {
    apart += (latest[i] - before[i]) ** 2;
    along += before[i] * (before[i] - latest[i]);
  }
  return apart > 0 ? Math.max(most * LATEST.least, Math.min(most, along / apart)) : most;
}

function descend(goals: readonly Priceable[], { count, isWhole, terms }: Duals, slopes: Float64Array, step: number) {
  for (let g = 0; g < count.length; g++) {
    const price = count[g] - step * slopes[g] * scaleOf(goals[g]);
    count[g] = isWhole[g] ? price : Math.max(0, price);
  }
  let at = count.length;
  for (const { share } of terms) {
    for (let i = 0; i < share.length; i++) share[i] -= step * slopes[at++];
    ontoSimplex(share);
  }
}

function dot(a: Float64Array, b: Float64Array): number {
  let sum = 0;
  for (let i = 0; i < a.length; i++) sum += a[i] * b[i];
  return sum;
}

/** The nearest point whose coordinates are 0 or more and add up to 1. Source: Held, Wolfe & Crowder 1974, Math. Program. 6, 62. */
function ontoSimplex(point: Float64Array): void {
  const descending = point.slice().sort().reverse();
  let [sum, shift] = [0, 0];
  for (let i = 0; i < descending.length; i++) {
    sum += descending[i];
    const level = (sum - 1) / (i + 1);
    if (descending[i] > level) shift = level;
  }
  for (let i = 0; i < point.length; i++) point[i] = Math.max(0, point[i] - shift);
}

function leastTerms(problem: NightProblem, most: Float64Array): { terms: LeastTerm[]; constant: number } {
  const terms: LeastTerm[] = [];
  let constant = 0;
  problem.projectBonus.forEach((bonus, project) => {
    const own = problem.goals.flatMap((goal, g) => (goal.project === project ? [g] : []));
    const open = own.filter((g) => problem.goals[g].count > 0);
    if (bonus <= 0 || own.length === 0) return;
    if (open.length === 0) constant += bonus;
    // What can't be finished tonight credits nothing.
    if (open.some((g) => most[g] < problem.goals[g].count) || !couldAllBeFinished(problem, open)) return;
    const members = open.map((goal) => ({ goal, whole: problem.goals[goal].count, ahead: 0 }));
    if (open.length > 0) terms.push(termOf(problem, 'completion', bonus, members));
  });
  for (const { weight, members } of problem.balances) {
    if (members.length === 0 || weight <= 0) continue;
    const least = Math.min(1, ...members.map(({ done, wanted }) => done / wanted));
    const isStuck = members.some(({ goal, done, wanted }) => done / wanted <= least + 1e-9 && most[goal] === 0);
    if (least >= 1 || isStuck) continue;
    const ahead = members.map(({ goal, done, wanted }) => ({ goal, whole: wanted, ahead: done / wanted - least }));
    terms.push(termOf(problem, 'balance', weight, ahead));
  }
  return { terms, constant };
}

function termOf(
  problem: NightProblem,
  kind: LeastTerm['kind'],
  weight: number,
  members: readonly { goal: number; whole: number; ahead: number }[],
): LeastTerm {
  const sec = members.map(({ goal, whole, ahead }) => (ahead <= 1e-9 ? whole * problem.goals[goal].cycleSec : 0));
  const total = sec.reduce((sum, value) => sum + value, 0);
  return {
    kind,
    weight,
    goals: members.map(({ goal }) => goal),
    ahead: members.map(({ ahead }) => ahead),
    whole: members.map(({ whole }) => whole),
    share: Float64Array.from(sec, (value) => value / total),
  };
}

/** Exposures of a goal that fit into its windows if it had the night to itself. */
function mostThatFit({ windows, exposureSec, cycleSec }: NightProblem['goals'][number]): number {
  return windows.reduce(
    (sum, { fromSec, toSec }) => sum + Math.max(0, Math.floor((toSec - fromSec - exposureSec + 1e-6) / cycleSec) + 1),
    0,
  );
}

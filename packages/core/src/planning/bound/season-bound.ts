// A proven upper bound on the value of a season: counts, balances and completions paid for by prices, the nights solved apart.
import type { SeasonProblem } from '../season/season-problem.ts';
import { lackAllowed } from '../season/season-problem.ts';
import type { Duals, LeastTerm } from './duals.ts';
import { loweredBound, pricesOf } from './duals.ts';
import type { PricedLanes } from './priced-lane.ts';
import { lanePricer } from './priced-lane.ts';
import { slotPricer } from './priced-slots.ts';
import { settlePrices } from './settle-prices.ts';

export interface SeasonBoundOptions {
  readonly rounds: number;
  /** Rounds before, without travel and on a coarse grid, where prices are found faster. */
  readonly slotRounds: number;
  readonly coarseRounds: number;
  /** Value of a plan that is known. */
  readonly reached: number;
  /** Told now and then; says whether to stop. */
  readonly onProgress?: (share: number) => boolean;
}

const STEP_SEC = 30;
const COARSE_STEP_SEC = 100;

export interface SeasonBound {
  /** No plan of the problem is worth more. */
  readonly bound: number;
  /** The prices that prove it. */
  readonly duals: Duals;
}

/** The lowest bound met. Any prices of 0 or more, and any shares that add up to 1, prove theirs.
 * @param from prices to begin with; none where left out */
export function seasonBound(problem: SeasonProblem, options: SeasonBoundOptions, from?: Duals): SeasonBound {
  const duals = from ?? firstSeasonDuals(problem);
  const { reached, rounds, coarseRounds, slotRounds } = options;
  if (slotRounds > 0) settlePrices(problem, slotPricer(problem), duals, slotRounds);
  if (coarseRounds > 0)
    lowered(problem, lanePricer(problem, COARSE_STEP_SEC, 'nearest'), duals, { rounds: coarseRounds, reached });
  const bound = lowered(problem, lanePricer(problem, STEP_SEC), duals, { rounds, reached });
  return { bound, duals };
}

type Pricer = (net: Float64Array) => PricedLanes;

function lowered(
  { goals }: SeasonProblem,
  price: Pricer,
  duals: Duals,
  { rounds, reached }: { rounds: number; reached: number },
): number {
  const net = new Float64Array(goals.length);
  return loweredBound(
    goals,
    ({ count, credit }) => {
      goals.forEach(({ cycleSec }, g) => (net[g] = (credit[g] - count[g]) / cycleSec));
      return price(net);
    },
    duals,
    { rounds, reached: () => reached },
  );
}

/** What the prices prove, from the beginning: for whoever doubts a bound. */
export function boundOf(problem: SeasonProblem, duals: Duals): number {
  const { prices, beside } = pricesOf(duals);
  const net = Float64Array.from(problem.goals, ({ cycleSec }, g) => (prices.credit[g] - prices.count[g]) / cycleSec);
  return lanePricer(problem, STEP_SEC)(net).total + beside;
}

/** Prices of nothing; each term shared by the time its goals take. */
export function firstSeasonDuals(problem: SeasonProblem): Duals {
  const { goals, panels, projects } = problem;
  const most = mostOf(problem);
  const allowed = lackAllowed(problem);
  const terms: LeastTerm[] = [];
  const own = (panel: number): number[] => goals.flatMap((goal, g) => (goal.panel === panel ? [g] : []));
  panels.forEach(({ balance }, panel) => {
    const members = own(panel);
    const least = Math.min(1, ...members.map((g) => goals[g].done / goals[g].wanted));
    const isStuck = members.some((g) => goals[g].done / goals[g].wanted <= least + 1e-9 && most[g] === 0);
    if (balance <= 0 || least >= 1 || isStuck) return;
    const ahead = members.map((g) => Math.min(1, goals[g].done / goals[g].wanted) - least);
    terms.push(termOf(problem, 'balance', balance, members, ahead, (g) => goals[g].wanted));
  });
  projects.forEach(({ bonus }, project) => {
    const open = panels
      .flatMap((panel, p) => (panel.project === project ? own(p) : []))
      .filter((g) => goals[g].count > allowed);
    if (bonus <= 0 || open.length === 0 || open.some((g) => most[g] < goals[g].count - allowed - 1e-9)) return;
    terms.push(termOf(problem, 'completion', bonus, open, open.map(() => 0), (g) => Math.max(1e-3, goals[g].count - allowed))); // prettier-ignore
  });
  return { count: new Float64Array(goals.length), isWhole: new Uint8Array(goals.length), terms, constant: 0, most };
}

/** Exposures that the open time of the whole season could hold, or that may be placed. */
function mostOf({ goals, lanes, slotSec }: SeasonProblem): Float64Array {
  const openSec = new Map<number, number>();
  for (const { rates, slots, odds } of lanes)
    for (const row of new Set(goals.map((goal) => goal.row))) {
      let open = 0;
      for (let slot = 0; slot < slots; slot++) if (rates[row * slots + slot] > 0) open += slotSec;
      openSec.set(row, (openSec.get(row) ?? 0) + open * odds);
    }
  return Float64Array.from(goals, ({ row, count, cycleSec }) =>
    Math.max(0, Math.min(count, (openSec.get(row) ?? 0) / cycleSec)),
  );
}

function termOf(
  { goals }: SeasonProblem,
  kind: LeastTerm['kind'],
  weight: number,
  members: readonly number[],
  ahead: readonly number[],
  wholeOf: (goal: number) => number,
): LeastTerm {
  const sec = members.map((g, i) => (ahead[i] <= 1e-9 ? wholeOf(g) * goals[g].cycleSec : 0));
  const total = sec.reduce((sum, value) => sum + value, 0);
  return {
    kind,
    weight,
    goals: members,
    ahead,
    whole: members.map(wholeOf),
    share: Float64Array.from(sec, (value) => value / total),
  };
}

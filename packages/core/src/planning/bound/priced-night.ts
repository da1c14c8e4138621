// The night as one backward dynamic programme over (time step, panel) with prices on the goals' counts: a proven upper bound, and a guide for building plans.
import type { NightProblem } from '../problem.ts';
import type { GoalRecord } from '../objective.ts';

/** Prices and the linear shares in which completion and balance are credited to single exposures. */
export interface Prices {
  /** Per exposure, 0 or more: what one exposure of the goal's remaining count is worth elsewhere. */
  readonly count: Float64Array;
  /** Per exposure: a share of the project's bonus and of the panel's balance. */
  readonly credit: Float64Array;
}

export interface PricedNight {
  readonly stepSec: number;
  readonly steps: number;
  /** Best value from a step onwards when standing on a panel: `[step · panelCount + panel]`; one more row of zeros at the end. */
  readonly worth: Float64Array;
  /** Worth of the whole night before the first move. */
  readonly total: number;
  /** Time the relaxed night gives each goal, as exposures. */
  readonly usage: Float64Array;
}

/** Changes rounded down keep the bound proven; rounded to the nearest step they guide better. */
export type Rounding = 'down' | 'nearest';

/** Prepares the relaxed night of a problem to be solved for many prices: fractional exposures, the best rate in each step,
 * changes in whole steps, no filter changes.
 * Whatever the prices, with changes rounded down, `total` + Σ price · count (+ the credits' constants) is at least the value of any real plan.
 * What it answers holds until it is asked again: its arrays are used anew. */
export function nightPricer(
  problem: NightProblem,
  goals: readonly GoalRecord[],
  stepSec: number,
  rounding: Rounding = 'down',
): (prices: Prices) => PricedNight {
  const longestCycleSec = goals.reduce((longest, goal) => Math.max(longest, goal.cycleSec), 0);
  const steps = Math.ceil((problem.lengthSec + longestCycleSec) / stepSec);
  const panels = problem.panelCount;
  const inSteps = (sec: number): number =>
    rounding === 'down' ? Math.floor(sec / stepSec + 1e-9) : Math.round(sec / stepSec);
  const change = problem.panelChangeSec.map((row) => Int32Array.from(row, inSteps));
  const longestChange = change.reduce((most, row) => row.reduce((a, b) => Math.max(a, b), most), 0);
  const peaks = goals.map((goal) => ratePeaks(goal, steps, stepSec));
  const rows = steps + 1 + longestChange;
  const worth = new Float64Array(rows * panels);
  const next = new Int16Array(rows * panels);
  const relaxed = { density: new Float64Array(steps * panels), best: new Int16Array(steps * panels) };
  // From a panel to each other one: how far on in the table its worth stands.
  const onward = Int32Array.from({ length: panels * panels }, (_, i) => {
    const [p, q] = [Math.floor(i / panels), i % panels];
    return change[p + 1][q] * panels + q;
  });
  const nearest = nearestChange(change);
  const order = Int16Array.from({ length: panels }, (_, p) => p);
  return (prices) => {
    fillDensities(relaxed, goals, peaks, prices, panels);
    const { density, best } = relaxed;
    next.fill(-1);
    for (let row = (steps - 1) * panels; row >= 0; row -= panels) {
      for (let p = 0; p < panels; p++) worth[row + p] = density[row + p] * stepSec + worth[row + panels + p];
      // What is left is worth less the later it is: a panel that even the shortest change reaches too late is not looked at.
      const soonest = row + nearest * panels;
      if (nearest > 0) sortByWorth(order, worth, soonest);
      for (let p = 0; p < panels; p++) {
        // Changes shorter than a step are free here, which keeps the bound valid.
        let top = worth[row + p];
        let to = -1;
        for (let i = 0; i < panels; i++) {
          const q = order[i];
          if (nearest > 0 && worth[soonest + q] <= top) break;
          const there = worth[row + onward[p * panels + q]];
          if (there > top) {
            top = there;
            to = q;
          }
        }
        worth[row + p] = top;
        next[row + p] = to;
      }
    }
    const first = firstPanel(worth, change, panels, steps);
    return {
      stepSec,
      steps,
      worth,
      total: Math.max(0, first.total),
      usage: usageOf(goals, { next, best, change, panels, steps, stepSec }, first),
    };
  };
}

/** Steps of the shortest change between two panels; 0 where some change takes less than a step, or there is one panel only. */
function nearestChange([, ...rows]: readonly Int32Array[]): number {
  let nearest = Infinity;
  rows.forEach((row, p) => row.forEach((steps, q) => (nearest = p === q ? nearest : Math.min(nearest, steps))));
  return Number.isFinite(nearest) ? nearest : 0;
}

/** Sorts panels by what they are worth at a row, most first; they hardly change places from row to row. */
function sortByWorth(order: Int16Array, worth: Float64Array, row: number): void {
  for (let i = 1; i < order.length; i++) {
    const panel = order[i];
    const value = worth[row + panel];
    let at = i;
    for (; at > 0 && worth[row + order[at - 1]] < value; at--) order[at] = order[at - 1];
    order[at] = panel;
  }
}

function firstPanel(worth: Float64Array, change: readonly Int32Array[], panels: number, steps: number) {
  let first = { panel: -1, step: 0, total: 0 };
  for (let p = 0; p < panels; p++) {
    const step = Math.min(steps, change[0][p]);
    if (worth[step * panels + p] > first.total) first = { panel: p, step, total: worth[step * panels + p] };
  }
  return first;
}

/** Follows the relaxed night forward and counts what it uses. */
function usageOf(
  goals: readonly GoalRecord[],
  policy: {
    next: Int16Array;
    best: Int16Array;
    change: readonly Int32Array[];
    panels: number;
    steps: number;
    stepSec: number;
  },
  first: { panel: number; step: number },
): Float64Array {
  const usage = new Float64Array(goals.length);
  let { panel, step } = first;
  let moves = 0;
  while (panel >= 0 && step < policy.steps) {
    const to = policy.next[step * policy.panels + panel];
    if (to >= 0 && moves < policy.panels) {
      const spent = policy.change[panel + 1][to];
      moves = spent === 0 ? moves + 1 : 0;
      step += spent;
      panel = to;
      continue;
    }
    const goal = policy.best[step * policy.panels + panel];
    if (goal >= 0) usage[goal] += policy.stepSec / goals[goal].cycleSec;
    step += 1;
    moves = 0;
  }
  return usage;
}

/** The highest rate of one goal in each step of one of its windows. */
interface RatePeaks {
  readonly first: number;
  readonly rates: Float64Array;
}

/** Prices do not change them: found once, used for every price. Windows too short for an exposure have none. */
const ratePeaks = (goal: GoalRecord, steps: number, stepSec: number): RatePeaks[] =>
  Array.from(goal.fromSec).flatMap((fromSec, w) => {
    if (goal.count <= 0 || goal.toSec[w] - fromSec < goal.exposureSec - 1e-6) return [];
    const first = Math.max(0, Math.floor(fromSec / stepSec));
    const last = Math.min(steps - 1, Math.ceil((goal.toSec[w] + goal.cycleSec - goal.exposureSec) / stepSec) - 1);
    const rates = Float64Array.from({ length: Math.max(0, last - first + 1) }, (_, i) =>
      highestRate(goal, (first + i) * stepSec, stepSec, w),
    );
    return [{ first, rates }];
  });

/** Value per second of the best goal of each panel in each step; 0 where none is worth its price. */
function fillDensities(
  { density, best }: { readonly density: Float64Array; readonly best: Int16Array },
  goals: readonly GoalRecord[],
  peaks: readonly (readonly RatePeaks[])[],
  prices: Prices,
  panels: number,
): void {
  density.fill(0);
  best.fill(-1);
  for (let g = 0; g < goals.length; g++) {
    const { value, cycleSec, panel } = goals[g];
    const net = (prices.credit[g] - prices.count[g]) / cycleSec;
    const perRate = value / cycleSec;
    for (const { first, rates } of peaks[g]) {
      for (let i = 0, at = first * panels + panel; i < rates.length; i++, at += panels) {
        const perSec = perRate * rates[i] + net;
        if (perSec > density[at]) {
          density[at] = perSec;
          best[at] = g;
        }
      }
    }
  }
}

/** The highest rate that a step of an exposure's cycle can stand for. Stretched over its cycle, an exposure is at each moment no further
 * behind than the cycle is longer than the exposure: the mean over the stretched run is the mean over the exposure itself. */
function highestRate(goal: GoalRecord, stepStartSec: number, stepSec: number, window: number): number {
  const from = Math.max(goal.fromSec[window], stepStartSec - (goal.cycleSec - goal.exposureSec));
  const to = Math.min(goal.toSec[window], stepStartSec + stepSec);
  const first = Math.max(0, Math.floor(from / goal.rateStepSec));
  const last = Math.min(goal.cumulative.length - 2, Math.ceil(to / goal.rateStepSec) - 1);
  let highest = 0;
  for (let i = first; i <= last; i++) highest = Math.max(highest, goal.cumulative[i + 1] - goal.cumulative[i]);
  return highest / goal.rateStepSec;
}

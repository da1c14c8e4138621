// The night as one backward dynamic programme over (time step, panel) with prices on the goals' counts: a proven upper bound, and a guide for building plans.
import type { NightProblem } from './problem.ts';
import type { GoalRecord } from './objective.ts';

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

/** Prepares the relaxed night of a problem to be solved for many prices: fractional exposures, the best rate near each step,
 * changes rounded down to whole steps, no filter changes.
 * Whatever the prices, `total` + Σ price · count (+ the credits' constants) is at least the value of any real plan. */
export function nightPricer(
  problem: NightProblem,
  goals: readonly GoalRecord[],
  stepSec: number,
): (prices: Prices) => PricedNight {
  const longestCycleSec = goals.reduce((longest, goal) => Math.max(longest, goal.cycleSec), 0);
  const steps = Math.ceil((problem.lengthSec + longestCycleSec) / stepSec);
  const panels = problem.panelCount;
  const change = problem.panelChangeSec.map((row) => Int32Array.from(row, (sec) => Math.floor(sec / stepSec + 1e-9)));
  const peaks = goals.map((goal) => ratePeaks(goal, steps, stepSec));
  return (prices) => {
    const { density, best } = densities(goals, peaks, prices, panels, steps);
    const worth = new Float64Array((steps + 1) * panels);
    const next = new Int16Array((steps + 1) * panels).fill(-1);
    for (let k = steps - 1; k >= 0; k--) {
      const row = k * panels;
      for (let p = 0; p < panels; p++) worth[row + p] = density[row + p] * stepSec + worth[row + panels + p];
      for (let p = 0; p < panels; p++) bestMove(worth, next, change[p + 1], k, p, panels, steps);
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

/** Considers leaving panel p at step k for each other panel; changes shorter than a step are free here, which keeps the bound valid. */
function bestMove(
  worth: Float64Array,
  next: Int16Array,
  changeFrom: Int32Array,
  k: number,
  p: number,
  panels: number,
  steps: number,
): void {
  let top = worth[k * panels + p];
  for (let q = 0; q < panels; q++) {
    if (q === p || k + changeFrom[q] > steps) continue;
    const there = worth[(k + changeFrom[q]) * panels + q];
    if (there > top) {
      top = there;
      next[k * panels + p] = q;
    }
  }
  worth[k * panels + p] = top;
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

/** The highest rate of one goal near each step of one of its windows. */
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
function densities(
  goals: readonly GoalRecord[],
  peaks: readonly (readonly RatePeaks[])[],
  prices: Prices,
  panels: number,
  steps: number,
) {
  const density = new Float64Array(steps * panels);
  const best = new Int16Array(steps * panels).fill(-1);
  goals.forEach((goal, g) => {
    const net = prices.credit[g] - prices.count[g];
    for (const { first, rates } of peaks[g]) {
      for (let i = 0, at = first * panels + goal.panel; i < rates.length; i++, at += panels) {
        const perSec = (goal.value * rates[i] + net) / goal.cycleSec;
        if (perSec > density[at]) {
          density[at] = perSec;
          best[at] = g;
        }
      }
    }
  });
  return { density, best };
}

/** The highest rate within a cycle of a step, inside the window: at least the mean rate of any exposure whose cycle touches the step. */
function highestRate(goal: GoalRecord, stepStartSec: number, stepSec: number, window: number): number {
  const from = Math.max(goal.fromSec[window], stepStartSec - goal.cycleSec);
  const to = Math.min(goal.toSec[window], stepStartSec + stepSec + goal.cycleSec);
  const first = Math.max(0, Math.floor(from / goal.rateStepSec));
  const last = Math.min(goal.cumulative.length - 2, Math.ceil(to / goal.rateStepSec) - 1);
  let highest = 0;
  for (let i = first; i <= last; i++) highest = Math.max(highest, goal.cumulative[i + 1] - goal.cumulative[i]);
  return highest / goal.rateStepSec;
}

/** Credits that spread each bonus and balance over the time its exposures take, so that a second earns the same through every filter.
 * Any shares that add up to 1 keep the bound valid; what can't be reached tonight credits nothing. */
export function timeShareCredits(problem: NightProblem): { credit: Float64Array; constant: number } {
  const credit = new Float64Array(problem.goals.length);
  let constant = 0;
  const most = problem.goals.map(mostThatFit);
  problem.projectBonus.forEach((bonus, project) => {
    const own = problem.goals.flatMap((goal, g) => (goal.project === project ? [g] : []));
    const open = own.filter((g) => problem.goals[g].count > 0);
    const neededSec = open.reduce((sum, g) => sum + problem.goals[g].count * problem.goals[g].exposureSec, 0);
    const reachable = neededSec <= problem.lengthSec && open.every((g) => most[g] >= problem.goals[g].count);
    if (bonus <= 0 || own.length === 0 || !reachable) return;
    if (open.length === 0) constant += bonus;
    spread(
      credit,
      problem,
      bonus,
      open.map((goal) => ({ goal, whole: problem.goals[goal].count })),
    );
  });
  for (const { weight, members } of problem.balances) {
    if (members.length === 0 || weight <= 0) continue;
    const least = Math.min(...members.map(({ done, wanted }) => done / wanted));
    const behind = members.filter(({ done, wanted }) => done / wanted <= least + 1e-9);
    if (behind.every(({ goal }) => most[goal] > 0 && problem.goals[goal].count > 0)) {
      spread(
        credit,
        problem,
        weight,
        behind.map(({ goal, wanted }) => ({ goal, whole: wanted })),
      );
    }
  }
  return { credit, constant };
}

/** Gives each member the share of a value that its time has in the whole. */
function spread(
  credit: Float64Array,
  problem: NightProblem,
  value: number,
  members: readonly { goal: number; whole: number }[],
): void {
  const secondsOf = ({ goal, whole }: { goal: number; whole: number }): number => whole * problem.goals[goal].cycleSec;
  const totalSec = members.reduce((sum, member) => sum + secondsOf(member), 0);
  for (const member of members) credit[member.goal] += (value * problem.goals[member.goal].cycleSec) / totalSec;
}

/** Exposures of a goal that fit into its windows if it had the night to itself. */
function mostThatFit({ windows, exposureSec, cycleSec }: NightProblem['goals'][number]): number {
  return windows.reduce(
    (sum, { fromSec, toSec }) => sum + Math.max(0, Math.floor((toSec - fromSec - exposureSec + 1e-6) / cycleSec) + 1),
    0,
  );
}

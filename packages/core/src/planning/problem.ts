// The night's allocation problem, freed from the sky: goals with windows and rates, panels with travel times, and what the result is worth.

/** Rate by time: `values[k]` holds on [k, k + 1) · stepSec from the problem's origin. */
export interface RateCurve {
  readonly stepSec: number;
  readonly values: Float64Array;
}

/** Seconds from the problem's origin. */
export interface TimeWindow {
  readonly fromSec: number;
  readonly toSec: number;
}

export interface PlanGoal {
  readonly id: string;
  /** Index into `projectBonus`. */
  readonly project: number;
  /** Index into the panels of `panelChangeSec`. */
  readonly panel: number;
  readonly exposureSec: number;
  /** From the start of one exposure to the earliest start of the next; at least `exposureSec`. */
  readonly cycleSec: number;
  /** Whole exposures that may still be placed. */
  readonly count: number;
  /** Value of one exposure at rate 1. */
  readonly value: number;
  /** Ascending and apart; an exposure lies inside one of them. */
  readonly windows: readonly TimeWindow[];
  readonly rate: RateCurve;
}

/** A panel's goals are worth as much as the least-served of them: weight × gain of the minimum fraction done. */
export interface BalanceTerm {
  readonly weight: number;
  readonly members: readonly { readonly goal: number; readonly done: number; readonly wanted: number }[];
}

export interface NightProblem {
  readonly lengthSec: number;
  readonly goals: readonly PlanGoal[];
  readonly panelCount: number;
  /** Travel between panels: `[from + 1] [to]`, row 0 from wherever the night begins; 0 on the diagonal. */
  readonly panelChangeSec: readonly (readonly number[])[];
  /** Change between two goals of one panel. */
  readonly goalChangeSec: (from: number, to: number) => number;
  /** Paid when every goal of a project is placed to its count; 0 for none. */
  readonly projectBonus: readonly number[];
  readonly balances: readonly BalanceTerm[];
  /** Per panel: a shorter stay on it is not planned unless it finishes a goal or was set by hand. */
  readonly minStayOfPanelSec: readonly number[];
  /** Runs set by hand: they stand where they are and nothing else may take their time. In time order, apart by their changes, part of the counts. */
  readonly pinned?: readonly Placement[];
  /** The plan before: the search prefers to keep its stays, though keeping adds nothing to the value. */
  readonly kept?: KeptPlan;
  /** Per goal: exposures of a group where the filters of a stay alternate; 0 or left out = one filter after the other. */
  readonly groups?: readonly number[];
  /** Chance in an hour that the night ends, as the rate of an exponential law: the order is then the one that holds most wherever
   * it is cut. None where left out. */
  readonly endHazardPerHour?: number;
}

/** What a re-plan pays for a stay that it moves: a twentieth of an hour at full rate and weight 1. */
export const KEPT_STAY_VALUE = 0.03;

/** Seconds to the millisecond, so that a time is the same after a way through UTC. */
export const toMs = (sec: number): number => Math.round(sec * 1000) / 1000;

/** A plan to stay near to. */
export interface KeptPlan {
  readonly runs: readonly { readonly goal: number; readonly startSec: number; readonly count: number }[];
  /** What the search pays for a stay that is moved or dropped. */
  readonly worthPerStay: number;
}

/** A run of exposures of one goal. */
export interface Placement {
  readonly goal: number;
  /** Start of each exposure, ascending. */
  readonly startsSec: readonly number[];
}

export interface NightSolution {
  /** In time order. */
  readonly placements: readonly Placement[];
  readonly value: number;
}

/** From the last download of a goal to the first exposure of another; `from` −1 where the night begins. */
export function changeSecBetween(
  { goals, panelChangeSec, goalChangeSec }: Pick<NightProblem, 'goals' | 'panelChangeSec' | 'goalChangeSec'>,
  from: number,
  to: number,
): number {
  if (from < 0) return panelChangeSec[0][goals[to].panel];
  if (goals[from].panel !== goals[to].panel) return panelChangeSec[goals[from].panel + 1][goals[to].panel];
  return from === to ? 0 : goalChangeSec(from, to);
}

/** Exposures placed per goal. */
export function placedCounts(problem: NightProblem, placements: readonly Placement[]): number[] {
  const counts = problem.goals.map(() => 0);
  for (const { goal, startsSec } of placements) counts[goal] += startsSec.length;
  return counts;
}

// The one entry to season planning: a problem in, the best season found out. Deterministic by problem, seed and iterations.
import { seededRandom } from '../../random.ts';
import { annealSeason, restore } from './anneal-season.ts';
import { rebuildStretch } from './rebuild-stretch.ts';
import type { SeasonPlan, SeasonProblem } from './season-problem.ts';
import { SeasonSearch } from './season-search.ts';
import { SeasonState } from './season-state.ts';
import { seasonTables } from './season-tables.ts';

export interface PlanSeasonOptions {
  readonly iterations: number;
  readonly seed: number;
  /** A season to begin with, as far as it still fits; walked greedily where left out. */
  readonly from?: SeasonPlan;
  /** Told the share that is done, (0, 1), now and then; says whether to stop. */
  readonly onProgress?: (share: number) => boolean;
}

export interface PlannedSeason {
  readonly plan: SeasonPlan;
  readonly value: number;
}

/** The best season found, never worth less than the one to begin with. */
export function planSeason(
  problem: SeasonProblem,
  { iterations, seed, from, onProgress }: PlanSeasonOptions,
): PlannedSeason {
  const state = new SeasonState(seasonTables(problem));
  const isNothing = problem.lanes.every(({ slots }) => slots === 0) || problem.goals.every(({ count }) => count <= 0);
  if (isNothing) return { plan: state.plan(), value: 0 };
  if (from) restore(state, from);
  else walkGreedily(state, seed);
  annealSeason(state, { iterations, seed, isWarm: from !== undefined, onProgress });
  return { plan: state.plan(), value: state.value };
}

/** Each lane in turn: stay after stay, each the one worth most a second. */
export function walkGreedily(state: SeasonState, seed: number): void {
  const search = new SeasonSearch(state, seededRandom(seed));
  for (let lane = 0; lane < state.lanes.length; lane++) {
    search.next.clear();
    rebuildStretch(search, lane, 0, state.tables.lanes[lane].lengthSec, 0);
    search.forgetFreed();
    state.settle();
    state.keep();
  }
}

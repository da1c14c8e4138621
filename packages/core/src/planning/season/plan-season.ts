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
  if (!from && iterations >= MOVES_OF_PLENTY * problem.goals.length * problem.lanes.length)
    return bestOfHeats(state, { iterations, seed, onProgress });
  if (from) restore(state, from);
  else walkGreedily(state, seed);
  annealSeason(state, { iterations, seed, isWarm: from !== undefined, onProgress });
  return { plan: state.plan(), value: state.value };
}

/** Moves for each goal in each night beyond which one long search gains less than several unlike ones. */
const MOVES_OF_PLENTY = 2000;
/** Temperatures of those searches, times the usual one: what one heat stays caught in, another passes. Found by trying on small seasons solved exactly. */
const HEATS = [1, 0.1, 0.3, 0.1] as const;

function bestOfHeats(
  state: SeasonState,
  { iterations, seed, onProgress }: Omit<PlanSeasonOptions, 'from'>,
): PlannedSeason {
  let best: PlannedSeason = { plan: state.plan(), value: 0 };
  let isStopped = false;
  const told = (share: number): boolean => (isStopped ||= onProgress?.(share) ?? false);
  for (const [i, heat] of HEATS.entries()) {
    if (isStopped) break;
    restore(
      state,
      state.lanes.map(() => []),
    );
    walkGreedily(state, seed + i);
    annealSeason(state, {
      iterations: Math.round(iterations / HEATS.length),
      seed: seed + i,
      heat,
      onProgress: (share) => told((i + share) / HEATS.length),
    });
    if (state.value > best.value) best = { plan: state.plan(), value: state.value };
  }
  return best;
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

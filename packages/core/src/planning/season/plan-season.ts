// The one entry to season planning: a problem in, the best season found out. Deterministic by problem, seed and iterations.
import { seededRandom } from '../../random.ts';
import { annealSeason, restore } from './anneal-season.ts';
import { rebuildStretch } from './rebuild-stretch.ts';
import type { SeasonPlan, SeasonProblem } from './season-problem.ts';
import { SeasonSearch } from './season-search.ts';
import { SeasonState } from './season-state.ts';
import { seasonTables } from './season-tables.ts';
import { valueOfSeason } from './season-value.ts';

export interface PlanSeasonOptions {
  readonly iterations: number;
  readonly seed: number;
  /** A season to begin with, as far as it still fits; walked greedily where left out. */
  readonly from?: SeasonPlan;
  /** Of the season before: worth a little more where it is, so that little is moved for little. */
  readonly keep?: SeasonPlan;
  /** Told the share that is done, (0, 1), now and then; says whether to stop. */
  readonly onProgress?: (share: number) => boolean;
}

export interface PlannedSeason {
  readonly plan: SeasonPlan;
  readonly value: number;
}

/** The best season found, never worth less than the one to begin with, but for what is given for keeping it. */
export function planSeason(
  problem: SeasonProblem,
  { iterations, seed, from, keep, onProgress }: PlanSeasonOptions,
): PlannedSeason {
  const state = new SeasonState(seasonTables(problem));
  const isNothing = problem.lanes.every(({ slots }) => slots === 0) || problem.goals.every(({ count }) => count <= 0);
  if (isNothing) return { plan: state.plan(), value: 0 };
  const moves = iterations / (problem.goals.length * problem.lanes.length);
  if (!from && moves >= MOVES_OF_PLENTY) return bestOfHeats(state, { iterations, seed, onProgress });
  if (keep) state.favour(keep);
  if (from) restore(state, from);
  else walkGreedily(state, seed);
  const heat = keep ? KEEPING : !from && problem.lanes.length >= LONG_LANES ? heatFor(moves) : 1;
  annealSeason(state, { iterations, seed, isWarm: from !== undefined, heat, onProgress });
  const plan = state.plan();
  return { plan, value: keep ? valueOfSeason(problem, plan) : state.value };
}

/** A season that is to stay where it is is searched this much cooler. */
const KEEPING = 0.3;
/** Seasons of fewer nights are searched as hot as ever. */
const LONG_LANES = 10;
/** Up to so many moves for each goal in each night a search begins at the usual temperature; from so many on at this share of it: what it
 * would pass over it has the time to look at. Found by trying on the cases of the benchmark; with fewer moves a cool search stays caught. */
const [HOT_UNTIL, COOL_FROM, COOL] = [75, 110, 0.3];

function heatFor(moves: number): number {
  const share = Math.min(1, Math.max(0, (moves - HOT_UNTIL) / (COOL_FROM - HOT_UNTIL)));
  return COOL ** share;
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

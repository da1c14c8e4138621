// A season made better by annealing: moves that raise the guide are kept, others by chance that fades.
import { seededRandom } from '../../random.ts';
import { BlockList } from './lane-plan.ts';
import { moveOnce } from './season-moves.ts';
import type { SeasonPlan, SeasonRun } from './season-problem.ts';
import { SeasonSearch } from './season-search.ts';
import type { SeasonState } from './season-state.ts';

export interface AnnealOptions {
  readonly iterations: number;
  readonly seed: number;
  /** Whether the season to begin with is a good one already: the search begins cooler. */
  readonly isWarm?: boolean;
  /** Times the usual temperatures; 1 where left out. */
  readonly heat?: number;
  /** Told now and then; says whether to stop. */
  readonly onProgress?: (share: number) => boolean;
}

/** Temperatures as shares of the mean value of an hour, and of an exposure where that is more: from scratch, from a season that is good already, and at the end. */
const HOT = { hour: 0.12, exposure: 1 } as const;
const WARM = 0.2;
const COLD = 0.08;
/** The potential fades over this share of the search. */
const POTENTIAL_UNTIL = 0.8;
const LOOK_EVERY = 512;

/** Leaves the state at the best season met. */
export function annealSeason(
  state: SeasonState,
  { iterations, seed, isWarm = false, heat = 1, onProgress }: AnnealOptions,
): void {
  const random = seededRandom(seed);
  const search = new SeasonSearch(state, random);
  const hot = heat * hotFor(state);
  const first = isWarm ? hot * WARM : hot;
  const best = new BestSeason(state);
  let [guide, temperature] = [state.guide, first];
  for (let i = 0; i < iterations; i++) {
    if (i % LOOK_EVERY === 0) {
      const share = i / iterations;
      state.theta = Math.max(0, 1 - share / POTENTIAL_UNTIL);
      temperature = first * ((hot * COLD) / first) ** share;
      guide = state.guide;
      if (onProgress?.(share)) break;
    }
    if (!moveOnce(search)) {
      state.undo();
      continue;
    }
    state.settle();
    const rise = state.guide - guide;
    if (rise < 0 && random() >= Math.exp(rise / temperature)) {
      state.undo();
      continue;
    }
    state.keep();
    guide += rise;
    if (state.value <= best.value + 1e-9) continue;
    best.take();
  }
  best.putBack();
}

/** What an exposure is worth on the mean where all work is done, and an hour of it. */
function hotFor({ tables }: SeasonState): number {
  const { goals, panels, projects, count, cycleSec, lightPerSec, balance, bonus, goalsFrom, wanted, done } = tables;
  let [worth, exposures, sec] = [0, 0, 0];
  for (let goal = 0; goal < goals; goal++) {
    worth += count[goal] * lightPerSec[goal] * cycleSec[goal];
    exposures += count[goal];
    sec += count[goal] * cycleSec[goal];
  }
  for (let panel = 0; panel < panels; panel++) {
    let least = 1;
    for (let goal = goalsFrom[panel]; goal < goalsFrom[panel + 1]; goal++)
      least = Math.min(least, done[goal] / wanted[goal]);
    worth += balance[panel] * (1 - least);
  }
  for (let project = 0; project < projects; project++) worth += bonus[project];
  return Math.max((HOT.hour * worth * 3600) / Math.max(1, sec), (HOT.exposure * worth) / Math.max(1, exposures));
}

/** The best season met: only lanes that changed since are copied. */
class BestSeason {
  value: number;
  readonly #runs: SeasonRun[][];
  readonly #versions: Int32Array;

  constructor(readonly state: SeasonState) {
    this.value = state.value;
    this.#runs = state.plan().map((runs) => [...runs]);
    this.#versions = state.versions.slice();
  }

  take(): void {
    this.value = this.state.value;
    for (let lane = 0; lane < this.#runs.length; lane++) {
      if (this.#versions[lane] === this.state.versions[lane]) continue;
      this.#versions[lane] = this.state.versions[lane];
      this.#runs[lane] = this.state.runsOf(lane);
    }
  }

  putBack(): void {
    if (this.state.value < this.value - 1e-9) restore(this.state, this.#runs);
  }
}

/** Puts a plan in the place of what stands. */
export function restore(state: SeasonState, plan: SeasonPlan): void {
  const next = new BlockList();
  plan.forEach((_, lane) => state.change(lane, next));
  plan.forEach((runs, lane) => {
    next.clear();
    for (const { goal, count, startSec } of runs) next.push(goal, count, startSec);
    state.change(lane, next);
  });
  state.settle();
  state.keep();
}

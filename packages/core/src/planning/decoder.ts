// Blocks (goal, count, not before) in an order to a timed night: each exposure as early as windows and changes allow.
import type { GoalRecord } from './objective.ts';
import { Collective, exactRates, goalRecords, meanRateOfRun } from './objective.ts';
import type { NightProblem, NightSolution, Placement } from './problem.ts';

/** What the search moves about. The decoder places at most what is left of a goal, so any list of blocks is a valid night. */
export interface Block {
  goal: number;
  count: number;
  earliestSec: number;
}

/** Slack for sums of fractional seconds. */
const EPSILON_SEC = 1e-6;

/** Decodes and prices block lists of one problem without allocating; keep one per search. */
export class Decoder {
  readonly problem: NightProblem;
  readonly goals: readonly GoalRecord[];
  readonly #placed: Int32Array;
  readonly #collective: Collective;
  /** Change between goals of one panel: `[from · goals + to]`. */
  readonly #goalChangeSec: Float64Array;
  #value = 0;
  #clockSec = 0;
  #panel = -1;
  #goal = -1;
  #stayStartSec = 0;
  #stayValue = 0;
  #stayFinishes = true;
  /** Per block of the last run: exposures it placed. */
  #placedByBlock: number[] = [];

  constructor(problem: NightProblem) {
    this.problem = problem;
    this.goals = goalRecords(problem);
    this.#placed = new Int32Array(problem.goals.length);
    this.#collective = new Collective(problem);
    this.#goalChangeSec = goalChanges(problem);
  }

  /** Value of a block list, its light by the mean rate of each run (within 0.1 % of the sum over exposures); too short stays count nothing. */
  valueOf(blocks: readonly Block[]): number {
    return this.#run(blocks, null);
  }

  /** The list last priced by `valueOf`, without blocks that placed nothing: they would only slow the search. */
  withoutIdle(blocks: readonly Block[]): Block[] {
    return blocks.filter((_, i) => this.#placedByBlock[i] > 0);
  }

  /** The night that a block list stands for, short stays left out. */
  solutionOf(blocks: readonly Block[]): NightSolution {
    let kept = blocks.map((block) => ({ ...block }));
    for (;;) {
      const placements: Placement[] = [];
      const value = this.#run(kept, placements);
      const tooShort = this.#shortStays(placements);
      if (tooShort.size === 0) return { placements: merged(placements), value };
      kept = kept.filter((_, i) => !tooShort.has(i));
    }
  }

  #run(blocks: readonly Block[], into: Placement[] | null): number {
    this.#placed.fill(0);
    this.#value = 0;
    this.#clockSec = 0;
    this.#panel = -1;
    this.#goal = -1;
    this.#stayValue = 0;
    this.#stayFinishes = true;
    this.#placedByBlock.length = 0;
    for (let i = 0; i < blocks.length; i++) this.#placedByBlock.push(this.#place(blocks[i], into));
    this.#closeStay();
    return this.#value + this.#collective.value(this.#placed);
  }

  #place(block: Block, into: Placement[] | null): number {
    const goal = this.goals[block.goal];
    let left = Math.min(block.count, goal.count - this.#placed[block.goal]);
    if (left <= 0) {
      into?.push({ goal: block.goal, startsSec: [] });
      return 0;
    }
    let startSec = Math.max(this.#clockSec + this.#changeSec(block.goal), block.earliestSec);
    let gained = 0;
    const starts: number[] | null = into ? [] : null;
    let firstSec = -1;
    let placed = 0;
    for (let w = 0; w < goal.fromSec.length && left > 0; w++) {
      startSec = Math.max(startSec, goal.fromSec[w]);
      const room = goal.toSec[w] + EPSILON_SEC - startSec - goal.exposureSec;
      if (room < 0) continue;
      const fits = Math.min(left, Math.floor(room / goal.cycleSec) + 1);
      if (firstSec < 0) firstSec = startSec;
      if (starts) for (let i = 0; i < fits; i++) starts.push(startSec + i * goal.cycleSec);
      gained += goal.value * (starts ? exactRates(goal, startSec, fits) : fits * meanRateOfRun(goal, startSec, fits));
      placed += fits;
      left -= fits;
      startSec += fits * goal.cycleSec;
    }
    if (placed === 0) {
      into?.push({ goal: block.goal, startsSec: [] });
      return 0;
    }
    if (this.#panel !== goal.panel) {
      this.#closeStay();
      this.#stayStartSec = firstSec;
    }
    this.#panel = goal.panel;
    this.#goal = block.goal;
    this.#clockSec = startSec;
    this.#placed[block.goal] += placed;
    this.#value += gained;
    this.#stayValue += gained;
    if (this.#placed[block.goal] >= goal.count) this.#stayFinishes = true;
    if (into && starts) into.push({ goal: block.goal, startsSec: starts });
    return placed;
  }

  #closeStay(): void {
    const short = !this.#stayFinishes && this.#clockSec - this.#stayStartSec < this.problem.minStaySec;
    if (short) this.#value -= this.#stayValue;
    this.#stayValue = 0;
    this.#stayFinishes = false;
  }

  #changeSec(goal: number): number {
    const { panel } = this.goals[goal];
    if (panel !== this.#panel) return this.problem.panelChangeSec[this.#panel + 1][panel];
    return this.#goalChangeSec[this.#goal * this.goals.length + goal];
  }

  /** Indices of the blocks that make up stays too short to plan. */
  #shortStays(placements: readonly Placement[]): Set<number> {
    const short = new Set<number>();
    const placed = new Int32Array(this.goals.length);
    let stay: { panel: number; blocks: number[]; startSec: number; endSec: number; finishes: boolean } | null = null;
    const close = (): void => {
      if (stay && !stay.finishes && stay.endSec - stay.startSec < this.problem.minStaySec)
        stay.blocks.forEach((i) => short.add(i));
    };
    placements.forEach(({ goal, startsSec }, i) => {
      if (startsSec.length === 0) return;
      const record = this.goals[goal];
      if (stay?.panel !== record.panel) {
        close();
        stay = { panel: record.panel, blocks: [], startSec: startsSec[0], endSec: 0, finishes: false };
      }
      placed[goal] += startsSec.length;
      stay!.blocks.push(i);
      stay!.endSec = startsSec[startsSec.length - 1] + record.cycleSec;
      if (placed[goal] >= record.count) stay!.finishes = true;
    });
    close();
    return short;
  }
}

function goalChanges({ goals, goalChangeSec }: NightProblem): Float64Array {
  const changes = new Float64Array(goals.length * goals.length);
  goals.forEach((from, f) =>
    goals.forEach((to, t) => {
      if (f !== t && from.panel === to.panel) changes[f * goals.length + t] = goalChangeSec(f, t);
    }),
  );
  return changes;
}

/** Neighbouring runs of one goal joined, empty ones dropped. */
function merged(placements: readonly Placement[]): Placement[] {
  const runs: { goal: number; startsSec: number[] }[] = [];
  for (const { goal, startsSec } of placements) {
    if (startsSec.length === 0) continue;
    const last = runs[runs.length - 1];
    if (last?.goal === goal) last.startsSec.push(...startsSec);
    else runs.push({ goal, startsSec: [...startsSec] });
  }
  return runs;
}

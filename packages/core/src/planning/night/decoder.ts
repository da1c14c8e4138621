// Blocks (goal, count, not before) in an order to a timed night: each exposure as early as windows and changes allow.
import type { GoalRecord } from '../objective.ts';
import { Collective, exactRates, goalRecords, meanRateOfRun } from '../objective.ts';
import { keptStays, pinsOf } from '../hand/hand.ts';
import type { NightProblem, NightSolution, Placement } from '../problem.ts';

/** What the search moves about. The decoder places at most what is left of a goal, so any list of blocks is a valid night. */
export interface Block {
  goal: number;
  count: number;
  earliestSec: number;
}

/** A block and what became of it. */
export interface TimedBlock extends Block {
  readonly placed: number;
  readonly startSec: number;
  readonly endSec: number;
}

/** Slack for sums of fractional seconds. */
const EPSILON_SEC = 1e-6;

/** Decodes and prices block lists of one problem without allocating; keep one per search. */
export class Decoder {
  readonly problem: NightProblem;
  readonly goals: readonly GoalRecord[];
  readonly #placed: Int32Array;
  /** Goals of the runs placed so far, in their order. */
  readonly #served: number[] = [];
  /** How many exposures each of those runs has, and which of them the stay under way begins with. */
  readonly #servedCount: number[] = [];
  #stayFirst = 0;
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
  /** Per block of the last run: exposures it placed, when the first began and when the next change might. */
  #placedByBlock: number[] = [];
  #startByBlock: number[] = [];
  #endByBlock: number[] = [];
  readonly #pins: ReturnType<typeof pinsOf>;
  #nextPin = 0;
  readonly #kept: ReturnType<typeof keptStays>;
  #keeping = 0;

  constructor(problem: NightProblem) {
    this.problem = problem;
    this.goals = goalRecords(problem);
    this.#placed = new Int32Array(problem.goals.length);
    this.#collective = new Collective(problem);
    this.#goalChangeSec = goalChanges(problem);
    this.#pins = pinsOf(problem, this.goals);
    this.#kept = keptStays(problem);
  }

  /** What a block list is worth to the search: its value, light by the mean rate of each run (within 0.1 % of the sum over exposures),
   * nothing for too short stays and what comes with their exposures, and what keeping stays of the plan before is worth. */
  valueOf(blocks: readonly Block[]): number {
    return this.#run(blocks, null) + this.#keeping;
  }

  /** Blocks as they were last priced by `valueOf`, with their times; those that placed nothing are left out. */
  timed(blocks: readonly Block[]): TimedBlock[] {
    const timed: TimedBlock[] = [];
    for (let i = 0; i < blocks.length; i++) {
      const placed = this.#placedByBlock[i];
      if (placed === 0) continue;
      const { goal, count, earliestSec } = blocks[i];
      timed.push({ goal, count, earliestSec, placed, startSec: this.#startByBlock[i], endSec: this.#endByBlock[i] });
    }
    return timed;
  }

  /** The runs of a block list as they were placed, those of too short stays left out; `timed` and `keeping` then speak of it. */
  runsOf(blocks: readonly Block[]): Placement[] {
    const runs: DecodedRun[] = [];
    this.#run(blocks, runs);
    const tooShort = this.#shortStays(runs);
    return tooShort.size === 0 ? runs : runs.filter(({ block }) => !tooShort.has(block));
  }

  /** What the night last decoded gains with the search by keeping stays of the plan before. */
  get keeping(): number {
    return this.#keeping;
  }

  /** The night that a block list stands for, short stays left out. */
  solutionOf(blocks: readonly Block[]): NightSolution {
    let kept = blocks.map((block) => ({ ...block }));
    for (;;) {
      const placements: DecodedRun[] = [];
      const value = this.#run(kept, placements);
      const tooShort = this.#shortStays(placements);
      if (tooShort.size === 0) return { placements: merged(placements), value };
      kept = kept.filter((_, i) => !tooShort.has(i));
    }
  }

  #run(blocks: readonly Block[], into: DecodedRun[] | null): number {
    this.#placed.fill(0);
    this.#served.length = 0;
    this.#servedCount.length = 0;
    this.#stayFirst = 0;
    for (const { goal, startsSec } of this.#pins) this.#placed[goal] += startsSec.length;
    this.#nextPin = 0;
    this.#keeping = 0;
    for (const stay of this.#kept) stay.isKept = false;
    this.#value = 0;
    this.#clockSec = 0;
    this.#panel = -1;
    this.#goal = -1;
    this.#stayValue = 0;
    this.#stayFinishes = true;
    this.#placedByBlock.length = 0;
    for (let i = 0; i < blocks.length; i++) {
      this.#placedByBlock[i] = this.#place(blocks[i], i, into);
      this.#endByBlock[i] = this.#clockSec;
    }
    while (this.#nextPin < this.#pins.length) this.#placePin(into);
    this.#closeStay();
    return this.#value + this.#collective.valueOfSome(this.#placed, this.#served, this.#served.length);
  }

  /** Places a block before the next pinned run, or after it where nothing of the block fits before. */
  #place(block: Block, index: number, into: DecodedRun[] | null): number {
    const goal = this.goals[block.goal];
    const left = Math.min(block.count, goal.count - this.#placed[block.goal]);
    if (left <= 0) return 0;
    for (;;) {
      const pin = this.#pins[this.#nextPin];
      const untilSec = pin ? pin.startsSec[0] - this.changeSec(block.goal, pin.goal) : Infinity;
      const placed = this.#placeUntil(block, left, untilSec, index, into);
      if (placed > 0 || !pin) return placed;
      this.#placePin(into);
    }
  }

  #placeUntil(block: Block, most: number, untilSec: number, index: number, into: DecodedRun[] | null): number {
    const goal = this.goals[block.goal];
    let left = most;
    let startSec = Math.max(this.#clockSec + this.changeSec(this.#goal, block.goal), block.earliestSec);
    let gained = 0;
    const starts: number[] | null = into ? [] : null;
    let firstSec = -1;
    let placed = 0;
    for (let w = 0; w < goal.fromSec.length && left > 0; w++) {
      startSec = Math.max(startSec, goal.fromSec[w]);
      const room = goal.toSec[w] + EPSILON_SEC - startSec - goal.exposureSec;
      if (room < 0) continue;
      let fits = Math.min(left, Math.floor(room / goal.cycleSec) + 1);
      // A pinned run waits for the last download, not only for the last exposure.
      if (untilSec < Infinity) fits = Math.min(fits, Math.floor((untilSec + EPSILON_SEC - startSec) / goal.cycleSec));
      if (fits <= 0) break;
      if (firstSec < 0) firstSec = startSec;
      if (starts) for (let i = 0; i < fits; i++) starts.push(startSec + i * goal.cycleSec);
      gained += goal.value * (starts ? exactRates(goal, startSec, fits) : fits * meanRateOfRun(goal, startSec, fits));
      placed += fits;
      left -= fits;
      startSec += fits * goal.cycleSec;
    }
    if (placed === 0) return 0;
    this.#placed[block.goal] += placed;
    this.#startByBlock[index] = firstSec;
    this.#enter(block.goal, placed, firstSec, startSec, gained);
    if (this.#placed[block.goal] >= goal.count) this.#stayFinishes = true;
    if (into && starts) into.push({ goal: block.goal, startsSec: starts, block: index });
    return placed;
  }

  #placePin(into: DecodedRun[] | null): void {
    const { goal, startsSec, endSec, light } = this.#pins[this.#nextPin++];
    this.#enter(goal, startsSec.length, startsSec[0], endSec, light);
    // What was set by hand is never too short.
    this.#stayFinishes = true;
    into?.push({ goal, startsSec, block: -1 });
  }

  /** Moves the clock over a run. */
  #enter(goal: number, count: number, firstSec: number, endSec: number, gained: number): void {
    const { panel } = this.goals[goal];
    if (this.#panel !== panel) {
      this.#closeStay();
      this.#stayStartSec = firstSec;
    }
    this.#served.push(goal);
    this.#servedCount.push(count);
    this.#panel = panel;
    this.#goal = goal;
    this.#clockSec = endSec;
    this.#value += gained;
    this.#stayValue += gained;
  }

  #minStaySec(panel: number): number {
    return panel < 0 ? 0 : this.problem.minStayOfPanelSec[panel];
  }

  #closeStay(): void {
    const short = !this.#stayFinishes && this.#clockSec - this.#stayStartSec < this.#minStaySec(this.#panel);
    if (short) this.#dropStay();
    else if (this.#kept.length > 0 && this.#panel >= 0) this.#keep();
    this.#stayValue = 0;
    this.#stayFinishes = false;
    this.#stayFirst = this.#served.length;
  }

  /** A stay too short to plan counts for nothing, neither its light nor what comes with its exposures. */
  #dropStay(): void {
    this.#value -= this.#stayValue;
    for (let i = this.#stayFirst; i < this.#served.length; i++) this.#placed[this.#served[i]] -= this.#servedCount[i];
  }

  /** Counts a stay of the plan before as kept where the one that ends now covers half of it. */
  #keep(): void {
    for (const stay of this.#kept) {
      if (stay.isKept || stay.panel !== this.#panel) continue;
      const sharedSec = Math.min(stay.endSec, this.#clockSec) - Math.max(stay.startSec, this.#stayStartSec);
      if (sharedSec < (stay.endSec - stay.startSec) / 2) continue;
      stay.isKept = true;
      this.#keeping += this.problem.kept!.worthPerStay;
    }
  }

  /** From the last download of a goal to the first exposure of another; `from` −1 where the night begins. */
  changeSec(from: number, to: number): number {
    const [a, b] = [from < 0 ? -1 : this.goals[from].panel, this.goals[to].panel];
    return a === b ? this.#goalChangeSec[from * this.goals.length + to] : this.problem.panelChangeSec[a + 1][b];
  }

  /** Indices of the blocks that make up stays too short to plan. */
  #shortStays(placements: readonly DecodedRun[]): Set<number> {
    const short = new Set<number>();
    const placed = new Int32Array(this.goals.length);
    for (const { goal, startsSec } of this.#pins) placed[goal] += startsSec.length;
    const stay = { panel: -1, runs: [] as DecodedRun[], startSec: 0, endSec: 0, finishes: true };
    const close = (): void => {
      if (stay.finishes || stay.endSec - stay.startSec >= this.#minStaySec(stay.panel)) return;
      for (const { goal, startsSec, block } of stay.runs) {
        short.add(block);
        placed[goal] -= startsSec.length;
      }
    };
    for (const run of placements) {
      const { goal, startsSec, block } = run;
      const record = this.goals[goal];
      if (stay.panel !== record.panel) {
        close();
        Object.assign(stay, { panel: record.panel, runs: [], startSec: startsSec[0], finishes: false });
      }
      if (block >= 0) {
        placed[goal] += startsSec.length;
        stay.runs.push(run);
      }
      stay.endSec = startsSec[startsSec.length - 1] + record.cycleSec;
      if (block < 0 || placed[goal] >= record.count) stay.finishes = true;
    }
    close();
    return short;
  }
}

/** A placed run and the block it comes from; −1 where it was set by hand. */
interface DecodedRun extends Placement {
  readonly block: number;
}

function goalChanges({ goals, panelCount, goalChangeSec }: NightProblem): Float64Array {
  const changes = new Float64Array(goals.length * goals.length);
  const ofPanel: number[][] = Array.from({ length: panelCount }, () => []);
  goals.forEach(({ panel }, g) => ofPanel[panel].push(g));
  for (const own of ofPanel)
    for (const from of own)
      for (const to of own) if (from !== to) changes[from * goals.length + to] = goalChangeSec(from, to);
  return changes;
}

/** Neighbouring runs of one goal joined, empty ones dropped. */
function merged(placements: readonly Placement[]): Placement[] {
  const runs: { goal: number; startsSec: number[] }[] = [];
  for (const { goal, startsSec } of placements) {
    const last = runs[runs.length - 1];
    if (last?.goal === goal) last.startsSec.push(...startsSec);
    else runs.push({ goal, startsSec: [...startsSec] });
  }
  return runs;
}

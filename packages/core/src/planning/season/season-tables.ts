// A season's problem laid out in flat arrays for the inner loops: sums of rates, where windows end, who belongs to whom.
import type { SeasonProblem } from './season-problem.ts';
import { lackAllowed } from './season-problem.ts';

/** A lane's sky. */
export interface LaneTable {
  readonly night: number;
  readonly slots: number;
  readonly lengthSec: number;
  readonly odds: number;
  readonly rates: Float32Array;
  /** Seconds at rate 1 from the lane's start to each slot's edge: `[row · (slots + 1) + edge]`. */
  readonly sums: Float64Array;
  /** Where a slot is open, the slot at which its window ends; where it is closed, −(the next open slot) − 1, or CLOSED. */
  readonly runs: Int16Array;
  /** Moonlit seconds from the lane's start to each slot's edge. */
  readonly moonlitSec: Float64Array;
}

/** Stands for a row that doesn't open again in a night. */
export const CLOSED = -32768;

export interface SeasonTables {
  readonly problem: SeasonProblem;
  readonly slotSec: number;
  readonly goals: number;
  readonly panels: number;
  readonly projects: number;
  readonly filters: number;
  readonly panelOf: Int32Array;
  readonly filterOf: Int32Array;
  readonly rowOf: Int32Array;
  readonly cycleSec: Float64Array;
  /** Value of one second of a run at rate 1. */
  readonly lightPerSec: Float64Array;
  readonly wanted: Float64Array;
  readonly done: Float64Array;
  readonly count: Float64Array;
  /** Wanted and done as a panel's goals are raised together: what is never whole rises from nothing to its count. */
  readonly levelWanted: Float64Array;
  readonly levelDone: Float64Array;
  /** Exposures that a goal may lack and still be whole. */
  readonly lackAllowed: number;
  /** Goals of panel p: from `goalsFrom[p]` to before `goalsFrom[p + 1]`. */
  readonly goalsFrom: Int32Array;
  readonly panelsFrom: Int32Array;
  readonly projectOf: Int32Array;
  readonly balance: Float64Array;
  readonly bonus: Float64Array;
  /** What balance and completion pay at most for a second of a panel, and of a project. */
  readonly balancePerSec: Float64Array;
  readonly bonusPerSec: Float64Array;
  /** Expected seconds that a project may take without the moon, `[2 · project]`, and with it, `[2 · project + 1]`. */
  readonly envelopeSec: Float64Array;
  readonly hasEnvelope: Uint8Array;
  readonly panelChangeSec: Float64Array;
  readonly filterChangeSec: Float64Array;
  readonly lanes: readonly LaneTable[];
}

export function seasonTables(problem: SeasonProblem): SeasonTables {
  const { goals, panels, projects } = problem;
  const skies = new Map<Float32Array, Pick<LaneTable, 'sums' | 'runs'>>();
  const [panelSec, projectSec] = [new Float64Array(panels.length), new Float64Array(projects.length)];
  for (const { panel, wanted, cycleSec } of goals) {
    panelSec[panel] += wanted * cycleSec;
    projectSec[panels[panel].project] += wanted * cycleSec;
  }
  return {
    problem,
    slotSec: problem.slotSec,
    goals: goals.length,
    panels: panels.length,
    projects: projects.length,
    filters: problem.filters,
    panelOf: Int32Array.from(goals, ({ panel }) => panel),
    filterOf: Int32Array.from(goals, ({ filter }) => filter),
    rowOf: Int32Array.from(goals, ({ row }) => row),
    cycleSec: Float64Array.from(goals, ({ cycleSec }) => cycleSec),
    lightPerSec: Float64Array.from(goals, ({ value, cycleSec }) => value / cycleSec),
    wanted: Float64Array.from(goals, ({ wanted }) => wanted),
    done: Float64Array.from(goals, ({ done }) => done),
    count: Float64Array.from(goals, ({ count }) => Math.max(0, count)),
    lackAllowed: lackAllowed(problem),
    levelWanted: Float64Array.from(goals, (goal) => (isEndless(goal) ? goal.count : goal.wanted)),
    levelDone: Float64Array.from(goals, (goal) => (isEndless(goal) ? 0 : goal.done)),
    goalsFrom: firstOfEach(
      goals.map(({ panel }) => panel),
      panels.length,
    ),
    panelsFrom: firstOfEach(
      panels.map(({ project }) => project),
      projects.length,
    ),
    projectOf: Int32Array.from(panels, ({ project }) => project),
    balance: Float64Array.from(panels, ({ balance }) => balance),
    bonus: Float64Array.from(projects, ({ bonus }) => bonus),
    balancePerSec: Float64Array.from(panels, ({ balance }, p) => balance / Math.max(1, panelSec[p])),
    bonusPerSec: Float64Array.from(projects, ({ bonus }, r) => bonus / Math.max(1, projectSec[r])),
    envelopeSec: Float64Array.from(
      projects.flatMap(({ envelopeSec }) => [envelopeSec?.dark ?? Infinity, envelopeSec?.bright ?? Infinity]),
    ),
    hasEnvelope: Uint8Array.from(projects, ({ envelopeSec }) => Number(envelopeSec !== undefined)),
    panelChangeSec: problem.panelChangeSec,
    filterChangeSec: problem.filterChangeSec,
    lanes: problem.lanes.map(({ night, slots, rates, odds, moonlit }) => {
      const sky = skies.get(rates) ?? skyOf(rates, slots, problem.slotSec);
      skies.set(rates, sky);
      const moonlitSec = moonlitSums(moonlit, slots, problem.slotSec);
      return { night, slots, lengthSec: slots * problem.slotSec, odds, rates, moonlitSec, ...sky };
    }),
  };
}

const isEndless = ({ wanted, done, count }: SeasonProblem['goals'][number]): boolean => done >= wanted && count > 0;

/** Of owners in ascending order: where each one's own begin, and at the end how many there are. */
function firstOfEach(owners: readonly number[], count: number): Int32Array {
  const first = new Int32Array(count + 1);
  for (const owner of owners) first[owner + 1] += 1;
  for (let i = 0; i < count; i++) first[i + 1] += first[i];
  return first;
}

function skyOf(rates: Float32Array, slots: number, slotSec: number): Pick<LaneTable, 'sums' | 'runs'> {
  const rows = slots > 0 ? rates.length / slots : 0;
  const sums = new Float64Array(rows * (slots + 1));
  const runs = new Int16Array(rows * slots);
  for (let row = 0; row < rows; row++) {
    for (let s = 0; s < slots; s++)
      sums[row * (slots + 1) + s + 1] = sums[row * (slots + 1) + s] + rates[row * slots + s] * slotSec;
    let [end, opens] = [slots, CLOSED];
    for (let s = slots - 1; s >= 0; s--) {
      const isOpen = rates[row * slots + s] > 0;
      if (isOpen) opens = -s - 1;
      else end = s;
      runs[row * slots + s] = isOpen ? end : opens;
    }
  }
  return { sums, runs };
}

function moonlitSums(moonlit: Uint8Array | undefined, slots: number, slotSec: number): Float64Array {
  const sums = new Float64Array(slots + 1);
  for (let slot = 0; slot < slots; slot++) sums[slot + 1] = sums[slot] + (moonlit?.[slot] ? slotSec : 0);
  return sums;
}

/** Moonlit seconds between two moments of a lane. */
export function moonlitSecBetween(
  { moonlitSec, slots }: LaneTable,
  fromSec: number,
  toSec: number,
  slotSec: number,
): number {
  const until = (sec: number): number => {
    const place = Math.min(slots, sec / slotSec);
    const slot = Math.max(0, Math.min(slots - 1, Math.floor(place)));
    return moonlitSec[slot] + (place - slot) * (moonlitSec[slot + 1] - moonlitSec[slot]);
  };
  return until(toSec) - until(fromSec);
}

/** Seconds at rate 1 between two moments of a lane. */
export function lightSec(lane: LaneTable, row: number, fromSec: number, toSec: number, slotSec: number): number {
  return sumTo(lane, row, toSec / slotSec) - sumTo(lane, row, fromSec / slotSec);
}

function sumTo({ sums, slots }: LaneTable, row: number, place: number): number {
  const slot = Math.max(0, Math.min(slots - 1, Math.floor(place)));
  const at = row * (slots + 1) + slot;
  return sums[at] + (place - slot) * (sums[at + 1] - sums[at]);
}

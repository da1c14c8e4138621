// A season played out under drawn weather by a quick walk: each clear night stay after stay, each the one worth most then; exposures are rejected at random.
import type { Random } from '../../random.ts';
import { normalFrom } from '../../random.ts';
import type { LaneTable, SeasonTables } from './season-tables.ts';
import { CLOSED } from './season-tables.ts';

const STAY_SEC = 30 * 60;
/** A project that lacks less draws with its completion: so much a night can give it. */
const NEAR_END_SEC = 5 * 3600;
/** What balance and completion draw with, against the light of the moment, and how far nights to come may choose otherwise among work of like worth (standard deviation of the logarithm): set so that ends are those of seasons whose nights are planned one by one (bench/season-against-nights.ts). */
const BALANCE_DRAWS = 2;
const COMPLETION_DRAWS = 0.7;
const TASTE = 0.25;
/** Below this a goal lacks nothing. */
const NOTHING = 0.5;

export interface PlayOptions {
  /** Which nights are clear, by index of night. */
  readonly clear: ArrayLike<number>;
  readonly random: Random;
  /** Share of a project's exposures that are accepted. */
  readonly acceptance: Float64Array;
}

/** A season laid out for being played often. */
export interface PlayTables {
  readonly season: SeasonTables;
  /** By lane, what a second of each goal's light is worth: `[slot · goals + goal]`. Lanes with the same sky share it. */
  readonly worth: readonly Float32Array[];
}

export function playTables(season: SeasonTables): PlayTables {
  const known = new Map<Float32Array, Float32Array>();
  const worth = season.lanes.map(({ rates, slots }) => {
    const own = known.get(rates) ?? new Float32Array(slots * season.goals);
    if (!known.has(rates))
      for (let goal = 0; goal < season.goals; goal++)
        for (let slot = 0; slot < slots; slot++)
          own[slot * season.goals + goal] = season.lightPerSec[goal] * rates[season.rowOf[goal] * slots + slot];
    known.set(rates, own);
    return own;
  });
  return { season, worth };
}

/** @returns by project the index of the night in which it is finished; −1 where it isn't */
export function playSeason({ season, worth }: PlayTables, options: PlayOptions): Int32Array {
  const play = new Play(season, options);
  season.lanes.forEach((lane, l) => {
    if (options.clear[lane.night]) play.night(lane, worth[l]);
  });
  return play.finished;
}

class Play {
  readonly finished: Int32Array;
  readonly #left: Float64Array;
  readonly #openGoals: Int32Array;
  readonly #leftSec: Float64Array;
  readonly #wholeSec: Float64Array;
  /** What this season makes of each project, beside its worth. */
  readonly #taste: Float64Array;
  /** What is left of each project's envelope, as its tables have it. */
  readonly #envelopeSec: Float64Array;
  #alive: number[];

  constructor(
    readonly tables: SeasonTables,
    readonly options: PlayOptions,
  ) {
    const { goals, panels, projects, count, wanted, panelOf, projectOf, cycleSec, goalsFrom } = tables;
    this.finished = new Int32Array(projects).fill(-1);
    this.#left = count.slice();
    this.#envelopeSec = tables.envelopeSec.slice();
    this.#openGoals = new Int32Array(projects);
    this.#leftSec = new Float64Array(projects);
    this.#wholeSec = new Float64Array(projects);
    this.#taste = Float64Array.from({ length: projects }, () => Math.exp(TASTE * normalFrom(options.random)));
    for (let goal = 0; goal < goals; goal++) {
      this.#wholeSec[projectOf[panelOf[goal]]] += wanted[goal] * cycleSec[goal];
      if (count[goal] < NOTHING) continue;
      this.#openGoals[projectOf[panelOf[goal]]] += 1;
      this.#leftSec[projectOf[panelOf[goal]]] += count[goal] * cycleSec[goal];
    }
    this.#alive = Array.from({ length: panels }, (_, panel) => panel).filter((panel) =>
      this.#left.subarray(goalsFrom[panel], goalsFrom[panel + 1]).some((left) => left >= NOTHING),
    );
  }

  night(lane: LaneTable, worth: Float32Array): void {
    const { slotSec, panels, panelChangeSec } = this.tables;
    let panel = -1;
    for (let clockSec = 0; clockSec < lane.lengthSec;) {
      const slot = Math.floor(clockSec / slotSec + 1e-9);
      const best = this.#best(lane, worth, slot, panel);
      if (best < 0) {
        clockSec = this.#nextOpening(lane, slot) * slotSec;
        continue;
      }
      const startSec = clockSec + (panel < 0 ? 0 : panelChangeSec[panel * panels + best]);
      const usedSec = this.#stay(lane, best, startSec);
      clockSec = usedSec > 0 ? startSec + usedSec : (slot + 1) * slotSec;
      panel = best;
    }
    this.#alive = this.#alive.filter((p) => this.#isAlive(p));
  }

  #isAlive(panel: number): boolean {
    const { goalsFrom } = this.tables;
    for (let goal = goalsFrom[panel]; goal < goalsFrom[panel + 1]; goal++) if (this.#left[goal] >= NOTHING) return true;
    return false;
  }

  /** The panel worth most a second at a slot, a little more for the one that is there already. */
  #best(lane: LaneTable, worth: Float32Array, slot: number, here: number): number {
    const { goalsFrom, goals } = this.tables;
    const left = this.#left;
    const row = slot * goals;
    let [best, top] = [-1, 0];
    for (const panel of this.#alive) {
      let light = 0;
      const end = goalsFrom[panel + 1];
      for (let goal = goalsFrom[panel]; goal < end; goal++)
        if (worth[row + goal] > light && left[goal] >= NOTHING) light = worth[row + goal];
      if (light === 0) continue;
      if (this.#mayTakeSec(lane, panel, slot) <= 0) continue;
      const taste = this.#taste[this.tables.projectOf[panel]];
      const sum = taste * (light + this.#beside(panel)) * (panel === here ? 1.05 : 1);
      if (sum > top) [best, top] = [panel, sum];
    }
    return best;
  }

  /** Seconds that the envelope of a panel's project still holds of the sky of a slot. */
  #mayTakeSec({ moonlitSec }: LaneTable, panel: number, slot: number): number {
    const project = this.tables.projectOf[panel];
    if (!this.tables.hasEnvelope[project]) return Infinity;
    return this.#envelopeSec[2 * project + Number(moonlitSec[slot + 1] > moonlitSec[slot])];
  }

  /** What balance and completion draw with, a second. */
  #beside(panel: number): number {
    const { balancePerSec, bonusPerSec, projectOf } = this.tables;
    const project = projectOf[panel];
    const leftSec = this.#leftSec[project];
    const bonus = bonusPerSec[project] * Math.max(1, this.#wholeSec[project]);
    const completion = leftSec < NEAR_END_SEC ? (COMPLETION_DRAWS * bonus) / Math.max(leftSec, STAY_SEC / 2) : 0;
    return BALANCE_DRAWS * balancePerSec[panel] + completion;
  }

  /** Exposes the goals of a panel in turn, those that lack most first. */
  #stay(lane: LaneTable, panel: number, startSec: number): number {
    const { rowOf, slotSec, cycleSec } = this.tables;
    let usedSec = 0;
    for (const goal of this.#byLack(panel)) {
      if (usedSec >= STAY_SEC) break;
      const atSec = startSec + usedSec;
      const slot = Math.floor(atSec / slotSec + 1e-9);
      const until = slot < lane.slots ? lane.runs[rowOf[goal] * lane.slots + slot] : CLOSED;
      if (until < 0) continue;
      const fits = Math.floor((until * slotSec - atSec) / cycleSec[goal]);
      const mostSec = Math.min(STAY_SEC - usedSec, this.#mayTakeSec(lane, panel, slot));
      const most = Math.max(1, Math.round(mostSec / cycleSec[goal]));
      const count = Math.min(Math.ceil(this.#left[goal] - 1e-9), fits, most);
      if (count <= 0) continue;
      this.#take(goal, count, lane.night);
      this.#envelopeSec[2 * this.tables.projectOf[panel] + Number(lane.moonlitSec[slot + 1] > lane.moonlitSec[slot])] -= count * cycleSec[goal]; // prettier-ignore
      usedSec += count * cycleSec[goal];
    }
    return usedSec;
  }

  #byLack(panel: number): number[] {
    const { goalsFrom, levelWanted } = this.tables;
    const lacking: number[] = [];
    for (let goal = goalsFrom[panel]; goal < goalsFrom[panel + 1]; goal++)
      if (this.#left[goal] >= NOTHING) lacking.push(goal);
    const lack = (goal: number): number => this.#left[goal] / levelWanted[goal];
    return lacking.sort((a, b) => lack(b) - lack(a));
  }

  #take(goal: number, count: number, night: number): void {
    const { projectOf, panelOf, cycleSec } = this.tables;
    const project = projectOf[panelOf[goal]];
    const rate = this.options.acceptance[project];
    const spread = rate < 1 ? Math.sqrt((count * (1 - rate)) / rate) * normalFrom(this.options.random) : 0;
    const gained = Math.min(this.#left[goal], Math.max(0, count + spread));
    this.#left[goal] -= gained;
    this.#leftSec[project] -= gained * cycleSec[goal];
    if (this.#left[goal] >= NOTHING) return;
    if (--this.#openGoals[project] === 0) this.finished[project] = night;
  }

  /** The next slot at which anything opens that lacks something. */
  #nextOpening({ runs, slots }: LaneTable, slot: number): number {
    const { goalsFrom, rowOf } = this.tables;
    let next = slots;
    for (const panel of this.#alive)
      for (let goal = goalsFrom[panel]; goal < goalsFrom[panel + 1]; goal++) {
        if (this.#left[goal] < NOTHING || slot + 1 >= slots) continue;
        const run = runs[rowOf[goal] * slots + slot + 1];
        if (run !== CLOSED) next = Math.min(next, run < 0 ? -run - 1 : slot + 1);
      }
    return next;
  }
}

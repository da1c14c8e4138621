// A stretch of the night emptied and filled by a greedy walk: stay after stay, each the one worth most a second among some panels drawn.
import type { Random } from '../../random.ts';
import { pickBelow } from '../../random.ts';
import { meanRate } from '../objective.ts';
import type { Block, Decoder, TimedBlock } from './decoder.ts';

const [SHORTEST_SEC, LONGEST_SEC] = [1800, 19_800];
const [SHORTEST_STAY_SEC, LONGEST_STAY_SEC] = [1200, 13_200];
/** Panels looked at for each stay. */
const DRAWN = 24;
const MOST_STAYS = 24;
/** While nothing can begin the walk goes on so far. */
const IDLE_SEC = 300;
const HALVINGS = 9;
/** Goals of a panel within so much of the least fraction rise together. */
const NEARLY_LEAST = 0.05;
const MOST_NOISE = 0.5;

interface PanelGoals {
  readonly panel: number;
  readonly goals: readonly number[];
  readonly done: Float64Array;
  readonly wanted: Float64Array;
  /** Of the panel's balance; 0 where it has none. */
  readonly weight: number;
  /** The least fraction among its goals that can't be exposed in this night. */
  readonly leastElsewhere: number;
}

/** Rebuilds stretches of the nights of one problem. */
export class StretchBuilder {
  readonly #decoder: Decoder;
  readonly #panels: readonly PanelGoals[];
  readonly #projectGoals: readonly (readonly number[])[];
  readonly #has: Int32Array;
  /** Goals of a panel that are open, and how many exposures of each a stay gets. */
  readonly #open: number[] = [];
  readonly #counts: number[] = [];

  constructor(decoder: Decoder, movable: readonly number[]) {
    const { problem, goals } = decoder;
    this.#decoder = decoder;
    this.#panels = panelsOf(decoder, movable);
    this.#has = new Int32Array(goals.length);
    this.#projectGoals = problem.projectBonus.map((_, project) =>
      goals.flatMap((goal, g) => (goal.project === project && goal.count > 0 ? [g] : [])),
    );
  }

  rebuilt(current: readonly TimedBlock[], random: Random): Block[] {
    const { problem } = this.#decoder;
    const lengthSec = SHORTEST_SEC + random() * (LONGEST_SEC - SHORTEST_SEC);
    const fromSec = random() * (problem.lengthSec + lengthSec) - lengthSec;
    const toSec = Math.min(problem.lengthSec, fromSec + lengthSec);
    const before = current.filter(({ startSec }) => startSec < fromSec);
    const after = current.filter(({ startSec }) => startSec >= toSec);
    this.#count(before, after);
    const last = before.at(-1);
    const built = this.#walked(Math.max(0, last?.endSec ?? fromSec), toSec, last ? last.goal : -1, random);
    const untimed = ({ goal, placed, earliestSec }: TimedBlock): Block => ({ goal, count: placed, earliestSec });
    return [...before.map(untimed), ...built, ...after.map(untimed)];
  }

  #count(...parts: readonly (readonly TimedBlock[])[]): void {
    this.#has.fill(0);
    for (const { goal, startsSec } of this.#decoder.problem.pinned ?? []) this.#has[goal] += startsSec.length;
    for (const part of parts) for (const { goal, placed } of part) this.#has[goal] += placed;
  }

  #walked(fromSec: number, toSec: number, from: number, random: Random): Block[] {
    const { goals } = this.#decoder;
    const noise = MOST_NOISE * random();
    const built: Block[] = [];
    const seen = new Set<number>();
    let [clockSec, last, stays] = [fromSec, from, 0];
    while (clockSec < toSec && stays < MOST_STAYS) {
      const lengthSec = SHORTEST_STAY_SEC + random() ** 1.3 * (LONGEST_STAY_SEC - SHORTEST_STAY_SEC);
      const best = this.#bestDrawn(
        { clockSec, last, lengthSec: Math.min(lengthSec, toSec - clockSec), noise, seen },
        random,
      );
      if (!best) {
        clockSec += IDLE_SEC;
        continue;
      }
      seen.add(best.panel);
      const startSec = clockSec + this.#decoder.changeSec(last, best.goals[0]);
      const blocks = this.#filled(best, startSec, Math.min(lengthSec, toSec - startSec), random);
      if (blocks.length === 0) {
        clockSec += IDLE_SEC;
        continue;
      }
      clockSec = startSec;
      for (const block of blocks) {
        clockSec += block.count * goals[block.goal].cycleSec;
        this.#has[block.goal] += block.count;
        built.push(block);
        last = block.goal;
      }
      stays += 1;
    }
    return built;
  }

  #bestDrawn({ clockSec, last, lengthSec, noise, seen }: Moment, random: Random): PanelGoals | null {
    const all = this.#panels.length <= DRAWN;
    const at = last < 0 ? -1 : this.#decoder.goals[last].panel;
    let [best, bestWorth]: [PanelGoals | null, number] = [null, 0];
    for (let draw = 0; draw < Math.min(DRAWN, this.#panels.length); draw++) {
      const own = this.#panels[all ? draw : pickBelow(random, this.#panels.length)];
      if (own.panel === at || seen.has(own.panel)) continue;
      const changeSec = this.#decoder.changeSec(last, own.goals[0]);
      const worth =
        this.#worthPerSec(own, clockSec + changeSec, lengthSec, changeSec) * (1 + noise * (2 * random() - 1));
      if (worth > bestWorth) [best, bestWorth] = [own, worth];
    }
    return best;
  }

  /** What a stay is worth a second, its arrival counted: light, balance while the least rise together, and its part of what the project still lacks. */
  #worthPerSec(own: PanelGoals, startSec: number, lengthSec: number, changeSec: number): number {
    const { goals, problem } = this.#decoder;
    this.#chooseOpen(own, startSec, lengthSec);
    if (this.#open.length === 0) return 0;
    let [openSec, light] = [0, 0];
    for (const i of this.#open) {
      const goal = goals[own.goals[i]];
      const leftSec = (goal.count - this.#has[own.goals[i]]) * goal.cycleSec;
      openSec += leftSec;
      light += (leftSec / goal.cycleSec) * goal.value * meanRate(goal, startSec);
    }
    const usedSec = Math.min(openSec, lengthSec);
    const { project } = goals[own.goals[0]];
    const projectSec = this.#leftOf(project);
    const worth = (light / openSec) * usedSec + this.#balanceGain(own, usedSec) + (problem.projectBonus[project] * usedSec) / projectSec; // prettier-ignore
    return worth / (usedSec + changeSec);
  }

  #leftOf(project: number): number {
    const { goals } = this.#decoder;
    let sec = 0;
    for (const g of this.#projectGoals[project]) sec += Math.max(0, goals[g].count - this.#has[g]) * goals[g].cycleSec;
    return Math.max(1, sec);
  }

  #fractionOf = (own: PanelGoals, i: number): number => (own.done[i] + this.#has[own.goals[i]]) / own.wanted[i];

  #balanceGain(own: PanelGoals, usedSec: number): number {
    if (own.weight === 0) return 0;
    let least = own.leastElsewhere;
    for (let i = 0; i < own.goals.length; i++) least = Math.min(least, this.#fractionOf(own, i));
    if (least >= 1 || own.leastElsewhere <= least) return 0;
    let secOfWhole = 0;
    for (let i = 0; i < own.goals.length; i++) {
      const fraction = this.#fractionOf(own, i);
      if (fraction > least + NEARLY_LEAST) continue;
      if (!this.#open.includes(i)) return 0;
      secOfWhole += own.wanted[i] * this.#decoder.goals[own.goals[i]].cycleSec;
    }
    return own.weight * Math.min(Math.min(1, own.leastElsewhere) - least, usedSec / secOfWhole);
  }

  /** Goals of the panel that lack something and are open in the beginning and the middle of the stay. */
  #chooseOpen(own: PanelGoals, startSec: number, lengthSec: number): void {
    this.#open.length = 0;
    for (let i = 0; i < own.goals.length; i++) {
      const { count, fromSec, toSec, exposureSec } = this.#decoder.goals[own.goals[i]];
      if (count <= this.#has[own.goals[i]]) continue;
      for (let w = 0; w < fromSec.length; w++)
        if (fromSec[w] <= startSec && toSec[w] >= Math.max(startSec + exposureSec, startSec + lengthSec / 2)) {
          this.#open.push(i);
          break;
        }
    }
  }

  /** Blocks of about a length that raise the panel's open goals to one fraction. */
  #filled(own: PanelGoals, startSec: number, lengthSec: number, random: Random): Block[] {
    this.#chooseOpen(own, startSec, lengthSec);
    const open = this.#open;
    if (open.length > 1 && random() < 0.15) open.splice(0, open.length, open[pickBelow(random, open.length)]);
    let [low, high] = [0, 1.02];
    for (let round = 0; round <= HALVINGS; round++) {
      const level = round === HALVINGS ? low : (low + high) / 2;
      let sec = 0;
      for (let k = 0; k < open.length; k++) {
        const i = open[k];
        const { count, cycleSec } = this.#decoder.goals[own.goals[i]];
        const has = this.#has[own.goals[i]];
        this.#counts[k] = Math.max(0, Math.min(count - has, Math.round(level * own.wanted[i] - own.done[i] - has)));
        sec += this.#counts[k] * cycleSec;
      }
      if (sec <= lengthSec) low = level;
      else high = level;
    }
    const blocks: Block[] = [];
    const [turn, isReversed] = [open.length > 1 ? pickBelow(random, open.length) : 0, random() < 0.5];
    for (let k = 0; k < open.length; k++) {
      const at = (isReversed ? turn + open.length - k : turn + k) % open.length;
      if (this.#counts[at] > 0) blocks.push({ goal: own.goals[open[at]], count: this.#counts[at], earliestSec: 0 });
    }
    return blocks;
  }
}

interface Moment {
  readonly clockSec: number;
  /** The goal exposed before; −1 where the night begins. */
  readonly last: number;
  readonly lengthSec: number;
  readonly noise: number;
  /** Panels that had a stay already. */
  readonly seen: ReadonlySet<number>;
}

function panelsOf({ problem, goals }: Decoder, movable: readonly number[]): PanelGoals[] {
  const termOf = new Map(problem.balances.flatMap((term) => term.members.map(({ goal }) => [goal, term] as const)));
  const ofPanel = new Map<number, number[]>();
  for (const g of movable) ofPanel.set(goals[g].panel, [...(ofPanel.get(goals[g].panel) ?? []), g]);
  return [...ofPanel].map(([panel, own]) => {
    const term = termOf.get(own[0]);
    const members = new Map((term?.members ?? []).map((member) => [member.goal, member]));
    const elsewhere = (term?.members ?? []).filter(({ goal }) => !own.includes(goal));
    return {
      panel,
      goals: own,
      done: Float64Array.from(own, (g) => members.get(g)?.done ?? 0),
      wanted: Float64Array.from(own, (g) => members.get(g)?.wanted ?? goals[g].count),
      weight: term?.weight ?? 0,
      leastElsewhere: Math.min(Infinity, ...elsewhere.map(({ done, wanted }) => done / wanted)),
    };
  });
}

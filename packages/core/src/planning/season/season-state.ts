// A season while it is searched: lanes decoded block by block, what is shared over the nights counted along, every change undone at will.
import { LanePlan, MOST_BLOCKS } from './lane-plan.ts';
import type { BlockList } from './lane-plan.ts';
import type { LaneTable, SeasonTables } from './season-tables.ts';
import { CLOSED, lightSec, moonlitSecBetween } from './season-tables.ts';
import type { SeasonPlan, SeasonRun } from './season-problem.ts';

/** Light counts so much more where the season before had the same goal in the same lane: what gains less by moving stays. */
const KEPT_SHARE = 0.03;
/** Room for sums of seconds that should be equal. */
const ROUNDING_SEC = 1e-6;

/** Values of a kind that a change touches, with what they were before it. */
class Touched {
  readonly before: Float64Array;
  readonly list: Int32Array;
  length = 0;
  readonly #stamp: Int32Array;
  #round = 1;

  constructor(readonly values: Float64Array) {
    this.before = new Float64Array(values.length);
    this.list = new Int32Array(values.length);
    this.#stamp = new Int32Array(values.length);
  }

  mark(i: number): void {
    if (this.#stamp[i] === this.#round) return;
    this.#stamp[i] = this.#round;
    this.before[i] = this.values[i];
    this.list[this.length++] = i;
  }

  forget(): void {
    this.length = 0;
    this.#round += 1;
  }

  restore(): void {
    for (let k = 0; k < this.length; k++) this.values[this.list[k]] = this.before[this.list[k]];
    this.forget();
  }
}

export class SeasonState {
  readonly lanes: LanePlan[];
  /** Exposures of each goal over the season, each times its night's odds. */
  readonly used: Float64Array;
  /** Least fraction done among a panel's goals. */
  readonly least: Float64Array;
  /** 1 for a panel whose goals are all whole. */
  readonly whole: Float64Array;
  /** Panels of a project that lack something. */
  readonly openPanels: Float64Array;
  /** Seconds that a project's goals still lack, and lacked at first. */
  readonly leftSec: Float64Array;
  readonly leftAtFirstSec: Float64Array;
  /** Expected seconds taken of each project's envelope: `[2 · project]` moonless, `[2 · project + 1]` moonlit. */
  readonly spentSec: Float64Array;
  /** Grows whenever a lane is another one. */
  readonly versions: Int32Array;
  light = 0;
  /** Balance and completion. */
  collective = 0;
  /** Completion of what is not finished, in proportion to the square of what it has: a way up to the bonus. */
  potential = 0;
  /** Share of the potential in the guide. */
  theta = 0;

  readonly #goals: Touched;
  readonly #panels: Touched;
  readonly #whole: Touched;
  readonly #open: Touched;
  readonly #left: Touched;
  readonly #potential: Touched;
  readonly #spent: Touched;
  readonly #changed: { lane: number; plan: LanePlan }[] = [];
  readonly #spare: LanePlan[] = [];
  #before = { light: 0, collective: 0, potential: 0 };
  /** 1 for a goal that a lane had before: `[lane · goals + goal]`; null: nothing stood before. */
  #had: Uint8Array | null = null;

  constructor(readonly tables: SeasonTables) {
    const { goals, panels, projects, lanes } = tables;
    this.lanes = lanes.map(() => new LanePlan());
    this.versions = new Int32Array(lanes.length);
    this.used = new Float64Array(goals);
    this.least = Float64Array.from({ length: panels }, (_, panel) => this.#leastOf(panel));
    this.whole = Float64Array.from({ length: panels }, (_, panel) => this.#isWhole(panel));
    this.openPanels = new Float64Array(projects);
    this.leftSec = new Float64Array(projects);
    for (let panel = 0; panel < panels; panel++) if (!this.whole[panel]) this.openPanels[tables.projectOf[panel]] += 1;
    for (let goal = 0; goal < goals; goal++)
      this.leftSec[tables.projectOf[tables.panelOf[goal]]] += tables.count[goal] * tables.cycleSec[goal];
    this.leftAtFirstSec = this.leftSec.slice();
    this.spentSec = new Float64Array(2 * projects);
    this.#spent = new Touched(this.spentSec);
    this.#goals = new Touched(this.used);
    this.#panels = new Touched(this.least);
    this.#whole = new Touched(this.whole);
    this.#open = new Touched(this.openPanels);
    this.#left = new Touched(this.leftSec);
    this.#potential = new Touched(new Float64Array(projects));
  }

  /** What stands is worth a little more from now on where it is; the value counts it, so that of the plan is told anew. */
  favour(plan: SeasonPlan): void {
    const { goals } = this.tables;
    const had = new Uint8Array(plan.length * goals);
    plan.forEach((runs, lane) => runs.forEach(({ goal }) => (had[lane * goals + goal] = 1)));
    this.#had = had;
  }

  get value(): number {
    return this.light + this.collective;
  }

  /** What the search climbs: the value, and the way up to what is not finished yet. */
  get guide(): number {
    return this.light + this.collective + this.theta * this.potential;
  }

  /** Whole exposures of a goal that a lane may still take, beside those it has. */
  left(goal: number, { odds }: LaneTable): number {
    return Math.floor((this.tables.count[goal] - this.used[goal]) / odds + 1e-6);
  }

  /** Replaces a lane's blocks; until `keep` it can be undone. */
  change(lane: number, next: BlockList): void {
    if (this.#changed.length === 0)
      this.#before = { light: this.light, collective: this.collective, potential: this.potential };
    const [old, plan, { odds }] = [this.lanes[lane], this.#spare.pop() ?? new LanePlan(), this.tables.lanes[lane]];
    const same = commonBlocks(old, next);
    for (let b = same; b < old.length; b++) {
      this.light -= old.light[b];
      this.#use(old.goal[b], -old.count[b] * odds);
      this.#spend(lane, old.goal[b], old.startSec[b], old.endSec[b], -1);
    }
    copyDecoded(old, plan, same);
    this.lanes[lane] = plan;
    this.versions[lane] += 1;
    this.#changed.push({ lane, plan: old });
    this.#decode(lane, next, same);
  }

  /** Counts what the changed goals mean for balance and completion. */
  settle(): void {
    let last = -1;
    for (let k = 0; k < this.#goals.length; k++) {
      const panel = this.tables.panelOf[this.#goals.list[k]];
      if (panel !== last) this.#settlePanel(panel);
      last = panel;
    }
    for (let k = 0; k < this.#left.length; k++) this.#settlePotential(this.#left.list[k]);
  }

  keep(): void {
    for (const { plan } of this.#changed) this.#spare.push(plan);
    this.#changed.length = 0;
    for (const touched of this.#touched()) touched.forget();
  }

  undo(): void {
    for (let k = this.#changed.length - 1; k >= 0; k--) {
      const { lane, plan } = this.#changed[k];
      this.#spare.push(this.lanes[lane]);
      this.lanes[lane] = plan;
      this.versions[lane] -= 1;
    }
    if (this.#changed.length > 0) Object.assign(this, this.#before);
    this.#changed.length = 0;
    for (const touched of this.#touched()) touched.restore();
  }

  /** The runs as they stand. */
  plan(): SeasonPlan {
    return this.lanes.map((_, lane) => this.runsOf(lane));
  }

  runsOf(lane: number): SeasonRun[] {
    const { length, goal, count, startSec } = this.lanes[lane];
    return Array.from({ length }, (_, b) => ({ goal: goal[b], count: count[b], startSec: startSec[b] }));
  }

  #touched(): readonly Touched[] {
    return [this.#goals, this.#panels, this.#whole, this.#open, this.#left, this.#potential, this.#spent];
  }

  #use(goal: number, exposures: number): void {
    const project = this.tables.projectOf[this.tables.panelOf[goal]];
    this.#goals.mark(goal);
    this.#left.mark(project);
    this.used[goal] += exposures;
    this.leftSec[project] -= exposures * this.tables.cycleSec[goal];
  }

  /** Takes a stretch from the envelope of a goal's project, where it has one, or gives it back. */
  #spend(lane: number, goal: number, startSec: number, endSec: number, sign: 1 | -1): void {
    const { tables } = this;
    const project = tables.projectOf[tables.panelOf[goal]];
    if (!tables.hasEnvelope[project]) return;
    const table = tables.lanes[lane];
    const moonlit = moonlitSecBetween(table, startSec, endSec, tables.slotSec);
    this.#spent.mark(2 * project);
    this.#spent.mark(2 * project + 1);
    this.spentSec[2 * project] += sign * table.odds * (endSec - startSec - moonlit);
    this.spentSec[2 * project + 1] += sign * table.odds * moonlit;
  }

  /** As many of a number of exposures as the envelope still holds. */
  #withinEnvelope(lane: number, goal: number, startSec: number, count: number): number {
    const { tables, spentSec } = this;
    const project = tables.projectOf[tables.panelOf[goal]];
    if (!tables.hasEnvelope[project]) return count;
    const { envelopeSec, cycleSec, slotSec } = tables;
    const table = tables.lanes[lane];
    const holds = (exposures: number): boolean => {
      const sec = exposures * cycleSec[goal];
      const moonlit = moonlitSecBetween(table, startSec, startSec + sec, slotSec);
      const isWithin = (i: number, taken: number): boolean => spentSec[i] + table.odds * taken <= envelopeSec[i] + ROUNDING_SEC; // prettier-ignore
      return isWithin(2 * project, sec - moonlit) && isWithin(2 * project + 1, moonlit);
    };
    if (holds(count)) return count;
    let [fits, tooMany] = [0, count];
    while (tooMany - fits > 1) {
      const middle = (fits + tooMany) >> 1;
      if (holds(middle)) fits = middle;
      else tooMany = middle;
    }
    return fits;
  }

  /** Adds what fits of blocks, from one on, to the end of a lane. */
  #decode(laneIndex: number, next: BlockList, from: number): void {
    const { tables, used } = this;
    const { cycleSec, rowOf, slotSec, lightPerSec, count: wanted } = tables;
    const { panelOf, filterOf, panelChangeSec, filterChangeSec, panels, filters } = tables;
    const table = tables.lanes[laneIndex];
    const { slots, runs, odds } = table;
    const plan = this.lanes[laneIndex];
    let b = plan.length;
    for (let i = from; i < next.length && b < MOST_BLOCKS; i++) {
      const goal = next.goal[i];
      let count = Math.min(next.count[i], Math.floor((wanted[goal] - used[goal]) / odds + 1e-6));
      if (odds < 1) count = Math.min(count, wanted[goal] - this.#takenInNight(laneIndex, table, goal));
      if (count <= 0) continue;
      const cycle = cycleSec[goal];
      let start = next.notBeforeSec[i];
      if (b > 0) {
        const last = plan.goal[b - 1];
        const changeSec =
          panelChangeSec[panelOf[last] * panels + panelOf[goal]] +
          filterChangeSec[filterOf[last] * filters + filterOf[goal]];
        start = Math.max(start, plan.endSec[b - 1] + changeSec);
      }
      const row = rowOf[goal] * slots;
      let fits = 0;
      for (let slot = Math.floor(start / slotSec + 1e-9); slot < slots;) {
        const run = runs[row + slot];
        if (run === CLOSED) break;
        if (run < 0) slot = -run - 1;
        else {
          fits = Math.floor((run * slotSec - start + ROUNDING_SEC) / cycle);
          if (fits > 0) break;
          slot = run;
        }
        start = slot * slotSec;
      }
      if (fits === 0) continue;
      count = this.#withinEnvelope(laneIndex, goal, start, Math.min(count, fits));
      if (count === 0) continue;
      const end = start + count * cycle;
      const had = this.#had === null ? 0 : this.#had[laneIndex * tables.goals + goal];
      const light =
        (1 + KEPT_SHARE * had) * odds * lightPerSec[goal] * lightSec(table, rowOf[goal], start, end, slotSec);
      plan.goal[b] = goal;
      plan.count[b] = count;
      plan.notBeforeSec[b] = next.notBeforeSec[i];
      plan.startSec[b] = start;
      plan.endSec[b] = end;
      plan.light[b] = light;
      plan.length = ++b;
      this.light += light;
      this.#use(goal, count * odds);
      this.#spend(laneIndex, goal, start, end, 1);
    }
  }

  #takenInNight(laneIndex: number, { night }: LaneTable, goal: number): number {
    const { lanes } = this.tables;
    let taken = 0;
    let first = laneIndex;
    while (first > 0 && lanes[first - 1].night === night) first -= 1;
    for (let l = first; l < lanes.length && lanes[l].night === night; l++)
      for (let b = 0; b < this.lanes[l].length; b++)
        if (this.lanes[l].goal[b] === goal) taken += this.lanes[l].count[b];
    return taken;
  }

  #leastOf(panel: number): number {
    const { goalsFrom, wanted, done } = this.tables;
    let least = 1;
    for (let goal = goalsFrom[panel]; goal < goalsFrom[panel + 1]; goal++) {
      const fraction = (done[goal] + this.used[goal]) / wanted[goal];
      if (fraction < least) least = fraction;
    }
    return least;
  }

  #isWhole(panel: number): number {
    const { goalsFrom, count, lackAllowed } = this.tables;
    for (let goal = goalsFrom[panel]; goal < goalsFrom[panel + 1]; goal++)
      if (count[goal] - this.used[goal] > lackAllowed) return 0;
    return 1;
  }

  #settlePanel(panel: number): void {
    const { balance, projectOf, bonus } = this.tables;
    const [least, whole] = [this.#leastOf(panel), this.#isWhole(panel)];
    this.#panels.mark(panel);
    this.collective += balance[panel] * (least - this.least[panel]);
    this.least[panel] = least;
    if (whole === this.whole[panel]) return;
    const project = projectOf[panel];
    this.#whole.mark(panel);
    this.#open.mark(project);
    this.whole[panel] = whole;
    if (whole) {
      if ((this.openPanels[project] -= 1) === 0) this.collective += bonus[project];
    } else if ((this.openPanels[project] += 1) === 1) this.collective -= bonus[project];
  }

  #settlePotential(project: number): void {
    const [atFirst, bonus] = [this.leftAtFirstSec[project], this.tables.bonus[project]];
    if (bonus <= 0 || atFirst <= 0) return;
    const is = this.openPanels[project] > 0 ? bonus * (1 - this.leftSec[project] / atFirst) ** 2 : 0;
    this.#potential.mark(project);
    this.potential += is - this.#potential.values[project];
    this.#potential.values[project] = is;
  }
}

/** Blocks at the beginning of two lists that are the same, so that they decode alike. */
function commonBlocks(old: LanePlan, next: BlockList): number {
  const most = Math.min(old.length, next.length);
  let b = 0;
  while (
    b < most &&
    old.goal[b] === next.goal[b] &&
    old.count[b] === next.count[b] &&
    old.notBeforeSec[b] === next.notBeforeSec[b]
  )
    b++;
  return b;
}

function copyDecoded(from: LanePlan, to: LanePlan, blocks: number): void {
  to.length = blocks;
  for (let b = 0; b < blocks; b++) {
    to.goal[b] = from.goal[b];
    to.count[b] = from.count[b];
    to.notBeforeSec[b] = from.notBeforeSec[b];
    to.startSec[b] = from.startSec[b];
    to.endSec[b] = from.endSec[b];
    to.light[b] = from.light[b];
  }
}

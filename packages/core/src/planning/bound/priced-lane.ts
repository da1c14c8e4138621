// One lane of a season relaxed and priced: a backward dynamic programme over (time step, panel), with fractional exposures, free changes of filter and travel in whole steps.
import type { SeasonProblem } from '../season/season-problem.ts';

/** What a second of each goal earns or costs beside its light. */
export type NetPerSec = Float64Array;

/** Room for one lane's tables, used for all of them in turn. */
interface Room {
  readonly worth: Float64Array;
  /** Step and panel to which it is best to travel; −1 where it is best to stay. */
  readonly next: Int16Array;
  readonly density: Float64Array;
  readonly best: Int32Array;
}

interface LaneSky {
  /** Panels with something open, as indices of the problem. */
  readonly panels: Int32Array;
  readonly slots: number;
  readonly odds: number;
  /** How many lanes see this sky. */
  readonly lanes: number;
  readonly rates: Float32Array;
  /** Steps of travel between the panels here. */
  readonly travel: Uint8Array;
  /** Steps of the shortest and the longest travel. */
  readonly soonest: number;
  readonly latest: number;
}

export interface PricedLanes {
  /** Worth of all lanes. */
  readonly total: number;
  /** Exposures of each goal, each times its night's odds. */
  readonly usage: Float64Array;
}

/** Prepares all lanes to be priced again and again. What it answers holds until it is asked again.
 * With travel rounded down the total bounds what any real lanes earn at these prices.
 * @param rounding down proves; nearest guides better where steps are long */
export function lanePricer(
  problem: SeasonProblem,
  stepSec: number,
  rounding: 'down' | 'nearest' = 'down',
): (net: NetPerSec) => PricedLanes {
  const skies = skiesOf(problem, stepSec, rounding);
  const perSlot = Math.round(problem.slotSec / stepSec);
  const size = skies.reduce((most, { slots, panels }) => Math.max(most, (slots * perSlot + 1) * panels.length), 1);
  const slotSize = skies.reduce((most, { slots, panels }) => Math.max(most, slots * panels.length), 1);
  const room: Room = {
    worth: new Float64Array(size),
    next: new Int16Array(size),
    density: new Float64Array(slotSize),
    best: new Int32Array(slotSize),
  };
  const goalsOf = goalsByPanel(problem);
  const usage = new Float64Array(problem.goals.length);
  return (net) => {
    usage.fill(0);
    let total = 0;
    for (const sky of skies) {
      fillDensities(problem, sky, goalsOf, net, room);
      fillWorth(sky, room, stepSec, perSlot);
      total += sky.lanes * follow(problem, sky, room, { stepSec, perSlot, usage });
    }
    return { total, usage };
  };
}

/** Lanes with the same sky are priced once. */
function skiesOf(problem: SeasonProblem, stepSec: number, rounding: 'down' | 'nearest'): LaneSky[] {
  const skies = new Map<Float32Array, LaneSky>();
  for (const { rates, slots, odds } of problem.lanes) {
    const known = skies.get(rates);
    if (known) {
      skies.set(rates, { ...known, lanes: known.lanes + 1 });
      continue;
    }
    const panels = Int32Array.from(openPanels(problem, rates, slots));
    const inSteps = (sec: number): number =>
      rounding === 'down' ? Math.floor(sec / stepSec + 1e-9) : Math.round(sec / stepSec);
    const travel = new Uint8Array(panels.length ** 2);
    let [soonest, latest] = [255, 1];
    panels.forEach((from, i) =>
      panels.forEach((to, k) => {
        const steps = inSteps(problem.panelChangeSec[from * problem.panels.length + to]);
        travel[i * panels.length + k] = steps;
        if (i === k) return;
        soonest = Math.min(soonest, steps);
        latest = Math.max(latest, steps);
      }),
    );
    skies.set(rates, {
      panels,
      slots,
      odds,
      lanes: 1,
      rates,
      travel,
      soonest: panels.length > 1 ? soonest : 1,
      latest,
    });
  }
  return [...skies.values()];
}

function openPanels({ goals, panels }: SeasonProblem, rates: Float32Array, slots: number): number[] {
  const isOpen = new Uint8Array(panels.length);
  for (const { panel, row, count } of goals)
    if (count > 0 && !isOpen[panel] && rates.subarray(row * slots, (row + 1) * slots).some((rate) => rate > 0))
      isOpen[panel] = 1;
  return panels.flatMap((_, p) => (isOpen[p] ? [p] : []));
}

function goalsByPanel({ goals, panels }: SeasonProblem): Int32Array[] {
  const own = panels.map((): number[] => []);
  goals.forEach(({ panel, count }, g) => {
    if (count > 0) own[panel].push(g);
  });
  return own.map((list) => Int32Array.from(list));
}

/** Value per second of each panel's best goal in each slot; 0 where none is worth its price. */
function fillDensities(
  { goals }: SeasonProblem,
  { panels, slots, rates, odds }: LaneSky,
  goalsOf: readonly Int32Array[],
  net: NetPerSec,
  { density, best }: Room,
): void {
  const width = panels.length;
  density.fill(0, 0, slots * width);
  best.fill(-1, 0, slots * width);
  for (let p = 0; p < width; p++) {
    for (const g of goalsOf[panels[p]]) {
      const { row, value, cycleSec } = goals[g];
      const [perRate, beside] = [(odds * value) / cycleSec, odds * net[g]];
      for (let slot = 0, at = p, from = row * slots; slot < slots; slot++, at += width) {
        const rate = rates[from + slot];
        if (rate <= 0) continue;
        const perSec = perRate * rate + beside;
        if (perSec > density[at]) {
          density[at] = perSec;
          best[at] = g;
        }
      }
    }
  }
}

/** Best worth from each step on, by panel: stay for the step, or travel. Travel leads to where it is best to stay,
 * for two ways in a row are never shorter than the straight one: so few panels are looked at, those worth most first. */
function fillWorth(
  { panels, slots, travel, soonest, latest }: LaneSky,
  room: Room,
  stepSec: number,
  perSlot: number,
): void {
  const { worth, next, density } = room;
  const width = panels.length;
  const steps = slots * perSlot;
  const staysAt = new Int32Array(width).fill(steps + latest + 1);
  const targets = new Int16Array(width);
  worth.fill(0, steps * width, (steps + 1) * width);
  for (let step = steps - 1; step >= 0; step--) {
    const [row, slot] = [step * width, Math.floor(step / perSlot) * width];
    for (let p = 0; p < width; p++) {
      worth[row + p] = density[slot + p] * stepSec + worth[row + width + p];
      next[row + p] = -1;
    }
    const arrival = step + soonest;
    if (arrival >= steps) continue;
    const there = arrival * width;
    let count = 0;
    for (let q = 0; q < width; q++) {
      if (next[there + q] < 0) staysAt[q] = arrival;
      if (staysAt[q] <= step + latest) count = insertByWorth(targets, count, q, worth, there);
    }
    for (let p = 0; p < width; p++) {
      let top = worth[row + p];
      let to = -1;
      for (let i = 0; i < count; i++) {
        const q = targets[i];
        if (worth[there + q] <= top) break;
        const at = step + travel[p * width + q];
        if (at >= steps || q === p) continue;
        const value = worth[at * width + q];
        if (value > top) {
          top = value;
          to = q;
        }
      }
      worth[row + p] = top;
      next[row + p] = to;
    }
  }
}

/** Keeps a list sorted by worth in a row, most first. */
function insertByWorth(list: Int16Array, count: number, panel: number, worth: Float64Array, row: number): number {
  const value = worth[row + panel];
  let at = count;
  for (; at > 0 && worth[row + list[at - 1]] < value; at--) list[at] = list[at - 1];
  list[at] = panel;
  return count + 1;
}

/** Walks the relaxed lane and counts what it uses, for every lane under this sky.
 * @returns worth of one lane */
function follow(
  { goals }: SeasonProblem,
  { panels, slots, travel, odds, lanes }: LaneSky,
  { worth, next, best }: Room,
  { stepSec, perSlot, usage }: { stepSec: number; perSlot: number; usage: Float64Array },
): number {
  const width = panels.length;
  let panel = 0;
  for (let p = 1; p < width; p++) if (worth[p] > worth[panel]) panel = p;
  if (width === 0 || slots === 0) return 0;
  const total = worth[panel];
  for (let step = 0; step < slots * perSlot;) {
    const to = next[step * width + panel];
    if (to >= 0) {
      step += travel[panel * width + to];
      panel = to;
      continue;
    }
    const goal = best[Math.floor(step / perSlot) * width + panel];
    if (goal >= 0) usage[goal] += (lanes * odds * stepSec) / goals[goal].cycleSec;
    step += 1;
  }
  return total;
}

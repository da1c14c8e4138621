// A stay on a panel filled with exposures so that its filters rise together.
import type { Random } from '../../random.ts';
import { pickBelow } from '../../random.ts';
import type { BlockList } from './lane-plan.ts';
import type { SeasonState } from './season-state.ts';

/** Halvings of the level that a panel's goals are raised to. */
const HALVINGS = 10;
/** A little above whole, so that what is wanted is wanted whole. */
const HIGHEST = 1.02;
/** Goals of a panel that are looked at. */
const MOST_GOALS = 64;
/** How often a stay is filled through one filter alone, and through some of those that are open. */
const ONE_FILTER = 0.15;
const SOME_FILTERS = 0.2;

const chosen = new Int32Array(MOST_GOALS);
const counts = new Float64Array(MOST_GOALS);

export interface Stay {
  readonly lane: number;
  readonly panel: number;
  readonly startSec: number;
  readonly lengthSec: number;
  readonly notBeforeSec: number;
}

/** Appends a stay's blocks.
 * @param freed exposures by goal that the same move takes away from elsewhere
 * @returns seconds that are used, changes of filter included */
export function fillStay(
  state: SeasonState,
  { lane, panel, startSec, lengthSec, notBeforeSec }: Stay,
  freed: Float64Array,
  random: Random,
  out: BlockList,
): number {
  const open = chooseOpen(state, { lane, panel, startSec, lengthSec }, freed, random);
  if (open === 0) return 0;
  const { tables } = state;
  const { odds } = tables.lanes[lane];
  raiseTogether(state, odds, open, lengthSec, freed);
  const [turn, isReversed] = [pickBelow(random, open), random() < 0.5];
  let [usedSec, last] = [0, -1];
  for (let k = 0; k < open; k++) {
    const i = isReversed ? (turn + open - k) % open : (turn + k) % open;
    const [goal, count] = [chosen[i], counts[i]];
    if (count <= 0) continue;
    if (last >= 0) usedSec += tables.filterChangeSec[tables.filterOf[last] * tables.filters + tables.filterOf[goal]];
    out.push(goal, count, last < 0 ? notBeforeSec : 0);
    usedSec += count * tables.cycleSec[goal];
    last = goal;
  }
  return usedSec;
}

/** Goals of the panel that lack something and are open in the beginning and the middle of the stay. */
function chooseOpen(
  { tables, used }: SeasonState,
  { lane, panel, startSec, lengthSec }: Omit<Stay, 'notBeforeSec'>,
  freed: Float64Array,
  random: Random,
): number {
  const { slots, rates, odds } = tables.lanes[lane];
  const first = Math.min(slots - 1, Math.max(0, Math.floor(startSec / tables.slotSec)));
  const middle = Math.min(slots - 1, Math.floor((startSec + lengthSec / 2) / tables.slotSec));
  let open = 0;
  for (let goal = tables.goalsFrom[panel]; goal < tables.goalsFrom[panel + 1] && open < MOST_GOALS; goal++) {
    if (tables.count[goal] - used[goal] + freed[goal] < odds - 1e-6) continue;
    const row = tables.rowOf[goal] * slots;
    if (rates[row + first] > 0 && rates[row + middle] > 0) chosen[open++] = goal;
  }
  if (open < 2) return open;
  const roll = random();
  if (roll < ONE_FILTER) {
    chosen[0] = chosen[pickBelow(random, open)];
    return 1;
  }
  if (roll > ONE_FILTER + SOME_FILTERS) return open;
  let some = 0;
  for (let i = 0; i < open; i++) if (random() < 0.5) chosen[some++] = chosen[i];
  return some === 0 ? 1 : some;
}

/** Sets the counts of the chosen goals to what raises all of them to the highest level that the time allows. */
function raiseTogether(
  { tables, used }: SeasonState,
  odds: number,
  open: number,
  lengthSec: number,
  freed: Float64Array,
): void {
  let [low, high] = [0, HIGHEST];
  for (let round = 0; round <= HALVINGS; round++) {
    const level = round === HALVINGS ? low : (low + high) / 2;
    let neededSec = 0;
    for (let i = 0; i < open; i++) {
      const goal = chosen[i];
      const has = used[goal] - freed[goal];
      const left = Math.floor((tables.count[goal] - has) / odds + 1e-6);
      const wish = Math.round((level * tables.levelWanted[goal] - tables.levelDone[goal] - has) / odds);
      counts[i] = Math.max(0, Math.min(left, wish));
      if (counts[i] > 0) neededSec += counts[i] * tables.cycleSec[goal];
    }
    if (neededSec <= lengthSec) low = level;
    else high = level;
  }
}

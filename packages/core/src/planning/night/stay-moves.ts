// Moves of whole stays on a panel: exchanged, carried, shared, filled anew so that a panel's filters rise together.
import type { Random } from '../../random.ts';
import { pickBelow } from '../../random.ts';
import type { Block, Decoder } from './decoder.ts';

interface Stay {
  readonly panel: number;
  readonly blocks: readonly Block[];
  readonly lengthSec: number;
}

function staysIn(decoder: Decoder, blocks: readonly Block[]): Stay[] {
  const stays: { panel: number; blocks: Block[]; lengthSec: number }[] = [];
  for (const block of blocks) {
    const { panel, cycleSec } = decoder.goals[block.goal];
    const last = stays[stays.length - 1];
    if (last?.panel === panel) {
      last.blocks.push(block);
      last.lengthSec += block.count * cycleSec;
    } else stays.push({ panel, blocks: [block], lengthSec: block.count * cycleSec });
  }
  return stays;
}

/** Moves whole stays: two change places, one is carried elsewhere, two share their time anew, one gives its time to another panel. */
export function wholeMoved(decoder: Decoder, blocks: readonly Block[], stays: EvenStays, random: Random): Block[] {
  const whole = staysIn(decoder, blocks);
  if (whole.length < 2) return withStay(decoder, blocks, stays, random);
  const a = pickBelow(random, whole.length);
  const roll = random();
  const parts = whole.map((stay) => stay.blocks);
  if (roll < 0.2) {
    const b = random() < 0.5 ? (a + 1) % whole.length : pickBelow(random, whole.length);
    [parts[a], parts[b]] = [parts[b], parts[a]];
  } else if (roll < 0.35) {
    const [part] = parts.splice(a, 1);
    parts.splice(pickBelow(random, parts.length + 1), 0, part);
  } else if (roll < 0.75) {
    const b = random() < 0.7 ? (a + 1) % whole.length : pickBelow(random, whole.length);
    if (a === b) return [...blocks];
    const shiftSec = random() * random() * whole[a].lengthSec * (random() < 0.1 ? 1.01 / Math.max(0.01, random()) : 1);
    const left = whole[a].lengthSec - shiftSec;
    parts[a] = left > 0 ? stays.filled(whole[a].panel, left, random) : [];
    parts[b] = stays.filled(whole[b].panel, whole[b].lengthSec + Math.min(shiftSec, whole[a].lengthSec), random);
  } else {
    const panel = stays.panels[pickBelow(random, stays.panels.length)];
    const share = random() < 0.4 ? 1 : random();
    const rest = share < 0.9 ? stays.filled(whole[a].panel, whole[a].lengthSec * (1 - share), random) : [];
    const added = stays.filled(panel, whole[a].lengthSec * share, random);
    parts[a] = random() < 0.5 ? [...rest, ...added] : [...added, ...rest];
  }
  return parts.flat();
}

/** Fills all stays on one panel anew, evenly over them together, and mostly the stays of another panel with it. */
export function slotsFilled(decoder: Decoder, blocks: readonly Block[], stays: EvenStays, random: Random): Block[] {
  const whole = staysIn(decoder, blocks);
  if (whole.length === 0) return [...blocks];
  const standing = (): number => whole[pickBelow(random, whole.length)].panel;
  const panel = random() < 0.5 ? standing() : stays.panels[pickBelow(random, stays.panels.length)];
  const other = random() < 0.75 ? standing() : panel;
  const isSlot = whole.map((stay) => stay.panel === panel || stay.panel === other);
  const totalSec = whole.reduce((sum, stay, i) => sum + (isSlot[i] ? stay.lengthSec : 0), 0);
  if (totalSec === 0) return [...blocks];
  const filled = stays.filled(panel, totalSec * (random() < 0.6 ? 1 : 0.8 + 0.4 * random()), random);
  const closing = ({ goal }: Block): number => decoder.goals[goal].toSec[decoder.goals[goal].toSec.length - 1];
  if (random() < 0.6) filled.sort((a, b) => closing(a) - closing(b));
  const lastSlot = isSlot.lastIndexOf(true);
  return whole.flatMap((stay, i) =>
    isSlot[i] ? takenFrom(decoder, filled, i === lastSlot ? Infinity : stay.lengthSec) : stay.blocks,
  );
}

/** Takes blocks from the head of a list for about a time; what is cut off stays in the list. */
function takenFrom(decoder: Decoder, list: Block[], lengthSec: number): Block[] {
  const taken: Block[] = [];
  for (let leftSec = lengthSec; list.length > 0 && leftSec > 0;) {
    const { goal, count } = list[0];
    const { cycleSec } = decoder.goals[goal];
    const fits = Math.min(count, Math.max(1, Math.round(leftSec / cycleSec)));
    taken.push({ goal, count: fits, earliestSec: 0 });
    leftSec -= fits * cycleSec;
    if (fits === count) list.shift();
    else list[0] = { goal, count: count - fits, earliestSec: 0 };
  }
  return taken;
}

const [SHORTEST_STAY_SEC, LONGEST_STAY_SEC] = [1800, 14_400];

/** Fills a stay anew, longer or shorter than it was, or puts a new one somewhere. */
export function withStay(decoder: Decoder, blocks: readonly Block[], stays: EvenStays, random: Random): Block[] {
  const panelOf = (block: Block): number => decoder.goals[block.goal].panel;
  if (blocks.length === 0 || random() < 0.35) {
    const lengthSec = SHORTEST_STAY_SEC + random() * (LONGEST_STAY_SEC - SHORTEST_STAY_SEC);
    const panel = stays.panels[pickBelow(random, stays.panels.length)];
    const others = random() < 0.5 ? blocks.filter((block) => panelOf(block) !== panel) : [...blocks];
    const at = pickBelow(random, others.length + 1);
    return [...others.slice(0, at), ...stays.filled(panel, lengthSec, random), ...others.slice(at)];
  }
  const middle = pickBelow(random, blocks.length);
  const panel = panelOf(blocks[middle]);
  let [first, last] = [middle, middle];
  while (first > 0 && panelOf(blocks[first - 1]) === panel) first -= 1;
  while (last < blocks.length - 1 && panelOf(blocks[last + 1]) === panel) last += 1;
  const own = blocks.slice(first, last + 1);
  const lengthSec = own.reduce((sum, { goal, count }) => sum + count * decoder.goals[goal].cycleSec, 0);
  const filled = stays.filled(panel, lengthSec * (0.6 + 0.9 * random()), random);
  return [...blocks.slice(0, first), ...filled, ...blocks.slice(last + 1)];
}

/** Stays that raise a panel's filters together. */
export class EvenStays {
  readonly panels: readonly number[];
  /** Per panel its movable goals with what each has and wants. */
  readonly #goals: ReadonlyMap<number, readonly EvenMember[]>;

  constructor({ problem, goals }: Decoder, movable: readonly number[]) {
    const known = new Map(problem.balances.flatMap(({ members }) => members.map((member) => [member.goal, member])));
    const ofPanel = new Map<number, EvenMember[]>();
    for (const goal of movable) {
      const { panel, count, cycleSec } = goals[goal];
      const { done, wanted } = known.get(goal) ?? { done: 0, wanted: count };
      ofPanel.set(panel, [...(ofPanel.get(panel) ?? []), { goal, done, wanted, count, cycleSec }]);
    }
    this.#goals = ofPanel;
    this.panels = [...ofPanel.keys()];
  }

  /** Blocks of about a length whose goals end at one fraction, as far as each has exposures left. */
  filled(panel: number, lengthSec: number, random: Random): Block[] {
    const own = this.#goals.get(panel)!;
    let [low, high] = [0, 1];
    for (let round = 0; round < LEVEL_ROUNDS; round++) {
      const level = (low + high) / 2;
      let sec = 0;
      for (let i = 0; i < own.length; i++) sec += countAt(own[i], level) * own[i].cycleSec;
      if (sec <= lengthSec) low = level;
      else high = level;
    }
    const blocks: Block[] = [];
    const turn = own.length > 1 ? pickBelow(random, own.length) : 0;
    for (let i = 0; i < own.length; i++) {
      const member = own[(i + turn) % own.length];
      const count = countAt(member, low);
      if (count > 0) blocks.push({ goal: member.goal, count, earliestSec: 0 });
    }
    return random() < 0.5 ? blocks.reverse() : blocks;
  }
}

interface EvenMember {
  readonly goal: number;
  readonly done: number;
  readonly wanted: number;
  readonly count: number;
  readonly cycleSec: number;
}

/** Exposures that bring a goal to a fraction. */
const countAt = ({ done, wanted, count }: EvenMember, level: number): number =>
  Math.min(count, Math.max(0, Math.round(level * wanted - done)));

const LEVEL_ROUNDS = 9;

// A night made better by annealing over its blocks; equal seed and iterations give an equal night.
import type { Random } from '../random.ts';
import type { Block, Decoder } from './decoder.ts';

export interface ImproveOptions {
  readonly iterations: number;
  readonly random: Random;
}

/** Temperatures as shares of the value of a good hour. */
const HOT = 0.06;
const COLD = 0.002;

/** The best block list met on the way, never worse than the one given. */
export function improvedBlocks(
  decoder: Decoder,
  start: readonly Block[],
  { iterations, random }: ImproveOptions,
): Block[] {
  const movable = movableGoals(decoder);
  if (movable.length === 0) return [...start];
  const bundles = bundlesOf(decoder, movable);
  const stays = new EvenStays(decoder, movable);
  let current = copied(start);
  let value = decoder.valueOf(current);
  let best = { blocks: current, value };
  const scale = Math.max(1e-9, value) / Math.max(1, decoder.problem.lengthSec / 3600);
  for (let i = 0; i < iterations; i++) {
    const temperature = scale * HOT * (COLD / HOT) ** (i / iterations);
    const kind = random();
    const candidate =
      kind < BUNDLE_SHARE
        ? bundled(decoder, current, bundles, random)
        : kind < BUNDLE_SHARE + STAY_SHARE
          ? withStay(decoder, current, stays, random)
          : moved(decoder, current, movable, random);
    const candidateValue = decoder.valueOf(candidate);
    if (candidateValue >= value || random() < Math.exp((candidateValue - value) / temperature)) {
      [current, value] = [decoder.withoutIdle(candidate), candidateValue];
      if (value > best.value + 1e-12) best = { blocks: current, value };
    }
    if (i % 1500 === 1499 && value < best.value) [current, value] = [best.blocks, best.value];
  }
  return copied(best.blocks);
}

/** How often a whole panel or project is moved at once: what completion and balance pay for only together. */
const BUNDLE_SHARE = 0.08;

/** How often a stay on one panel is filled anew, evenly: balance pays for its filters only together. */
const STAY_SHARE = 0.12;
const [SHORTEST_STAY_SEC, LONGEST_STAY_SEC] = [1800, 14_400];

/** Fills a stay anew, longer or shorter than it was, or puts a new one somewhere. */
function withStay(decoder: Decoder, blocks: readonly Block[], stays: EvenStays, random: Random): Block[] {
  const panelOf = (block: Block): number => decoder.goals[block.goal].panel;
  if (blocks.length === 0 || random() < 0.35) {
    const lengthSec = SHORTEST_STAY_SEC + random() * (LONGEST_STAY_SEC - SHORTEST_STAY_SEC);
    const panel = stays.panels[pick(random, stays.panels.length)];
    const others = random() < 0.5 ? blocks.filter((block) => panelOf(block) !== panel) : [...blocks];
    const at = pick(random, others.length + 1);
    return [...others.slice(0, at), ...stays.filled(panel, lengthSec, random), ...others.slice(at)];
  }
  const middle = pick(random, blocks.length);
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
class EvenStays {
  readonly panels: readonly number[];
  readonly #decoder: Decoder;
  /** Per panel its movable goals with what each has and wants. */
  readonly #goals: ReadonlyMap<
    number,
    readonly { readonly goal: number; readonly done: number; readonly wanted: number }[]
  >;

  constructor(decoder: Decoder, movable: readonly number[]) {
    this.#decoder = decoder;
    const known = new Map(
      decoder.problem.balances.flatMap(({ members }) => members.map((member) => [member.goal, member])),
    );
    const goals = new Map<number, { goal: number; done: number; wanted: number }[]>();
    for (const goal of movable) {
      const { panel, count } = decoder.goals[goal];
      const { done, wanted } = known.get(goal) ?? { done: 0, wanted: count };
      goals.set(panel, [...(goals.get(panel) ?? []), { goal, done, wanted }]);
    }
    this.#goals = goals;
    this.panels = [...goals.keys()];
  }

  /** Blocks of about a length whose goals end at one fraction, as far as each has exposures left. */
  filled(panel: number, lengthSec: number, random: Random): Block[] {
    const own = this.#goals.get(panel)!;
    const countsAt = (level: number): number[] =>
      own.map(({ goal, done, wanted }) =>
        Math.min(this.#decoder.goals[goal].count, Math.max(0, Math.round(level * wanted - done))),
      );
    const secondsOf = (counts: readonly number[]): number =>
      counts.reduce((sum, count, i) => sum + count * this.#decoder.goals[own[i].goal].cycleSec, 0);
    let [low, high] = [0, 1];
    for (let round = 0; round < LEVEL_ROUNDS; round++) {
      const level = (low + high) / 2;
      if (secondsOf(countsAt(level)) <= lengthSec) low = level;
      else high = level;
    }
    const blocks = countsAt(low).flatMap((count, i): Block[] =>
      count > 0 ? [{ goal: own[i].goal, count, earliestSec: 0 }] : [],
    );
    const turn = blocks.length > 1 ? pick(random, blocks.length) : 0;
    const turned = [...blocks.slice(turn), ...blocks.slice(0, turn)];
    return random() < 0.5 ? turned.reverse() : turned;
  }
}
const LEVEL_ROUNDS = 9;

/** Goals that belong together: the movable ones of each panel, and of each project with several panels. */
function bundlesOf(decoder: Decoder, movable: readonly number[]): number[][] {
  const groups = new Map<string, number[]>();
  for (const g of movable) {
    const { panel, project } = decoder.goals[g];
    for (const key of [`panel ${panel}`, `project ${project}`]) groups.set(key, [...(groups.get(key) ?? []), g]);
  }
  return [...groups.values()];
}

/** Takes a bundle out of the night and puts it back as one stretch somewhere: all that is left of it, or an even share. */
function bundled(decoder: Decoder, blocks: readonly Block[], bundles: readonly number[][], random: Random): Block[] {
  const bundle = bundles[pick(random, bundles.length)];
  const others = blocks.filter((block) => !bundle.includes(block.goal));
  if (random() < 0.15) return others;
  const share = random() < 0.5 ? 1 : random();
  const inserted = bundle.map((goal): Block => ({
    goal,
    count: Math.max(1, Math.ceil(share * decoder.goals[goal].count)),
    earliestSec: 0,
  }));
  if (random() < 0.5) inserted.reverse();
  const at = pick(random, others.length + 1);
  return [...others.slice(0, at), ...inserted, ...others.slice(at)];
}

const copied = (blocks: readonly Block[]): Block[] => blocks.map((block) => ({ ...block }));

function movableGoals(decoder: Decoder): number[] {
  return decoder.goals.flatMap((goal, g) => (goal.count > 0 && goal.fromSec.length > 0 ? [g] : []));
}

const pick = (random: Random, below: number): number => Math.floor(random() * below);

/** One random change: insert, remove, resize, swap, carry, delay, or exchange the goal of a block. */
function moved(decoder: Decoder, blocks: readonly Block[], movable: readonly number[], random: Random): Block[] {
  const next = [...blocks];
  const roll = next.length === 0 ? 0 : random();
  if (roll < 0.25) insertBlock(decoder, next, movable, random);
  else if (roll < 0.33) next.splice(pick(random, next.length), 1);
  else if (roll < 0.6) resizeBlock(decoder, next, random);
  else if (roll < 0.72) swapBlocks(next, random);
  else if (roll < 0.82) carryBlock(next, random);
  else if (roll < 0.92) delayBlock(decoder, next, random);
  else next[pick(random, next.length)] = newBlock(decoder, movable, random);
  return next;
}

function newBlock(decoder: Decoder, movable: readonly number[], random: Random): Block {
  const goal = movable[pick(random, movable.length)];
  const { count } = decoder.goals[goal];
  const wish = random() < 0.4 ? count : 1 + pick(random, Math.min(count, 40));
  return { goal, count: Math.min(count, wish), earliestSec: 0 };
}

function insertBlock(decoder: Decoder, blocks: Block[], movable: readonly number[], random: Random): void {
  const block = newBlock(decoder, movable, random);
  const at = pick(random, blocks.length + 1);
  const host = blocks[at];
  if (host && host.count > 1 && random() < 0.4) {
    const first = 1 + pick(random, host.count - 1);
    blocks.splice(at, 1, { ...host, count: first }, block, { ...host, count: host.count - first, earliestSec: 0 });
  } else blocks.splice(at, 0, block);
}

function resizeBlock(decoder: Decoder, blocks: Block[], random: Random): void {
  const at = pick(random, blocks.length);
  const block = blocks[at];
  const most = decoder.goals[block.goal].count;
  const step = random() < 0.5 ? 1 : 1 + pick(random, 8);
  const count = random() < 0.15 ? most : Math.min(most, Math.max(1, block.count + (random() < 0.5 ? step : -step)));
  blocks[at] = { ...block, count };
}

function swapBlocks(blocks: Block[], random: Random): void {
  const a = pick(random, blocks.length);
  const b = random() < 0.6 ? Math.min(blocks.length - 1, a + 1) : pick(random, blocks.length);
  [blocks[a], blocks[b]] = [blocks[b], blocks[a]];
}

function carryBlock(blocks: Block[], random: Random): void {
  const [block] = blocks.splice(pick(random, blocks.length), 1);
  blocks.splice(pick(random, blocks.length + 1), 0, block);
}

function delayBlock(decoder: Decoder, blocks: Block[], random: Random): void {
  const at = pick(random, blocks.length);
  const goal = decoder.goals[blocks[at].goal];
  const w = pick(random, goal.fromSec.length);
  const earliestSec = random() < 0.4 ? 0 : goal.fromSec[w] + random() * (goal.toSec[w] - goal.fromSec[w]);
  blocks[at] = { ...blocks[at], earliestSec };
}

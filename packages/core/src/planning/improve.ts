// A night made better by annealing over its blocks; equal seed and iterations give an equal night.
import type { Random } from '../random.ts';
import type { Block, Decoder } from './decoder.ts';

export interface ImproveOptions {
  readonly iterations: number;
  readonly random: Random;
}

/** Temperatures as shares of the value of a good hour. */
const HOT = 0.4;
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
  let current = copied(start);
  let value = decoder.valueOf(current);
  let best = { blocks: current, value };
  const scale = Math.max(1e-9, value) / Math.max(1, decoder.problem.lengthSec / 3600);
  for (let i = 0; i < iterations; i++) {
    const temperature = scale * HOT * (COLD / HOT) ** (i / iterations);
    const candidate =
      random() < BUNDLE_SHARE ? bundled(decoder, current, bundles, random) : moved(decoder, current, movable, random);
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

// Moves of single blocks, and of the blocks that belong together.
import type { Random } from '../../random.ts';
import { pickBelow } from '../../random.ts';
import type { Block, Decoder } from './decoder.ts';

/** One random change: insert, remove, resize, swap, carry, delay, or exchange the goal of a block. */
export function moved(decoder: Decoder, blocks: readonly Block[], movable: readonly number[], random: Random): Block[] {
  const next = [...blocks];
  const roll = next.length === 0 ? 0 : random();
  if (roll < 0.25) insertBlock(decoder, next, movable, random);
  else if (roll < 0.33) next.splice(pickBelow(random, next.length), 1);
  else if (roll < 0.6) resizeBlock(decoder, next, random);
  else if (roll < 0.72) swapBlocks(next, random);
  else if (roll < 0.82) carryBlock(next, random);
  else if (roll < 0.92) delayBlock(decoder, next, random);
  else next[pickBelow(random, next.length)] = newBlock(decoder, movable, random);
  return next;
}

function newBlock(decoder: Decoder, movable: readonly number[], random: Random): Block {
  const goal = movable[pickBelow(random, movable.length)];
  const { count } = decoder.goals[goal];
  const wish = random() < 0.4 ? count : 1 + pickBelow(random, Math.min(count, 40));
  return { goal, count: Math.min(count, wish), earliestSec: 0 };
}

function insertBlock(decoder: Decoder, blocks: Block[], movable: readonly number[], random: Random): void {
  const block = newBlock(decoder, movable, random);
  const at = pickBelow(random, blocks.length + 1);
  const host = blocks[at];
  if (host && host.count > 1 && random() < 0.4) {
    const first = 1 + pickBelow(random, host.count - 1);
    blocks.splice(at, 1, { ...host, count: first }, block, { ...host, count: host.count - first, earliestSec: 0 });
  } else blocks.splice(at, 0, block);
}

function resizeBlock(decoder: Decoder, blocks: Block[], random: Random): void {
  const at = pickBelow(random, blocks.length);
  const block = blocks[at];
  const most = decoder.goals[block.goal].count;
  const step = random() < 0.5 ? 1 : 1 + pickBelow(random, 8);
  const count = random() < 0.15 ? most : Math.min(most, Math.max(1, block.count + (random() < 0.5 ? step : -step)));
  blocks[at] = { ...block, count };
}

function swapBlocks(blocks: Block[], random: Random): void {
  const a = pickBelow(random, blocks.length);
  const b = random() < 0.6 ? Math.min(blocks.length - 1, a + 1) : pickBelow(random, blocks.length);
  [blocks[a], blocks[b]] = [blocks[b], blocks[a]];
}

function carryBlock(blocks: Block[], random: Random): void {
  const [block] = blocks.splice(pickBelow(random, blocks.length), 1);
  blocks.splice(pickBelow(random, blocks.length + 1), 0, block);
}

function delayBlock(decoder: Decoder, blocks: Block[], random: Random): void {
  const at = pickBelow(random, blocks.length);
  const goal = decoder.goals[blocks[at].goal];
  const w = pickBelow(random, goal.fromSec.length);
  const earliestSec = random() < 0.4 ? 0 : goal.fromSec[w] + random() * (goal.toSec[w] - goal.fromSec[w]);
  blocks[at] = { ...blocks[at], earliestSec };
}

/** Goals that belong together: the movable ones of each panel, and of each project with several panels. */
export function bundlesOf(decoder: Decoder, movable: readonly number[]): number[][] {
  const groups = new Map<string, number[]>();
  for (const g of movable) {
    const { panel, project } = decoder.goals[g];
    for (const key of [`panel ${panel}`, `project ${project}`]) groups.set(key, [...(groups.get(key) ?? []), g]);
  }
  return [...groups.values()];
}

/** Takes a bundle out of the night and puts it back as one stretch somewhere: all that is left of it, or an even share. */
export function bundled(
  decoder: Decoder,
  blocks: readonly Block[],
  bundles: readonly number[][],
  random: Random,
): Block[] {
  const bundle = bundles[pickBelow(random, bundles.length)];
  const others = blocks.filter((block) => !bundle.includes(block.goal));
  if (random() < 0.15) return others;
  const share = random() < 0.5 ? 1 : random();
  const inserted = bundle.map((goal): Block => ({
    goal,
    count: Math.max(1, Math.ceil(share * decoder.goals[goal].count)),
    earliestSec: 0,
  }));
  if (random() < 0.5) inserted.reverse();
  const at = pickBelow(random, others.length + 1);
  if (random() < 0.5) return [...others.slice(0, at), ...inserted, ...others.slice(at)];
  // In place of what takes as long, so that the rest of the night stays where it is.
  let leftSec = inserted.reduce((sum, { goal, count }) => sum + count * decoder.goals[goal].cycleSec, 0);
  let end = at;
  while (end < others.length && leftSec > 0) {
    leftSec -= others[end].count * decoder.goals[others[end].goal].cycleSec;
    end += 1;
  }
  return [...others.slice(0, at), ...inserted, ...others.slice(end)];
}

// A night made better by annealing over its blocks; equal seed and iterations give an equal night.
import type { Random } from '../random.ts';
import type { Block, Decoder, TimedBlock } from './decoder.ts';
import type { PutIn } from './place-in-time.ts';
import { momentFor, putIn } from './place-in-time.ts';

export interface ImproveOptions {
  readonly iterations: number;
  readonly random: Random;
  /** Share of the first temperature to begin with: 1 for a night from scratch, less for one that is good already. */
  readonly warmth?: number;
}

/** Temperatures as shares of the value of a good hour. */
const HOT = 0.06;
const COLD = 0.002;

/** The best block list met on the way, never worse than the one given. */
export function improvedBlocks(
  decoder: Decoder,
  start: readonly Block[],
  { iterations, random, warmth = 1 }: ImproveOptions,
): Block[] {
  const movable = movableGoals(decoder);
  if (movable.length === 0) return [...start];
  const bundles = bundlesOf(decoder, movable);
  const stays = new EvenStays(decoder, movable);
  let current = copied(start);
  let value = decoder.valueOf(current);
  let timed = decoder.timed(current);
  const finishable = finishableProjects(decoder);
  let best = { blocks: current, value };
  const scale = Math.max(1e-9, value) / Math.max(1, decoder.problem.lengthSec / 3600);
  for (let i = 0; i < iterations; i++) {
    const temperature = scale * HOT * warmth * (COLD / (HOT * warmth)) ** (i / iterations);
    const candidate = candidateOf({ decoder, current, timed, movable, bundles, stays, finishable }, random);
    const candidateValue = decoder.valueOf(candidate);
    if (candidateValue >= value || random() < Math.exp((candidateValue - value) / temperature)) {
      timed = decoder.timed(candidate);
      [current, value] = [timed.map(blockOf), candidateValue];
      if (value > best.value + 1e-12) best = { blocks: current, value };
    }
    if (i % 1500 === 1499 && value < best.value) {
      [current, value] = [best.blocks, decoder.valueOf(best.blocks)];
      timed = decoder.timed(current);
    }
  }
  return copied(best.blocks);
}

interface Standing {
  readonly decoder: Decoder;
  readonly current: readonly Block[];
  readonly timed: readonly TimedBlock[];
  readonly movable: readonly number[];
  readonly bundles: readonly number[][];
  readonly stays: EvenStays;
  readonly finishable: readonly (readonly number[])[];
}

function candidateOf(standing: Standing, random: Random): Block[] {
  const { decoder, current, movable, bundles, stays, finishable } = standing;
  let kind = random();
  if ((kind -= BUNDLE_SHARE) < 0) return bundled(decoder, current, bundles, random);
  if ((kind -= STAY_SHARE) < 0) return withStay(decoder, current, stays, random);
  if ((kind -= WHOLE_SHARE) < 0) return wholeMoved(decoder, current, stays, random);
  if ((kind -= TIMED_SHARE) < 0)
    return finishable.length > 0 && random() < 0.5 ? finished(standing, random) : servedInTime(standing, random);
  return moved(decoder, current, movable, random);
}

/** Puts all that a project still lacks where it fits, in place of what stands there. */
function finished({ decoder, timed, finishable }: Standing, random: Random): Block[] {
  const own = finishable[pick(random, finishable.length)];
  const placed = placedOf(decoder, timed);
  const runs = own.flatMap((goal): PutIn[] => {
    const count = decoder.goals[goal].count - placed[goal];
    const atSec = count > 0 ? momentFor(decoder, goal, count, random) : null;
    return atSec === null ? [] : [{ goal, count, atSec }];
  });
  return putIn(decoder, timed, runs, spared(decoder, placed, own[0], random));
}

/** Puts some exposures of a goal where they fit, in place of what stands there. */
function servedInTime({ decoder, timed, movable }: Standing, random: Random): Block[] {
  const placed = placedOf(decoder, timed);
  const goal = movable[pick(random, movable.length)];
  const left = decoder.goals[goal].count - placed[goal];
  if (left <= 0) return timed.map(blockOf);
  const count = random() < 0.3 ? left : 1 + pick(random, Math.min(left, 20));
  const atSec = momentFor(decoder, goal, count, random);
  return atSec === null
    ? timed.map(blockOf)
    : putIn(decoder, timed, [{ goal, count, atSec }], spared(decoder, placed, goal, random));
}

/** What is not cut to make room: the goal's own project and, mostly, every project that is finished as the plan stands. */
function spared(
  { goals, problem }: Decoder,
  placed: Int32Array,
  goal: number,
  random: Random,
): (other: number) => boolean {
  const { project } = goals[goal];
  if (random() < 0.2) return (other) => goals[other].project === project;
  const isOpen = new Uint8Array(problem.projectBonus.length);
  for (let g = 0; g < goals.length; g++) if (placed[g] < goals[g].count) isOpen[goals[g].project] = 1;
  return (other) => goals[other].project === project || isOpen[goals[other].project] === 0;
}

function placedOf({ goals, problem }: Decoder, timed: readonly TimedBlock[]): Int32Array {
  const placed = new Int32Array(goals.length);
  for (const { goal, startsSec } of problem.pinned ?? []) placed[goal] += startsSec.length;
  for (const block of timed) placed[block.goal] += block.placed;
  return placed;
}

const blockOf = ({ goal, count, earliestSec }: TimedBlock): Block => ({ goal, count, earliestSec });

/** Goals of each project that pays for being finished and whose every goal can still be exposed. */
function finishableProjects({ problem, goals }: Decoder): number[][] {
  return problem.projectBonus.flatMap((bonus, project) => {
    const own = goals.flatMap((goal, g) => (goal.project === project && goal.count > 0 ? [g] : []));
    const isOpen = own.every((g) => goals[g].fromSec.length > 0);
    return bonus > 0 && own.length > 0 && isOpen ? [own] : [];
  });
}

/** How often exposures are put in at a time, in place of what stands there. */
const TIMED_SHARE = 0.2;

/** How often a whole panel or project is moved at once: what completion and balance pay for only together. */
const BUNDLE_SHARE = 0.08;

/** How often whole stays change place, length or panel together: what keeps the rest of the night where it is. */
const WHOLE_SHARE = 0.35;

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
function wholeMoved(decoder: Decoder, blocks: readonly Block[], stays: EvenStays, random: Random): Block[] {
  const whole = staysIn(decoder, blocks);
  if (whole.length < 2) return withStay(decoder, blocks, stays, random);
  const a = pick(random, whole.length);
  const roll = random();
  const parts = whole.map((stay) => stay.blocks);
  if (roll < 0.2) {
    const b = random() < 0.5 ? (a + 1) % whole.length : pick(random, whole.length);
    [parts[a], parts[b]] = [parts[b], parts[a]];
  } else if (roll < 0.35) {
    const [part] = parts.splice(a, 1);
    parts.splice(pick(random, parts.length + 1), 0, part);
  } else if (roll < 0.75) {
    const b = random() < 0.7 ? (a + 1) % whole.length : pick(random, whole.length);
    if (a === b) return [...blocks];
    const shiftSec = random() * random() * whole[a].lengthSec * (random() < 0.1 ? 1.01 / Math.max(0.01, random()) : 1);
    const left = whole[a].lengthSec - shiftSec;
    parts[a] = left > 0 ? stays.filled(whole[a].panel, left, random) : [];
    parts[b] = stays.filled(whole[b].panel, whole[b].lengthSec + Math.min(shiftSec, whole[a].lengthSec), random);
  } else {
    const panel = stays.panels[pick(random, stays.panels.length)];
    const share = random() < 0.4 ? 1 : random();
    const rest = share < 0.9 ? stays.filled(whole[a].panel, whole[a].lengthSec * (1 - share), random) : [];
    const added = stays.filled(panel, whole[a].lengthSec * share, random);
    parts[a] = random() < 0.5 ? [...rest, ...added] : [...added, ...rest];
  }
  return parts.flat();
}

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

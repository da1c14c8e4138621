// A night made better by annealing over its blocks; equal seed and iterations give an equal night.
import type { Random } from '../../random.ts';
import { bundled, bundlesOf, moved } from './block-moves.ts';
import type { Block, Decoder, TimedBlock } from './decoder.ts';
import { finishableProjects, finished, servedInTime } from './place-in-time.ts';
import { StretchBuilder } from './rebuild-stretch.ts';
import { EvenStays, slotsFilled, wholeMoved, withStay } from './stay-moves.ts';

export interface ImproveOptions {
  /** Moves of a night of usual length. */
  readonly iterations: number;
  readonly random: Random;
  /** Share of the first temperature to begin with: 1 for a night from scratch, less for one that is good already. */
  readonly warmth?: number;
  /** What a block list is worth to this search, after which the decoder's `timed` speaks of it; its value where left out. */
  readonly worthOf?: (blocks: readonly Block[]) => number;
}

/** Temperatures as shares of the value of a good hour. */
const HOT = 0.06;
const COLD = 0.002;

/** After so many moves the search goes back to the best night met. */
const PATIENCE = 1500;

/** What a move costs in a night of some blocks: a night in many pieces takes longer to price, so it gets fewer moves of the same budget. */
const moveEffort = (blocks: number): number => 8 + blocks;
const USUAL_BLOCKS = 16;

/** The best block list met on the way, never worse than the one given. */
export function improvedBlocks(
  decoder: Decoder,
  start: readonly Block[],
  { iterations, random, warmth = 1, worthOf = (blocks) => decoder.valueOf(blocks) }: ImproveOptions,
): Block[] {
  const movable = movableGoals(decoder);
  if (movable.length === 0) return [...start];
  const bundles = bundlesOf(decoder, movable);
  const stays = new EvenStays(decoder, movable);
  const builder = new StretchBuilder(decoder, movable);
  let value = worthOf(start);
  let current = decoder.timed(start);
  const finishable = finishableProjects(decoder);
  let best = { blocks: start, value };
  const scale = Math.max(1e-9, value) / Math.max(1, decoder.problem.lengthSec / 3600);
  const effort = iterations * moveEffort(USUAL_BLOCKS);
  let moves = 0;
  for (let spent = 0; spent < effort;) {
    const temperature = scale * HOT * warmth * (COLD / (HOT * warmth)) ** (spent / effort);
    const candidate = candidateOf({ decoder, current, movable, bundles, stays, builder, finishable }, random);
    spent += moveEffort(candidate.length);
    const candidateValue = worthOf(candidate);
    if (candidateValue >= value || random() < Math.exp((candidateValue - value) / temperature)) {
      [current, value] = [decoder.timed(candidate), candidateValue];
      if (value > best.value + 1e-12) best = { blocks: current, value };
    }
    if (++moves % PATIENCE === 0 && value < best.value) {
      value = worthOf(best.blocks);
      current = decoder.timed(best.blocks);
    }
  }
  return copied(best.blocks);
}

interface Standing {
  readonly decoder: Decoder;
  readonly current: readonly TimedBlock[];
  readonly movable: readonly number[];
  readonly bundles: readonly number[][];
  readonly stays: EvenStays;
  readonly builder: StretchBuilder;
  readonly finishable: readonly (readonly number[])[];
}

/** How often each kind of move is made; single blocks are moved in the rest. Found by trying them on the instances of the benchmark. */
const SHARES = {
  /** A whole panel or project at once: what completion and balance pay for only together. */
  bundle: 0.08,
  /** A stay filled anew, evenly: balance pays for its filters only together. */
  stay: 0.08,
  /** All stays of a panel filled anew together, or in place of another panel's: what one stay alone can't change. */
  slots: 0.2,
  /** Whole stays change place, length or panel together: what keeps the rest of the night where it is. */
  whole: 0.25,
  /** Exposures put in at a time, in place of what stands there. */
  timed: 0.2,
  /** A stretch emptied and filled anew by a greedy walk. */
  rebuilt: 0.02,
} as const;

function candidateOf(
  { decoder, current, movable, bundles, stays, builder, finishable }: Standing,
  random: Random,
): Block[] {
  let kind = random();
  if ((kind -= SHARES.bundle) < 0) return bundled(decoder, current, bundles, random);
  if ((kind -= SHARES.stay) < 0) return withStay(decoder, current, stays, random);
  if ((kind -= SHARES.slots) < 0) return slotsFilled(decoder, current, stays, random);
  if ((kind -= SHARES.whole) < 0) return wholeMoved(decoder, current, stays, random);
  if ((kind -= SHARES.timed) < 0)
    return finishable.length > 0 && random() < 0.5
      ? finished(decoder, current, finishable, random)
      : servedInTime(decoder, current, movable, random);
  if ((kind -= SHARES.rebuilt) < 0) return builder.rebuilt(current, random);
  return moved(decoder, current, movable, random);
}

const copied = (blocks: readonly Block[]): Block[] =>
  blocks.map(({ goal, count, earliestSec }) => ({ goal, count, earliestSec }));

function movableGoals(decoder: Decoder): number[] {
  return decoder.goals.flatMap((goal, g) => (goal.count > 0 && goal.fromSec.length > 0 ? [g] : []));
}

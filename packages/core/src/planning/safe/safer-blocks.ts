// The order of a night that may end at any time: the same moves as the plain search, paid by what is expected to be held.
import { seededRandom } from '../../random.ts';
import type { Block, Decoder } from '../night/decoder.ts';
import { improvedBlocks } from '../night/improve.ts';
import { HeldNight } from './held.ts';

/** A search from the best order without cuts, then again from the best met: shares of its budget, and how warm each begins. */
const ROUNDS = [
  { share: 0.4, warmth: 0.5 },
  { share: 0.3, warmth: 0.2 },
  { share: 0.3, warmth: 0.05 },
] as const;

/** Blocks expected to hold most under the problem's hazard, never less than those given. */
export function saferBlocks(
  decoder: Decoder,
  start: readonly Block[],
  { seed, iterations }: { readonly seed: number; readonly iterations: number },
): Block[] {
  const { problem } = decoder;
  const held = new HeldNight(problem, decoder.goals);
  const worthOf = (blocks: readonly Block[]): number => {
    const runs = decoder.runsOf(blocks);
    return held.expected(runs, problem.endHazardPerHour ?? 0) + decoder.keeping;
  };
  return ROUNDS.reduce<Block[]>(
    (blocks, { share, warmth }, round) =>
      improvedBlocks(decoder, blocks, {
        iterations: Math.ceil(iterations * share),
        random: seededRandom(seed + 7_000_003 + round),
        warmth,
        worthOf,
      }),
    [...start],
  );
}

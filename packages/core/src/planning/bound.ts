// A proven upper bound on the value of a night.
import { constructedBlocks } from './construct.ts';
import { Decoder } from './decoder.ts';
import { firstDuals, loweredBound } from './duals.ts';
import { nightPricer } from './priced-night.ts';
import type { NightProblem } from './problem.ts';

export interface BoundOptions {
  readonly stepSec: number;
  readonly rounds: number;
  /** Value of a plan that is known: the nearer to the best, the faster the bound comes down. A first plan's where left out. */
  readonly reached?: number;
}

export const DEFAULT_BOUND_OPTIONS: BoundOptions = { stepSec: 60, rounds: 150 };

/** No plan of the problem is worth more. Any prices of 0 or more and any shares that add up to 1 give a valid bound; rounds tighten it. */
export function nightBound(problem: NightProblem, options: BoundOptions = DEFAULT_BOUND_OPTIONS): number {
  const decoder = new Decoder(problem);
  const reached = options.reached ?? decoder.valueOf(constructedBlocks(decoder));
  const priced = nightPricer(problem, decoder.goals, options.stepSec);
  return loweredBound(decoder.goals, priced, firstDuals(problem), { rounds: options.rounds, reached: () => reached });
}

// A proven upper bound on the value of a night.
import { constructedBlocks } from '../night/construct.ts';
import { Decoder } from '../night/decoder.ts';
import type { Duals } from './duals.ts';
import { firstDuals, loweredBound, settled } from './duals.ts';
import { couldAllBeFinished } from '../night/finishable.ts';
import { nightPricer } from './priced-night.ts';
import type { NightProblem } from '../problem.ts';

export interface BoundOptions {
  readonly stepSec: number;
  readonly rounds: number;
  /** Value of a plan that is known: the nearer to the best, the faster the bound comes down. A first plan's where left out. */
  readonly reached?: number;
  /** How often a project that could be finished is settled, to be finished or not; 0 credits every completion in proportion. */
  readonly branches?: number;
  /** Rounds for each branch, which begins where its parent ended. */
  readonly branchRounds?: number;
}

export const DEFAULT_BOUND_OPTIONS: BoundOptions = { stepSec: 60, rounds: 150 };

/** No plan of the problem is worth more. Any prices of 0 or more and any shares that add up to 1 give a valid bound; rounds tighten it.
 * A completion is all or nothing, so nights are parted into those in which a project is finished and those in which it is not:
 * the worst of the parts bounds them all. Source: Land & Doig 1960, Econometrica 28, 497. */
export function nightBound(problem: NightProblem, options: BoundOptions = DEFAULT_BOUND_OPTIONS): number {
  const { stepSec, rounds, branches = 0, branchRounds = 40 } = options;
  const decoder = new Decoder(problem);
  const reached = options.reached ?? decoder.valueOf(constructedBlocks(decoder));
  const priced = nightPricer(problem, decoder.goals, stepSec);
  const lowered = (duals: Duals, most: number): Part => ({
    duals,
    bound: loweredBound(decoder.goals, priced, duals, { rounds: most, reached: () => reached, enough: reached }),
  });
  const open: Part[] = [lowered(firstDuals(problem), rounds)];
  for (let i = 0; i < branches; i++) {
    const worst = open.reduce((most, { bound }, k) => (bound > open[most].bound ? k : most), 0);
    const term = openCompletion(open[worst].duals);
    // Below a known plan no part can matter any more.
    if (term < 0 || open[worst].bound <= reached) break;
    const [parent] = open.splice(worst, 1);
    for (const isFinished of [true, false]) {
      if (isFinished && !couldAllBeFinished(problem, [...wholeGoals(parent.duals), ...parent.duals.terms[term].goals]))
        continue;
      const part = lowered(settled(parent.duals, term, isFinished), branchRounds);
      open.push({ ...part, bound: Math.min(parent.bound, part.bound) });
    }
  }
  return open.reduce((most, { bound }) => Math.max(most, bound), 0);
}

interface Part {
  readonly duals: Duals;
  readonly bound: number;
}

const wholeGoals = ({ isWhole }: Duals): number[] => Array.from(isWhole).flatMap((whole, g) => (whole ? [g] : []));

/** The completion that pays most of those not settled yet; −1 where all are. */
const openCompletion = ({ terms }: Duals): number =>
  terms.reduce(
    (most, { kind, weight }, i) => (kind === 'completion' && (most < 0 || weight > terms[most].weight) ? i : most),
    -1,
  );

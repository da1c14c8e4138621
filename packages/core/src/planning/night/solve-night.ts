// The one entry to the night planner: a problem in, a plan out, the same for the app, the cases and the benchmarks.
import { CoreError } from '../../errors.ts';
import { seededRandom } from '../../random.ts';
import { alternated } from './alternate.ts';
import { constructedBlocks, finishingNights, quickBlocks } from './construct.ts';
import type { Block } from './decoder.ts';
import { Decoder } from './decoder.ts';
import { exactNight } from '../bound/exact.ts';
import { improvedBlocks } from './improve.ts';
import type { NightProblem, NightSolution, Placement } from '../problem.ts';
import { HeldNight } from '../safe/held.ts';
import { saferBlocks } from '../safe/safer-blocks.ts';

export interface SolveOptions {
  readonly seed: number;
  /** Budget of the search, in moves of a night of usual length; the clock has no say, so equal input gives an equal plan. */
  readonly iterations: number;
}

/** How hard a night is planned: the same wherever it is planned, so that server and page find the same plan. */
export const DEFAULT_SOLVE_OPTIONS: SolveOptions = { seed: 1, iterations: 3300 };

/** The best plan found. Small problems with flat rates are solved exactly; others are built along the priced night and annealed.
 * Where the night may end early, the order that is expected to hold most.
 * @throws PROBLEM_INVALID where a goal refers to a panel or project that isn't there or has impossible times */
export const solveNight = (problem: NightProblem, options: SolveOptions = DEFAULT_SOLVE_OPTIONS): NightSolution =>
  nightOrders(problem, options).safe;

/** Two orders of one night. */
export interface NightOrders {
  /** Worth most where nothing ends the night. */
  readonly uncut: NightSolution;
  /** Expected to hold most where the night may end; the same where it may not. */
  readonly safe: NightSolution;
}

/** @throws PROBLEM_INVALID as `solveNight` */
export function nightOrders(problem: NightProblem, options: SolveOptions = DEFAULT_SOLVE_OPTIONS): NightOrders {
  checkProblem(problem);
  const decoder = new Decoder(problem);
  const exact = exactNight(decoder);
  const blocks = exact ? blocksOf(exact.placements) : searched(decoder, options);
  const uncut = alternated(problem, exact ?? decoder.solutionOf(blocks));
  if (!problem.endHazardPerHour) return { uncut, safe: uncut };
  const safe = alternated(problem, decoder.solutionOf(saferBlocks(decoder, blocks, options)));
  const held = new HeldNight(problem);
  const expected = ({ placements }: NightSolution): number => held.expected(placements, problem.endHazardPerHour!);
  return {
    // The second search may also find more for a night that lasts.
    uncut: safe.value > uncut.value ? safe : uncut,
    safe: expected(safe) > expected(uncut) ? safe : uncut,
  };
}

const blocksOf = (placements: readonly Placement[]): Block[] =>
  placements.map(({ goal, startsSec }) => ({ goal, count: startsSec.length, earliestSec: startsSec[0] }));

/** A longer budget is spent on several searches: one alone hardly gains after so many iterations for each goal. */
const MOST_ITERATIONS_A_GOAL = 500;

/** The best blocks of as many searches as the budget allows. */
function searched(decoder: Decoder, { seed, iterations }: SolveOptions): Block[] {
  const starts = startsOf(decoder);
  const searches = Math.max(1, Math.round(iterations / (MOST_ITERATIONS_A_GOAL * decoder.goals.length)));
  let best: { blocks: Block[]; value: number } | null = null;
  for (let i = 0; i < searches; i++) {
    const options = { seed: seed + 1_000_000 * i, iterations: Math.ceil(iterations / searches) };
    const blocks = improvedInHeats(decoder, starts, options);
    const value = decoder.valueOf(blocks);
    if (!best || value > best.value) best = { blocks, value };
  }
  return best!.blocks;
}

/** Nights that a search begins with, as unlike as can be: near the plan before where there is one; else along the priced night, finishing projects, and empty. */
function startsOf(decoder: Decoder): Block[][] {
  if (decoder.problem.kept) return [quickBlocks(decoder), [], finishingNights(decoder)[0] ?? []];
  const guided = constructedBlocks(decoder);
  const [best = [], second = guided] = finishingNights(decoder);
  return [guided, [], guided, best, second, []];
}

/** Heats of a search: how many nights enter, the share of the budget that each gets, and how warm it begins. */
const HEATS = [
  { nights: 8, share: 0.05, warmth: 1 },
  { nights: 3, share: 0.1, warmth: 0.5 },
  { nights: 1, share: 0.3, warmth: 0.4 },
] as const;

/** Several searches of which the better ones go on: one alone may stay caught on a ridge that another never meets. */
function improvedInHeats(decoder: Decoder, starts: readonly Block[][], { seed, iterations }: SolveOptions): Block[] {
  let nights: Block[][] = Array.from({ length: HEATS[0].nights }, (_, i) => starts[i % starts.length]);
  let searches = 0;
  for (const { nights: entering, share, warmth } of HEATS) {
    const ranked = nights.map((blocks) => ({ blocks, value: decoder.valueOf(blocks) }));
    if (searches > 0) ranked.sort((a, b) => b.value - a.value);
    nights = ranked.slice(0, entering).map(({ blocks }) => {
      const random = seededRandom(seed + 1000 * searches++);
      return improvedBlocks(decoder, blocks, { iterations: Math.ceil(iterations * share), random, warmth });
    });
  }
  return nights[0];
}

/** A moment's search before the first plan is shown. */
const FIRST_ITERATIONS = 300;

/** A plan at once, for a page that shows a better one as soon as it is found; where there is a plan to stay near to, mostly that one. */
export function firstNight(problem: NightProblem): NightSolution {
  checkProblem(problem);
  const decoder = new Decoder(problem);
  if (problem.kept) return alternated(problem, decoder.solutionOf(quickBlocks(decoder)));
  const [finishing = []] = finishingNights(decoder);
  const quick = quickBlocks(decoder);
  const start = decoder.valueOf(finishing) > decoder.valueOf(quick) ? finishing : quick;
  const polished = improvedBlocks(decoder, start, {
    iterations: FIRST_ITERATIONS,
    random: seededRandom(1),
    warmth: 0.1,
  });
  return alternated(problem, decoder.solutionOf(polished));
}

function checkProblem(problem: NightProblem): void {
  for (const goal of problem.goals) {
    const sound =
      goal.panel >= 0 &&
      goal.panel < problem.panelCount &&
      goal.project in problem.projectBonus &&
      goal.exposureSec > 0 &&
      goal.cycleSec >= goal.exposureSec &&
      Number.isInteger(goal.count);
    if (!sound)
      throw new CoreError('PROBLEM_INVALID', `Goal ${goal.id} of the planning problem is not sound`, { goal: goal.id });
  }
}

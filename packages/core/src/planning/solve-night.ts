// The one entry to the night planner: a problem in, a plan out, the same for the app, the cases and the benchmarks.
import { CoreError } from '../errors.ts';
import { seededRandom } from '../random.ts';
import { constructedBlocks } from './construct.ts';
import type { Block } from './decoder.ts';
import { Decoder } from './decoder.ts';
import { exactNight } from './exact.ts';
import { improvedBlocks } from './improve.ts';
import type { NightProblem, NightSolution } from './problem.ts';

export interface SolveOptions {
  readonly seed: number;
  /** Budget of the search; the clock has no say, so equal input gives an equal plan. */
  readonly iterations: number;
}

export const DEFAULT_SOLVE_OPTIONS: SolveOptions = { seed: 1, iterations: 4000 };

/** The best plan found. Small problems with flat rates are solved exactly; others are built along the priced night and annealed.
 * @throws PROBLEM_INVALID where a goal refers to a panel or project that isn't there or has impossible times */
export function solveNight(problem: NightProblem, options: SolveOptions = DEFAULT_SOLVE_OPTIONS): NightSolution {
  checkProblem(problem);
  const decoder = new Decoder(problem);
  const exact = exactNight(decoder);
  if (exact) return exact;
  const start = constructedBlocks(decoder);
  return bestOf(
    decoder,
    [start, []].map((blocks, run) => {
      const random = seededRandom(options.seed + run);
      return improvedBlocks(decoder, blocks, { iterations: Math.ceil(options.iterations / 2), random });
    }),
  );
}

/** A plan at once, for a page that shows a better one as soon as it is found. */
export function firstNight(problem: NightProblem): NightSolution {
  checkProblem(problem);
  const decoder = new Decoder(problem);
  return decoder.solutionOf(constructedBlocks(decoder));
}

function bestOf(decoder: Decoder, candidates: readonly Block[][]): NightSolution {
  const solutions = candidates.map((blocks) => decoder.solutionOf(blocks));
  return solutions.reduce((best, solution) => (solution.value > best.value ? solution : best));
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

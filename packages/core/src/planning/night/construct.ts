// First plans: nights walked forward with the priced night as a guide, a few price rounds apart.
import type { Block, Decoder } from './decoder.ts';
import { firstDuals, loweredBound } from '../bound/duals.ts';
import { couldAllBeFinished } from './finishable.ts';
import { nightPricer } from '../bound/priced-night.ts';
import type { NightProblem } from '../problem.ts';
import { walkedBlocks } from './walk.ts';

const STEP_SEC = 180;
/** Rounds of lowering the bound, and how often a night is walked along them. */
const ROUNDS = 20;
const WALKED_EVERY = 5;

/** The best of several guided nights, as blocks for the search to improve. */
export function constructedBlocks(decoder: Decoder): Block[] {
  const { problem, goals } = decoder;
  const stepSec = Math.max(1, Math.min(STEP_SEC, problem.lengthSec / 24));
  const duals = firstDuals(problem);
  const first = quickBlocks(decoder, duals);
  let best = { blocks: first, value: decoder.valueOf(first) };
  const keep = (blocks: Block[]): void => {
    const value = decoder.valueOf(blocks);
    if (value > best.value) best = { blocks, value };
  };
  loweredBound(goals, nightPricer(problem, goals, stepSec, 'nearest'), duals, {
    rounds: ROUNDS,
    reached: () => best.value,
    onNight: (night, prices, round) => {
      if (round % WALKED_EVERY !== WALKED_EVERY - 1) return;
      keep(walkedBlocks(decoder, { terms: duals.terms, guide: { night, prices } }));
    },
  });
  return best.blocks;
}

/** How many projects are tried to be finished first, and how many nights that finish one more. */
const MOST_FINISHED = 6;

/** Nights that finish projects first, the best one first: each project alone, then one more at a time as long as that pays. */
export function finishingNights(decoder: Decoder, { terms } = firstDuals(decoder.problem)): Block[][] {
  const { problem } = decoder;
  const projects = projectsByPay(problem).slice(0, MOST_FINISHED);
  const nights: { blocks: Block[]; value: number; first: readonly number[] }[] = [];
  const walkFirst = (first: readonly number[]): void => {
    const blocks = walkedBlocks(decoder, { terms, first });
    nights.push({ blocks, value: decoder.valueOf(blocks), first });
  };
  for (const own of projects) walkFirst(own);
  for (let tried = 0; tried < MOST_FINISHED && nights.length > 0;) {
    nights.sort((a, b) => b.value - a.value);
    const [best] = nights;
    const further = projects
      .filter((own) => !best.first.includes(own[0]))
      .map((own) => [...best.first, ...own])
      .filter((first) => couldAllBeFinished(problem, first));
    if (further.length === 0) break;
    further.forEach(walkFirst);
    tried += further.length;
    if (nights.every(({ value }) => value <= best.value)) break;
  }
  return nights.sort((a, b) => b.value - a.value).map(({ blocks }) => blocks);
}

/** Open goals of each project that could be finished, those first that pay most for their time. */
function projectsByPay(problem: NightProblem): number[][] {
  const { goals, projectBonus } = problem;
  return projectBonus
    .map((bonus, project) => {
      const own = goals.flatMap((goal, g) => (goal.project === project && goal.count > 0 ? [g] : []));
      return { own, perSec: bonus / own.reduce((sum, g) => sum + goals[g].count * goals[g].cycleSec, 0) };
    })
    .filter(({ own, perSec }) => own.length > 0 && perSec > 0 && couldAllBeFinished(problem, own))
    .sort((a, b) => b.perSec - a.perSec)
    .map(({ own }) => own);
}

/** The better of the plan before and a walk without prices, in a few milliseconds. */
export function quickBlocks(decoder: Decoder, duals = firstDuals(decoder.problem)): Block[] {
  const walked = walkedBlocks(decoder, duals);
  return [walked, ...blocksOfPlanBefore(decoder.problem)].reduce((best, blocks) =>
    decoder.valueOf(blocks) > decoder.valueOf(best) ? blocks : best,
  );
}

/** The plan before as blocks: where they stood, and moved together. */
function blocksOfPlanBefore({ kept }: NightProblem): Block[][] {
  const runs = kept?.runs ?? [];
  if (runs.length === 0) return [];
  return [
    runs.map(({ goal, count, startSec }) => ({ goal, count, earliestSec: startSec })),
    runs.map(({ goal, count }) => ({ goal, count, earliestSec: 0 })),
  ];
}

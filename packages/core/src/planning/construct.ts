// First plans: nights walked forward with the priced night as a guide, a few price rounds apart.
import type { Block, Decoder } from './decoder.ts';
import type { Duals } from './duals.ts';
import { firstDuals, loweredBound } from './duals.ts';
import type { GoalRecord } from './objective.ts';
import { meanRateOfRun } from './objective.ts';
import type { PricedNight, Prices } from './priced-night.ts';
import { nightPricer } from './priced-night.ts';
import type { NightProblem } from './problem.ts';
import { changeSecBetween } from './problem.ts';

const STEP_SEC = 180;
/** Rounds of lowering the bound, and how often a night is walked along them. */
const ROUNDS = 20;
const WALKED_EVERY = 5;
/** A run is weighed in pieces of this length before asking again what is best. */
const PIECE_SEC = 1500;

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
    onNight: (guide, prices, round) => {
      if (round % WALKED_EVERY !== WALKED_EVERY - 1) return;
      keep(guidedBlocks(decoder, guide, prices, duals.terms));
    },
  });
  return best.blocks;
}

/** The better of the plan before and a walk without prices, in a few milliseconds. */
export function quickBlocks(decoder: Decoder, duals = firstDuals(decoder.problem)): Block[] {
  const { problem, goals } = decoder;
  const free = { count: new Float64Array(goals.length), credit: new Float64Array(goals.length) };
  const walked = guidedBlocks(decoder, null, free, duals.terms);
  return [walked, ...blocksOfPlanBefore(problem)].reduce((best, blocks) =>
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

interface Piece {
  readonly goal: number;
  readonly count: number;
  readonly startSec: number;
  readonly endSec: number;
  readonly worth: number;
}

/** Walks the night forward, piece by piece, always to what is worth most with the priced night ahead of it; without one, to what is worth most a second. */
function guidedBlocks(decoder: Decoder, guide: PricedNight | null, prices: Prices, terms: Duals['terms']): Block[] {
  const { problem, goals } = decoder;
  const placed = new Float64Array(goals.length);
  for (const { goal, startsSec } of problem.pinned ?? []) placed[goal] += startsSec.length;
  const blocks: Block[] = [];
  let clockSec = 0;
  let last = -1;
  while (clockSec < problem.lengthSec) {
    const credit = creditsNow(goals, terms, placed);
    const piece = bestPiece(decoder, guide, { count: prices.count, credit }, { clockSec, last, placed });
    if (!piece) {
      clockSec += STEP_SEC;
      continue;
    }
    placed[piece.goal] += piece.count;
    const previous = blocks[blocks.length - 1];
    if (previous?.goal === piece.goal) previous.count += piece.count;
    else blocks.push({ goal: piece.goal, count: piece.count, earliestSec: 0 });
    clockSec = piece.endSec;
    last = piece.goal;
  }
  return blocks;
}

/** What one exposure more moves a balance or a completion by, if its fellows behind it follow: the real thing pays the least of them only,
 * so a walk that followed the relaxed credits would serve one filter all night. */
function creditsNow(goals: readonly GoalRecord[], terms: Duals['terms'], placed: Float64Array): Float64Array {
  const credit = new Float64Array(goals.length);
  for (const { weight, goals: own, ahead, whole } of terms) {
    const fraction = own.map((g, i) => ahead[i] + placed[g] / whole[i]);
    const least = Math.min(...fraction);
    if (least >= 1) continue;
    const isBehind = own.map((g, i) => fraction[i] <= least + PIECE_SEC / 2 / (whole[i] * goals[g].cycleSec));
    const behindSec = own.reduce((sum, g, i) => sum + (isBehind[i] ? whole[i] * goals[g].cycleSec : 0), 0);
    own.forEach((g, i) => {
      if (isBehind[i]) credit[g] += (weight * goals[g].cycleSec) / behindSec;
    });
  }
  return credit;
}

interface Standing {
  readonly clockSec: number;
  readonly last: number;
  readonly placed: Float64Array;
}

/** The piece with the most value together with the priced night after it; none where nothing can begin soon. */
function bestPiece({ problem, goals }: Decoder, guide: PricedNight | null, prices: Prices, at: Standing): Piece | null {
  let best: Piece | null = null;
  // Waiting is no rival: the priced night credits every second in full and would always rather wait than do a real thing.
  let bestWorth = -Infinity;
  for (let g = 0; g < goals.length; g++) {
    if (at.placed[g] >= goals[g].count) continue;
    const piece = pieceOf(problem, goals[g], g, at, prices);
    if (!piece || piece.startSec > at.clockSec + 1800) continue;
    const worth = guide
      ? piece.worth + worthAt(guide, piece.endSec, goals[g].panel, problem.panelCount)
      : piece.worth / (piece.endSec - at.clockSec);
    if (worth > bestWorth) [best, bestWorth] = [piece, worth];
  }
  return best;
}

function pieceOf(problem: NightProblem, goal: GoalRecord, g: number, at: Standing, prices: Prices): Piece | null {
  const readySec = at.clockSec + changeSecBetween(problem, at.last, g);
  for (let w = 0; w < goal.fromSec.length; w++) {
    const startSec = Math.max(readySec, goal.fromSec[w]);
    const fits = Math.floor((goal.toSec[w] - startSec - goal.exposureSec + 1e-6) / goal.cycleSec) + 1;
    if (fits < 1) continue;
    const left = goal.count - at.placed[g];
    const count = Math.min(fits, left, Math.max(1, Math.round(PIECE_SEC / goal.cycleSec)));
    const each = goal.value * meanRateOfRun(goal, startSec, count) + prices.credit[g] - prices.count[g];
    return { goal: g, count, startSec, endSec: startSec + count * goal.cycleSec, worth: count * each };
  }
  return null;
}

function worthAt(guide: PricedNight, atSec: number, panel: number, panels: number): number {
  const step = Math.min(guide.steps, Math.ceil(atSec / guide.stepSec));
  return guide.worth[step * panels + panel];
}

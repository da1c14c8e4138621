// First plans: nights walked forward with the priced night as a guide, a few price rounds apart.
import type { Block, Decoder } from './decoder.ts';
import { raisePrices } from './bound.ts';
import type { GoalRecord } from './objective.ts';
import { meanRate } from './objective.ts';
import type { PricedNight, Prices } from './priced-night.ts';
import { nightPricer, timeShareCredits } from './priced-night.ts';
import type { NightProblem } from './problem.ts';

const STEP_SEC = 300;
const PRICE_ROUNDS = 4;
/** A run is weighed in pieces of this length before asking again what is best. */
const PIECE_SEC = 1500;

/** The best of several guided nights, as blocks for the search to improve. */
export function constructedBlocks(decoder: Decoder): Block[] {
  const { problem, goals } = decoder;
  const { credit } = timeShareCredits(problem);
  const count = new Float64Array(goals.length);
  const stepSec = Math.max(1, Math.min(STEP_SEC, problem.lengthSec / 24));
  const priced = nightPricer(problem, goals, stepSec);
  let best: { blocks: Block[]; value: number } = { blocks: [], value: -Infinity };
  for (let round = 0; round < PRICE_ROUNDS; round++) {
    const prices = { count, credit };
    const guide = priced(prices);
    const blocks = guidedBlocks(problem, goals, guide, prices);
    const value = decoder.valueOf(blocks);
    if (value > best.value) best = { blocks, value };
    raisePrices(count, goals, guide.usage, 0.5 / (1 + round / 3));
  }
  return best.blocks;
}

interface Piece {
  readonly goal: number;
  readonly count: number;
  readonly startSec: number;
  readonly endSec: number;
  readonly worth: number;
}

function guidedBlocks(
  problem: NightProblem,
  goals: readonly GoalRecord[],
  guide: PricedNight,
  prices: Prices,
): Block[] {
  const left = goals.map((goal) => goal.count);
  const blocks: Block[] = [];
  let clockSec = 0;
  let last = -1;
  while (clockSec < problem.lengthSec) {
    const piece = bestPiece(problem, goals, guide, prices, { clockSec, last, left });
    if (!piece) {
      clockSec += guide.stepSec;
      continue;
    }
    left[piece.goal] -= piece.count;
    const previous = blocks[blocks.length - 1];
    if (previous?.goal === piece.goal) previous.count += piece.count;
    else blocks.push({ goal: piece.goal, count: piece.count, earliestSec: 0 });
    clockSec = piece.endSec;
    last = piece.goal;
  }
  return blocks;
}

/** The piece with the most value per priced hour ahead, or none where waiting is better. */
function bestPiece(
  problem: NightProblem,
  goals: readonly GoalRecord[],
  guide: PricedNight,
  prices: Prices,
  at: { clockSec: number; last: number; left: readonly number[] },
): Piece | null {
  const panel = at.last < 0 ? -1 : goals[at.last].panel;
  let best: Piece | null = null;
  let bestWorth = panel < 0 ? 0 : worthAt(guide, at.clockSec + guide.stepSec, panel, problem.panelCount) + 1e-12;
  for (let g = 0; g < goals.length; g++) {
    if (at.left[g] <= 0) continue;
    const piece = pieceOf(problem, goals[g], g, panel, at, prices);
    if (!piece || piece.startSec > at.clockSec + 1800) continue;
    const worth = piece.worth + worthAt(guide, piece.endSec, goals[g].panel, problem.panelCount);
    if (worth > bestWorth) [best, bestWorth] = [piece, worth];
  }
  return best;
}

function pieceOf(
  problem: NightProblem,
  goal: GoalRecord,
  g: number,
  panel: number,
  at: { clockSec: number; last: number; left: readonly number[] },
  prices: Prices,
): Piece | null {
  const changeSec =
    goal.panel !== panel
      ? problem.panelChangeSec[panel + 1][goal.panel]
      : g === at.last
        ? 0
        : problem.goalChangeSec(at.last, g);
  const readySec = at.clockSec + changeSec;
  for (let w = 0; w < goal.fromSec.length; w++) {
    const startSec = Math.max(readySec, goal.fromSec[w]);
    const fits = Math.floor((goal.toSec[w] - startSec - goal.exposureSec + 1e-6) / goal.cycleSec) + 1;
    if (fits < 1) continue;
    const count = Math.min(fits, at.left[g], Math.max(1, Math.round(PIECE_SEC / goal.cycleSec)));
    let worth = 0;
    for (let i = 0; i < count; i++)
      worth += goal.value * meanRate(goal, startSec + i * goal.cycleSec) + prices.credit[g] - prices.count[g];
    return { goal: g, count, startSec, endSec: startSec + count * goal.cycleSec, worth };
  }
  return null;
}

function worthAt(guide: PricedNight, atSec: number, panel: number, panels: number): number {
  const step = Math.min(guide.steps, Math.ceil(atSec / guide.stepSec));
  return guide.worth[step * panels + panel];
}

// A night walked forward, piece by piece: what first plans are made of.
import type { Block, Decoder } from './decoder.ts';
import type { Duals } from '../bound/duals.ts';
import type { GoalRecord } from '../objective.ts';
import { meanRateOfRun } from '../objective.ts';
import type { PricedNight, Prices } from '../bound/priced-night.ts';

/** While nothing can begin the clock goes on so far. */
const STEP_SEC = 180;
/** For a goal that is to be finished a rig waits so long. */
const LONGEST_WAIT_SEC = 600;
/** A run is weighed in pieces of this length before asking again what is best. */
const PIECE_SEC = 1500;

export interface WalkOptions {
  readonly terms: Duals['terms'];
  /** The priced night ahead, with its prices; without one the walk goes to what is worth most a second. */
  readonly guide?: { readonly night: PricedNight; readonly prices: Prices };
  /** Goals to be finished before anything else, the one that can wait least first. */
  readonly first?: readonly number[];
}

interface Piece {
  readonly goal: number;
  readonly count: number;
  readonly startSec: number;
  readonly endSec: number;
  readonly worth: number;
}

/** Walks the night forward, always to what is worth most with the night ahead of it. */
export function walkedBlocks(decoder: Decoder, { terms, guide, first = [] }: WalkOptions): Block[] {
  const { problem, goals } = decoder;
  const placed = new Float64Array(goals.length);
  const free = new Float64Array(goals.length);
  for (const { goal, startsSec } of problem.pinned ?? []) placed[goal] += startsSec.length;
  const credits = new Credits(goals, terms, placed);
  const prices = { count: guide?.prices.count ?? free, credit: credits.perExposure };
  const blocks: Block[] = [];
  let clockSec = 0;
  let last = -1;
  while (clockSec < problem.lengthSec) {
    const at = { clockSec, last, placed };
    const piece = urgentPiece(decoder, first, prices, at) ?? bestPiece(decoder, guide?.night ?? null, prices, at);
    if (!piece) {
      clockSec += STEP_SEC;
      continue;
    }
    placed[piece.goal] += piece.count;
    credits.follow(piece.goal, placed);
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
class Credits {
  /** Per goal, of all terms together. */
  readonly perExposure: Float64Array;
  readonly #goals: readonly GoalRecord[];
  readonly #terms: Duals['terms'];
  readonly #termsOf: readonly (readonly number[])[];
  /** What each term gives its goals now. */
  readonly #shares: readonly Float64Array[];

  constructor(goals: readonly GoalRecord[], terms: Duals['terms'], placed: Float64Array) {
    this.perExposure = new Float64Array(goals.length);
    this.#goals = goals;
    this.#terms = terms;
    const termsOf: number[][] = goals.map(() => []);
    terms.forEach((term, k) => term.goals.forEach((g) => termsOf[g].push(k)));
    this.#termsOf = termsOf;
    this.#shares = terms.map((term) => new Float64Array(term.goals.length));
    for (let k = 0; k < terms.length; k++) this.#renew(k, placed);
  }

  /** Brings the credits up to date after exposures of a goal were placed. */
  follow(goal: number, placed: Float64Array): void {
    for (const k of this.#termsOf[goal]) this.#renew(k, placed);
  }

  #renew(k: number, placed: Float64Array): void {
    const { weight, goals: own, ahead, whole } = this.#terms[k];
    const shares = this.#shares[k];
    const fractionOf = (i: number): number => ahead[i] + placed[own[i]] / whole[i];
    let least = Infinity;
    for (let i = 0; i < own.length; i++) least = Math.min(least, fractionOf(i));
    const secOf = (i: number): number => whole[i] * this.#goals[own[i]].cycleSec;
    const isBehind = (i: number): boolean => least < 1 && fractionOf(i) <= least + PIECE_SEC / 2 / secOf(i);
    let behindSec = 0;
    for (let i = 0; i < own.length; i++) if (isBehind(i)) behindSec += secOf(i);
    for (let i = 0; i < own.length; i++) {
      const share = isBehind(i) ? (weight * this.#goals[own[i]].cycleSec) / behindSec : 0;
      this.perExposure[own[i]] += share - shares[i];
      shares[i] = share;
    }
  }
}

interface Standing {
  readonly clockSec: number;
  readonly last: number;
  readonly placed: Float64Array;
}

/** The piece with the most value together with the priced night after it; none where nothing can begin soon. */
function bestPiece(decoder: Decoder, guide: PricedNight | null, prices: Prices, at: Standing): Piece | null {
  const { problem, goals } = decoder;
  let best: Piece | null = null;
  // Waiting is no rival: the priced night credits every second in full and would always rather wait than do a real thing.
  let bestWorth = -Infinity;
  for (let g = 0; g < goals.length; g++) {
    if (at.placed[g] >= goals[g].count) continue;
    const piece = pieceOf(decoder, g, at, prices);
    if (!piece || piece.startSec > at.clockSec + 1800) continue;
    const worth = guide
      ? piece.worth + worthAt(guide, piece.endSec, goals[g].panel, problem.panelCount)
      : piece.worth / (piece.endSec - at.clockSec);
    if (worth > bestWorth) [best, bestWorth] = [piece, worth];
  }
  return best;
}

/** A piece of the goal that can wait least among those to be finished; the one in hand goes on while no other is pressed. */
function urgentPiece(decoder: Decoder, first: readonly number[], prices: Prices, at: Standing): Piece | null {
  let most: Piece | null = null;
  let least = Infinity;
  for (const g of first) {
    const { count, toSec, cycleSec } = decoder.goals[g];
    if (at.placed[g] >= count) continue;
    const piece = pieceOf(decoder, g, at, prices);
    if (!piece || piece.startSec > at.clockSec + LONGEST_WAIT_SEC) continue;
    const slackSec = toSec[toSec.length - 1] - piece.startSec - (count - at.placed[g]) * cycleSec;
    const pressure = g === at.last ? Math.min(slackSec, PIECE_SEC) : slackSec;
    if (pressure < least) [most, least] = [piece, pressure];
  }
  return most;
}

function pieceOf(decoder: Decoder, g: number, at: Standing, prices: Prices): Piece | null {
  const goal = decoder.goals[g];
  const readySec = at.clockSec + decoder.changeSec(at.last, g);
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

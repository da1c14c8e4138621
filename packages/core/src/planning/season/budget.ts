// How many moves a season's search makes in a second of one core, so that a budget in seconds is one of iterations: equal everywhere, whatever the machine does.
import type { SeasonProblem } from './season-problem.ts';

/** Measured on two shared cores with the cases of the benchmark; the largest that is not smaller than the problem counts. */
const MOVES_PER_SEC: readonly { readonly upToPanels: number; readonly moves: number }[] = [
  { upToPanels: 20, moves: 160_000 },
  { upToPanels: 150, moves: 110_000 },
  { upToPanels: Infinity, moves: 105_000 },
];

/** Moves for a budget in seconds of one core. */
export const iterationsFor = ({ panels }: SeasonProblem, seconds: number): number =>
  Math.round(seconds * MOVES_PER_SEC.find(({ upToPanels }) => panels.length <= upToPanels)!.moves);

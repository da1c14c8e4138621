// What a night holds wherever it is cut: the plan's worth exposure by exposure, and what is expected of it under an hourly chance of ending.
import type { NightProblem, Placement } from '../problem.ts';
import { goalRecords, meanRate } from '../objective.ts';
import type { GoalRecord } from '../objective.ts';
import { GrowingCounts } from './growing-counts.ts';

/** One exposure of a plan and what it adds to what was taken before it. */
export interface Gain {
  readonly goal: number;
  /** When its light is whole. */
  readonly endSec: number;
  /** Its own light, and the balance and completion that come with it. */
  readonly worth: number;
}

/** Worth of plans of one problem, exposure by exposure; kept for a search that asks often. */
export class HeldNight {
  readonly #goals: readonly GoalRecord[];
  readonly #counts: GrowingCounts;

  constructor(problem: NightProblem, goals: readonly GoalRecord[] = goalRecords(problem)) {
    this.#goals = goals;
    this.#counts = new GrowingCounts(problem);
  }

  /** @param placements in time order */
  gains(placements: readonly Placement[]): Gain[] {
    const gains: Gain[] = [];
    this.#walk(placements, (goal, endSec, worth) => gains.push({ goal, endSec, worth }));
    return gains;
  }

  /** Each exposure's worth × the chance that the night lasts until it ends.
   * @param placements in time order
   * @param hazardPerHour the rate of an exponential law from the problem's origin on: another moment would change all plans alike */
  expected(placements: readonly Placement[], hazardPerHour: number): number {
    const perSec = hazardPerHour / 3600;
    let expected = 0;
    this.#walk(placements, (_, endSec, worth) => (expected += worth * Math.exp(-perSec * endSec)));
    return expected;
  }

  #walk(placements: readonly Placement[], visit: (goal: number, endSec: number, worth: number) => void): void {
    this.#counts.clear();
    for (const { goal, startsSec } of placements) {
      const record = this.#goals[goal];
      for (const startSec of startsSec)
        visit(goal, startSec + record.exposureSec, record.value * meanRate(record, startSec) + this.#counts.add(goal));
    }
  }
}

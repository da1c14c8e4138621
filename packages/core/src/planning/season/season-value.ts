// What a season's plan is worth by another problem than the one it was planned for.
import { restore } from './anneal-season.ts';
import type { SeasonPlan, SeasonProblem } from './season-problem.ts';
import { SeasonState } from './season-state.ts';
import { seasonTables } from './season-tables.ts';

/** Value of a plan, as far as it fits the problem. */
export function valueOfSeason(problem: SeasonProblem, plan: SeasonPlan): number {
  const state = new SeasonState(seasonTables(problem));
  restore(state, plan);
  return state.value;
}

// What to turn to when the first choice can't be had: goals left out of a plan, best first, for a dark and for a moonlit sky.
import { RISE_SET_ALTITUDE_DEG } from '../../sky/sun-moon.ts';
import type { UtcMs } from '../../units.ts';
import { goalRecords, meanRate } from '../objective.ts';
import type { SolvedNight } from './plan-night.ts';
import { placedCounts } from '../problem.ts';

export interface ReserveGoal {
  readonly goalId: string;
  /** Without the moon, or with it. */
  readonly sky: 'dark' | 'bright';
  /** Value of an hour of it there, by light alone. */
  readonly perHour: number;
  readonly fromUtcMs: UtcMs;
  readonly toUtcMs: UtcMs;
}

const STEP_SEC = 300;
/** Goals kept for each sky. */
const KEPT = 4;

/** The best goals without a place, one a panel, for the hours without and with the moon in which they meet every limit. */
export function reserveOf({ request, survey, problem, solution }: SolvedNight): ReserveGoal[] {
  const placed = placedCounts(problem, solution.placements);
  const records = goalRecords(problem);
  const { table } = survey;
  const isBright = (sec: number): boolean => {
    const sample = Math.min(table.length - 1, Math.round((sec * 1000) / table.stepMs));
    return table.moonAltitudeDeg[sample] > RISE_SET_ALTITUDE_DEG;
  };
  const found = problem.goals.flatMap((goal, g): ReserveGoal[] => {
    if (goal.count <= placed[g] || placed[g] > 0) return [];
    return (['dark', 'bright'] as const).flatMap((sky): ReserveGoal[] => {
      const moments = goal.windows.flatMap(({ fromSec, toSec }) =>
        Array.from(
          { length: Math.max(0, Math.ceil((toSec - goal.exposureSec - fromSec) / STEP_SEC)) },
          (_, i) => fromSec + i * STEP_SEC,
        ),
      );
      const own = moments.filter((sec) => isBright(sec) === (sky === 'bright'));
      if (own.length === 0) return [];
      const best = own.reduce((most, sec) => Math.max(most, meanRate(records[g], sec)), 0);
      return [
        {
          goalId: request.goals[g].id,
          sky,
          perHour: (records[g].value * best * 3600) / records[g].cycleSec,
          fromUtcMs: table.startUtcMs + own[0] * 1000,
          toUtcMs: table.startUtcMs + (own[own.length - 1] + STEP_SEC) * 1000,
        },
      ];
    });
  });
  const panelOf = new Map(request.goals.map(({ id, panelId }) => [id, panelId]));
  return (['dark', 'bright'] as const).flatMap((sky) => {
    const panels = new Set<string>();
    return found
      .filter((goal) => goal.sky === sky)
      .sort((a, b) => b.perHour - a.perHour || (a.goalId < b.goalId ? -1 : 1))
      .filter(({ goalId }) => !panels.has(panelOf.get(goalId)!) && panels.add(panelOf.get(goalId)!))
      .slice(0, KEPT);
  });
}

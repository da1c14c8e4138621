// What a night held, or holds, for every project: planned, taken, and why not.
import type { NightStanding, Reason } from '@meridiem/contract';
import type { NightPlan, ObservingNight } from '@meridiem/core';
import type { Queries } from '../../database/connection.ts';
import { RESERVED } from '../../privacy.ts';
import type { GoalRow } from './goal-rows.ts';
import { chanceOf } from './reasons.ts';
import type { SurveyedRig } from './rig-planner.ts';

export interface TakenTonight {
  readonly goalId: string;
  readonly taken: number;
  readonly rejected: number;
}

export const takenOfNight = (
  queries: Queries,
  observatoryId: string,
  { nightDate }: ObservingNight,
): Promise<TakenTonight[]> =>
  queries.rows(
    `SELECT a.goal_id AS "goalId", count(*)::int AS taken, (count(*) FILTER (WHERE r.verdict = 'rejected'))::int AS rejected
     FROM exposures e JOIN attributions a ON a.exposure_id = e.id AND a.withdrawn IS NULL JOIN ledger_rows r ON r.exposure_id = e.id
     WHERE e.observatory_id = $1 AND e.night_date = $2 AND a.goal_id IS NOT NULL GROUP BY a.goal_id`,
    [observatoryId, nightDate],
  );

/** @param rows as the viewer may see them: somebody's private project is left out */
export function standingsOf(
  { rig, goals }: SurveyedRig,
  rows: readonly GoalRow[],
  plan: NightPlan,
  taken: readonly TakenTonight[],
): NightStanding[] {
  const nameOf = (goalId: string): string => {
    const row = rows.find((candidate) => candidate.goalId === goalId);
    return row ? `${row.projectName}, ${row.filterLetter}` : 'another goal';
  };
  const projects = [...new Map(rows.map((row) => [row.projectId, row])).values()];
  return projects
    .filter(({ projectName }) => projectName !== RESERVED)
    .map(({ projectId, projectName, ownerName }) => {
      const own = rows.filter((row) => row.projectId === projectId);
      const chances = own.map((row) => chanceOf(row, plan, goals.get(row.goalId), nameOf));
      const shot = taken.filter(({ goalId }) => own.some((row) => row.goalId === goalId));
      const planned = chances.reduce((sum, chance) => sum + chance.planned, 0);
      const total = (key: 'taken' | 'rejected'): number => shot.reduce((sum, one) => sum + one[key], 0);
      return {
        projectId,
        projectName,
        ownerName,
        rigName: rig.name,
        planned,
        taken: total('taken'),
        rejected: total('rejected'),
        reason: planned > 0 ? null : telling(chances.flatMap(({ reason }) => (reason ? [reason] : []))),
      };
    });
}

/** The reason that says most of a project: what is complete is no news while something else waits. */
const telling = (reasons: readonly Reason[]): Reason | null =>
  reasons.find(({ code }) => code !== 'COMPLETE' && code !== 'SWITCHED_OFF') ?? reasons[0] ?? null;

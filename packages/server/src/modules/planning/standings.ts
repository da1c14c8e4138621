// What a night held, or holds, for every project: planned, taken, and why not.
import type { NightStanding, Reason } from '@meridiem/contract';
import type { NightPlan } from '@meridiem/core';
import { RESERVED } from '../../privacy.ts';
import type { GoalRow, TakenTonight } from './goals-repository.ts';
import { chanceOf } from './reasons.ts';
import type { SurveyedRig } from './rig-planner.ts';

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

// When members had granted work that a night's sky allowed: what entitles them to its hours.
import type { Observatory, Rig } from '@meridiem/contract';
import type { Interval, ObservingNight, UsableWork } from '@meridiem/core';
import { surveyNight } from '@meridiem/core';
import type { Queries } from '../../database/connection.ts';
import { placedInNight } from '../../moving-target.ts';
import { countedOn, goalRowsOf, limitsOf, takenOfNight } from './goals-repository.ts';
import { nightRequest, standingReason } from './request.ts';

/** Windows are known to this much: a share of an hour is none the less fair for it. */
const STEP_SEC = 600;

/** Windows of each member's goals that lacked something in a night, or were exposed in it. */
export async function usableWorkOf(
  queries: Queries,
  observatory: Observatory,
  rig: Rig,
  night: ObservingNight,
): Promise<UsableWork[]> {
  const taken = new Set((await takenOfNight(queries, observatory.id, night)).map(({ goalId }) => goalId));
  const offered = countedOn(await goalRowsOf(queries, rig.id), night.nightDate).filter(
    (row) => standingReason(row) === null,
  );
  const rows = placedInNight(offered, observatory, night);
  const limits = await limitsOf(queries, observatory.id);
  const request = nightRequest({ observatory, rig, night, fromUtcMs: null, rows, limits });
  const goals = request.goals
    .filter(({ id, toPlan }) => toPlan > 0 || taken.has(id))
    .map((goal) => ({ ...goal, toPlan: Math.max(1, goal.toPlan) }));
  const projects = request.projects.map((project) => ({ ...project, panelOrder: 'free' as const }));
  const survey = surveyNight({ ...request, projects, goals }, STEP_SEC);
  const ownerOf = new Map(rows.map((row) => [row.goalId, row.ownerId]));
  const windows = new Map<string, Interval[]>();
  survey?.goals.forEach(({ goalId, windows: own, blocked }) => {
    const memberId = ownerOf.get(goalId)!;
    if (!blocked) windows.set(memberId, [...(windows.get(memberId) ?? []), ...own]);
  });
  return [...windows].map(([memberId, own]) => ({ memberId, windows: own }));
}

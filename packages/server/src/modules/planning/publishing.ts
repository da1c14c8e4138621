// Publishing a version of a night's plan: frozen, attributable, and told to the members whose hours it moves.
import { DateTime } from 'luxon';
import { Op } from 'sequelize';
import type { NightPlan, ObservingNight } from '@meridiem/core';
import { DEFAULT_SOLVE_OPTIONS } from '@meridiem/core';
import type { Queries } from '../../database/connection.ts';
import { refused, ServiceError } from '../../errors.ts';
import { announce } from '../../plugins/live.ts';
import type { Viewer } from '../../plugins/sessions.ts';
import { notify } from '../notices/index.ts';
import type { GoalRow } from './goals-repository.ts';
import { insertPublishedPlan, publishedPlanOf } from './published-repository.ts';
import { recordNight } from '../nights/index.ts';
import type { SurveyedRig } from './rig-planner.ts';

export interface Publishing {
  readonly night: ObservingNight;
  readonly surveyed: SurveyedRig;
  readonly reason: string | null;
  /** Whether the cut-off hour has passed. */
  readonly isFrozen: boolean;
  readonly timeZone: string;
}

export async function publishVersion(
  queries: Queries,
  viewer: Viewer,
  { night, surveyed, reason, isFrozen, timeZone }: Publishing,
): Promise<{ planId: string; seq: number }> {
  const { rig, rows, plan, problemHash, request } = surveyed;
  await queries.models.Rig.findByPk(rig.id, { lock: true });
  const running = await queries.models.NightRun.count({
    where: { rigId: rig.id, state: { [Op.in]: ['requested', 'running', 'stopping'] } },
  });
  if (running > 0) throw new ServiceError('NOT_POSSIBLE', 'A night is playing on this rig; stop it first');
  const before = await publishedPlanOf(queries, rig.id, night.nightDate);
  if (before && isFrozen && !reason)
    throw refused('reason', 'The cut-off hour has passed; say why the published plan changes');
  await recordNight(queries, viewer.observatoryId, night);
  const stored = await insertPublishedPlan(queries, {
    observatoryId: viewer.observatoryId,
    rigId: rig.id,
    nightDate: night.nightDate,
    personId: viewer.personId,
    problemHash,
    ...DEFAULT_SOLVE_OPTIONS,
    plan,
    request,
    reason,
  });
  if (before) {
    const why = reason ? `: ${reason}` : '';
    for (const { ownerId, words } of movedHours(before.plan, plan, rows, timeZone))
      await notify(queries, {
        observatoryId: viewer.observatoryId,
        personId: ownerId,
        words: `${rig.name}, night of ${night.nightDate}, version ${stored.seq}${why}. ${words}`,
        link: `/nights/${night.nightDate}`,
      });
  }
  await announce(queries, viewer.observatoryId, 'plan', [rig.id]);
  return stored;
}

/** For each member whose hours differ between two plans, what they were and are. */
function movedHours(
  before: NightPlan,
  after: NightPlan,
  rows: readonly GoalRow[],
  timeZone: string,
): { ownerId: string; words: string }[] {
  const projects = [...new Map(rows.map((row) => [row.projectId, row])).values()];
  const lines = projects.flatMap(({ projectId, projectName, ownerId }) => {
    const panels = new Set(rows.filter((row) => row.projectId === projectId).map((row) => row.panelId));
    const hoursIn = ({ blocks }: NightPlan): string =>
      blocks
        .filter(({ panelId }) => panels.has(panelId))
        .map(({ startUtcMs, endUtcMs }) => `${clockOf(startUtcMs, timeZone)}–${clockOf(endUtcMs, timeZone)}`)
        .join(', ');
    const [was, is] = [hoursIn(before), hoursIn(after)];
    if (was === is) return [];
    const change = was === '' ? `now has ${is}` : is === '' ? `no longer has ${was}` : `moves from ${was} to ${is}`;
    return [{ ownerId, words: `${projectName} ${change}` }];
  });
  const owners = [...new Set(lines.map(({ ownerId }) => ownerId))];
  return owners.map((ownerId) => ({
    ownerId,
    words: `${lines
      .filter((line) => line.ownerId === ownerId)
      .map(({ words }) => words)
      .join('; ')}.`,
  }));
}

const clockOf = (utcMs: number, zone: string): string => DateTime.fromMillis(utcMs, { zone }).toFormat('HH:mm');

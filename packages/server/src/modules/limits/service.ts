// One limit at a time: set, switched off, or given back to whatever is inherited.
import type { BodyOf, setLimit } from '@meridiem/contract';
import type { LimitKey } from '@meridiem/core';
import type { Database, Queries } from '../../database/connection.ts';
import { notAllowed, notFound, refused } from '../../errors.ts';
import { announce } from '../../plugins/live.ts';
import type { Viewer } from '../../plugins/sessions.ts';
import { isVisible } from '../../privacy.ts';
import type { ChangeService } from '../changes/index.ts';
import { takeBackLimit } from './take-back-limit.ts';

type Wish = BodyOf<typeof setLimit>;

/** What a value must lie between to make sense. */
const RANGES: Readonly<Record<LimitKey, readonly [number, number]>> = {
  minAltitudeDeg: [0, 89],
  horizonMarginDeg: [0, 45],
  sunAltitudeMaxDeg: [-30, 0],
  afterDuskMin: [-240, 240],
  beforeDawnMin: [-240, 240],
  moonSeparationMinDeg: [0, 180],
  moonLitShareMin: [0, 1],
  moonlightToleranceMag: [0, 10],
  moonAltitudeMaxDeg: [-90, 90],
  hourAngleMaxHours: [0, 12],
  zenithKeepOutDeg: [0, 45],
  notBeforeClockMin: [0, 1439],
  notAfterClockMin: [0, 1439],
  firstNightDay: [0, 80_000],
  lastNightDay: [0, 80_000],
  minRateShare: [0, 1],
  minStretchMin: [0, 240],
};

export type LimitService = ReturnType<typeof createLimitService>;

export function createLimitService({ database, changes }: { database: Database; changes: ChangeService }) {
  changes.register('limit', { by: 'owner', takeBack: takeBackLimit });
  return {
    async set(viewer: Viewer, wish: Wish): Promise<{ ok: true }> {
      const [low, high] = RANGES[wish.key];
      if ('value' in wish.setting && !(wish.setting.value >= low && wish.setting.value <= high)) {
        throw refused('value', `${wish.setting.value} is outside ${low} to ${high}`);
      }
      await database.transaction(async (queries) => {
        const projectId = await checkScope(queries, viewer, wish);
        await setLimitValue(queries, viewer, { wish, projectId, changes });
        for (const topic of ['projects', 'plan', 'observatory'] as const)
          await announce(queries, viewer.observatoryId, topic);
      });
      return { ok: true };
    },
  };
}

/** Members set limits of their own projects, coordinators all of them.
 * @returns the project the limit belongs to, null for the observatory's */
async function checkScope(queries: Queries, viewer: Viewer, wish: Wish): Promise<string | null> {
  if (wish.scope === 'observatory') {
    if (viewer.role !== 'coordinator') throw notAllowed('Only a coordinator sets the limits of the observatory');
    return null;
  }
  if (wish.scope === 'goal' && wish.class !== null)
    throw refused('class', 'A goal has one filter; its limits take no class');
  const project = await queries.one<{ id: string; ownerId: string; private: boolean }>(
    wish.scope === 'project'
      ? 'SELECT id, owner_id AS "ownerId", private FROM projects WHERE id = $1 AND observatory_id = $2'
      : 'SELECT p.id, p.owner_id AS "ownerId", p.private FROM goals g JOIN panels l ON l.id = g.panel_id JOIN projects p ON p.id = l.project_id WHERE g.id = $1 AND p.observatory_id = $2',
    [wish.scopeId, viewer.observatoryId],
  );
  if (!project || !isVisible(project, viewer)) throw notFound(wish.scope);
  if (viewer.role !== 'coordinator' && project.ownerId !== viewer.personId)
    throw notAllowed('This project belongs to another member');
  return project.id;
}

const TABLES = { observatory: 'observatories', project: 'projects', goal: 'goals' } as const;

/** Stores a limit that has been checked, and the change. */
export async function setLimitValue(
  queries: Queries,
  viewer: Viewer,
  { wish, projectId, changes }: { wish: Wish; projectId: string | null; changes: ChangeService },
): Promise<void> {
  const scopeProject = wish.scope === 'project' ? wish.scopeId : null;
  const scopeGoal = wish.scope === 'goal' ? wish.scopeId : null;
  const scope = [viewer.observatoryId, scopeProject, scopeGoal, wish.class, wish.key];
  // One after the other, so that each change tells what stood before it.
  await queries.rows(`SELECT 1 FROM ${TABLES[wish.scope]} WHERE id = $1 FOR NO KEY UPDATE`, [
    wish.scopeId ?? viewer.observatoryId,
  ]);
  const stored = await queries.one<{ value: number | null; isOff: boolean }>(
    `DELETE FROM limit_values WHERE observatory_id = $1 AND project_id IS NOT DISTINCT FROM $2 AND goal_id IS NOT DISTINCT FROM $3
       AND class IS NOT DISTINCT FROM $4 AND key = $5 RETURNING value, is_off AS "isOff"`,
    scope,
  );
  if (!('inherit' in wish.setting)) {
    const value = 'value' in wish.setting ? wish.setting.value : null;
    await queries.rows(
      'INSERT INTO limit_values (observatory_id, project_id, goal_id, class, key, value, is_off) VALUES ($1, $2, $3, $4, $5, $6, $7)',
      [...scope, value, value === null],
    );
  }
  await changes.record(queries, viewer, {
    entity: 'limit',
    entityId: wish.scopeId ?? viewer.observatoryId,
    projectId,
    words: `the limit ${wish.key}`,
    before: stored ?? { absent: true },
    after: { projectId: scopeProject, goalId: scopeGoal, class: wish.class, key: wish.key, setting: wish.setting },
  });
}

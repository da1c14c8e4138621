// One limit at a time: set, switched off, or given back to whatever is inherited.
import type { BodyOf, setLimit } from '@meridiem/contract';
import type { LimitKey } from '@meridiem/core';
import { limitRow, typedLimit } from '@meridiem/core';
import type { Database, Queries } from '../../database/connection.ts';
import { notAllowed, notFound, refused } from '../../errors.ts';
import { announce } from '../../plugins/live.ts';
import type { Viewer } from '../../plugins/sessions.ts';
import { isVisible } from '../../privacy.ts';
import type { ChangeService } from '../changes/index.ts';
import { takeBackLimit } from './take-back-limit.ts';
import { insertLimit, lockScope, projectById, projectOfGoal, removeLimit } from './repository.ts';

type Wish = BodyOf<typeof setLimit>;

export type LimitService = ReturnType<typeof createLimitService>;

export function createLimitService({ database, changes }: { database: Database; changes: ChangeService }) {
  changes.register('limit', { by: 'owner', takeBack: takeBackLimit });
  return {
    async set(viewer: Viewer, wish: Wish): Promise<{ ok: true }> {
      refuseOutside(wish.key, 'value' in wish.setting ? wish.setting.value : null);
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

/** @throws REFUSED where a limit makes no sense */
export function refuseOutside(key: LimitKey, value: number | null): void {
  const [low, high] = limitRow(key).range;
  if (value === null || (value >= low && value <= high)) return;
  const [typed, from, to] = [value, low, high].map((one) => typedLimit(key, one));
  throw refused('value', `${typed} is outside ${from} to ${to}`);
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
  const find = wish.scope === 'project' ? projectById : projectOfGoal;
  const project = wish.scopeId === null ? null : await find(queries, viewer.observatoryId, wish.scopeId);
  if (!project || !isVisible(project, viewer)) throw notFound(wish.scope);
  if (viewer.role !== 'coordinator' && project.ownerId !== viewer.personId)
    throw notAllowed('This project belongs to another member');
  return project.id;
}

/** Stores a limit that has been checked, and the change. */
export async function setLimitValue(
  queries: Queries,
  viewer: Viewer,
  { wish, projectId, changes }: { wish: Wish; projectId: string | null; changes: ChangeService },
): Promise<void> {
  const { scope, scopeId, class: ofClass, key, setting } = wish;
  const { observatoryId } = viewer;
  const place = {
    observatoryId,
    projectId: scope === 'project' ? scopeId : null,
    goalId: scope === 'goal' ? scopeId : null,
    class: ofClass,
    key,
  };
  await lockScope(queries, scope, scopeId ?? observatoryId);
  const stored = await removeLimit(queries, place);
  if (!('inherit' in setting)) {
    const value = 'value' in setting ? setting.value : null;
    await insertLimit(queries, place, { value, isOff: value === null });
  }
  await changes.record(queries, viewer, {
    entity: 'limit',
    entityId: scopeId ?? observatoryId,
    projectId,
    words: `the limit ${key}`,
    before: stored ? { ...stored } : { absent: true },
    after: { projectId: place.projectId, goalId: place.goalId, class: ofClass, key, setting },
  });
}

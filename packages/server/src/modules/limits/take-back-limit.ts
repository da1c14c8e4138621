// A limit as it was before a change.
import type { Queries } from '../../database/connection.ts';
import type { Viewer } from '../../plugins/sessions.ts';
import type { StoredChange } from '../changes/index.ts';

export async function takeBackLimit(queries: Queries, viewer: Viewer, { before, after }: StoredChange): Promise<void> {
  const {
    projectId,
    goalId,
    class: ofClass,
    key,
  } = after as { projectId: string | null; goalId: string | null; class: string | null; key: string };
  const scope = [viewer.observatoryId, projectId, goalId, ofClass, key];
  await queries.rows(
    `DELETE FROM limit_values WHERE observatory_id = $1 AND project_id IS NOT DISTINCT FROM $2 AND goal_id IS NOT DISTINCT FROM $3 AND class IS NOT DISTINCT FROM $4 AND key = $5`,
    scope,
  );
  if (before.absent) return;
  await queries.rows(
    `INSERT INTO limit_values (observatory_id, project_id, goal_id, class, key, value, is_off) VALUES ($1, $2, $3, $4, $5, $6, $7)`,
    [...scope, before.value ?? null, before.isOff ?? false],
  );
}

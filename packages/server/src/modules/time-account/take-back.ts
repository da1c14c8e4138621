// Remarks and settings of the time account, taken back.
import type { Queries } from '../../database/connection.ts';
import { ServiceError } from '../../errors.ts';
import type { StoredChange } from '../changes/index.ts';

/** A remark said or taken back; saying it again may collide with one said since. */
export async function takeBackRemark(queries: Queries, { entityId, before }: StoredChange): Promise<void> {
  const overlapping = await queries.one(
    `SELECT 1 FROM time_remarks r JOIN time_remarks o ON o.rig_id = r.rig_id AND o.id <> r.id AND o.withdrawn IS NULL AND o.during && r.during WHERE r.id = $1`,
    [entityId],
  );
  if (!before.withdrawn && overlapping)
    throw new ServiceError('CONFLICT', 'Somebody has said something else of this time since');
  await queries.rows('UPDATE time_remarks SET withdrawn = CASE WHEN $2 THEN now() END WHERE id = $1', [
    entityId,
    Boolean(before.withdrawn),
  ]);
}

export async function takeBackSetting(
  queries: Queries,
  { entity, entityId, before, after }: StoredChange,
): Promise<void> {
  const changed = await queries.one(
    'UPDATE settings SET value = $3 WHERE observatory_id = $1 AND key = $2 AND value = $4::jsonb RETURNING key',
    [entityId, entity, JSON.stringify(before), JSON.stringify(after)],
  );
  if (!changed)
    throw new ServiceError('CONFLICT', 'Somebody has changed this since; undo would take their change away');
}

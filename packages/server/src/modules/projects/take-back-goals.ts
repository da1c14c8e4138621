// Goals that were added go again, goals that were put on panels get their counts back.
import type { Queries } from '../../database/connection.ts';
import { ServiceError } from '../../errors.ts';
import type { StoredChange } from '../changes/index.ts';

export async function takeBackGoals(queries: Queries, { after }: StoredChange): Promise<void> {
  const ids = after.ids as string[];
  const used = await queries.one(`SELECT 1 FROM goal_totals WHERE goal_id = ANY ($1) AND exposure_count > 0`, [ids]);
  if (used) throw new ServiceError('CONFLICT', 'Exposures have been taken for this goal since; switch it off instead');
  await queries.rows('DELETE FROM goals WHERE id = ANY ($1)', [ids]);
}

/** Goals that were put on panels go again, those that took a count get theirs back. */
export async function takeBackPutGoals(queries: Queries, { before, after }: StoredChange): Promise<void> {
  for (const { id, wanted, was } of after.changed as { id: string; wanted: number | null; was: number | null }[]) {
    const row = await queries.one(
      'UPDATE goals SET wanted = $2, version = version + 1 WHERE id = $1 AND wanted IS NOT DISTINCT FROM $3 RETURNING id',
      [id, was, wanted],
    );
    if (!row) throw new ServiceError('CONFLICT', 'Somebody has changed one of these goals since');
  }
  await takeBackGoals(queries, { after: { ids: after.added }, before } as unknown as StoredChange);
}

// A target put on the shelf or taken off it, as it was.
import type { Queries } from '../../database/connection.ts';
import { ServiceError } from '../../errors.ts';
import type { StoredChange } from '../changes/index.ts';

export async function takeBackShelving(queries: Queries, { entityId, before }: StoredChange): Promise<void> {
  const taken = await queries.one(
    `SELECT 1 FROM targets t JOIN targets o ON o.observatory_id = t.observatory_id AND o.id <> t.id AND o.shelved AND lower(o.name) = lower(t.name) WHERE t.id = $1`,
    [entityId],
  );
  if (before.shelved && taken) throw new ServiceError('CONFLICT', 'A target of this name is on the shelf again');
  await queries.rows('UPDATE targets SET shelved = $2 WHERE id = $1', [entityId, Boolean(before.shelved)]);
}

// A target put on the shelf or taken off it, as it was.
import type { Queries } from '../../database/connection.ts';
import { ServiceError } from '../../errors.ts';
import type { StoredChange } from '../changes/index.ts';
import { isNameOnShelf } from './repository.ts';

export async function takeBackShelving(queries: Queries, { entityId, before }: StoredChange): Promise<void> {
  const target = await queries.models.Target.findByPk(entityId);
  if (before.shelved && target && (await isNameOnShelf(queries, target)))
    throw new ServiceError('CONFLICT', 'A target of this name is on the shelf again');
  await target?.update({ shelved: Boolean(before.shelved) });
}

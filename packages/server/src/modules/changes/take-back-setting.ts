// A setting of the observatory, taken back where nobody has changed it since.
import { isDeepStrictEqual } from 'node:util';
import type { Queries } from '../../database/connection.ts';
import { settingOf, storeSetting } from '../../database/settings-repository.ts';
import { ServiceError } from '../../errors.ts';
import type { StoredChange } from './repository.ts';

export async function takeBackSetting(
  queries: Queries,
  { entity, entityId, before, after }: StoredChange,
): Promise<void> {
  if (!isDeepStrictEqual(await settingOf(queries, entityId, entity), after))
    throw new ServiceError('CONFLICT', 'Another person has changed this since; undo would remove their change');
  await storeSetting(queries, entityId, entity, before);
}

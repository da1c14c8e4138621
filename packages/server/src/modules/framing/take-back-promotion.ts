// A project begun from exposures, taken back.
import type { Queries } from '../../database/connection.ts';
import { ServiceError } from '../../errors.ts';
import type { StoredChange } from '../changes/index.ts';

/** The exposures belong to nobody again; the project stays as a retired shell, for its history. */
export async function takeBackPromotion(queries: Queries, { entityId, after }: StoredChange): Promise<void> {
  const later = await queries.one(
    'SELECT 1 FROM attributions WHERE project_id = $1 AND withdrawn IS NULL AND id <> ALL ($2)',
    [entityId, after.attributionIds as string[]],
  );
  if (later) throw new ServiceError('CONFLICT', 'Other exposures have come to this project since; retire it instead');
  await queries.rows('UPDATE attributions SET withdrawn = now() WHERE id = ANY ($1) AND withdrawn IS NULL', [
    after.attributionIds as string[],
  ]);
  await queries.rows(`UPDATE projects SET state = 'retired', version = version + 1 WHERE id = $1`, [entityId]);
}

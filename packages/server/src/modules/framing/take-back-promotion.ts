// A project begun from exposures, taken back.
import { literal } from 'sequelize';
import type { Queries } from '../../database/connection.ts';
import { ServiceError } from '../../errors.ts';
import type { StoredChange } from '../changes/index.ts';
import { countOtherCredit, withdrawAttributions } from './repository.ts';

/** The exposures belong to nobody again; the project stays as a retired shell, for its history. */
export async function takeBackPromotion(queries: Queries, { entityId, after }: StoredChange): Promise<void> {
  const ids = after.attributionIds as string[];
  if ((await countOtherCredit(queries, { projectId: entityId }, ids)) > 0)
    throw new ServiceError('CONFLICT', 'Other exposures have come to this project since; retire it instead');
  await withdrawAttributions(queries, ids);
  await queries.models.Project.update(
    { state: 'retired', version: literal('version + 1') },
    { where: { id: entityId } },
  );
}

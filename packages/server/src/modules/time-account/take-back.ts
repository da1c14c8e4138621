// Remarks of the time account, taken back.
import type { Queries } from '../../database/connection.ts';
import { ServiceError } from '../../errors.ts';
import type { StoredChange } from '../changes/index.ts';
import { overlappingRemark, setWithdrawn } from './repository.ts';

/** A remark said or taken back; saying it again may collide with one said since. */
export async function takeBackRemark(queries: Queries, { entityId, before }: StoredChange): Promise<void> {
  const remark = await queries.models.TimeRemark.findByPk(entityId);
  const [from, to] = remark!.during;
  const span = { startUtcMs: from.value!.getTime(), endUtcMs: to.value!.getTime() };
  if (!before.withdrawn && (await overlappingRemark(queries, remark!.rigId, span, entityId)))
    throw new ServiceError('CONFLICT', 'Another remark about this time has been made since');
  await setWithdrawn(queries, entityId, Boolean(before.withdrawn));
}

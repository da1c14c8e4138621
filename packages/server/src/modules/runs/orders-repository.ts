// What people say to a night by devices, as rows.
import type { HandOrder, ShownOrder, StandingOrders } from '@meridiem/contract';
import type { Queries } from '../../database/connection.ts';
import { NOW } from '../../database/now.ts';
import type { RunRow } from './repository.ts';

const NEWEST_FIRST = [
  ['ordered', 'DESC'],
  ['id', 'DESC'],
] as [string, string][];

export const storeOrder = (
  { models }: Queries,
  { id: runId, observatoryId }: Pick<RunRow, 'id' | 'observatoryId'>,
  kind: HandOrder,
  orderedBy: string,
): Promise<unknown> => models.RunOrder.create({ runId, observatoryId, kind, orderedBy });

/** What stands of all that was said: a hold until it is lifted, a target to be left until it has been. */
export async function standingOrders({ models }: Queries, runId: string): Promise<StandingOrders> {
  const orders = await models.RunOrder.findAll({ where: { runId }, order: NEWEST_FIRST });
  const hold = orders.find(({ kind }) => kind === 'hold' || kind === 'resume');
  return {
    holdId: hold?.kind === 'hold' ? hold.id : null,
    leaveId: orders.find(({ kind, carriedOut }) => kind === 'leave' && carriedOut === null)?.id ?? null,
    isLast: orders.some(({ kind }) => kind === 'last'),
  };
}

export const markCarriedOut = ({ models }: Queries, runId: string, ids: readonly string[]): Promise<unknown> =>
  models.RunOrder.update({ carriedOut: NOW }, { where: { runId, id: [...ids], carriedOut: null } });

const MOST_ORDERS = 50;

export async function ordersOf({ models }: Queries, runId: string): Promise<ShownOrder[]> {
  const rows = await models.RunOrder.findAll({
    where: { runId },
    order: NEWEST_FIRST,
    limit: MOST_ORDERS,
    include: ['person'],
  });
  return rows.map((row) => ({
    kind: row.kind,
    by: (row as typeof row & { person: { name: string } }).person.name,
    orderedUtcMs: row.ordered.getTime(),
  }));
}

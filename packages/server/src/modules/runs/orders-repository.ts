// What people say to a night by devices, as rows.
import type { HandOrder, ShownOrder, StandingOrders } from '@meridiem/contract';
import type { Queries } from '../../database/connection.ts';
import type { RunOrder } from '../../database/models/run-order.ts';
import { NOW } from '../../database/now.ts';
import type { RunRow } from './repository.ts';
import { openTestShot } from './test-shots-repository.ts';

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
export async function standingOrders(queries: Queries, runId: string): Promise<StandingOrders> {
  const orders = await queries.models.RunOrder.findAll({ where: { runId }, order: NEWEST_FIRST });
  const hold = holdAmong(orders);
  return {
    holdId: hold?.id ?? null,
    leaveId: orders.find(({ kind, carriedOut }) => kind === 'leave' && carriedOut === null)?.id ?? null,
    isLast: orders.some(({ kind }) => kind === 'last'),
    testShot: hold && (await openTestShot(queries, runId, hold.ordered)),
  };
}

/** @param orders the newest first */
function holdAmong(orders: readonly RunOrder[]): RunOrder | null {
  const last = orders.find(({ kind }) => kind === 'hold' || kind === 'resume');
  return last?.kind === 'hold' ? last : null;
}

/** Whether somebody holds it at the moment. */
export const isHeld = async ({ models }: Queries, runId: string): Promise<boolean> =>
  holdAmong(await models.RunOrder.findAll({ where: { runId }, order: NEWEST_FIRST })) !== null;

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

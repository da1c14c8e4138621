// Said by hand to a night by devices while it goes on: hold, go on, leave this target, stop after this exposure.
import type { HandOrder } from '@meridiem/contract';
import type { Queries } from '../../database/connection.ts';
import { ServiceError } from '../../errors.ts';
import { announce } from '../../plugins/live.ts';
import type { Viewer } from '../../plugins/sessions.ts';
import { runUnderWay } from './repository.ts';
import { storeOrder } from './orders-repository.ts';
import type { RunServiceParts } from './service.ts';

export const createHandOrders = ({ database }: Pick<RunServiceParts, 'database'>) => ({
  async order({ observatoryId, personId }: Viewer, runId: string, kind: HandOrder): Promise<{ ok: true }> {
    await database.transaction(async (queries) => {
      const { rigId } = await hearingRun(queries, observatoryId, runId);
      await storeOrder(queries, { id: runId, observatoryId }, kind, personId);
      await announce(queries, observatoryId, 'run', [rigId]);
    });
    return { ok: true };
  },
});

/** A night under way that hears what people say: one by devices.
 * @throws NOT_POSSIBLE where there is none */
export async function hearingRun(queries: Queries, observatoryId: string, runId: string): Promise<{ rigId: string }> {
  const run = await runUnderWay(queries, observatoryId, runId);
  if (!run) throw new ServiceError('NOT_POSSIBLE', 'This night is not playing any more');
  const rig = await queries.models.Rig.findByPk(run.rigId);
  if (run.kind !== 'night' || rig?.devices === 'none')
    throw new ServiceError('NOT_POSSIBLE', 'Only a night by devices hears this; it can be stopped');
  return run;
}

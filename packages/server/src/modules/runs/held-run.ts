// A run as its holder sees it: whoever has lost the lease is refused.
import type { Queries } from '../../database/connection.ts';
import { notFound, ServiceError } from '../../errors.ts';
import type { RunRow } from './repository.ts';
import { renewLease } from './repository.ts';

/** The run, if the caller still holds its lease; renews it. */
export async function heldRun(queries: Queries, runId: string, fence: number): Promise<RunRow> {
  const run = await renewLease(queries, runId);
  if (!run) throw notFound('run');
  if (run.fence !== fence || !['running', 'stopping'].includes(run.state))
    throw new ServiceError('LEASE_LOST', 'Another runner has taken this night over, or it has ended');
  return run;
}

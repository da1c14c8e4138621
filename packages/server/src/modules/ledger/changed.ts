// What follows from every change of the ledger.
import type { Queries } from '../../database/connection.ts';
import { announce } from '../../plugins/live.ts';
import { judgeGoals } from './judge-goals.ts';

/** The one step after a change: goals it touches are judged anew, and everybody who looks is told.
 * @param goalIds goals with other exposures than before; null among them counts for nothing */
export async function ledgerChanged(
  queries: Queries,
  observatoryId: string,
  goalIds: readonly (string | null)[],
): Promise<void> {
  await judgeGoals(
    queries,
    observatoryId,
    goalIds.flatMap((id) => id ?? []),
  );
  for (const topic of ['ledger', 'projects', 'plan'] as const) await announce(queries, observatoryId, topic);
}

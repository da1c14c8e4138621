// Verdicts given in one move, withdrawn.
import type { Queries } from '../../database/connection.ts';
import type { Viewer } from '../../plugins/sessions.ts';
import type { StoredChange } from '../changes/index.ts';

/** Each verdict of the change gets a row that withdraws it; the one before is in force again. */
export async function takeBackVerdicts(queries: Queries, viewer: Viewer, { after }: StoredChange): Promise<void> {
  await queries.rows(
    `INSERT INTO verdicts (observatory_id, exposure_id, origin, by_coordinator, person_id, verdict, reason, withdraws)
     SELECT v.observatory_id, v.exposure_id, 'hand', $2, $3, v.verdict, 'taken back', v.seq FROM verdicts v WHERE v.seq = ANY ($1::bigint[])`,
    [after.seqs as string[], viewer.role === 'coordinator', viewer.personId],
  );
}

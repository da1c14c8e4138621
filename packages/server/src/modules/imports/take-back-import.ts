// An import taken back: its exposures leave the ledger with their credit.
import type { Queries } from '../../database/connection.ts';
import { ServiceError } from '../../errors.ts';
import type { StoredChange } from '../changes/index.ts';

/** The exposures that an import added leave the ledger with their credit; the files of the import still name them. */
export async function takeBackImport(queries: Queries, { entityId }: StoredChange): Promise<void> {
  const judged = await queries.one(
    `SELECT 1 FROM import_files f JOIN imports i ON i.id = f.import_id JOIN verdicts v ON v.exposure_id = f.exposure_id
     WHERE f.import_id = $1 AND f.outcome = 'added' AND v.origin = 'hand' AND v.reason <> 'as imported' AND v.at > i.applied AND v.withdraws IS NULL
       AND NOT EXISTS (SELECT 1 FROM verdicts w WHERE w.withdraws = v.seq)`,
    [entityId],
  );
  if (judged)
    throw new ServiceError(
      'CONFLICT',
      'Exposures of this import have been judged by hand since; take those verdicts back first',
    );
  await queries.rows(
    `UPDATE attributions a SET withdrawn = now() FROM import_files f WHERE f.import_id = $1 AND f.outcome = 'added' AND a.exposure_id = f.exposure_id AND a.withdrawn IS NULL`,
    [entityId],
  );
  await queries.rows(
    `INSERT INTO exposure_presence (observatory_id, exposure_id, import_id, present) SELECT observatory_id, exposure_id, import_id, false FROM import_files WHERE import_id = $1 AND outcome = 'added'`,
    [entityId],
  );
  await queries.rows(`UPDATE imports SET state = 'undone' WHERE id = $1`, [entityId]);
}

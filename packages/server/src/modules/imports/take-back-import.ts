// An import taken back: its exposures leave the ledger with their credit; the files of the import still name them.
import type { Queries } from '../../database/connection.ts';
import { ServiceError } from '../../errors.ts';
import type { StoredChange } from '../changes/index.ts';
import { isJudgedSince, withdrawImported } from './repository.ts';

export async function takeBackImport(queries: Queries, { entityId }: StoredChange): Promise<void> {
  if (await isJudgedSince(queries, entityId))
    throw new ServiceError(
      'CONFLICT',
      'Exposures of this import have been judged by hand since; undo those verdicts first',
    );
  await withdrawImported(queries, entityId);
}

// Verdicts given at once, withdrawn.
import type { Queries } from '../../database/connection.ts';
import type { Viewer } from '../../plugins/sessions.ts';
import type { StoredChange } from '../changes/index.ts';
import { withdrawVerdicts } from './repository.ts';

/** Each verdict of the change gets a row that withdraws it; the one before is in force again. */
export async function takeBackVerdicts(queries: Queries, viewer: Viewer, { after }: StoredChange): Promise<void> {
  await withdrawVerdicts(queries, viewer, after.seqs as string[]);
}

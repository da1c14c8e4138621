// When the last file of a project's night is on the server, its owner is told, once.
import type { Database, Queries } from '../../database/connection.ts';
import { notify } from '../notices/index.ts';
import type { CompleteFiles } from './files-told-repository.ts';
import { markComplete, runOfExposure } from './files-told-repository.ts';

/** Tells the owners of projects whose files of an ended night have all come and who do not know yet. */
export async function tellOfFiles(queries: Queries, runId: string): Promise<void> {
  for (const files of await markComplete(queries, runId)) {
    const { observatoryId, ownerId, projectId } = files;
    await notify(queries, {
      ...{ observatoryId, personId: ownerId, kind: 'night', link: `/projects/${projectId}/files` },
      words: filesWords(files),
    });
  }
}

/** The same where another file has come: most come while the night still goes on. */
export async function tellAfterCopy(database: Database, exposureId: string): Promise<void> {
  const runId = await runOfExposure(database, exposureId);
  if (runId) await database.transaction((queries) => tellOfFiles(queries, runId));
}

export function filesWords({
  projectName,
  nightDate,
  files,
  sizeBytes,
}: Pick<CompleteFiles, 'projectName' | 'nightDate' | 'files' | 'sizeBytes'>): string {
  const all = files === 1 ? 'the file' : `all ${files} files`;
  return `${projectName}: ${all} of the night of ${nightDate} (${sizeWords(sizeBytes)}) can be handed over`;
}

const sizeWords = (bytes: number): string =>
  bytes >= 1e9 ? `${(bytes / 1e9).toFixed(1)} GB` : `${Math.max(0.1, bytes / 1e6).toFixed(1)} MB`;

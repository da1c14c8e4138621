// An import into the ledger, all of it or nothing: a small one at once, a large one as a stored job that tells how far it is and can be stopped.
import { setTimeout as sleep } from 'node:timers/promises';
import type { ImportWriting } from '@meridiem/contract';
import type { Database, Queries } from '../../database/connection.ts';
import { NOW } from '../../database/now.ts';
import { refusalOf } from '../../database/refusals.ts';
import { notAllowed, ServiceError } from '../../errors.ts';
import type { JobWork } from '../../jobs/job-work.ts';
import type { JobService } from '../../jobs/service.ts';
import type { Viewer } from '../../plugins/sessions.ts';
import type { ChangeService } from '../changes/index.ts';
import { ledgerChanged } from '../ledger/index.ts';
import type { ObservatoryService } from '../observatory/index.ts';
import { memberNow } from '../people/index.ts';
import type { AddedExposure } from './apply.ts';
import { writeExposures } from './apply.ts';
import { importContext } from './context.ts';
import { openImport, ownImport } from './own-import.ts';
import { previewed } from './preview.ts';
import { countFiles, lockImports } from './repository.ts';

export type Written = NonNullable<ImportWriting['written']>;

/** Files that are written while the page waits; more become a job. */
export const AT_ONCE = 1_000;
/** Files between two looks at whether it goes on. */
const BATCH = 500;
const KIND = 'import';
/** Until an import that another import, or somebody's change, stands in the way of is tried again. */
const WAIT_MS = 2_000;

export interface ApplyParts {
  readonly changes: ChangeService;
  readonly observatory: ObservatoryService;
}

/** Who watches the writing, and may end it. */
interface Watch {
  readonly signal?: AbortSignal;
  readonly tell?: (share: number) => void;
}

interface ImportRequest {
  readonly importId: string;
  readonly personId: string;
}

/** Writes an import within a transaction. */
export async function writeImport(
  queries: Queries,
  { changes, observatory }: ApplyParts,
  viewer: Viewer,
  id: string,
  watch: Watch = {},
): Promise<Written> {
  await lockImports(queries, viewer.observatoryId);
  const record = await openImport(queries, viewer, id);
  const { added, known, all } = await writeBatches(queries, observatory, viewer, id, watch);
  if (added.length + known === 0)
    throw new ServiceError('NOT_POSSIBLE', 'Nothing here can be imported yet: choose rig and filter, or add files');
  await record.update({ state: 'applied', applied: NOW });
  await changes.record(queries, viewer, {
    entity: 'imports',
    entityId: id,
    projectId: null,
    words: `Imported ${added.length} exposure${added.length === 1 ? '' : 's'}`,
    before: { state: 'preview' },
    after: { state: 'applied' },
  });
  await ledgerChanged(
    queries,
    viewer.observatoryId,
    added.map(({ goalId }) => goalId),
  );
  return { added: added.length, known, left: all - added.length - known };
}

async function writeBatches(
  queries: Queries,
  observatory: ObservatoryService,
  viewer: Viewer,
  importId: string,
  { signal, tell }: Watch,
): Promise<{ added: AddedExposure[]; known: number; all: number }> {
  const context = await importContext(queries, viewer, observatory);
  const files = await previewed(queries, viewer, importId, context);
  const added: AddedExposure[] = [];
  let known = 0;
  for (let from = 0; from < files.length; from += BATCH) {
    signal?.throwIfAborted();
    tell?.(from / files.length);
    const batch = await writeExposures(queries, viewer, { importId, files: files.slice(from, from + BATCH), context });
    added.push(...batch.added);
    known += batch.known;
  }
  signal?.throwIfAborted();
  return { added, known, all: files.length };
}

/** What a worker does with an import that somebody has asked for: as whoever asked, with the rights they have now. */
export const importWork =
  (database: Database, parts: ApplyParts): JobWork =>
  async ({ observatoryId, request }, { signal, tell, finish }) => {
    const { importId, personId } = request as ImportRequest;
    for (;;) {
      try {
        return await database.transaction(async (queries) => {
          const viewer = await memberNow(queries, observatoryId, personId);
          if (!viewer || viewer.role === 'guest') throw notAllowed('Who asked for this may not import any more');
          await finish(queries, await writeImport(queries, parts, viewer, importId, { signal, tell }));
        });
      } catch (error) {
        if (refusalOf(error)?.code !== 'BUSY') throw error;
        await sleep(WAIT_MS, undefined, { signal });
      }
    }
  };

export function createApplying({ database, jobs, ...parts }: ApplyParts & { database: Database; jobs: JobService }) {
  const keyOf = (importId: string) => ({ kind: KIND, requestHash: importId }) as const;
  const shown = ({ result, job }: { result: Written | null; job: ImportWriting['job'] }): ImportWriting => ({
    written: result,
    job,
  });
  return {
    async apply(viewer: Viewer, id: string): Promise<ImportWriting> {
      await ownImport(database, viewer, id);
      if ((await countFiles(database, id)) <= AT_ONCE)
        return { written: await database.transaction((queries) => writeImport(queries, parts, viewer, id)), job: null };
      const request: ImportRequest = { importId: id, personId: viewer.personId };
      return shown(await jobs.ask<Written>(viewer, { ...keyOf(id), request }));
    },

    /** How far the writing of a large import is, or what it wrote. */
    async writing(viewer: Viewer, id: string): Promise<ImportWriting> {
      await ownImport(database, viewer, id);
      return shown(await jobs.read<Written>(viewer, keyOf(id)));
    },
  };
}

export type Applying = ReturnType<typeof createApplying>;

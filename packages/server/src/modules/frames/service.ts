// Exposures as they are looked at: drawn, measured, held against what is usual, written on.
import { createReadStream } from 'node:fs';
import type { ReadStream } from 'node:fs';
import { basename, join } from 'node:path';
import type { ExposurePage, QueryOf } from '@meridiem/contract';
import type { framePicture } from '@meridiem/contract';
import type { Config } from '../../config.ts';
import type { Database } from '../../database/connection.ts';
import { notAllowed, notFound, ServiceError } from '../../errors.ts';
import type { FrameWorker } from '../../jobs/frame-worker.ts';
import { keptBytes } from '../../kept-bytes.ts';
import { announce } from '../../plugins/live.ts';
import type { Viewer } from '../../plugins/sessions.ts';
import { RESERVED } from '../../privacy.ts';
import type { ChangeService } from '../changes/index.ts';
import { deviationsOf, ledgerRowOf, mayLookAt } from '../ledger/index.ts';
import type { ObservatoryService } from '../observatory/index.ts';
import { createArrivals } from './arrivals.ts';
import { createFrameCopies } from './copies.ts';
import { sizeOf } from './frame-files.ts';
import type { Measured } from './measures-repository.ts';
import { createMeasuring } from './measuring.ts';
import { createQuickLooks } from './quick-looks.ts';
import { neighboursOf, notesOf, storedFrameOf, storeNote, verdictsOf, withdrawNote } from './repository.ts';

export interface FrameParts {
  readonly database: Database;
  readonly config: Pick<Config, 'framesFolder' | 'cacheFolder' | 'deepStarsFile' | 'solverProgram'>;
  readonly changes: ChangeService;
  readonly observatory: ObservatoryService;
  readonly frameWorker: FrameWorker;
  readonly warn: (error: unknown) => void;
  /** Told of each exposure whose file has come whole. */
  readonly onCopied: (exposureId: string) => Promise<void>;
}

interface FrameFile {
  readonly name: string;
  readonly path: string;
  readonly sizeBytes: number;
  /** As long as the one that was taken. */
  readonly isWhole: boolean;
}

export type FrameService = ReturnType<typeof createFrameService>;

export function createFrameService({
  database,
  config,
  changes,
  observatory,
  frameWorker,
  warn,
  onCopied,
}: FrameParts) {
  changes.register('exposure_note', {
    by: 'owner',
    takeBack: async (queries, { observatoryId }, { after }) => {
      await withdrawNote(queries, after.id as string);
      await announce(queries, observatoryId, 'ledger');
    },
  });

  const { framesFolder, cacheFolder, deepStarsFile, solverProgram } = config;
  const measuring = createMeasuring(database, frameWorker, { deepStarsFile, solverProgram });
  const quickLooks = createQuickLooks(database, framesFolder);
  const arrivals = framesFolder === null ? null : createArrivals({ database, measuring, framesFolder, warn });

  /** The row, where the viewer may look at it: what is reserved is not there. */
  async function seen(viewer: Viewer, id: string): Promise<ExposurePage['row']> {
    const row = await ledgerRowOf(database, viewer, id);
    if (!row || row.projectName === RESERVED) throw notFound('exposure');
    return row;
  }

  /** @throws NOT_FOUND where there is no file on this server */
  async function fileOf(viewer: Viewer, id: string): Promise<FrameFile> {
    const stored = await storedFrameOf(database, viewer.observatoryId, id);
    const path = stored && config.framesFolder ? join(config.framesFolder, stored.name) : null;
    const sizeBytes = path ? await sizeOf(path) : null;
    if (!stored || !path || sizeBytes === null) throw notFound('file of this exposure');
    return { name: stored.name, path, sizeBytes, isWhole: sizeBytes === stored.sizeBytes };
  }

  /** What its pixels say; null where there is no file, or it is not the one that was taken. */
  const measuredFile = (exposureId: string, file: FrameFile | null, isAgain = false): Promise<Measured | null> =>
    file?.isWhole ? measuring.measure({ exposureId, path: file.path }, { isAgain }) : Promise.resolve(null);

  return {
    /** For the runner that took it. */
    copy: createFrameCopies(database, config.framesFolder, async (exposureId) => {
      arrivals?.come();
      // The file is here all the same.
      await onCopied(exposureId).catch(warn);
    }),
    stop: async () => arrivals?.stop(),

    async read(viewer: Viewer, id: string): Promise<ExposurePage> {
      const row = await seen(viewer, id);
      const file = await fileOf(viewer, id).catch(() => null);
      const [measured, calibrated, deviations, verdicts, notes, neighbours, { timeZone }] = await Promise.all([
        measuredFile(id, file),
        file && quickLooks.possible(viewer.observatoryId, id),
        deviationsOf(database, id),
        verdictsOf(database, id),
        notesOf(database, id),
        neighboursOf(database, id),
        observatory.site(viewer.observatoryId),
      ]);
      const shown = file && { name: basename(file.name), sizeBytes: file.sizeBytes };
      return {
        ...{ row, file: shown, calibrated, deviations, verdicts, notes, ...neighbours, timeZone },
        figures: measured?.figures ?? null,
        measuredUtcMs: measured?.measuredUtcMs ?? null,
        offIntended: measured && (await measuring.offIntended(id, measured.figures)),
      };
    },

    async measureAgain(viewer: Viewer, id: string): Promise<{ ok: true }> {
      const { mayJudge } = await seen(viewer, id);
      if (!mayJudge) throw notAllowed('This exposure belongs to another member’s project');
      if (!(await measuredFile(id, await fileOf(viewer, id), true)))
        throw new ServiceError('NOT_POSSIBLE', 'Its file can’t be read as a picture, so what was measured stays');
      await announce(database, viewer.observatoryId, 'ledger');
      return { ok: true };
    },

    async picture(viewer: Viewer, id: string, query: QueryOf<typeof framePicture>): Promise<Uint8Array> {
      if (!(await mayLookAt(database, viewer, id))) throw notFound('exposure');
      const { path, sizeBytes } = await fileOf(viewer, id);
      const { part = 'whole', px = USUAL_PX, calibration = 'none' } = query;
      const by = await quickLooks.takenFrom(viewer.observatoryId, id, calibration);
      const of = [DRAWN_BY, id, sizeBytes, part, px, ...(by ? [JSON.stringify(by)] : [])];
      return keptBytes(cacheFolder, { under: 'frames', ending: 'png', of }, () =>
        frameWorker.draw({ path, part, px, by, cacheFolder }),
      );
    },

    async file(viewer: Viewer, id: string): Promise<{ name: string; sizeBytes: number; stream: ReadStream }> {
      const { mayJudge } = await seen(viewer, id);
      if (!mayJudge) throw notAllowed('The files of a project are its owner’s and the coordinators’');
      const { name, path, sizeBytes } = await fileOf(viewer, id);
      return { name: basename(name), sizeBytes, stream: createReadStream(path) };
    },

    async note(viewer: Viewer, id: string, words: string): Promise<{ ok: true }> {
      const { projectId, mayJudge } = await seen(viewer, id);
      if (!mayJudge) throw notAllowed('This exposure belongs to another member’s project');
      const { observatoryId, personId } = viewer;
      await database.transaction(async (queries) => {
        const noteId = await storeNote(queries, { observatoryId, exposureId: id, personId, words });
        await changes.record(queries, viewer, {
          entity: 'exposure_note',
          entityId: id,
          projectId,
          words: `a note on an exposure: ${words}`,
          before: {},
          after: { id: noteId },
        });
        await announce(queries, observatoryId, 'ledger');
      });
      return { ok: true };
    },
  };
}

const USUAL_PX = 440;
/** Drawings made another way are other drawings. */
const DRAWN_BY = 'drawn 1';

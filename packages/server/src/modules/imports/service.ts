// Imports: files known by what their headers say, matched anew at every look; applying.ts writes them.
import type {
  BodyOf,
  ImportPreview,
  ImportSummary,
  addImportFiles,
  addImportHashes,
  matchByHand,
  teachFilterName,
} from '@meridiem/contract';
import { MAX_FILES_AN_IMPORT } from '@meridiem/contract';
import type { Database } from '../../database/connection.ts';
import { notFound, refused } from '../../errors.ts';
import { announce } from '../../plugins/live.ts';
import type { Viewer } from '../../plugins/sessions.ts';
import { mapUnhurried } from '../../unhurried.ts';
import type { ChangeService } from '../changes/index.ts';
import type { ObservatoryService } from '../observatory/index.ts';
import type { Written } from './applying.ts';
import { writeImport } from './applying.ts';
import { importContext } from './context.ts';
import { openImport, ownImport } from './own-import.ts';
import { previewed, rowOf } from './preview.ts';
import { chooseByHand, countFiles, importsOf, insertFiles, setFileHashes } from './repository.ts';
import { takeBackImport } from './take-back-import.ts';

export interface ImportParts {
  readonly database: Database;
  readonly changes: ChangeService;
  readonly observatory: ObservatoryService;
}

export type ImportService = ReturnType<typeof createImportService>;

export function createImportService({ database, changes, observatory }: ImportParts) {
  changes.register('imports', {
    by: 'author',
    takeBack: (queries, _viewer, change) => takeBackImport(queries, change),
  });
  return {
    list: (viewer: Viewer): Promise<ImportSummary[]> => importsOf(database, viewer),

    begin: ({ observatoryId, personId }: Viewer, source: string): Promise<{ id: string }> =>
      database.transaction(async ({ models }) => {
        const { id } = await models.Import.create({ observatoryId, personId, source });
        return { id };
      }),

    add: (viewer: Viewer, id: string, { files }: BodyOf<typeof addImportFiles>): Promise<{ ids: string[] }> =>
      database.transaction(async (queries) => {
        await openImport(queries, viewer, id);
        const wrong = files.find((file) => (file.facts === null) === (file.refused === null));
        if (wrong) throw refused('files', `${wrong.name}: give what was read or why it could not be`);
        const held = await countFiles(queries, id);
        if (held + files.length > MAX_FILES_AN_IMPORT)
          throw refused(
            'files',
            `An import holds at most ${MAX_FILES_AN_IMPORT} files; begin another one for the rest`,
          );
        const rows = files.map(({ facts, headerKey, verdict, ...file }, i) => ({
          ...file,
          seq: held + i,
          facts: facts && { ...facts, headerKey, verdict },
        }));
        return { ids: await insertFiles(queries, viewer.observatoryId, id, rows) };
      }),

    addHashes: (viewer: Viewer, id: string, { hashes }: BodyOf<typeof addImportHashes>): Promise<{ ok: true }> =>
      database.transaction(async (queries) => {
        await openImport(queries, viewer, id);
        await setFileHashes(queries, id, hashes);
        return { ok: true };
      }),

    async preview(viewer: Viewer, id: string): Promise<ImportPreview> {
      const { source, state } = await ownImport(database, viewer, id);
      const context = await importContext(database, viewer, observatory);
      const files = await previewed(database, viewer, id, context);
      return {
        id,
        source,
        state,
        rows: await mapUnhurried(files, (file) => rowOf(file, context)),
        rigs: context.rigs.map(({ id: rigId, name }) => ({ id: rigId, name })),
        filters: context.filters.map(({ id: filterId, letter }) => ({ id: filterId, letter })),
        panels: context.panels.map(({ id: panelId, name, projectName, rigId }) => ({
          id: panelId,
          name,
          projectName,
          rigId,
        })),
      };
    },

    byHand: (viewer: Viewer, id: string, { fileIds, ...choice }: BodyOf<typeof matchByHand>): Promise<{ ok: true }> =>
      database.transaction(async (queries) => {
        await openImport(queries, viewer, id);
        const { panels, rigs, filters } = await importContext(queries, viewer, observatory);
        if (choice.panelId && !panels.some((panel) => panel.id === choice.panelId))
          throw refused('panelId', 'This panel is not among those your frames may count for');
        if (choice.rigId && !rigs.some((rig) => rig.id === choice.rigId)) throw notFound('rig');
        if (choice.filterId && !filters.some((filter) => filter.id === choice.filterId)) throw notFound('filter');
        await chooseByHand(queries, id, fileIds, choice);
        return { ok: true };
      }),

    /** What a coordinator teaches once holds for every import from then on. */
    teachFilterName: (viewer: Viewer, { name, filterId }: BodyOf<typeof teachFilterName>): Promise<{ ok: true }> =>
      database.transaction(async (queries) => {
        const { observatoryId, personId } = viewer;
        const { Filter, FilterAlias } = queries.models;
        await FilterAlias.destroy({ where: { observatoryId, name } });
        if (filterId !== null) {
          if (!(await Filter.findOne({ where: { id: filterId, observatoryId } }))) throw notFound('filter');
          await FilterAlias.create({ observatoryId, name, filterId, taughtBy: personId });
        }
        await announce(queries, observatoryId, 'observatory');
        return { ok: true };
      }),

    /** Written while the caller waits, however large: for the command line, where nobody else does. */
    apply: (viewer: Viewer, id: string): Promise<Written> =>
      database.transaction((queries) => writeImport(queries, { changes, observatory }, viewer, id)),

    discard: (viewer: Viewer, id: string): Promise<{ ok: true }> =>
      database.transaction(async (queries) => {
        const record = await openImport(queries, viewer, id);
        await record.destroy();
        return { ok: true };
      }),
  };
}

// Imports: files known by what their headers say, matched anew at every look, written at once or not at all.
import type {
  BodyOf,
  ImportPreview,
  ImportRow,
  ImportSummary,
  addImportFiles,
  addImportHashes,
  matchByHand,
  teachFilterName,
} from '@meridiem/contract';
import { MAX_FILES_AN_IMPORT } from '@meridiem/contract';
import type { FrameFacts, FrameMatch, Identity } from '@meridiem/core';
import { combinedName, headerKeyOf, matchFrame } from '@meridiem/core';
import type { Database, Queries } from '../../database/connection.ts';
import { notFound, refused, ServiceError } from '../../errors.ts';
import { announce } from '../../plugins/live.ts';
import type { Viewer } from '../../plugins/sessions.ts';
import type { ChangeService } from '../changes/index.ts';
import type { LedgerService } from '../ledger/index.ts';
import type { ObservatoryService } from '../observatory/index.ts';
import { writeExposures } from './apply.ts';
import type { ImportContext } from './context.ts';
import { importContext } from './context.ts';
import { identify } from './identity.ts';
import { takeBackImport } from './take-back-import.ts';

export interface StoredFile {
  readonly id: string;
  readonly name: string;
  readonly facts: (FrameFacts & { headerKey?: string | null; verdict?: string | null }) | null;
  readonly refused: string | null;
  readonly byHand: { rigId?: string; filterId?: string; panelId?: string | null };
  readonly dataSha256: string | null;
  readonly outcome: string | null;
}

export interface PreviewedFile {
  readonly file: StoredFile;
  readonly match: FrameMatch | null;
  readonly identity: Identity | null;
  readonly state: ImportRow['state'];
}

interface ImportRecord {
  readonly id: string;
  readonly source: string;
  readonly state: 'preview' | 'applied' | 'undone';
}

export interface ImportParts {
  readonly database: Database;
  readonly changes: ChangeService;
  readonly observatory: ObservatoryService;
  readonly ledger: LedgerService;
}

export type ImportService = ReturnType<typeof createImportService>;

export function createImportService({ database, changes, observatory, ledger }: ImportParts) {
  changes.register('imports', {
    by: 'author',
    takeBack: (queries, _viewer, change) => takeBackImport(queries, change),
  });
  const own = async (queries: Queries, viewer: Viewer, id: string, lock = ''): Promise<ImportRecord> => {
    const found = await queries.one<ImportRecord>(
      `SELECT id, source, state FROM imports WHERE id = $1 AND observatory_id = $2 AND (person_id = $3 OR $4) ${lock}`,
      [id, viewer.observatoryId, viewer.personId, viewer.role === 'coordinator'],
    );
    if (!found) throw notFound('import');
    return found;
  };
  const open = async (queries: Queries, viewer: Viewer, id: string): Promise<ImportRecord> => {
    const found = await own(queries, viewer, id, 'FOR UPDATE');
    if (found.state !== 'preview')
      throw new ServiceError('NOT_POSSIBLE', 'This import has been applied already; begin another one');
    return found;
  };

  return {
    list: (viewer: Viewer): Promise<ImportSummary[]> =>
      database.rows(
        `SELECT i.id, i.source, p.name AS who, i.state, (extract(epoch FROM i.created) * 1000)::float8 AS "createdUtcMs", count(f.id)::int AS files,
           count(*) FILTER (WHERE f.outcome = 'added')::int AS added
         FROM imports i JOIN people p ON p.id = i.person_id LEFT JOIN import_files f ON f.import_id = i.id
         WHERE i.observatory_id = $1 AND (i.person_id = $2 OR $3) GROUP BY i.id, p.name ORDER BY i.created DESC LIMIT 50`,
        [viewer.observatoryId, viewer.personId, viewer.role === 'coordinator'],
      ),

    begin: ({ observatoryId, personId }: Viewer, source: string): Promise<{ id: string }> =>
      database.transaction(async ({ models }) => {
        const { id } = await models.Import.create({ observatoryId, personId, source });
        return { id };
      }),

    add: (viewer: Viewer, id: string, { files }: BodyOf<typeof addImportFiles>): Promise<{ ids: string[] }> =>
      database.transaction(async (queries) => {
        await open(queries, viewer, id);
        const wrong = files.find((file) => (file.facts === null) === (file.refused === null));
        if (wrong) throw refused('files', `${wrong.name}: give what was read or why it could not be`);
        const held = await queries.one<{ count: number }>(
          'SELECT count(*)::int AS count FROM import_files WHERE import_id = $1',
          [id],
        );
        if (held!.count + files.length > MAX_FILES_AN_IMPORT)
          throw refused(
            'files',
            `An import holds at most ${MAX_FILES_AN_IMPORT} files; begin another one for the rest`,
          );
        const rows = files.map(({ facts, headerKey, verdict, ...file }, i) => ({
          ...file,
          seq: held!.count + i,
          facts: facts && { ...facts, headerKey, verdict },
        }));
        const stored = await queries.rows<{ id: string }>(
          `INSERT INTO import_files (observatory_id, import_id, seq, name, size_bytes, facts, refused, data_sha256)
           SELECT $1, $2, (f->>'seq')::int, f->>'name', (f->>'sizeBytes')::bigint, nullif(f->'facts', 'null'), f->>'refused', decode(f->>'dataSha256', 'hex')
           FROM jsonb_array_elements($3::jsonb) f ORDER BY (f->>'seq')::int RETURNING id`,
          [viewer.observatoryId, id, JSON.stringify(rows)],
        );
        return { ids: stored.map((row) => row.id) };
      }),

    addHashes: (viewer: Viewer, id: string, { hashes }: BodyOf<typeof addImportHashes>): Promise<{ ok: true }> =>
      database.transaction(async (queries) => {
        await open(queries, viewer, id);
        await queries.rows(
          `UPDATE import_files f SET data_sha256 = decode(h->>'dataSha256', 'hex') FROM jsonb_array_elements($2::jsonb) h
           WHERE f.import_id = $1 AND f.id = (h->>'fileId')::uuid`,
          [id, JSON.stringify(hashes)],
        );
        return { ok: true };
      }),

    async preview(viewer: Viewer, id: string): Promise<ImportPreview> {
      const record = await own(database, viewer, id);
      const context = await importContext(database, viewer, observatory);
      const files = await previewed(database, viewer, record.id, context);
      return {
        ...record,
        rows: files.map((file) => rowOf(file, context)),
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
        await open(queries, viewer, id);
        const { panels, rigs, filters } = await importContext(queries, viewer, observatory);
        if (choice.panelId && !panels.some((panel) => panel.id === choice.panelId))
          throw refused('panelId', 'This panel is not among those your frames may count for');
        if (choice.rigId && !rigs.some((rig) => rig.id === choice.rigId)) throw notFound('rig');
        if (choice.filterId && !filters.some((filter) => filter.id === choice.filterId)) throw notFound('filter');
        await queries.rows(
          'UPDATE import_files SET by_hand = by_hand || $3::jsonb WHERE import_id = $1 AND id = ANY ($2)',
          [id, fileIds, JSON.stringify(choice)],
        );
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

    apply: (viewer: Viewer, id: string): Promise<{ added: number; known: number; left: number }> =>
      database.transaction(async (queries) => {
        // One import at a time writes into a ledger: two with the same frames would both find them new.
        await queries.rows(`SELECT pg_advisory_xact_lock(hashtext($1))`, [`import ${viewer.observatoryId}`]);
        await open(queries, viewer, id);
        const context = await importContext(queries, viewer, observatory);
        const files = await previewed(queries, viewer, id, context);
        const { added, known } = await writeExposures(queries, viewer, { importId: id, files, context });
        if (added.length + known === 0)
          throw new ServiceError(
            'NOT_POSSIBLE',
            'Nothing here can be imported yet: choose rig and filter, or add files',
          );
        await queries.rows(`UPDATE imports SET state = 'applied', applied = now() WHERE id = $1`, [id]);
        await ledger.judgeGoals(
          queries,
          viewer.observatoryId,
          added.flatMap(({ goalId }) => goalId ?? []),
        );
        await changes.record(queries, viewer, {
          entity: 'imports',
          entityId: id,
          projectId: null,
          words: `Imported ${added.length} exposure${added.length === 1 ? '' : 's'}`,
          before: { state: 'preview' },
          after: { state: 'applied' },
        });
        for (const topic of ['ledger', 'projects', 'plan'] as const)
          await announce(queries, viewer.observatoryId, topic);
        return { added: added.length, known, left: files.length - added.length - known };
      }),

    discard: (viewer: Viewer, id: string): Promise<{ ok: true }> =>
      database.transaction(async (queries) => {
        await open(queries, viewer, id);
        await queries.rows('DELETE FROM imports WHERE id = $1', [id]);
        return { ok: true };
      }),
  };
}

/** Every file with its match and identity, as they are now. */
async function previewed(
  queries: Queries,
  viewer: Viewer,
  importId: string,
  context: ImportContext,
): Promise<PreviewedFile[]> {
  const files = await queries.rows<StoredFile>(
    `SELECT id, name, facts, refused, by_hand AS "byHand", encode(data_sha256, 'hex') AS "dataSha256", outcome FROM import_files WHERE import_id = $1 ORDER BY seq`,
    [importId],
  );
  const matched = files.map((file) => ({ file, match: file.facts && matchFrame(file.facts, context, file.byHand) }));
  const identities = await identify(
    queries,
    viewer.observatoryId,
    matched.flatMap(({ file, match }) =>
      file.facts && match?.rigId && file.facts.startUtcMs !== null && file.facts.exposureSec !== null
        ? [
            {
              frameId: file.id,
              rigId: match.rigId,
              startUtcMs: file.facts.startUtcMs,
              exposureSec: file.facts.exposureSec,
              dataSha256: file.dataSha256,
              headerKey: file.facts.headerKey ?? headerKeyOf(match.rigId, file.facts, file.name),
            },
          ]
        : [],
    ),
  );
  return matched.map(({ file, match }) => {
    const identity = identities.get(file.id) ?? null;
    return { file, match, identity, state: stateOf(file, match, identity) };
  });
}

function stateOf(file: StoredFile, match: FrameMatch | null, identity: Identity | null): ImportRow['state'] {
  if (file.outcome === 'added') return 'added';
  if (file.outcome === 'known') return 'known';
  if (!file.facts || !match) return 'refused';
  const isLight = file.facts.kind === 'light';
  if (unwritableWords(file) !== null) return 'refused';
  if (!match.rigId || (isLight && !match.filterId)) return 'choose';
  if (identity?.is === 'known' && !identity.isWithdrawn) return 'known';
  if (identity?.is === 'unclear' && file.byHand.panelId === undefined) return 'look';
  if (match.certainty === 'ask') return 'look';
  return match.goalId ? 'ready' : 'uncredited';
}

/** Why a file can be no row of the ledger; null where it can. */
function unwritableWords({ facts, name }: StoredFile): string | null {
  if (!facts) return null;
  const combined = facts.combined ?? combinedName(name);
  if (combined) return combined;
  if (facts.startUtcMs === null) return 'the header says no start';
  if (facts.exposureSec === null) return 'the header says no length';
  return facts.binning === null ? 'the header says no binning that a ledger row has' : null;
}

function rowOf({ file, match, identity, state }: PreviewedFile, { panels }: ImportContext): ImportRow {
  const { facts } = file;
  const panel = panels.find(({ id }) => id === match?.panelId);
  const unwritable = unwritableWords(file);
  return {
    id: file.id,
    name: file.name,
    state,
    kind: facts?.kind ?? null,
    startUtcMs: facts?.startUtcMs ?? null,
    exposureSec: facts?.exposureSec ?? null,
    objectName: facts?.objectName ?? null,
    filterName: facts?.filterName ?? null,
    rigId: match?.rigId ?? null,
    filterId: match?.filterId ?? null,
    panelId: match?.panelId ?? null,
    panelName: panel?.name ?? null,
    projectName: panel?.projectName ?? null,
    goalId: match?.goalId ?? null,
    coverage: match?.coverage ?? null,
    creditShare: match?.creditShare ?? 0,
    isByHand: file.byHand.panelId !== undefined,
    hasHash: file.dataSha256 !== null,
    reasons: file.refused
      ? [file.refused]
      : [
          ...(unwritable ? [unwritable] : []),
          ...(identity?.is === 'unclear' ? [identity.words] : []),
          ...(match?.reasons ?? []),
        ],
    doubts: [...(facts?.doubts ?? [])],
  };
}

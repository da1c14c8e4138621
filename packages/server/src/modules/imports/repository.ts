// Imports as rows: files as they were read, what became of each, and what of the ledger and the projects they are matched against.
import type { ImportSummary } from '@meridiem/contract';
import type { FrameFacts, MatchPanel, SensorSides } from '@meridiem/core';
import { Op } from 'sequelize';
import { modeNow } from '../../database/camera-mode-repository.ts';
import type { Queries } from '../../database/connection.ts';
import type { Import } from '../../database/models/import.ts';
import { NOW } from '../../database/now.ts';
import { thisMoment } from '../../database/validity.ts';
import type { Viewer } from '../../plugins/sessions.ts';

/** What is stored of a frame beside what its header says. */
export type StoredFacts = FrameFacts & { headerKey?: string | null; verdict?: string | null };

export interface StoredFile {
  readonly id: string;
  readonly name: string;
  readonly facts: StoredFacts | null;
  readonly refused: string | null;
  readonly byHand: { rigId?: string; filterId?: string; panelId?: string | null };
  readonly dataSha256: string | null;
  readonly pixelsSha256: string | null;
  readonly outcome: string | null;
}

export interface RigRevisionTime {
  readonly id: string;
  readonly rigId: string;
  readonly fromUtcMs: number;
  readonly sensor: SensorSides;
}

/** Two imports into one ledger come one after the other: both would find the same frames new. */
export const lockImports = (queries: Queries, observatoryId: string): Promise<unknown> =>
  queries.rows(`SELECT pg_advisory_xact_lock(hashtext($1))`, [`import ${observatoryId}`]);

/** An import of the viewer's own, or anybody's for a coordinator; it may be held until the transaction ends. */
export const importOf = (
  { models }: Queries,
  { observatoryId, personId, role }: Viewer,
  id: string,
  { isHeld }: { isHeld: boolean },
): Promise<Import | null> =>
  models.Import.findOne({
    where: { id, observatoryId, ...(role === 'coordinator' ? {} : { personId }) },
    lock: isHeld,
  });

export const importsOf = (queries: Queries, viewer: Viewer): Promise<ImportSummary[]> =>
  queries.rows(
    `SELECT i.id, i.source, p.name AS who, i.state, (extract(epoch FROM i.created) * 1000)::float8 AS "createdUtcMs", count(f.id)::int AS files,
           count(*) FILTER (WHERE f.outcome = 'added')::int AS added
         FROM imports i JOIN people p ON p.id = i.person_id LEFT JOIN import_files f ON f.import_id = i.id
         WHERE i.observatory_id = $1 AND (i.person_id = $2 OR $3) GROUP BY i.id, p.name ORDER BY i.created DESC LIMIT 50`,
    [viewer.observatoryId, viewer.personId, viewer.role === 'coordinator'],
  );

export const countFiles = ({ models }: Queries, importId: string): Promise<number> =>
  models.ImportFile.count({ where: { importId } });

export interface NewFile {
  readonly seq: number;
  readonly name: string;
  readonly sizeBytes: number;
  readonly facts: StoredFacts | null;
  readonly refused: string | null;
  readonly dataSha256: string | null;
  readonly pixelsSha256: string | null;
}

/** @returns their ids in the order given */
export const insertFiles = async (
  queries: Queries,
  observatoryId: string,
  importId: string,
  files: readonly NewFile[],
): Promise<string[]> => {
  const rows = await queries.rows<{ id: string }>(
    `INSERT INTO import_files (observatory_id, import_id, seq, name, size_bytes, facts, refused, data_sha256, pixels_sha256)
           SELECT $1, $2, (f->>'seq')::int, f->>'name', (f->>'sizeBytes')::bigint, nullif(f->'facts', 'null'), f->>'refused', decode(f->>'dataSha256', 'hex'), decode(f->>'pixelsSha256', 'hex')
           FROM jsonb_array_elements($3::jsonb) f ORDER BY (f->>'seq')::int RETURNING id`,
    [observatoryId, importId, JSON.stringify(files)],
  );
  return rows.map(({ id }) => id);
};

export const setFileHashes = (
  queries: Queries,
  importId: string,
  hashes: readonly { fileId: string; dataSha256: string; pixelsSha256: string | null }[],
): Promise<unknown> =>
  queries.rows(
    `UPDATE import_files f SET data_sha256 = decode(h->>'dataSha256', 'hex'), pixels_sha256 = decode(h->>'pixelsSha256', 'hex') FROM jsonb_array_elements($2::jsonb) h
           WHERE f.import_id = $1 AND f.id = (h->>'fileId')::uuid`,
    [importId, JSON.stringify(hashes)],
  );

/** What a person chose for files is added to what they chose before. */
export const chooseByHand = (
  queries: Queries,
  importId: string,
  fileIds: readonly string[],
  choice: object,
): Promise<unknown> =>
  queries.rows('UPDATE import_files SET by_hand = by_hand || $3::jsonb WHERE import_id = $1 AND id = ANY ($2)', [
    importId,
    fileIds,
    JSON.stringify(choice),
  ]);

export const storedFiles = (queries: Queries, importId: string): Promise<StoredFile[]> =>
  queries.rows(
    `SELECT id, name, facts, refused, by_hand AS "byHand", encode(data_sha256, 'hex') AS "dataSha256", encode(pixels_sha256, 'hex') AS "pixelsSha256", outcome FROM import_files WHERE import_id = $1 ORDER BY seq`,
    [importId],
  );

export const setOutcomes = (
  queries: Queries,
  importId: string,
  outcomes: readonly { id: string; outcome: string; exposure: string | null }[],
): Promise<unknown> =>
  queries.rows(
    `UPDATE import_files f SET outcome = o->>'outcome', exposure_id = (o->>'exposure')::uuid FROM jsonb_array_elements($2::jsonb) o
     WHERE f.import_id = $1 AND f.id = (o->>'id')::uuid`,
    [importId, JSON.stringify(outcomes)],
  );

/** Those of the exposures that are lights. */
export async function lightsAmong({ models }: Queries, exposureIds: readonly string[]): Promise<ReadonlySet<string>> {
  if (exposureIds.length === 0) return new Set();
  const rows = await models.Exposure.findAll({ where: { id: [...exposureIds], kind: 'light' }, attributes: ['id'] });
  return new Set(rows.map(({ id }) => id));
}

/** Exposures are in the ledger, or out of it, by an import. */
export const insertPresence = (
  { models }: Queries,
  { observatoryId, importId, present }: { observatoryId: string; importId: string; present: boolean },
  exposureIds: readonly string[],
): Promise<unknown> =>
  models.ExposurePresence.bulkCreate(
    exposureIds.map((exposureId) => ({ observatoryId, exposureId, importId, present })),
  );

/** Hashes of exposures that had none, where no other exposure has the same data. */
export const fillIdentities = (
  queries: Queries,
  learned: readonly { id: string; sha: string; pixels: string | null }[],
): Promise<unknown> =>
  queries.rows(
    `SELECT fill_exposure_identity((f->>'id')::uuid, decode(f->>'sha', 'hex'), decode(f->>'pixels', 'hex')) FROM jsonb_array_elements($1::jsonb) f
     WHERE NOT EXISTS (SELECT 1 FROM exposures e WHERE e.data_sha256 = decode(f->>'sha', 'hex') AND e.id <> (f->>'id')::uuid)`,
    [JSON.stringify(learned)],
  );

export const revisionsOfRigs = (queries: Queries, observatoryId: string): Promise<RigRevisionTime[]> =>
  queries.rows(
    `SELECT v.id, v.rig_id AS "rigId", coalesce(extract(epoch FROM lower(v.during)) * 1000, 0)::float8 AS "fromUtcMs",
       jsonb_build_object('widthPx', c.width_px, 'heightPx', c.height_px) AS sensor
     FROM rig_revisions v JOIN cameras c ON c.id = v.camera_id WHERE v.observatory_id = $1 ORDER BY lower(v.during)`,
    [observatoryId],
  );

export const cameraSerials = (queries: Queries, observatoryId: string): Promise<{ rigId: string; serial: string }[]> =>
  queries.rows(
    'SELECT v.rig_id AS "rigId", c.serial FROM rig_revisions v JOIN cameras c ON c.id = v.camera_id WHERE v.observatory_id = $1 AND v.during @> $2::timestamptz',
    [observatoryId, thisMoment()],
  );

/** Panels that the viewer's frames may count for: own ones, a coordinator's frames any. */
export const panelsToMatch = (
  queries: Queries,
  viewer: Viewer,
): Promise<(Omit<MatchPanel, 'centre'> & { raDeg: number | null; decDeg: number | null })[]> =>
  queries.rows(
    `SELECT l.id, l.name, p.id AS "projectId", p.name AS "projectName", t.name AS "targetName", p.rig_id AS "rigId",
       l.ra_deg AS "raDeg", l.dec_deg AS "decDeg", l.position_angle_deg AS "positionAngleDeg",
       coalesce((SELECT jsonb_agg(jsonb_build_object('id', g.id, 'filterId', r.filter_id, 'exposureSec', v.exposure_s, 'gain', m.gain, 'binning', v.binning) ORDER BY g.enabled DESC, g.position)
         FROM goals g JOIN recipe_revisions v ON v.id = g.recipe_revision_id JOIN recipes r ON r.id = v.recipe_id ${modeNow('v', 'm')}
         WHERE g.panel_id = l.id), '[]') AS goals
     FROM framed_panels l JOIN projects p ON p.id = l.project_id JOIN targets t ON t.id = p.target_id
     WHERE p.observatory_id = $1 AND ($2 OR p.owner_id = $3) AND p.state IN ('granted', 'retired', 'queued', 'proposed', 'draft')
     ORDER BY p.created, l.position`,
    [viewer.observatoryId, viewer.role === 'coordinator', viewer.personId],
  );

/** Whether somebody has judged what an import added since. */
export const isJudgedSince = async (queries: Queries, importId: string): Promise<boolean> =>
  (await queries.one(
    `SELECT 1 FROM import_files f JOIN imports i ON i.id = f.import_id JOIN verdicts v ON v.exposure_id = f.exposure_id
     WHERE f.import_id = $1 AND f.outcome = 'added' AND v.origin = 'hand' AND v.reason <> 'as imported' AND v.at > i.applied AND v.withdraws IS NULL
       AND NOT EXISTS (SELECT 1 FROM verdicts w WHERE w.withdraws = v.seq)`,
    [importId],
  )) !== null;

/** Exposures that an import added leave the ledger with their credit. */
export async function withdrawImported({ models }: Queries, importId: string): Promise<void> {
  const files = await models.ImportFile.findAll({ where: { importId, outcome: 'added' } });
  const exposureIds = files.flatMap(({ exposureId }) => exposureId ?? []);
  await models.Attribution.update(
    { withdrawn: NOW },
    { where: { exposureId: { [Op.in]: exposureIds }, withdrawn: null } },
  );
  await models.ExposurePresence.bulkCreate(
    files.flatMap(({ observatoryId, exposureId }) =>
      exposureId === null ? [] : [{ observatoryId, exposureId, importId, present: false }],
    ),
  );
  await models.Import.update({ state: 'undone' }, { where: { id: importId } });
}

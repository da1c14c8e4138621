// Light frames of a project with their files, as rows.
import type { DeliveredFile, DeliverySet } from '@meridiem/contract';
import type { NamedFrame } from '@meridiem/core';
import type { Queries } from '../../database/connection.ts';

export type DeliveredRow = Omit<DeliveredFile, 'name' | 'kind' | 'verdict'> &
  Omit<NamedFrame, 'kind' | 'verdict'> & { readonly path: string; readonly recordedUtcMs: number } & Pick<
    DeliveredFile,
    'kind' | 'verdict'
  >;

const VERDICTS_OF: Readonly<Record<DeliverySet, readonly string[]>> = {
  accepted: ['accepted'],
  'not rejected': ['accepted', 'undecided'],
  all: ['accepted', 'undecided', 'rejected'],
};

/** Frames that count for the project, oldest first: an exposure of another's is never among them. */
export const deliveredRows = (queries: Queries, projectId: string, set: DeliverySet): Promise<DeliveredRow[]> =>
  queries.rows(
    `SELECT r.exposure_id AS "exposureId", fr.name AS path, fr.size_bytes::float8 AS "sizeBytes", encode(fr.sha256, 'hex') AS sha256, f.letter AS "filterLetter", f.letter AS filter,
       r.exposure_s AS "exposureSec", (extract(epoch FROM r.start_utc) * 1000)::float8 AS "startUtcMs", r.night_date::text AS "nightDate", r.verdict, e.kind,
       p.name AS project, coalesce(l.name, p.name) AS panel, g.name AS rig, (extract(epoch FROM e.recorded) * 1000)::float8 AS "recordedUtcMs"
     FROM ledger_rows r JOIN frames fr ON fr.exposure_id = r.exposure_id JOIN exposures e ON e.id = r.exposure_id JOIN filters f ON f.id = r.filter_id
     JOIN projects p ON p.id = r.project_id LEFT JOIN panels l ON l.id = r.panel_id JOIN rig_revisions v ON v.id = e.rig_revision_id JOIN rigs g ON g.id = v.rig_id
     WHERE r.project_id = $1 AND r.verdict = ANY($2) ORDER BY r.start_utc, r.exposure_id`,
    [projectId, [...VERDICTS_OF[set]]],
  );

/** Calibration frames, which belong to no project. */
export const calibrationRows = (queries: Queries, exposureIds: readonly string[]): Promise<DeliveredRow[]> =>
  queries.rows(
    `SELECT e.id AS "exposureId", fr.name AS path, fr.size_bytes::float8 AS "sizeBytes", encode(fr.sha256, 'hex') AS sha256, f.letter AS "filterLetter", coalesce(f.letter, '') AS filter,
       e.exposure_s AS "exposureSec", (extract(epoch FROM e.start_utc) * 1000)::float8 AS "startUtcMs", e.night_date::text AS "nightDate", NULL AS verdict, e.kind,
       '' AS project, '' AS panel, g.name AS rig, (extract(epoch FROM e.recorded) * 1000)::float8 AS "recordedUtcMs"
     FROM exposures e JOIN frames fr ON fr.exposure_id = e.id LEFT JOIN filters f ON f.id = e.filter_id
     JOIN rig_revisions v ON v.id = e.rig_revision_id JOIN rigs g ON g.id = v.rig_id WHERE e.id = ANY($1) ORDER BY e.kind, e.start_utc, e.id`,
    [exposureIds],
  );

export async function countWithoutFile(queries: Queries, projectId: string, set: DeliverySet): Promise<number> {
  const row = await queries.one<{ count: number }>(
    `SELECT count(*)::int AS count FROM ledger_rows r WHERE r.project_id = $1 AND r.verdict = ANY($2) AND NOT EXISTS (SELECT 1 FROM frames x WHERE x.exposure_id = r.exposure_id)`,
    [projectId, [...VERDICTS_OF[set]]],
  );
  return row!.count;
}

// Rows of the tables that go out.
import type { LedgerRecord } from '@meridiem/core';
import type { LedgerFilter } from '../ledger/index.ts';
import { conditionsOf } from '../ledger/index.ts';
import { maySee } from '../../privacy.ts';
import type { Viewer } from '../../plugins/sessions.ts';
import { MAX_EXPORT_ROWS } from '@meridiem/contract';
import type { Queries } from '../../database/connection.ts';

/** The ledger's lights, and the flats, darks and bias beside them, which no project counts and nobody judges. */
const LEDGER_AND_CALIBRATION = `
  SELECT observatory_id, exposure_id, project_id, panel_id, goal_id, filter_id, night_date, start_utc, credit_share, verdict, verdict_seq FROM ledger_rows
  UNION ALL
  SELECT e.observatory_id, e.id, NULL, NULL, NULL, e.filter_id, e.night_date, e.start_utc, NULL, '', NULL FROM exposures e
  WHERE e.kind <> 'light' AND coalesce((SELECT p.present FROM exposure_presence p WHERE p.exposure_id = e.id ORDER BY p.seq DESC LIMIT 1), true)`;

export const ledgerRecords = (queries: Queries, viewer: Viewer, filter: LedgerFilter): Promise<LedgerRecord[]> => {
  const { sql, bind } = conditionsOf(viewer, filter);
  const person = `$${bind.length + 1}`;
  return queries.rows(
    `SELECT e.kind, g.name AS "rigName", coalesce(e.camera_name, c.serial) AS "cameraName", coalesce(f.letter, '') AS "filterName", (extract(epoch FROM e.start_utc) * 1000)::float8 AS "startUtcMs",
           e.exposure_s AS "exposureSec", e.gain, e."offset", e.binning, e.sensor_c AS "sensorC", p.name AS "projectName", l.name AS "panelName", w.ra_deg AS "raDeg", w.dec_deg AS "decDeg",
           w.position_angle_deg AS "positionAngleDeg", CASE WHEN r.goal_id IS NOT NULL THEN r.credit_share END AS "creditShare", r.verdict, j.reason AS "verdictReason",
           e.observer_name AS "observerName", encode(e.data_sha256, 'hex') AS "dataSha256", encode(e.pixels_sha256, 'hex') AS "pixelsSha256", e.header_key AS "headerKey", e.simulated AS "isSimulated"
         FROM (${LEDGER_AND_CALIBRATION}) r JOIN exposures e ON e.id = r.exposure_id JOIN rig_revisions v ON v.id = e.rig_revision_id JOIN rigs g ON g.id = v.rig_id JOIN cameras c ON c.id = v.camera_id
         LEFT JOIN filters f ON f.id = r.filter_id LEFT JOIN projects p ON p.id = r.project_id LEFT JOIN panels l ON l.id = r.panel_id LEFT JOIN verdicts j ON j.seq = r.verdict_seq
         LEFT JOIN LATERAL (SELECT * FROM panel_pointings x WHERE x.panel_id = l.id ORDER BY seq DESC LIMIT 1) w ON true
         WHERE ${sql} AND (p.id IS NULL OR ${maySee('p', person, viewer.role)}) ORDER BY r.start_utc, r.exposure_id LIMIT ${MAX_EXPORT_ROWS + 1}`,
    [...bind, viewer.personId],
  );
};

export const targetRecords = (queries: Queries, viewer: Viewer): Promise<Record<string, string | null>[]> =>
  queries.rows(
    `SELECT p.name AS project, o.name AS owner, t.name AS target, l.name AS panel, l.ra_deg::text AS ra_deg, l.dec_deg::text AS dec_deg, l.position_angle_deg::text AS position_angle_deg, r.name AS rig
         FROM projects p JOIN people o ON o.id = p.owner_id JOIN targets t ON t.id = p.target_id JOIN rigs r ON r.id = p.rig_id JOIN framed_panels l ON l.project_id = p.id
         WHERE p.observatory_id = $1 AND ${maySee('p', '$2', viewer.role)} ORDER BY p.name, l.position`,
    [viewer.observatoryId, viewer.personId],
  );

export const goalRecords = (
  queries: Queries,
  viewer: Viewer,
  project: string | undefined,
): Promise<Record<string, string | null>[]> =>
  queries.rows(
    `SELECT p.name AS project, l.name AS panel, f.letter AS filter, r.name AS recipe, v.exposure_s::text AS exposure_s, g.wanted::text AS wanted, t.accepted::text AS accepted,
           t.undecided::text AS undecided, t.rejected::text AS rejected, t.accepted_s::text AS accepted_s, t.effective_s::text AS effective_s
         FROM goals g JOIN goal_totals t ON t.goal_id = g.id JOIN framed_panels l ON l.id = g.panel_id JOIN projects p ON p.id = l.project_id
         JOIN recipe_revisions v ON v.id = g.recipe_revision_id JOIN recipes r ON r.id = v.recipe_id JOIN filters f ON f.id = r.filter_id
         WHERE p.observatory_id = $1 AND ${maySee('p', '$2', viewer.role)} AND ($3::uuid IS NULL OR p.id = $3) ORDER BY p.name, l.position, g.position`,
    [viewer.observatoryId, viewer.personId, project ?? null],
  );

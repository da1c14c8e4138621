// Exposures of the ledger as rows: with what they were taken under and by, their owners, and the verdicts on them.
import type { BodyOf, judgeExposures } from '@meridiem/contract';
import { Op } from 'sequelize';
import type { Alert } from '../../database/models/alert.ts';
import { orbitOf } from '../../database/orbit-repository.ts';
import { thisMoment } from '../../database/validity.ts';
import type {
  TakenExposure,
  Orbit,
  FilterSky,
  JudgedExposure,
  JudgingRules,
  Identifiable,
  KnownExposure,
} from '@meridiem/core';
import { darkCurrentAt, modeNow, readNoiseAt } from '../../database/camera-mode-repository.ts';
import type { Queries } from '../../database/connection.ts';
import { DEFAULT_RULES, MEASURING_METHOD } from '@meridiem/core';
import type { Viewer } from '../../plugins/sessions.ts';

/** Exposures replayed to know what is usual, and the newest of them whose verdicts are given. */
const REPLAYED = 120;
/** What an exposure is shown against. */
const NEAREST = 31;
/** The rules of a joined row `u` of rule_revisions, or the core's own. */
export const RULES_SQL = `CASE WHEN u.id IS NULL THEN '${JSON.stringify(DEFAULT_RULES)}'::jsonb ELSE jsonb_build_object(
  'starSize', u.star_size_sigmas, 'starCount', u.star_count_sigmas, 'guiding', u.guiding_sigmas, 'background', u.background_sigmas,
  'elongation', u.elongation_sigmas, 'starlight', u.starlight_sigmas) END`;
/** What a file's own pixels say, once it has been measured; the starlight that arrives is known by them alone. */
const MEASURED_FILE_SQL = `LEFT JOIN frame_measures z ON z.exposure_id = r.exposure_id AND z.method = ${MEASURING_METHOD}`;
export interface JudgedRow extends JudgedExposure {
  readonly goalId: string;
  readonly projectId: string;
  readonly panelName: string;
  readonly filterLetter: string;
  readonly judging: boolean;
  readonly rules: JudgingRules;
  /** The newest rule verdict, where there is one. */
  readonly ruleVerdict: string | null;
  readonly ruleReason: string | null;
}

interface TakenWith {
  readonly binning: string;
  readonly gain: string;
  readonly sensorC: string;
  readonly startUtc: string;
}

/** What the sky is worked out from, of an observatory `o`, a filter `f`, a rig revision `v` and its camera `c`. */
const skyParts = ({ binning, gain, sensorC, startUtc }: TakenWith): string => `o.sky_zenith_mag_v AS "zenithMagV",
  jsonb_build_object('latitudeDeg', o.latitude_deg, 'longitudeDeg', o.longitude_deg, 'elevationM', o.elevation_m) AS site,
  jsonb_build_object('class', f.class, 'centreNm', f.centre_nm, 'widthNm', f.width_nm, 'extinctionMagPerAirmass', f.extinction_mag, 'zenithMag', f.sky_zenith_mag, 'moonFactor', f.moon_factor) AS filter,
  jsonb_build_object('apertureMm', v.aperture_mm, 'obstructionShare', v.obstruction_share, 'focalLengthMm', v.focal_length_mm, 'throughput', v.throughput, 'pixelUm', c.pixel_um,
    'darkCurrentEPerSec', ${darkCurrentAt('c', sensorC)}, 'binning', ${binning}, 'readNoiseE', ${readNoiseAt('v.rig_id', gain, startUtc)}) AS detector`;
export type TakenRow = Omit<TakenExposure, 'target' | 'filter'> & {
  readonly id: string;
  readonly raDeg: number | null;
  readonly decDeg: number | null;
  readonly orbit: Orbit | null;
  readonly filter: FilterSky;
};

export const takenExposures = (queries: Queries, exposureIds: readonly string[]): Promise<TakenRow[]> =>
  queries.rows(
    `SELECT e.id, (extract(epoch FROM e.start_utc) * 1000)::float8 AS "startUtcMs", e.exposure_s AS "exposureSec", w.ra_deg AS "raDeg", w.dec_deg AS "decDeg", ${orbitOf('w')} AS orbit, ${skyParts({ binning: 'e.binning', gain: 'e.gain', sensorC: 'e.sensor_c', startUtc: 'e.start_utc' })}
     FROM exposures e JOIN observatories o ON o.id = e.observatory_id JOIN filters f ON f.id = e.filter_id
     JOIN rig_revisions v ON v.id = e.rig_revision_id JOIN cameras c ON c.id = v.camera_id
     LEFT JOIN LATERAL (SELECT panel_id FROM attributions x WHERE x.exposure_id = e.id AND x.withdrawn IS NULL LIMIT 1) a ON true
     LEFT JOIN LATERAL (SELECT p.ra_deg, p.dec_deg, j.target_id FROM panel_pointings p JOIN panels l ON l.id = p.panel_id JOIN projects j ON j.id = l.project_id
       WHERE p.panel_id = a.panel_id ORDER BY p.seq DESC LIMIT 1) w ON true
     WHERE e.id = ANY ($1) AND e.kind = 'light' AND e.exposure_s > 0`,
    [exposureIds],
  );

/** Exposures that the open steps of a run will take. */
export const plannedExposures = (queries: Queries, runId: string): Promise<TakenRow[]> =>
  queries.rows(
    `SELECT s.id, (extract(epoch FROM s.planned_start) * 1000)::float8 AS "startUtcMs", s.exposure_s AS "exposureSec", w.ra_deg AS "raDeg", w.dec_deg AS "decDeg", ${orbitOf('w')} AS orbit, ${skyParts({ binning: 'r.binning', gain: 'y.gain', sensorC: 'r.sensor_c', startUtc: 's.planned_start' })}
     FROM run_steps s JOIN night_runs n ON n.id = s.run_id JOIN observatories o ON o.id = s.observatory_id
     JOIN goals g ON g.id = s.goal_id JOIN recipe_revisions r ON r.id = g.recipe_revision_id ${modeNow('r', 'y')}
     JOIN recipes q ON q.id = r.recipe_id JOIN filters f ON f.id = q.filter_id
     JOIN rig_revisions v ON v.rig_id = n.rig_id AND v.during @> $2::timestamptz JOIN cameras c ON c.id = v.camera_id
     JOIN LATERAL (SELECT p.ra_deg, p.dec_deg, j.target_id FROM panel_pointings p JOIN panels l ON l.id = p.panel_id JOIN projects j ON j.id = l.project_id
       WHERE p.panel_id = g.panel_id ORDER BY p.seq DESC LIMIT 1) w ON true
     WHERE s.run_id = $1 AND s.outcome IS NULL`,
    [runId, thisMoment()],
  );

export const insertAlert = (
  { models }: Queries,
  alert: Pick<Alert, 'observatoryId' | 'projectId' | 'kind' | 'words' | 'exposureId'>,
): Promise<unknown> => models.Alert.bulkCreate([alert], { ignoreDuplicates: true });

/** The goal's newest exposures, oldest first, without those rejected by hand: they don't tell what is usual. */
export const exposuresToJudge = (queries: Queries, goalId: string): Promise<JudgedRow[]> =>
  queries.rows(
    `SELECT * FROM (
       SELECT r.exposure_id AS id, r.goal_id AS "goalId", r.project_id AS "projectId", l.name AS "panelName", f.letter AS "filterLetter", p.judging, r.start_utc AS start,
         r.exposure_s AS "exposureSec", m.half_flux_radius_px AS "starSizePx", m.star_count AS "starCount", m.guiding_rms_arcsec AS "guidingArcsec", m.background_e AS "backgroundE",
         m.elongation, z.zero_point_mag AS "zeroPointMag", m.airmass, m.transparency, m.sky_ratio AS "skyRatio", r.night_date::text AS "nightDate", j.verdict AS "ruleVerdict", j.reason AS "ruleReason", ${RULES_SQL} AS rules
       FROM ledger_rows r JOIN measurements m ON m.exposure_id = r.exposure_id ${MEASURED_FILE_SQL} JOIN projects p ON p.id = r.project_id JOIN panels l ON l.id = r.panel_id JOIN filters f ON f.id = r.filter_id
       LEFT JOIN LATERAL (SELECT * FROM rule_revisions x WHERE x.rig_id = p.rig_id ORDER BY seq DESC LIMIT 1) u ON true
       LEFT JOIN LATERAL (SELECT verdict, reason FROM verdicts v WHERE v.exposure_id = r.exposure_id AND v.origin = 'rule' ORDER BY seq DESC LIMIT 1) j ON true
       LEFT JOIN verdicts h ON h.seq = r.verdict_seq AND h.origin = 'hand'
       WHERE r.goal_id = $1 AND m.airmass IS NOT NULL AND m.half_flux_radius_px IS NOT NULL AND h.verdict IS DISTINCT FROM 'rejected'
       ORDER BY r.start_utc DESC LIMIT ${REPLAYED}) newest ORDER BY start, id`,
    [goalId],
  );

/** Exposures of the same goal nearest in time, the one itself among them, oldest first. */
export const exposuresAround = (
  queries: Queries,
  exposureId: string,
): Promise<(JudgedExposure & { readonly verdict: string })[]> =>
  queries.rows(
    `SELECT * FROM (
       SELECT r.exposure_id AS id, r.verdict, r.start_utc AS start, r.exposure_s AS "exposureSec", m.half_flux_radius_px AS "starSizePx", m.star_count AS "starCount",
         m.guiding_rms_arcsec AS "guidingArcsec", m.background_e AS "backgroundE", m.elongation, z.zero_point_mag AS "zeroPointMag", m.airmass, m.transparency, m.sky_ratio AS "skyRatio",
         r.night_date::text AS "nightDate"
       FROM ledger_rows o JOIN ledger_rows r ON r.goal_id = o.goal_id JOIN measurements m ON m.exposure_id = r.exposure_id ${MEASURED_FILE_SQL}
       WHERE o.exposure_id = $1 AND m.airmass IS NOT NULL
       ORDER BY abs(extract(epoch FROM r.start_utc - o.start_utc)) LIMIT ${NEAREST}) nearest ORDER BY start, id`,
    [exposureId],
  );

/** Undecided exposures of a goal in which nothing was measured that a rule could judge, where rules decide what counts. */
export async function unmeasuredExposures(queries: Queries, goalId: string): Promise<string[]> {
  const rows = await queries.rows<{ id: string }>(
    `SELECT r.exposure_id AS id FROM ledger_rows r JOIN projects p ON p.id = r.project_id LEFT JOIN measurements m ON m.exposure_id = r.exposure_id
     WHERE r.goal_id = $1 AND r.verdict = 'undecided' AND r.verdict_seq IS NULL AND p.judging AND p.counting = 'after_rules'
       AND (m.airmass IS NULL OR m.half_flux_radius_px IS NULL) ORDER BY r.exposure_id`,
    [goalId],
  );
  return rows.map(({ id }) => id);
}

export const countsByNight = (
  queries: Queries,
  observatoryId: string,
): Promise<{ nightDate: string; count: number }[]> =>
  queries.rows(
    `SELECT night_date::text AS "nightDate", sum(exposures)::int AS count FROM ledger_tallies WHERE observatory_id = $1 GROUP BY night_date HAVING sum(exposures) > 0 ORDER BY night_date DESC LIMIT 400`,
    [observatoryId],
  );

export interface OwnedExposure {
  readonly id: string;
  readonly ownerId: string | null;
  readonly projectId: string | null;
  readonly private: boolean | null;
}

export const exposuresWithOwners = (
  queries: Queries,
  observatoryId: string,
  exposureIds: readonly string[],
): Promise<OwnedExposure[]> =>
  queries.rows(
    `SELECT e.id, p.owner_id AS "ownerId", p.id AS "projectId", p.private FROM exposures e LEFT JOIN attributions a ON a.exposure_id = e.id AND a.withdrawn IS NULL
           LEFT JOIN projects p ON p.id = a.project_id WHERE e.observatory_id = $1 AND e.id = ANY ($2)`,
    [observatoryId, exposureIds],
  );

/** Verdicts by hand, one for each exposure.
 * @returns their numbers */
export async function insertVerdicts(
  { models }: Queries,
  { observatoryId, personId, role }: Viewer,
  { exposureIds, verdict, reason }: BodyOf<typeof judgeExposures>,
): Promise<string[]> {
  const byCoordinator = role === 'coordinator';
  const rows = await models.Verdict.bulkCreate(
    [...new Set(exposureIds)].map((exposureId) => ({
      observatoryId,
      exposureId,
      origin: 'hand' as const,
      byCoordinator,
      personId,
      verdict,
      reason,
    })),
    { returning: ['seq'] },
  );
  return rows.map(({ seq }) => String(seq));
}

/** Each of these verdicts gets a row that withdraws it; the one before is in force again. */
export async function withdrawVerdicts(
  { models }: Queries,
  { personId, role }: Viewer,
  seqs: readonly string[],
): Promise<void> {
  const verdicts = await models.Verdict.findAll({ where: { seq: { [Op.in]: [...seqs] } } });
  await models.Verdict.bulkCreate(
    verdicts.map(({ seq, observatoryId, exposureId, verdict }) => ({
      observatoryId,
      exposureId,
      origin: 'hand' as const,
      byCoordinator: role === 'coordinator',
      personId,
      verdict,
      reason: 'taken back',
      withdraws: seq,
    })),
  );
}

/** Exposures that one of the frames may be: near its start on its rig, with its key, or with its data. */
export const knownExposures = (
  queries: Queries,
  observatoryId: string,
  frames: readonly Identifiable[],
  withinMs: number,
): Promise<KnownExposure[]> =>
  queries.rows(
    `WITH asked AS (SELECT * FROM jsonb_to_recordset($2::jsonb) AS a ("rigId" uuid, "startUtcMs" float8, "dataSha256" text, "pixelsSha256" text, "headerKey" text)),
       found AS (
         SELECT e.id FROM asked a JOIN exposures e ON e.observatory_id = $1
           AND e.start_utc BETWEEN to_timestamp((a."startUtcMs" - $3) / 1000) AND to_timestamp((a."startUtcMs" + $3) / 1000)
         UNION SELECT e.id FROM asked a JOIN exposures e ON e.header_key = a."headerKey" AND e.observatory_id = $1
         UNION SELECT e.id FROM asked a JOIN exposures e ON e.data_sha256 = decode(a."dataSha256", 'hex') AND e.observatory_id = $1
         UNION SELECT e.id FROM asked a JOIN exposures e ON e.pixels_sha256 = decode(a."pixelsSha256", 'hex') AND e.observatory_id = $1)
     SELECT e.id AS "exposureId", v.rig_id AS "rigId", (extract(epoch FROM e.start_utc) * 1000)::float8 AS "startUtcMs", e.exposure_s AS "exposureSec",
       encode(e.data_sha256, 'hex') AS "dataSha256", encode(e.pixels_sha256, 'hex') AS "pixelsSha256", e.header_key AS "headerKey",
       NOT coalesce((SELECT p.present FROM exposure_presence p WHERE p.exposure_id = e.id ORDER BY p.seq DESC LIMIT 1), true) AS "isWithdrawn"
     FROM found f JOIN exposures e ON e.id = f.id JOIN rig_revisions v ON v.id = e.rig_revision_id`,
    [observatoryId, JSON.stringify(frames), withinMs],
  );

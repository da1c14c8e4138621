// Visits as rows: shown with names, and what they will change for the season.
import type { Visit, VisitJob } from '@meridiem/contract';
import { Op } from 'sequelize';
import type { Queries } from '../../database/connection.ts';
import { thisMoment } from '../../database/validity.ts';
import type { VisitJob as StoredJob } from '../../database/models/visit-job.ts';

/** Days that visits stay on the page after they were made. */
const SHOWN_DAYS = 60;
/** Frames that a measured angle is offered from. */
const FRAMES = 20;
const MS = (moment: string): string => `(extract(epoch FROM ${moment}) * 1000)::float8`;

export async function visitsOf(queries: Queries, observatoryId: string, tonight: string): Promise<Visit[]> {
  const visits = await queries.rows<Omit<Visit, 'jobs'>>(
    `SELECT v.id, v.version, to_char(v.night_date, 'YYYY-MM-DD') AS "nightDate", v.goes_id AS "goesId", p.name AS "goesName", v.words
     FROM visits v LEFT JOIN people p ON p.id = v.goes_id
     WHERE v.observatory_id = $1 AND NOT v.cancelled AND (v.night_date > $2::date - ${SHOWN_DAYS} OR EXISTS (SELECT 1 FROM visit_jobs j WHERE j.visit_id = v.id AND j.state = 'open'))
     ORDER BY v.night_date`,
    [observatoryId, tonight],
  );
  const jobs = await jobsOf(
    queries,
    visits.map(({ id }) => id),
  );
  return visits.map((visit) => ({
    ...visit,
    jobs: jobs.filter(({ visitId }) => visitId === visit.id).map(({ visitId: _visit, ...job }) => job),
  }));
}

const jobsOf = (queries: Queries, visitIds: readonly string[]): Promise<(VisitJob & { visitId: string })[]> =>
  queries.rows(
    `SELECT j.id, j.visit_id AS "visitId", j.rig_id AS "rigId", j.work, j.sky_angle_deg AS "skyAngleDeg", j.fits_id AS "fitsId", j.removes_id AS "removesId", j.words, j.state,
       p.name AS "settledByName", ${MS('j.settled')} AS "settledUtcMs", j.measured_deg AS "measuredDeg", ${MS('e.start_utc')} AS "frameUtcMs"
     FROM visit_jobs j LEFT JOIN people p ON p.id = j.settled_by LEFT JOIN exposures e ON e.id = j.exposure_id
     WHERE j.visit_id = ANY ($1) AND j.state <> 'removed' ORDER BY j.created, j.id`,
    [visitIds],
  );

/** Work of visits to come that changes what a rig serves: planned, not confirmed. */
export interface PlannedWork {
  readonly jobId: string;
  readonly rigId: string;
  readonly nightDate: string;
  readonly skyAngleDeg: number | null;
  readonly fitsId: string | null;
  readonly removesId: string | null;
}

export const plannedWork = (queries: Queries, observatoryId: string, tonight: string): Promise<PlannedWork[]> =>
  queries.rows(
    `SELECT j.id AS "jobId", j.rig_id AS "rigId", to_char(v.night_date, 'YYYY-MM-DD') AS "nightDate", j.sky_angle_deg AS "skyAngleDeg", j.fits_id AS "fitsId", j.removes_id AS "removesId"
     FROM visit_jobs j JOIN visits v ON v.id = j.visit_id
     WHERE j.observatory_id = $1 AND NOT v.cancelled AND v.night_date >= $2::date AND j.state = 'open' AND j.work IN ('angle', 'filter')
     ORDER BY v.night_date, j.created, j.id`,
    [observatoryId, tonight],
  );

/** Who has hands on site now. */
export const handsOf = (queries: Queries, observatoryId: string): Promise<{ personId: string; name: string }[]> =>
  queries.rows(
    `SELECT p.id AS "personId", p.name FROM memberships m JOIN people p ON p.id = m.person_id
     WHERE m.observatory_id = $1 AND m.role IN ('helper', 'coordinator') AND m.during @> $2::timestamptz AND NOT m.suspended ORDER BY p.name`,
    [observatoryId, thisMoment().toISOString()],
  );

export interface MeasuredFrame {
  readonly exposureId: string;
  readonly startUtcMs: number;
  readonly skyAngleDeg: number;
  readonly nightDate: string;
}

/** The latest imported frames of a rig whose header says how they lie on the sky. */
export const measuredFrames = (
  queries: Queries,
  of: { observatoryId: string; rigId: string; exposureId?: string },
): Promise<MeasuredFrame[]> =>
  queries.rows(
    `SELECT e.id AS "exposureId", ${MS('e.start_utc')} AS "startUtcMs", (f.facts->>'positionAngleDeg')::float8 AS "skyAngleDeg", to_char(e.night_date, 'YYYY-MM-DD') AS "nightDate"
     FROM exposures e JOIN rig_revisions r ON r.id = e.rig_revision_id JOIN import_files f ON f.exposure_id = e.id
     WHERE e.observatory_id = $1 AND r.rig_id = $2 AND jsonb_typeof(f.facts->'positionAngleDeg') = 'number' AND ($3::uuid IS NULL OR e.id = $3::uuid)
     ORDER BY e.start_utc DESC, e.id LIMIT ${FRAMES}`,
    [of.observatoryId, of.rigId, of.exposureId ?? null],
  );

/** A job that may still be settled, held while it is; null where there is none. */
export async function openJob({ models }: Queries, observatoryId: string, id: string): Promise<StoredJob | null> {
  return models.VisitJob.findOne({ where: { id, observatoryId, state: { [Op.ne]: 'removed' } }, lock: true });
}

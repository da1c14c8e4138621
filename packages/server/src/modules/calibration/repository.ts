// Lights that want calibration, and the frames there are for it, as rows: alike ones of a night together. Flats of a night are alike
// whatever their lengths, for those of the sky grow with every one: their middle length stands for them.
import type { CalibratedLight, CalibrationEvent, CalibrationSet } from '@meridiem/core';
import { DateTime } from 'luxon';
import type { Queries } from '../../database/connection.ts';

/** Sets this long before the period still count. */
const SHELF_YEARS = 2;

/** Where a motor turns the camera each frame has its angle, to a tenth of a degree; one that only a visit turns has its dated angle.
 * A sky angle is never taken for a rotator's: flats would be turned to it. */
const ANGLE = `coalesce(round(e.mechanical_angle_deg::numeric, 1)::float8, a.sky_angle_deg)`;

const REGION = `CASE WHEN e.region_width_px IS NOT NULL THEN jsonb_build_object('widthPx', e.region_width_px, 'heightPx', e.region_height_px) END`;

const ALIKE = `v.rig_id AS "rigId", e.filter_id AS "filterId", e.rig_revision_id AS "opticsId", ${ANGLE} AS "mechanicalAngleDeg", e.gain, e."offset", e.binning,
  ${REGION} AS region, percentile_disc(0.5) WITHIN GROUP (ORDER BY e.exposure_s) AS "exposureSec", round(e.sensor_c)::float8 AS "sensorC", (extract(epoch FROM max(e.start_utc)) * 1000)::float8 AS "utcMs", count(*)::int AS count, array_agg(e.id) AS "exposureIds"`;
const PRESENT = `coalesce((SELECT p.present FROM exposure_presence p WHERE p.exposure_id = e.id ORDER BY p.seq DESC LIMIT 1), true)`;
const GROUPED = `GROUP BY v.rig_id, e.kind, e.night_date, e.filter_id, e.rig_revision_id, ${ANGLE}, e.gain, e."offset", e.binning, e.region_width_px, e.region_height_px, CASE WHEN e.kind <> 'flat' THEN e.exposure_s END, round(e.sensor_c)`;
const FRAMES = `exposures e JOIN rig_revisions v ON v.id = e.rig_revision_id LEFT JOIN rig_angles a ON a.rig_id = v.rig_id AND a.during @> e.start_utc AND v.rotator_kind <> 'motor'`;

interface OfRig {
  readonly rigId: string;
  readonly exposureIds: readonly string[];
}
export type RigLight = CalibratedLight & OfRig;
export type RigSet = CalibrationSet & OfRig;

export interface Nights {
  readonly from: string;
  readonly to: string;
}

/** Lights that were not rejected. */
export const lightsOf = (queries: Queries, observatoryId: string, { from, to }: Nights): Promise<RigLight[]> =>
  queries.rows(
    `SELECT ${ALIKE} FROM ${FRAMES} WHERE e.observatory_id = $1 AND e.kind = 'light' AND e.night_date BETWEEN $2 AND $3 AND ${PRESENT}
       AND NOT EXISTS (SELECT 1 FROM ledger_rows r WHERE r.exposure_id = e.id AND r.verdict = 'rejected') ${GROUPED}`,
    [observatoryId, from, to],
  );

export const shelfOf = (queries: Queries, observatoryId: string, { from, to }: Nights): Promise<RigSet[]> =>
  queries.rows(
    `SELECT e.kind, e.kind || ' ' || min(e.id::text) AS id, ${ALIKE} FROM ${FRAMES} WHERE e.observatory_id = $1 AND e.kind <> 'light'
       AND e.night_date BETWEEN $2::date - interval '${SHELF_YEARS} years' AND $3::date + interval '${SHELF_YEARS} years' AND ${PRESENT} ${GROUPED}`,
    [observatoryId, from, to],
  );

export type RigEvent = CalibrationEvent & { readonly rigId: string };

/** Cleanings that a visit has done, at noon of its day: dust lies elsewhere since. */
export async function cleaningsOf(queries: Queries, observatoryId: string): Promise<RigEvent[]> {
  const rows = await queries.rows<{ rigId: string; utcMs: number; nightDate: string }>(
    `SELECT j.rig_id AS "rigId", v.night_date::text AS "nightDate", (extract(epoch FROM (v.night_date + time '12:00') AT TIME ZONE o.time_zone) * 1000)::float8 AS "utcMs"
     FROM visit_jobs j JOIN visits v ON v.id = j.visit_id JOIN observatories o ON o.id = v.observatory_id
     WHERE j.observatory_id = $1 AND j.work = 'cleaning' AND j.state = 'done' AND NOT v.cancelled`,
    [observatoryId],
  );
  return rows.map(({ rigId, utcMs, nightDate }) => ({
    rigId,
    utcMs,
    kinds: ['flat'],
    words: `cleaned on ${DateTime.fromISO(nightDate).toFormat('d LLL yyyy')}`,
  }));
}

/** When each rig's guider has taken darks last. */
export const lastGuideDarks = (queries: Queries, observatoryId: string): Promise<{ rigId: string; utcMs: number }[]> =>
  queries.rows(
    `SELECT n.rig_id AS "rigId", (extract(epoch FROM max(a.ended)) * 1000)::float8 AS "utcMs" FROM run_actions a JOIN night_runs n ON n.id = a.run_id
     WHERE a.observatory_id = $1 AND a.kind = 'guide darks' AND a.outcome = 'done' GROUP BY n.rig_id`,
    [observatoryId],
  );

// Nights that play, as rows: a run held by one runner at a time, its steps, and the exposures that come of them.
import type { NightRun, RunStep, StepOutcome } from '@meridiem/contract';
import type { NightPlan, Orbit, SensorSides, Site } from '@meridiem/core';
import { col, fn, Op } from 'sequelize';
import { modeNow } from '../../database/camera-mode-repository.ts';
import type { Queries } from '../../database/connection.ts';
import { NOW } from '../../database/now.ts';
import { thisMoment } from '../../database/validity.ts';
import { orbitOf } from '../../database/orbit-repository.ts';
import type { Viewer } from '../../plugins/sessions.ts';
import { maySee, RESERVED } from '../../privacy.ts';

/** A runner that has said nothing for so long is silent; a night without devices is another's then. */
export const SILENT_SEC = 20;
/** A rehearsed exposure is short, and each gets some time for its chain. */
const REHEARSED_LONGEST_SEC = 30;
const REHEARSED_CHANGE_SEC = 60;
const UNDER_WAY = { [Op.in]: ['requested', 'running', 'stopping'] as const };

export interface RunRow {
  readonly id: string;
  readonly observatoryId: string;
  readonly rigId: string;
  readonly state: string;
  readonly fence: number;
  readonly nightDate: string;
  readonly kind: 'night' | 'rehearsal';
  readonly expiresUtcMs: number | null;
}

export type OpenStep = Omit<RunStep, 'airmass' | 'transparency' | 'skyRatio'>;

/** The newest run of a rig's night. */
export const newestRun = (
  queries: Queries,
  rigId: string,
  nightDate: string,
): Promise<Omit<NightRun, 'now' | 'next'> | null> =>
  queries.one(
    `SELECT n.id, n.kind, n.ended_as AS "endedAs", (extract(epoch FROM n.expires) * 1000)::float8 AS "expiresUtcMs", n.state, n.speed, (extract(epoch FROM n.heard) * 1000)::float8 AS "heardUtcMs",
       (n.state IN ('running', 'stopping') AND n.heard < now() - ${SILENT_SEC} * interval '1 second') IS TRUE AS silent,
       (SELECT (extract(epoch FROM max(s.planned_start + CASE WHEN s.outcome IS NULL THEN interval '0' ELSE s.exposure_s * interval '1 second' END)) * 1000)::float8
          FROM run_steps s WHERE s.run_id = n.id AND s.intent IS NOT NULL) AS "clockUtcMs",
       (SELECT count(*)::int FROM run_steps s WHERE s.run_id = n.id AND s.outcome = 'done') AS "stepsDone",
       (SELECT count(*)::int FROM run_steps s WHERE s.run_id = n.id AND s.outcome = 'lost') AS "stepsLost",
       (SELECT count(*)::int FROM run_steps s WHERE s.run_id = n.id AND s.outcome IS DISTINCT FROM 'replaced') AS "stepsAll"
     FROM night_runs n JOIN night_plans p ON p.id = n.plan_id
     WHERE n.rig_id = $1 AND p.night_date = $2 ORDER BY n.requested DESC LIMIT 1`,
    [rigId, nightDate],
  );

export interface StepRow {
  readonly panelName: string;
  readonly filterLetter: string;
  readonly startUtcMs: number;
  readonly exposureSec: number;
}

const stepOf = (viewer: Viewer): string => `
  SELECT CASE WHEN ${maySee('p', '$2', viewer.role)} THEN l.name ELSE '${RESERVED}' END AS "panelName", f.letter AS "filterLetter", (extract(epoch FROM s.planned_start) * 1000)::float8 AS "startUtcMs", s.exposure_s AS "exposureSec"
  FROM run_steps s JOIN goals g ON g.id = s.goal_id JOIN panels l ON l.id = g.panel_id JOIN projects p ON p.id = l.project_id
  JOIN recipe_revisions v ON v.id = g.recipe_revision_id JOIN recipes r ON r.id = v.recipe_id JOIN filters f ON f.id = r.filter_id
  WHERE s.run_id = $1`;

/** The step of a run that is being carried out, and the one after it; panels of private projects without names. */
export async function stepsAtWork(
  queries: Queries,
  viewer: Viewer,
  runId: string,
): Promise<{ now: StepRow | null; next: StepRow | null }> {
  const step = stepOf(viewer);
  const bind = [runId, viewer.personId];
  return {
    now: await queries.one(`${step} AND s.intent IS NOT NULL AND s.outcome IS NULL ORDER BY s.seq LIMIT 1`, bind),
    next: await queries.one(`${step} AND s.intent IS NULL AND s.outcome IS NULL ORDER BY s.seq LIMIT 1`, bind),
  };
}

/** A run that is asked for or plays. */
export const runUnderWay = (
  { models }: Queries,
  observatoryId: string,
  id: string,
): Promise<{ rigId: string; kind: 'night' | 'rehearsal' } | null> =>
  models.NightRun.findOne({ where: { id, observatoryId, state: UNDER_WAY } });

export const isRunUnderWay = async ({ models }: Queries, rigId: string): Promise<boolean> =>
  (await models.NightRun.count({ where: { rigId, state: UNDER_WAY } })) > 0;

/** One step an exposure: of the plan, or, where it was begun before, what the last run of it had left open, by whichever plan that was.
 * @returns how many there are */
export async function insertSteps(queries: Queries, runId: string, planId: string): Promise<number> {
  const before = await queries.models.NightRun.findOne({
    where: { planId, kind: 'night', id: { [Op.ne]: runId } },
    order: [['requested', 'DESC']],
  });
  if (!before) return insertStepsOfPlan(queries, runId, planId);
  const open = await queries.models.RunStep.findAll({
    where: { runId: before.id, outcome: null },
    order: ['plannedStart'],
  });
  await queries.models.RunStep.bulkCreate(
    open.map(({ observatoryId, goalId, plannedStart, exposureS, rateShare }, i) => ({
      ...{ observatoryId, runId, seq: i + 1, goalId, plannedStart, exposureS, rateShare },
    })),
  );
  return open.length;
}

async function insertStepsOfPlan(queries: Queries, runId: string, planId: string): Promise<number> {
  const rows = await queries.rows(
    `INSERT INTO run_steps (observatory_id, run_id, seq, goal_id, planned_start, exposure_s, rate_share)
     SELECT b.observatory_id, $1, row_number() OVER (ORDER BY s.planned), r.goal_id, s.planned, r.exposure_s, r.mean_rate_share
     FROM plan_blocks b JOIN plan_runs r ON r.block_id = b.id CROSS JOIN LATERAL unnest(r.exposure_starts) AS s(planned)
     WHERE b.plan_id = $2 RETURNING id`,
    [runId, planId],
  );
  return rows.length;
}

/** The first exposure of each filter of each stay, short, one after the other from a moment on. */
export const insertRehearsalSteps = (
  queries: Queries,
  runId: string,
  planId: string,
  fromUtcMs: number,
): Promise<unknown> =>
  queries.rows(
    `INSERT INTO run_steps (observatory_id, run_id, seq, goal_id, planned_start, exposure_s, rate_share)
           SELECT o.observatory_id, $1, row_number() OVER w, o.goal_id,
             $3::timestamptz + (sum(o.exposure_s + ${REHEARSED_CHANGE_SEC}) OVER w - o.exposure_s) * interval '1 second', o.exposure_s, o.mean_rate_share
           FROM (SELECT DISTINCT ON (b.position, r.goal_id) b.observatory_id, b.position AS block, r.position, r.goal_id,
                   least(r.exposure_s, ${REHEARSED_LONGEST_SEC}) AS exposure_s, r.mean_rate_share
                 FROM plan_blocks b JOIN plan_runs r ON r.block_id = b.id WHERE b.plan_id = $2 ORDER BY b.position, r.goal_id, r.position) o
           WINDOW w AS (ORDER BY o.block, o.position)`,
    [runId, planId, new Date(fromUtcMs).toISOString()],
  );

/** @returns the rig, or null where the run has ended */
export const askToStop = (queries: Queries, observatoryId: string, runId: string): Promise<{ rigId: string } | null> =>
  queries.one(
    `UPDATE night_runs SET state = CASE WHEN state = 'requested' THEN 'stopped' ELSE 'stopping' END
           WHERE id = $1 AND observatory_id = $2 AND state IN ('requested', 'running', 'stopping') RETURNING rig_id AS "rigId"`,
    [runId, observatoryId],
  );

/** Rehearsals whose day is over, and that nobody holds. */
export const endOldRehearsals = (queries: Queries, nowUtcMs: number): Promise<unknown> =>
  queries.rows(
    `UPDATE night_runs SET state = 'stopped' WHERE kind = 'rehearsal' AND expires <= $1 AND (state = 'requested' OR (state IN ('running', 'stopping') AND lease_until < now()))`,
    [new Date(nowUtcMs).toISOString()],
  );

/** The oldest run that nobody holds, or that a silent runner of the same site does, held by this runner from now on. */
export const claimRun = (
  queries: Queries,
  { holder, site, playing }: { holder: string; site: string | null; playing: readonly string[] },
): Promise<(RunRow & { speed: number; rigName: string }) | null> =>
  queries.one(
    `UPDATE night_runs n SET holder = $1, site = $4, lease_s = $2, lease_until = now() + $2 * interval '1 second', fence = fence + 1, heard = now(),
           state = CASE WHEN n.state = 'stopping' THEN 'stopping' ELSE 'running' END
         FROM night_plans p, rigs r WHERE p.id = n.plan_id AND r.id = n.rig_id AND n.id = (
           SELECT id FROM night_runs WHERE id <> ALL($3::uuid[]) AND (state = 'requested' OR (state IN ('running', 'stopping')
             AND (lease_until < now() OR (site = $4 AND heard < now() - $2 * interval '1 second'))))
           ORDER BY requested LIMIT 1 FOR UPDATE SKIP LOCKED)
         RETURNING n.id, n.observatory_id AS "observatoryId", n.rig_id AS "rigId", n.state, n.fence, p.night_date::text AS "nightDate", n.speed, n.kind, r.name AS "rigName"`,
    [holder, SILENT_SEC, [...playing], site],
  );

export const opticsOf = (queries: Queries, rigId: string): Promise<{ pixelUm: number; focalLengthMm: number } | null> =>
  queries.one(
    'SELECT c.pixel_um AS "pixelUm", v.focal_length_mm AS "focalLengthMm" FROM rig_revisions v JOIN cameras c ON c.id = v.camera_id WHERE v.rig_id = $1 AND v.during @> $2::timestamptz',
    [rigId, thisMoment()],
  );

/** @param heldSec from now on nobody else may claim it, heard or not */
export const holdRun = (
  queries: Queries,
  id: string,
  { leaseSec, heldSec }: { leaseSec: number; heldSec: number },
): Promise<unknown> =>
  queries.rows(
    `UPDATE night_runs SET lease_s = $2::int, lease_until = now() + greatest($2::int, $3::float8) * interval '1 second' WHERE id = $1`,
    [id, leaseSec, heldSec],
  );

/** The run with its lease renewed. */
export const renewLease = (queries: Queries, runId: string): Promise<RunRow | null> =>
  queries.one(
    `UPDATE night_runs n SET lease_until = greatest(n.lease_until, now() + n.lease_s * interval '1 second'), heard = now() FROM night_plans p
     WHERE n.id = $1 AND p.id = n.plan_id RETURNING n.id, n.observatory_id AS "observatoryId", n.rig_id AS "rigId", n.state, n.fence, p.night_date::text AS "nightDate",
       n.kind, (extract(epoch FROM n.expires) * 1000)::float8 AS "expiresUtcMs"`,
    [runId],
  );

export const intendStep = ({ models }: Queries, runId: string, id: string): Promise<unknown> =>
  models.RunStep.update({ intent: fn('coalesce', col('intent'), NOW) }, { where: { id, runId } });

/** @returns whether this is its first outcome */
export async function endStep(
  { models }: Queries,
  runId: string,
  { stepId, outcome, words }: StepOutcome,
): Promise<boolean> {
  // What was really taken counts, also where the step was replaced or given up by then.
  const open =
    outcome === 'done' ? { [Op.or]: [{ outcome: null }, { outcome: { [Op.ne]: 'done' } }] } : { outcome: null };
  const [count] = await models.RunStep.update(
    { outcome, words, ended: NOW, intent: fn('coalesce', col('intent'), NOW) },
    { where: { id: stepId, runId, ...open } },
  );
  return count > 0;
}

/** Exposures that were never begun give way to a plan made again; one that was begun and broken off, or whose runner was lost in it, is
 * nobody's now: should it be told of yet, it counts all the same. */
export async function replaceOpenSteps({ models }: Queries, runId: string): Promise<void> {
  await models.RunStep.update(
    { outcome: 'lost', ended: NOW, words: 'Broken off, and the rest of the night planned again' },
    { where: { runId, outcome: null, intent: { [Op.ne]: null } } },
  );
  await models.RunStep.update(
    { outcome: 'replaced', ended: NOW, words: 'Planned again in the night' },
    { where: { runId, outcome: null } },
  );
}

/** Nothing is left open when a night has ended by itself. */
export const leaveOpenSteps = ({ models }: Queries, runId: string): Promise<unknown> =>
  models.RunStep.update(
    {
      outcome: 'lost',
      ended: NOW,
      words: 'Not begun: the night had ended',
      intent: fn('coalesce', col('intent'), NOW),
    },
    { where: { runId, outcome: null } },
  );

/** One step an exposure, after those the run has. */
export async function insertPlannedSteps(
  { models }: Queries,
  { id: runId, observatoryId }: RunRow,
  { blocks }: NightPlan,
): Promise<void> {
  const last = ((await models.RunStep.max('seq', { where: { runId } })) as number | null) ?? 0;
  const exposures = blocks
    .flatMap(({ runs }) =>
      runs.flatMap(({ goalId, exposureSec, meanRateShare, exposureStartsUtcMs }) =>
        exposureStartsUtcMs.map((utcMs) => ({ goalId, exposureS: exposureSec, rateShare: meanRateShare, utcMs })),
      ),
    )
    .toSorted((a, b) => a.utcMs - b.utcMs);
  await models.RunStep.bulkCreate(
    exposures.map(({ utcMs, ...step }, i) => ({
      ...step,
      observatoryId,
      runId,
      seq: last + i + 1,
      plannedStart: new Date(utcMs),
    })),
  );
}

export const askToStopRun = ({ models }: Queries, id: string): Promise<unknown> =>
  models.NightRun.update({ state: 'stopping' }, { where: { id } });

export const endRun = (
  { models }: Queries,
  id: string,
  { state, endedAs }: { state: 'stopped' | 'finished'; endedAs: string | null },
): Promise<unknown> =>
  models.NightRun.update({ state, endedAs, leaseUntil: null, holder: null, site: null }, { where: { id } });

/** Steps without an outcome, in their order, with where they point. */
export const openSteps = (
  queries: Queries,
  runId: string,
): Promise<(OpenStep & { orbit: Orbit | null; site: Site })[]> =>
  queries.rows(
    `SELECT s.id, s.seq, (extract(epoch FROM s.planned_start) * 1000)::float8 AS "plannedStartUtcMs", s.exposure_s AS "exposureSec", l.id AS "panelId", l.name AS "panelName",
       f.letter AS "filterLetter", f.class AS "filterClass", w.ra_deg AS "raDeg", w.dec_deg AS "decDeg", w.position_angle_deg AS "positionAngleDeg", m.gain, v."offset", v.binning, v.dither_every AS "ditherEvery", v.dither_px AS "ditherPx",
       ${REGION},
       p.step_guide AS guide, p.step_centre AS centre, p.step_focus AS focus, v.sensor_c AS "sensorC", s.rate_share AS "rateShare",
       ${orbitOf('p')} AS orbit, jsonb_build_object('latitudeDeg', o.latitude_deg, 'longitudeDeg', o.longitude_deg, 'elevationM', o.elevation_m) AS site
     FROM run_steps s JOIN goals g ON g.id = s.goal_id JOIN panels l ON l.id = g.panel_id JOIN projects p ON p.id = l.project_id JOIN observatories o ON o.id = s.observatory_id
     JOIN LATERAL (SELECT * FROM panel_pointings x WHERE x.panel_id = l.id ORDER BY seq DESC LIMIT 1) w ON true
     JOIN recipe_revisions v ON v.id = g.recipe_revision_id JOIN recipes r ON r.id = v.recipe_id JOIN filters f ON f.id = r.filter_id ${modeNow('v', 'm')}
     WHERE s.run_id = $1 AND s.outcome IS NULL ORDER BY s.seq`,
    [runId],
  );

const REGION = `CASE WHEN v.region_width_px IS NOT NULL THEN jsonb_build_object('widthPx', v.region_width_px, 'heightPx', v.region_height_px) END AS region`;

/** What a step's exposure is taken with and for. */
export interface StepFacts {
  readonly rigRevisionId: string;
  readonly filterId: string;
  readonly offset: number;
  readonly binning: number;
  readonly region: SensorSides | null;
  readonly projectId: string;
  readonly panelId: string;
  readonly goalId: string;
  readonly goalExposureSec: number;
  readonly rateShare: number;
}

export const stepFacts = (queries: Queries, rigId: string, stepId: string): Promise<StepFacts | null> =>
  queries.one(
    `SELECT x.id AS "rigRevisionId", r.filter_id AS "filterId", v."offset", v.binning, ${REGION}, l.project_id AS "projectId", l.id AS "panelId", g.id AS "goalId",
       s.exposure_s AS "goalExposureSec", s.rate_share AS "rateShare"
     FROM run_steps s JOIN goals g ON g.id = s.goal_id JOIN panels l ON l.id = g.panel_id
     JOIN recipe_revisions v ON v.id = g.recipe_revision_id JOIN recipes r ON r.id = v.recipe_id JOIN rig_revisions x ON x.rig_id = $1 AND x.during @> $3::timestamptz
     WHERE s.id = $2`,
    [rigId, stepId, thisMoment()],
  );

export const rigRevisionNow = async (queries: Queries, rigId: string): Promise<string> =>
  (await queries.one<{ id: string }>('SELECT id FROM rig_revisions WHERE rig_id = $1 AND during @> $2::timestamptz', [
    rigId,
    thisMoment(),
  ]))!.id;

// Nights that play: requested by a person, leased by one runner, every step's intent before its command and its outcome exactly once.
import type {
  beginStep,
  BodyOf,
  ClaimedRun,
  playNight,
  rehearseNight,
  ResponseOf,
  RunStep,
  StepOutcome,
} from '@meridiem/contract';
import type { Orbit, Site } from '@meridiem/core';
import {
  creditShare,
  imageScaleArcsec,
  luminaryDirection,
  nightDateAt,
  nightDatePlus,
  observingNight,
  RISE_SET_ALTITUDE_DEG,
  sunPassage,
} from '@meridiem/core';
import type { Clock } from '../../clock.ts';
import type { Database, Queries } from '../../database/connection.ts';
import { notFound, ServiceError } from '../../errors.ts';
import { insertRows } from '../../database/insert-rows.ts';
import { orbitOf, placeOf } from '../../moving-target.ts';
import { announce } from '../../plugins/live.ts';
import type { Viewer } from '../../plugins/sessions.ts';
import type { ObservatoryService } from '../observatory/index.ts';
import { judgeGoals, plannedSkiesOf, skiesOf } from '../ledger/index.ts';

const LEASE_SEC = 20;
/** For a step whose target stands below the horizon at its start: the runner will not expose it. */
const UNKNOWN_SKY = { airmass: 1, transparency: 1, skyRatio: 1 };

export type RunService = ReturnType<typeof createRunService>;

interface RunRow {
  readonly id: string;
  readonly observatoryId: string;
  readonly rigId: string;
  readonly state: string;
  readonly fence: number;
  readonly nightDate: string;
  readonly kind: 'night' | 'rehearsal';
  readonly expiresUtcMs: number | null;
}

/** A rehearsed exposure is short, and each gets some time for its chain. */
const REHEARSED_LONGEST_SEC = 30;
const REHEARSED_CHANGE_SEC = 60;

export interface RunServiceParts {
  readonly database: Database;
  readonly clock: Clock;
  readonly observatory: ObservatoryService;
}

export function createRunService({ database, clock, observatory }: RunServiceParts) {
  return {
    async play(
      viewer: Viewer,
      nightDate: string,
      { rigId, speed }: BodyOf<typeof playNight>,
    ): Promise<{ runId: string }> {
      return database.transaction(async (queries) => {
        const plan = await playablePlan(queries, viewer, rigId, nightDate);
        const run = await queries.one<{ id: string }>(
          'INSERT INTO night_runs (observatory_id, plan_id, rig_id, speed, requested_by) VALUES ($1, $2, $3, $4, $5) RETURNING id',
          [viewer.observatoryId, plan.id, rigId, speed, viewer.personId],
        );
        const steps = await insertSteps(queries, run!.id, plan.id);
        if (steps === 0)
          throw new ServiceError(
            'NOT_POSSIBLE',
            'Everything in this plan has been played; publish a new version to go on',
          );
        await announce(queries, viewer.observatoryId, 'run', [rigId]);
        return { runId: run!.id };
      });
    },

    /** Runs the published plan's chain by day: the first exposure of each filter of each stay, short, one after the other from now on. */
    async rehearse(
      viewer: Viewer,
      nightDate: string,
      { rigId, speed }: BodyOf<typeof rehearseNight>,
    ): Promise<ResponseOf<typeof rehearseNight>> {
      const site = await observatory.site(viewer.observatoryId);
      const nowUtcMs = clock.nowUtcMs();
      const expiresUtcMs = sunsetAfter(site, nowUtcMs);
      if (luminaryDirection(site, 'sun', nowUtcMs).altitudeDeg < RISE_SET_ALTITUDE_DEG || expiresUtcMs === null)
        throw new ServiceError('NOT_POSSIBLE', 'A rehearsal is for the day: the sun is down now');
      return database.transaction(async (queries) => {
        const plan = await playablePlan(queries, viewer, rigId, nightDate);
        const run = await queries.one<{ id: string }>(
          `INSERT INTO night_runs (observatory_id, plan_id, rig_id, speed, requested_by, kind, expires) VALUES ($1, $2, $3, $4, $5, 'rehearsal', $6) RETURNING id`,
          [viewer.observatoryId, plan.id, rigId, speed, viewer.personId, new Date(expiresUtcMs).toISOString()],
        );
        await queries.rows(
          `INSERT INTO run_steps (observatory_id, run_id, seq, goal_id, planned_start, exposure_s, rate_share)
           SELECT o.observatory_id, $1, row_number() OVER w, o.goal_id,
             $3::timestamptz + (sum(o.exposure_s + ${REHEARSED_CHANGE_SEC}) OVER w - o.exposure_s) * interval '1 second', o.exposure_s, o.mean_rate_share
           FROM (SELECT DISTINCT ON (b.position, r.goal_id) b.observatory_id, b.position AS block, r.position, r.goal_id,
                   least(r.exposure_s, ${REHEARSED_LONGEST_SEC}) AS exposure_s, r.mean_rate_share
                 FROM plan_blocks b JOIN plan_runs r ON r.block_id = b.id WHERE b.plan_id = $2 ORDER BY b.position, r.goal_id, r.position) o
           WINDOW w AS (ORDER BY o.block, o.position)`,
          [run!.id, plan.id, new Date(nowUtcMs).toISOString()],
        );
        await announce(queries, viewer.observatoryId, 'run', [rigId]);
        return { runId: run!.id, expiresUtcMs };
      });
    },

    async stop(viewer: Viewer, runId: string): Promise<{ ok: true }> {
      await database.transaction(async (queries) => {
        const run = await queries.one<{ rigId: string }>(
          `UPDATE night_runs SET state = CASE WHEN state = 'requested' THEN 'stopped' ELSE 'stopping' END
           WHERE id = $1 AND observatory_id = $2 AND state IN ('requested', 'running', 'stopping') RETURNING rig_id AS "rigId"`,
          [runId, viewer.observatoryId],
        );
        if (!run) throw new ServiceError('NOT_POSSIBLE', 'This night is not playing any more');
        await announce(queries, viewer.observatoryId, 'run', [run.rigId]);
      });
      return { ok: true };
    },

    async claim(holder: string): Promise<ClaimedRun | null> {
      await database.rows(
        `UPDATE night_runs SET state = 'stopped' WHERE kind = 'rehearsal' AND expires <= $1 AND (state = 'requested' OR (state IN ('running', 'stopping') AND lease_until < now()))`,
        [new Date(clock.nowUtcMs()).toISOString()],
      );
      const claimed = await database.one<RunRow & { speed: number; rigName: string }>(
        `UPDATE night_runs n SET holder = $1, lease_until = now() + $2 * interval '1 second', fence = fence + 1, heard = now(),
           state = CASE WHEN n.state = 'stopping' THEN 'stopping' ELSE 'running' END
         FROM night_plans p, rigs r WHERE p.id = n.plan_id AND r.id = n.rig_id AND n.id = (
           SELECT id FROM night_runs WHERE state = 'requested' OR (state IN ('running', 'stopping') AND lease_until < now())
           ORDER BY requested LIMIT 1 FOR UPDATE SKIP LOCKED)
         RETURNING n.id, n.observatory_id AS "observatoryId", n.rig_id AS "rigId", n.state, n.fence, p.night_date::text AS "nightDate", n.speed, n.kind, r.name AS "rigName"`,
        [holder, LEASE_SEC],
      );
      if (!claimed) return null;
      await announce(database, claimed.observatoryId, 'run', [claimed.rigId]);
      const optics = await database.one<{ pixelUm: number; focalLengthMm: number }>(
        'SELECT c.pixel_um AS "pixelUm", v.focal_length_mm AS "focalLengthMm" FROM rig_revisions v JOIN cameras c ON c.id = v.camera_id WHERE v.rig_id = $1 AND v.during @> now()',
        [claimed.rigId],
      );
      const { id, fence, speed, nightDate, rigId, rigName } = claimed;
      const steps = await openSteps(database, id);
      const skies = await plannedSkiesOf(database, id);
      return {
        id,
        fence,
        speed,
        leaseSec: LEASE_SEC,
        nightDate,
        rehearsal: claimed.kind === 'rehearsal',
        rig: { id: rigId, name: rigName, imageScaleArcsec: imageScaleArcsec({ ...optics!, binning: 1 }) },
        steps: steps.map((step) => ({ ...step, ...(skies.get(step.id) ?? UNKNOWN_SKY) })),
      };
    },

    async begin(runId: string, { fence, stepId }: BodyOf<typeof beginStep>): Promise<{ goOn: boolean }> {
      return database.transaction(async (queries) => {
        const run = await heldRun(queries, runId, fence);
        if (run.expiresUtcMs !== null && clock.nowUtcMs() >= run.expiresUtcMs) {
          await queries.rows(`UPDATE night_runs SET state = 'stopping' WHERE id = $1`, [runId]);
          return { goOn: false };
        }
        if (run.state !== 'running') return { goOn: false };
        await queries.rows('UPDATE run_steps SET intent = coalesce(intent, now()) WHERE id = $1 AND run_id = $2', [
          stepId,
          runId,
        ]);
        await announce(queries, run.observatoryId, 'run', [run.rigId]);
        return { goOn: true };
      });
    },

    async finish(runId: string, outcome: StepOutcome): Promise<{ goOn: boolean }> {
      return database.transaction(async (queries) => {
        const run = await heldRun(queries, runId, outcome.fence);
        const fresh = await queries.one(
          'UPDATE run_steps SET outcome = $3, words = $4, ended = now(), intent = coalesce(intent, now()) WHERE id = $1 AND run_id = $2 AND outcome IS NULL RETURNING id',
          [outcome.stepId, runId, outcome.outcome, outcome.words],
        );
        // What a rehearsal takes counts for nothing and stays out of the ledger.
        const counts = run.kind === 'night';
        if (fresh && outcome.exposure && counts) await insertExposure(queries, run, outcome);
        await announce(queries, run.observatoryId, 'run', [run.rigId]);
        if (fresh && outcome.exposure && counts)
          for (const topic of ['ledger', 'projects'] as const) await announce(queries, run.observatoryId, topic);
        return { goOn: run.state === 'running' };
      });
    },

    async end(runId: string, fence: number): Promise<{ state: string }> {
      return database.transaction(async (queries) => {
        const run = await heldRun(queries, runId, fence);
        const state = run.state === 'stopping' ? 'stopped' : 'finished';
        await queries.rows('UPDATE night_runs SET state = $2, lease_until = NULL, holder = NULL WHERE id = $1', [
          runId,
          state,
        ]);
        for (const topic of ['run', 'plan', 'projects'] as const)
          await announce(queries, run.observatoryId, topic, [run.rigId]);
        return { state };
      });
    },
  };
}

/** The published plan of a rig's night, with the rig held so that one run begins at a time. */
async function playablePlan(
  queries: Queries,
  viewer: Viewer,
  rigId: string,
  nightDate: string,
): Promise<{ id: string }> {
  await queries.rows('SELECT 1 FROM rigs WHERE id = $1 FOR UPDATE', [rigId]);
  const plan = await queries.one<{ id: string }>(
    `SELECT id FROM night_plans WHERE rig_id = $1 AND night_date = $2 AND state = 'published' AND observatory_id = $3`,
    [rigId, nightDate, viewer.observatoryId],
  );
  if (!plan)
    throw new ServiceError('NOT_POSSIBLE', 'Publish the plan of this night first; only a published plan is played');
  const running = await queries.one(
    `SELECT 1 FROM night_runs WHERE rig_id = $1 AND state IN ('requested', 'running', 'stopping')`,
    [rigId],
  );
  if (running) throw new ServiceError('NOT_POSSIBLE', 'A night is playing on this rig already');
  return plan;
}

/** The next sunset; null where the sun does not set within a day. */
function sunsetAfter(site: Site & { readonly timeZone: string }, utcMs: number): number | null {
  const first = nightDateAt(utcMs, site.timeZone);
  for (const nightDate of [first, nightDatePlus(first, 1)]) {
    const { duskUtcMs } = sunPassage(site, observingNight(nightDate, site.timeZone), RISE_SET_ALTITUDE_DEG);
    if (duskUtcMs !== null && duskUtcMs > utcMs) return duskUtcMs;
  }
  return null;
}

/** The run, if the caller still holds its lease; renews it. */
async function heldRun(queries: Queries, runId: string, fence: number): Promise<RunRow> {
  const run = await queries.one<RunRow>(
    `UPDATE night_runs n SET lease_until = now() + ${LEASE_SEC} * interval '1 second', heard = now() FROM night_plans p
     WHERE n.id = $1 AND p.id = n.plan_id RETURNING n.id, n.observatory_id AS "observatoryId", n.rig_id AS "rigId", n.state, n.fence, p.night_date::text AS "nightDate",
       n.kind, (extract(epoch FROM n.expires) * 1000)::float8 AS "expiresUtcMs"`,
    [runId],
  );
  if (!run) throw notFound('run');
  if (run.fence !== fence || !['running', 'stopping'].includes(run.state))
    throw new ServiceError('LEASE_LOST', 'Another runner has taken this night over, or it has ended');
  return run;
}

/** One step an exposure; what an earlier run of this plan has taken is left out. */
async function insertSteps(queries: Queries, runId: string, planId: string): Promise<number> {
  const rows = await queries.rows(
    `INSERT INTO run_steps (observatory_id, run_id, seq, goal_id, planned_start, exposure_s, rate_share)
     SELECT b.observatory_id, $1, row_number() OVER (ORDER BY s.planned), r.goal_id, s.planned, r.exposure_s, r.mean_rate_share
     FROM plan_blocks b JOIN plan_runs r ON r.block_id = b.id CROSS JOIN LATERAL unnest(r.exposure_starts) AS s(planned)
     WHERE b.plan_id = $2 AND NOT EXISTS (
       SELECT 1 FROM run_steps d JOIN night_runs n ON n.id = d.run_id WHERE n.plan_id = $2 AND d.goal_id = r.goal_id AND d.planned_start = s.planned AND d.outcome IS NOT NULL)
     RETURNING id`,
    [runId, planId],
  );
  return rows.length;
}

type OpenStep = Omit<RunStep, 'airmass' | 'transparency' | 'skyRatio'>;

async function openSteps(queries: Queries, runId: string): Promise<OpenStep[]> {
  const rows = await queries.rows<OpenStep & { orbit: Orbit | null; site: Site }>(
    `SELECT s.id, s.seq, (extract(epoch FROM s.planned_start) * 1000)::float8 AS "plannedStartUtcMs", s.exposure_s AS "exposureSec", l.id AS "panelId", l.name AS "panelName",
       f.letter AS "filterLetter", f.class AS "filterClass", w.ra_deg AS "raDeg", w.dec_deg AS "decDeg", m.gain, v.sensor_c AS "sensorC", s.rate_share AS "rateShare",
       ${orbitOf('p')} AS orbit, jsonb_build_object('latitudeDeg', o.latitude_deg, 'longitudeDeg', o.longitude_deg, 'elevationM', o.elevation_m) AS site
     FROM run_steps s JOIN goals g ON g.id = s.goal_id JOIN panels l ON l.id = g.panel_id JOIN projects p ON p.id = l.project_id JOIN observatories o ON o.id = s.observatory_id
     JOIN LATERAL (SELECT * FROM panel_pointings x WHERE x.panel_id = l.id ORDER BY seq DESC LIMIT 1) w ON true
     JOIN recipe_revisions v ON v.id = g.recipe_revision_id JOIN recipes r ON r.id = v.recipe_id JOIN filters f ON f.id = r.filter_id JOIN camera_modes m ON m.id = v.camera_mode_id
     WHERE s.run_id = $1 AND s.outcome IS NULL ORDER BY s.seq`,
    [runId],
  );
  return rows.map(({ orbit, site, ...step }) => {
    const place = placeOf({ ...step, orbit }, site, step.plannedStartUtcMs + 500 * step.exposureSec);
    return { ...step, ...(place ?? {}) };
  });
}

/** The exposure with its measurements and its one attribution; known by its step, it can't be written twice. */
async function insertExposure(queries: Queries, run: RunRow, { stepId, exposure }: StepOutcome): Promise<void> {
  if (!exposure) return;
  const stored = await queries.one<{ id: string; goalId: string; goalExposureSec: number; rateShare: number }>(
    `INSERT INTO exposures (observatory_id, rig_revision_id, night_date, start_utc, exposure_s, filter_id, gain, "offset", binning, sensor_c, run_step_id, header_key)
     SELECT $1, x.id, $2, $3::timestamptz, $4, r.filter_id, $5, v."offset", v.binning, $6, s.id, $9
     FROM run_steps s JOIN goals g ON g.id = s.goal_id JOIN recipe_revisions v ON v.id = g.recipe_revision_id JOIN recipes r ON r.id = v.recipe_id
     JOIN rig_revisions x ON x.rig_id = $7 AND x.during @> now()
     WHERE s.id = $8 ON CONFLICT DO NOTHING
     RETURNING id, (SELECT goal_id FROM run_steps WHERE id = $8) AS "goalId", (SELECT exposure_s FROM run_steps WHERE id = $8) AS "goalExposureSec", (SELECT rate_share FROM run_steps WHERE id = $8) AS "rateShare"`,
    [
      run.observatoryId,
      run.nightDate,
      new Date(exposure.startUtcMs).toISOString(),
      exposure.exposureSec,
      exposure.gain,
      exposure.sensorC,
      run.rigId,
      stepId,
      headerKey(run, exposure),
    ],
  );
  if (!stored) return;
  await queries.rows(
    `INSERT INTO attributions (observatory_id, exposure_id, project_id, panel_id, goal_id, credit_share, reason)
     SELECT $1, $2, l.project_id, l.id, g.id, $3, 'taken for this goal' FROM goals g JOIN panels l ON l.id = g.panel_id WHERE g.id = $4`,
    [run.observatoryId, stored.id, creditShare(exposure.exposureSec, stored.goalExposureSec), stored.goalId],
  );
  const sky = (await skiesOf(queries, [stored.id])).get(stored.id);
  await insertRows(queries, 'measurements', [
    {
      exposure_id: stored.id,
      half_flux_radius_px: exposure.halfFluxRadiusPx,
      star_count: exposure.starCount,
      guiding_rms_arcsec: exposure.guidingRmsArcsec,
      background_e: exposure.backgroundE,
      temperature_c: exposure.temperatureC,
      rate_predicted: sky?.rateShare ?? stored.rateShare,
      rate_measured: exposure.rateMeasured,
      after_move: exposure.afterMove,
      airmass: sky?.airmass ?? null,
      transparency: sky?.transparency ?? null,
      sky_ratio: sky?.skyRatio ?? null,
    },
  ]);
  await judgeGoals(queries, run.observatoryId, [stored.goalId]);
}

/** What the header of a frame says of itself: the same rig, start and length are the same exposure. */
const headerKey = (run: RunRow, exposure: NonNullable<StepOutcome['exposure']>): string =>
  `${run.rigId}|${Math.round(exposure.startUtcMs)}|${exposure.exposureSec}`;

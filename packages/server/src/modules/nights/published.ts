// Published plans: frozen rows in, the same plan out.
import type { PlanVersion } from '@meridiem/contract';
import type { NightPlan, Omission, PlannedBlock } from '@meridiem/core';
import type { Queries } from '../../database/connection.ts';

export interface PublishedPlan {
  readonly id: string;
  readonly seq: number;
  readonly state: 'published' | 'superseded';
  readonly publishedUtcMs: number;
  readonly problemHash: string;
  readonly plan: NightPlan;
}

/** Every version of a night's plan, the newest first. */
export const versionsOf = (queries: Queries, rigId: string, nightDate: string): Promise<PlanVersion[]> =>
  queries.rows(
    `SELECT n.seq, (extract(epoch FROM n.published) * 1000)::float8 AS "publishedUtcMs", p.name AS by, n.reason, n.value
     FROM night_plans n JOIN people p ON p.id = n.published_by WHERE n.rig_id = $1 AND n.night_date = $2 ORDER BY n.seq DESC`,
    [rigId, nightDate],
  );

/** @param seq a version; the one in force where it is left out */
export async function publishedPlanOf(
  queries: Queries,
  rigId: string,
  nightDate: string,
  seq: number | null = null,
): Promise<PublishedPlan | null> {
  const head = await queries.one<Omit<PublishedPlan, 'plan'> & { value: number }>(
    `SELECT id, seq, state, (extract(epoch FROM published) * 1000)::float8 AS "publishedUtcMs", problem_hash AS "problemHash", value
     FROM night_plans WHERE rig_id = $1 AND night_date = $2 AND CASE WHEN $3::integer IS NULL THEN state = 'published' ELSE seq = $3 END`,
    [rigId, nightDate, seq],
  );
  if (!head) return null;
  const blocks = await queries.rows<PlannedBlock>(
    `SELECT b.panel_id AS "panelId", (extract(epoch FROM lower(b.during)) * 1000)::float8 AS "startUtcMs", (extract(epoch FROM upper(b.during)) * 1000)::float8 AS "endUtcMs",
       (SELECT jsonb_agg(jsonb_build_object('goalId', r.goal_id, 'startUtcMs', extract(epoch FROM r.start_utc) * 1000, 'endUtcMs', extract(epoch FROM r.end_utc) * 1000,
          'exposureSec', r.exposure_s, 'meanRateShare', r.mean_rate_share,
          'exposureStartsUtcMs', (SELECT jsonb_agg(extract(epoch FROM s) * 1000 ORDER BY s) FROM unnest(r.exposure_starts) s)) ORDER BY r.position)
        FROM plan_runs r WHERE r.block_id = b.id) AS runs
     FROM plan_blocks b WHERE b.plan_id = $1 ORDER BY b.position`,
    [head.id],
  );
  const omissions = await queries.rows<{ goalId: string; code: string; numbers: object }>(
    'SELECT goal_id AS "goalId", code, numbers FROM plan_omissions WHERE plan_id = $1',
    [head.id],
  );
  const { value, ...rest } = head;
  return {
    ...rest,
    plan: {
      blocks,
      value,
      omissions: omissions.map(({ goalId, code, numbers }) => ({ goalId, code, ...numbers }) as Omission),
    },
  };
}

export interface NewPublishedPlan {
  readonly observatoryId: string;
  readonly rigId: string;
  readonly nightDate: string;
  readonly personId: string;
  readonly problemHash: string;
  readonly seed: number;
  readonly iterations: number;
  readonly plan: NightPlan;
  readonly reason: string | null;
}

/** Stores a plan as the next version; the one before is superseded, never changed. */
export async function insertPublishedPlan(
  queries: Queries,
  of: NewPublishedPlan,
): Promise<{ planId: string; seq: number }> {
  await queries.rows(`SELECT 1 FROM rigs WHERE id = $1 FOR UPDATE`, [of.rigId]);
  await queries.rows(
    `UPDATE night_plans SET state = 'superseded' WHERE rig_id = $1 AND night_date = $2 AND state = 'published'`,
    [of.rigId, of.nightDate],
  );
  const head = await queries.one<{ planId: string; seq: number }>(
    `INSERT INTO night_plans (observatory_id, rig_id, night_date, seq, state, problem_hash, seed, iterations, value, published_by, reason)
     SELECT $1, $2, $3, coalesce(max(seq), 0) + 1, 'published', $4, $5, $6, $7, $8, $9 FROM night_plans WHERE rig_id = $2 AND night_date = $3
     RETURNING id AS "planId", seq`,
    [
      of.observatoryId,
      of.rigId,
      of.nightDate,
      of.problemHash,
      of.seed,
      of.iterations,
      of.plan.value,
      of.personId,
      of.reason,
    ],
  );
  for (const [position, block] of of.plan.blocks.entries())
    await insertBlock(queries, of.observatoryId, head!.planId, position, block);
  for (const { goalId, code, ...numbers } of of.plan.omissions) {
    const rival = 'rivalGoalId' in numbers ? numbers.rivalGoalId : null;
    await queries.rows(
      'INSERT INTO plan_omissions (observatory_id, plan_id, goal_id, code, numbers, rival_goal_id) VALUES ($1, $2, $3, $4, $5, $6)',
      [of.observatoryId, head!.planId, goalId, code, JSON.stringify(numbers), rival],
    );
  }
  return head!;
}

async function insertBlock(
  queries: Queries,
  observatoryId: string,
  planId: string,
  position: number,
  block: PlannedBlock,
): Promise<void> {
  const stored = await queries.one<{ id: string }>(
    `INSERT INTO plan_blocks (observatory_id, plan_id, position, panel_id, during) VALUES ($1, $2, $3, $4, tstzrange($5, $6)) RETURNING id`,
    [observatoryId, planId, position, block.panelId, iso(block.startUtcMs), iso(block.endUtcMs)],
  );
  for (const [at, run] of block.runs.entries()) {
    await queries.rows(
      `INSERT INTO plan_runs (observatory_id, block_id, position, goal_id, start_utc, end_utc, exposure_s, exposure_starts, mean_rate_share)
       VALUES ($1, $2, $3, $4, $5, $6, $7, $8::timestamptz[], $9)`,
      [
        observatoryId,
        stored!.id,
        at,
        run.goalId,
        iso(run.startUtcMs),
        iso(run.endUtcMs),
        run.exposureSec,
        run.exposureStartsUtcMs.map(iso),
        run.meanRateShare,
      ],
    );
  }
}

const iso = (utcMs: number): string => new Date(utcMs).toISOString();

// Published plans: frozen rows in, the same plan out.
import type { PlanVersion } from '@meridiem/contract';
import type { NightPlan, NightRequest, Omission, PlannedBlock } from '@meridiem/core';
import type { Queries } from '../../database/connection.ts';
import { rangeOf } from '../../database/models/date-range.ts';

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
  /** What it was made from. */
  readonly request: NightRequest;
  readonly reason: string | null;
}

/** Stores a plan as the next version; the one before is superseded, never changed. */
export async function insertPublishedPlan(
  { models }: Queries,
  { plan, request, ...of }: NewPublishedPlan,
): Promise<{ planId: string; seq: number }> {
  const { observatoryId, rigId, nightDate, personId: publishedBy, problemHash, seed, iterations, reason } = of;
  await models.Rig.findByPk(rigId, { lock: true });
  const newest = await models.NightPlan.findOne({ where: { rigId, nightDate }, order: [['seq', 'DESC']] });
  const seq = (newest?.seq ?? 0) + 1;
  await models.NightPlan.update({ state: 'superseded' }, { where: { rigId, nightDate, state: 'published' } });
  const { id: planId } = await models.NightPlan.create({
    observatoryId,
    rigId,
    nightDate,
    seq,
    state: 'published',
    problemHash,
    seed,
    iterations,
    value: plan.value,
    publishedBy,
    reason,
  });
  await models.PlanRequest.create({ observatoryId, planId, request });
  for (const [position, block] of plan.blocks.entries())
    await insertBlock({ models }, { observatoryId, planId, position }, block);
  await models.PlanOmission.bulkCreate(
    plan.omissions.map(({ goalId, code, ...numbers }) => ({
      observatoryId,
      planId,
      goalId,
      code,
      numbers,
      rivalGoalId: 'rivalGoalId' in numbers ? numbers.rivalGoalId : null,
    })),
  );
  return { planId, seq };
}

async function insertBlock(
  { models }: Pick<Queries, 'models'>,
  { observatoryId, planId, position }: { observatoryId: string; planId: string; position: number },
  { panelId, startUtcMs, endUtcMs, runs }: PlannedBlock,
): Promise<void> {
  const during = rangeOf(startUtcMs, endUtcMs);
  const { id: blockId } = await models.PlanBlock.create({ observatoryId, planId, position, panelId, during });
  await models.PlanRun.bulkCreate(
    runs.map((run, at) => ({
      observatoryId,
      blockId,
      position: at,
      goalId: run.goalId,
      startUtc: new Date(run.startUtcMs),
      endUtc: new Date(run.endUtcMs),
      exposureS: run.exposureSec,
      exposureStarts: run.exposureStartsUtcMs.map((utcMs) => new Date(utcMs)),
      meanRateShare: run.meanRateShare,
    })),
  );
}

// Steps by devices as rows: what was done, what only a person can mend, and how long steps take.
import type { RunAction } from '@meridiem/contract';
import type { MeasuredStep } from '@meridiem/core';
import { col, Op } from 'sequelize';
import type { Queries } from '../../database/connection.ts';
import type { Viewer } from '../../plugins/sessions.ts';
import type { RunRow } from './repository.ts';

/** What a later word on a step may still decide. */
const OPEN: readonly (string | null)[] = [null, 'unknown'];

/** Steps that a runner before this one began, and nobody can say how they ended. */
export const loseActions = ({ models }: Queries, runId: string): Promise<unknown> =>
  models.RunAction.update(
    { outcome: 'unknown', ended: col('started'), remark: 'the runner was lost before it could say' },
    { where: { runId, outcome: null } },
  );

/** Steps by devices: the intent of each first, its outcome when it is known; what has an outcome keeps it.
 * @param actions in the order in which they were reported
 * @returns those not known before */
export async function storeActions(
  { models }: Queries,
  { id: runId, observatoryId }: RunRow,
  actions: readonly RunAction[],
): Promise<RunAction[]> {
  const byId = new Map<string, RunAction>();
  for (const action of actions) if (OPEN.includes(byId.get(action.id)?.outcome ?? null)) byId.set(action.id, action);
  const last = [...byId.values()];
  const rows = await models.RunAction.findAll({ where: { id: last.map(({ id }) => id) } });
  const known = new Map(rows.map((row) => [row.id, row]));
  const fresh = last.filter(({ id }) => !known.has(id));
  await models.RunAction.bulkCreate(
    fresh.map(({ startUtcMs, endUtcMs, ...action }) => ({
      ...action,
      runId,
      observatoryId,
      started: new Date(startUtcMs),
      ended: dateOf(endUtcMs),
    })),
  );
  for (const { id, endUtcMs, outcome, remark, curve } of last) {
    const row = known.get(id);
    if (row?.runId === runId && OPEN.includes(row.outcome) && outcome !== null)
      await row.update({ ended: dateOf(endUtcMs), outcome, remark, curve: curve ?? null });
  }
  return fresh;
}

const dateOf = (utcMs: number | null): Date | null => (utcMs === null ? null : new Date(utcMs));

/** The newest actions of a run, the last first. */
export async function actionsOf({ models }: Queries, runId: string, most: number): Promise<RunAction[]> {
  const rows = await models.RunAction.findAll({
    where: { runId },
    order: [
      ['started', 'DESC'],
      ['seq', 'DESC'],
    ],
    limit: most,
  });
  return rows.map(({ id, seq, kind, words, attempt, started, ended, outcome, remark, curve }) => ({
    id,
    seq,
    kind: kind as RunAction['kind'],
    words,
    attempt,
    startUtcMs: started.getTime(),
    endUtcMs: ended?.getTime() ?? null,
    outcome,
    remark,
    ...(curve ? { curve } : {}),
  }));
}

/** Names of panels and projects that a viewer may not read, the longest first. */
export async function hiddenNames({ models }: Queries, viewer: Viewer): Promise<string[]> {
  if (viewer.role === 'coordinator') return [];
  const { observatoryId, personId } = viewer;
  const projects = await models.Project.findAll({
    where: { observatoryId, private: true, ownerId: { [Op.ne]: personId } },
    attributes: ['id', 'name'],
  });
  const panels = await models.Panel.findAll({
    where: { projectId: projects.map(({ id }) => id) },
    attributes: ['name'],
  });
  return [...projects, ...panels].map(({ name }) => name).sort((a, b) => b.length - a.length);
}

export interface OpenCall {
  readonly rigId: string;
  readonly rigName: string;
  readonly nightDate: string;
  readonly words: string;
  readonly sinceUtcMs: number;
}

/** For each rig the last call for a person of its newest night, unless its roof was closed after it. */
export const openCalls = (queries: Queries, observatoryId: string): Promise<OpenCall[]> =>
  queries.rows(
    `SELECT DISTINCT ON (r.id) r.id AS "rigId", r.name AS "rigName", p.night_date::text AS "nightDate", a.words, (extract(epoch FROM a.started) * 1000)::float8 AS "sinceUtcMs"
     FROM rigs r JOIN LATERAL (SELECT * FROM night_runs x WHERE x.rig_id = r.id ORDER BY x.requested DESC LIMIT 1) n ON true
     JOIN night_plans p ON p.id = n.plan_id JOIN run_actions a ON a.run_id = n.id AND a.kind = 'call'
     WHERE r.observatory_id = $1 AND NOT EXISTS (
       SELECT 1 FROM run_actions c WHERE c.run_id = n.id AND c.kind = 'close roof' AND c.outcome = 'done' AND (c.started, c.seq) > (a.started, a.seq))
     ORDER BY r.id, a.started DESC, a.seq DESC`,
    [observatoryId],
  );

/** Nights whose steps are looked at. */
const LAST_NIGHTS = 20;

export const stepMedians = (queries: Queries, observatoryId: string, rigId: string): Promise<MeasuredStep[]> =>
  queries.rows(
    `SELECT a.kind, percentile_cont(0.5) WITHIN GROUP (ORDER BY extract(epoch FROM a.ended - a.started))::float8 AS "medianSec", count(*)::int AS count
     FROM run_actions a JOIN (SELECT id FROM night_runs WHERE rig_id = $2 AND observatory_id = $1 ORDER BY requested DESC LIMIT ${LAST_NIGHTS}) n ON n.id = a.run_id
     WHERE a.outcome = 'done' GROUP BY a.kind`,
    [observatoryId, rigId],
  );

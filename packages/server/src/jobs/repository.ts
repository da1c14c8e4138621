// Stored jobs as rows: asked for once, held by one worker at a time, taken over where its holder falls silent.
import { Op } from 'sequelize';
import type { Queries } from '../database/connection.ts';
import type { Job } from '../database/models/job.ts';

/** A holder that has not been heard of for this long is taken for dead. */
export const SILENT_MS = 8_000;

export interface Request {
  readonly observatoryId: string;
  readonly kind: string;
  readonly requestHash: string;
}

export async function resultOf<T>({ models }: Queries, request: Request): Promise<T | null> {
  const { observatoryId, kind, requestHash } = request;
  const row = await models.JobResult.findOne({ where: { observatoryId, kind, requestHash } });
  return (row?.result as T | undefined) ?? null;
}

/** The newest season that was asked for as things are, and is done; none of those tried. */
export const standingSeasonHash = async ({ models }: Queries, observatoryId: string): Promise<string | null> =>
  (
    await models.Job.findOne({
      where: { observatoryId, kind: 'season', state: 'done', request: { isStanding: true } },
      attributes: ['requestHash'],
      order: [['finished', 'DESC']],
    })
  )?.requestHash ?? null;

/** The newest job for a request, whatever became of it. */
export const newestJob = ({ models }: Queries, { observatoryId, kind, requestHash }: Request): Promise<Job | null> =>
  models.Job.findOne({ where: { observatoryId, kind, requestHash }, order: [['created', 'DESC']] });

/** @returns the new job's id, or null where one is under way */
export async function insertJob(
  queries: Queries,
  { observatoryId, kind, requestHash, request, personId }: Request & { request: object; personId: string | null },
): Promise<string | null> {
  const row = await queries.one<{ id: string }>(
    `INSERT INTO jobs (observatory_id, person_id, kind, request_hash, request) VALUES ($1, $2, $3, $4, $5)
     ON CONFLICT (observatory_id, kind, request_hash) WHERE state IN ('waiting', 'running') DO NOTHING RETURNING id`,
    [observatoryId, personId, kind, requestHash, JSON.stringify(request)],
  );
  return row?.id ?? null;
}

export interface HeldJob extends Request {
  readonly id: string;
  readonly attempt: number;
  readonly request: object;
}

/** Takes a job that waits, or whose holder has fallen silent.
 * @returns null where it is done, stopped, or in somebody's hands */
export const claimJob = (queries: Queries, id: string, holder: string): Promise<HeldJob | null> =>
  queries.one(
    `UPDATE jobs SET state = 'running', holder = $2, heartbeat = now(), attempt = attempt + 1
     WHERE id = $1 AND (state = 'waiting' OR (state = 'running' AND heartbeat < now() - $3 * interval '1 ms'))
     RETURNING id, observatory_id AS "observatoryId", kind, request_hash AS "requestHash", request, attempt`,
    [id, holder, SILENT_MS],
  );

/** @returns whether the job is still this attempt's */
export async function beat({ models }: Queries, { id, attempt }: HeldJob, progress: number): Promise<boolean> {
  const [count] = await models.Job.update(
    { heartbeat: new Date(), progress },
    { where: { id, attempt, state: 'running' } },
  );
  return count > 0;
}

/** Keeps the result and ends the job, where it is still this attempt's. */
export async function finishJob(queries: Queries, job: HeldJob, result: object): Promise<boolean> {
  const { observatoryId, kind, requestHash, id, attempt } = job;
  const [count] = await queries.models.Job.update(
    { state: 'done', progress: 1, finished: new Date() },
    { where: { id, attempt, state: 'running' } },
  );
  if (count > 0)
    await queries.models.JobResult.bulkCreate([{ observatoryId, kind, requestHash, result }], {
      ignoreDuplicates: true,
    });
  return count > 0;
}

export const failJob = ({ models }: Queries, { id, attempt }: HeldJob, failure: string): Promise<unknown> =>
  models.Job.update({ state: 'failed', failure, finished: new Date() }, { where: { id, attempt, state: 'running' } });

export const releaseJob = ({ models }: Queries, { id, attempt }: HeldJob): Promise<unknown> =>
  models.Job.update({ state: 'waiting', holder: null, heartbeat: null }, { where: { id, attempt, state: 'running' } });

/** Jobs whose holders have fallen silent wait again.
 * @returns those jobs */
export const releaseSilentJobs = (queries: Queries): Promise<{ id: string; kind: string }[]> =>
  queries.rows(
    `UPDATE jobs SET state = 'waiting', holder = NULL, heartbeat = NULL
     WHERE state = 'running' AND heartbeat < now() - $1 * interval '1 ms' RETURNING id, kind`,
    [SILENT_MS],
  );

/** @returns whether there was something to stop */
export async function stopJob({ models }: Queries, id: string): Promise<boolean> {
  const [count] = await models.Job.update(
    { state: 'stopped', finished: new Date() },
    { where: { id, state: { [Op.in]: ['waiting', 'running'] } } },
  );
  return count > 0;
}

export async function pruneJobs({ models }: Queries, olderThan: Date): Promise<void> {
  await models.Job.destroy({ where: { finished: { [Op.lt]: olderThan } } });
  await models.JobResult.destroy({ where: { made: { [Op.lt]: olderThan } } });
}

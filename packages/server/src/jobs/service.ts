// Asking for long computations: the same request is one job, its result is kept, whoever asked may stop it.
import type { JobShown } from '@meridiem/contract';
import type { Database } from '../database/connection.ts';
import type { Job } from '../database/models/job.ts';
import { notAllowed, notFound } from '../errors.ts';
import { announce } from '../plugins/live.ts';
import type { Viewer } from '../plugins/sessions.ts';
import { createBoss, sendJob } from './boss.ts';
import type { JobKindName } from './kinds.ts';
import type { Request } from './repository.ts';
import { insertJob, newestJob, resultOf, stopJob } from './repository.ts';

export interface AskedFor {
  readonly kind: JobKindName;
  readonly requestHash: string;
  readonly request: object;
}

/** What there is of a request: its result, or the job that works on it, or neither. */
export interface Answer<T> {
  readonly result: T | null;
  readonly job: JobShown | null;
}

export type JobService = ReturnType<typeof createJobService>;

export function createJobService({ database }: { database: Database }) {
  const boss = createBoss(database);
  const started = boss.start();
  started.catch(() => undefined);

  const answerTo = async <T>(request: Request): Promise<Answer<T>> => {
    const result = await resultOf<T>(database, request);
    const job = result === null ? await newestJob(database, request) : null;
    return { result, job: job && shown(job) };
  };

  return {
    read: <T>({ observatoryId }: Viewer, { kind, requestHash }: Omit<AskedFor, 'request'>): Promise<Answer<T>> =>
      answerTo<T>({ observatoryId, kind, requestHash }),

    async ask<T>({ observatoryId, personId }: Viewer, { kind, requestHash, request }: AskedFor): Promise<Answer<T>> {
      const key = { observatoryId, kind, requestHash };
      const known = await resultOf<T>(database, key);
      if (known !== null) return { result: known, job: null };
      await started;
      await database.transaction(async (queries) => {
        const id = await insertJob(queries, { ...key, request, personId });
        if (id !== null) await sendJob(boss, kind, id);
        return null;
      });
      return answerTo<T>(key);
    },

    async stop(viewer: Viewer, id: string): Promise<{ ok: true }> {
      const job = await database.models.Job.findOne({ where: { id, observatoryId: viewer.observatoryId } });
      if (!job) throw notFound('job');
      if (viewer.role !== 'coordinator' && job.personId !== viewer.personId)
        throw notAllowed('Another member asked for this');
      if (await stopJob(database, id)) await announce(database, viewer.observatoryId, 'jobs', [id]);
      return { ok: true };
    },

    close: (): Promise<void> => boss.stop({ graceful: false, wait: false }).catch(() => undefined),
  };
}

const shown = ({ id, kind, state, progress, failure }: Job): JobShown => ({ id, kind, state, progress, failure });

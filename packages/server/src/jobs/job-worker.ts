// Works off stored jobs: woken by the database, one at a time, with progress, stopped when asked, taken over when another dies.
import { hostname } from 'node:os';
import type { Database, Queries } from '../database/connection.ts';
import { listen } from '../database/listening.ts';
import { ServiceError } from '../errors.ts';
import { announce } from '../plugins/live.ts';
import { createBoss, sendJob } from './boss.ts';
import type { JobWork } from './job-work.ts';
import { TakenAway, threadWork } from './job-work.ts';
import type { JobKindName } from './kinds.ts';
import { JOB_KINDS } from './kinds.ts';
import type { HeldJob } from './repository.ts';
import { beat, claimJob, failJob, finishJob, releaseJob, releaseSilentJobs } from './repository.ts';
import type { ThreadPool } from './thread-pool.ts';
import { createWorkQueue } from './work-queue.ts';

const BEAT_MS = 1_000;
const CHECK_MS = 3_000;
/** Where no announcement comes through, the queue is looked at this often. */
const POLL_SEC = 2;
const MOST_ATTEMPTS = 3;

export interface JobWorkerParts {
  readonly database: Database;
  readonly databaseUrl: string;
  readonly threads: ThreadPool;
  /** Kinds whose work writes rows; the others compute in a thread. */
  readonly works?: Readonly<Partial<Record<JobKindName, JobWork>>>;
  readonly warn: (error: unknown, words: string) => void;
}

export interface JobWorker {
  close(): Promise<void>;
}

const createQueue = () => createWorkQueue({ atOnce: 1, longestMs: 3_600_000, mostOfOne: 1000 });

export async function createJobWorker({
  database,
  databaseUrl,
  threads,
  works = {},
  warn,
}: JobWorkerParts): Promise<JobWorker> {
  const holder = `${hostname()} ${process.pid}`;
  const boss = createBoss(database, { isWorker: true });
  boss.on('error', (error) => warn(error, 'the queue'));
  // What pages ask for by themselves never holds up what a person asked for: each has a queue and a thread of its own.
  const queues = { asked: createQueue(), quiet: createQueue() };
  const stops = new Map<string, AbortController>();

  const inThread = threadWork(database, threads);
  const work = async (job: HeldJob, signal: AbortSignal): Promise<void> => {
    let progress = 0;
    const timer = setInterval(() => {
      void beat(database, job, progress)
        .then(async (isOurs) => {
          if (!isOurs) stops.get(job.id)?.abort();
          else await announce(database, job.observatoryId, 'jobs', [job.id]);
        })
        .catch((error: unknown) => warn(error, 'a heartbeat'));
    }, BEAT_MS);
    const finish = async (queries: Queries, result: object): Promise<void> => {
      if (!(await finishJob(queries, job, result))) throw new TakenAway('The job is not this worker’s any more');
      await announce(queries, job.observatoryId, 'jobs', [job.id]);
    };
    try {
      const own = works[job.kind as JobKindName] ?? inThread;
      await own(job, { signal, tell: (share) => (progress = share), finish });
    } finally {
      clearInterval(timer);
    }
  };

  const fail = async (job: HeldJob, words: string): Promise<void> => {
    await failJob(database, job, words);
    await announce(database, job.observatoryId, 'jobs', [job.id]);
  };

  const take = async (jobId: string): Promise<void> => {
    const job = await claimJob(database, jobId, holder);
    if (!job) return;
    const stop = new AbortController();
    stops.set(jobId, stop);
    try {
      await work(job, stop.signal);
    } catch (error) {
      if (stop.signal.aborted || error instanceof TakenAway) return;
      if (error instanceof ServiceError) return fail(job, error.message);
      warn(error, `the job ${job.kind} ${jobId}`);
      if (job.attempt < MOST_ATTEMPTS) {
        await releaseJob(database, job);
        throw error;
      }
      await fail(job, 'It could not be worked out; this has been logged');
    } finally {
      stops.delete(jobId);
    }
  };

  await boss.start();
  const workers: string[] = [];
  for (const kind of Object.keys(JOB_KINDS) as JobKindName[])
    workers.push(
      await boss.work<{ jobId: string }>(kind, { pollingIntervalSeconds: POLL_SEC, batchSize: 1 }, async ([{ data }]) =>
        queues[JOB_KINDS[kind].isQuiet ? 'quiet' : 'asked'].add({ personId: null, isPageWaiting: false }, () =>
          take(data.jobId),
        ),
      ),
    );
  const stopListening = listen(databaseUrl, {
    channels: {
      meridiem_jobs: () => workers.forEach((id) => boss.notifyWorker(id)),
      meridiem_jobs_stopped: (id) => stops.get(id)?.abort(),
    },
  });
  const timer = setInterval(() => {
    void releaseSilentJobs(database)
      .then(async (jobs) => {
        for (const { id, kind } of jobs) await sendJob(boss, kind as JobKindName, id);
      })
      .catch((error: unknown) => warn(error, 'looking after silent workers'));
  }, CHECK_MS);

  return {
    async close() {
      clearInterval(timer);
      for (const stop of stops.values()) stop.abort();
      await stopListening();
      await boss.stop({ graceful: false, wait: false }).catch(() => undefined);
    },
  };
}

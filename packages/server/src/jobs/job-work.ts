// How a job's work is done: given to a thread that computes, or, where it writes rows, done by whoever knows how; either tells how far it is and ends the job with its result.
import { MessageChannel } from 'node:worker_threads';
import type { Database, Queries } from '../database/connection.ts';
import type { JobKindName } from './kinds.ts';
import { JOB_KINDS } from './kinds.ts';
import type { HeldJob } from './repository.ts';
import { resultOf } from './repository.ts';
import type { ThreadPool } from './thread-pool.ts';

export interface JobHand {
  /** Aborted where somebody stops the job, or another worker has it. */
  readonly signal: AbortSignal;
  /** @param share from 0 to 1 */
  readonly tell: (share: number) => void;
  /** Ends the job, in the transaction of what it wrote.
   * @throws TakenAway where it is not this worker's any more: then nothing of it may stay */
  readonly finish: (queries: Queries, result: object) => Promise<void>;
}

export type JobWork = (job: HeldJob, hand: JobHand) => Promise<void>;

export class TakenAway extends Error {
  override readonly name = 'TakenAway';
}

/** A request that may begin with the result of an earlier one of its kind, named by its hash. */
export interface BegunWith {
  readonly beforeHash?: string;
}

/** The request with that result; without it where there is none any more. */
async function withBefore(database: Database, { observatoryId, request }: HeldJob): Promise<object> {
  const { beforeHash, ...own } = request as BegunWith;
  const before = beforeHash && (await resultOf<object>(database, { observatoryId, kind: 'season', requestHash: beforeHash })); // prettier-ignore
  return before ? { ...own, before } : own;
}

/** Work of a thread, which gets the request and a port for how far it is. */
export const threadWork =
  (database: Database, threads: ThreadPool): JobWork =>
  async (job, { signal, tell, finish }) => {
    const { port1, port2 } = new MessageChannel();
    port1.on('message', tell);
    port1.unref();
    try {
      const { work: name } = JOB_KINDS[job.kind as JobKindName] as { work: string };
      const result = await threads.run<object>(
        { ...(await withBefore(database, job)), progress: port2 },
        { name, signal, transferList: [port2] },
      );
      await database.transaction((queries) => finish(queries, result));
    } finally {
      port1.close();
    }
  };

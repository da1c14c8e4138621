// Runs the planner off the event loop, in worker threads.
import type { EarlyEnds, LimitCost } from '@meridiem/core';
import { requestScope } from '../plugins/request-scope.ts';
import type { EarlyEndsJob, LimitJob, PlanJob, PlanResult, UsableJob } from './plan-job.ts';
import type { ThreadPool } from './thread-pool.ts';
import { createWorkQueue } from './work-queue.ts';

/** Plans computed at once. */
export const PLANNING_THREADS = 2;

export interface PlanWorker {
  plan(job: PlanJob): Promise<PlanResult>;
  earlyEnds(job: EarlyEndsJob): Promise<EarlyEnds | null>;
  limit(job: LimitJob): Promise<LimitCost>;
  usable(job: UsableJob): Promise<number[][]>;
}

export function createPlanWorker(pool: ThreadPool): PlanWorker {
  const queue = createWorkQueue({ atOnce: PLANNING_THREADS });
  const run = <T>(job: object, name: string): Promise<T> =>
    queue.add({ personId: requestScope()?.personId ?? null, isPageWaiting: true }, (signal) =>
      pool.run<T>(job, { name, signal }),
    );
  return {
    plan: (job) => run<PlanResult>(job, 'default'),
    earlyEnds: (job) => run<EarlyEnds | null>(job, 'earlyEndsJob'),
    limit: (job) => run<LimitCost>(job, 'limitJob'),
    usable: (job) => run<number[][]>(job, 'usableJob'),
  };
}

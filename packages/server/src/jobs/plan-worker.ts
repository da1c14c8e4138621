// Runs the planner off the event loop, in worker threads.
import type { LimitCost } from '@meridiem/core';
import { requestScope } from '../plugins/request-scope.ts';
import type { LimitJob, PlanJob, PlanResult, UsableJob } from './plan-job.ts';
import { createThreadPool } from './thread-pool.ts';
import { createWorkQueue } from './work-queue.ts';

const THREADS = 2;

export interface PlanWorker {
  plan(job: PlanJob): Promise<PlanResult>;
  limit(job: LimitJob): Promise<LimitCost>;
  usable(job: UsableJob): Promise<number[][]>;
  close(): Promise<void>;
}

export function createPlanWorker(): PlanWorker {
  const pool = createThreadPool(THREADS);
  const queue = createWorkQueue({ atOnce: THREADS });
  const run = <T>(job: object, name: string): Promise<T> =>
    queue.add({ personId: requestScope()?.personId ?? null, isPageWaiting: true }, (signal) =>
      pool.run<T>(job, { name, signal }),
    );
  return {
    plan: (job) => run<PlanResult>(job, 'default'),
    limit: (job) => run<LimitCost>(job, 'limitJob'),
    usable: (job) => run<number[][]>(job, 'usableJob'),
    close: () => pool.close(),
  };
}

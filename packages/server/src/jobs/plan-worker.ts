// Runs the planner off the event loop, in worker threads.
import { Piscina } from 'piscina';
import type { LimitCost, Outlook } from '@meridiem/core';
import { requestScope } from '../plugins/request-scope.ts';
import type { LimitJob, OutlookJob, PlanJob, PlanResult, UsableJob } from './plan-job.ts';
import { createWorkQueue } from './work-queue.ts';

const THREADS = 2;

export interface PlanWorker {
  plan(job: PlanJob): Promise<PlanResult>;
  outlook(job: OutlookJob): Promise<Outlook>;
  limit(job: LimitJob): Promise<LimitCost>;
  usable(job: UsableJob): Promise<number[][]>;
  close(): Promise<void>;
}

export function createPlanWorker(): PlanWorker {
  const pool = new Piscina({
    filename: new URL('./plan-night.ts', import.meta.url).href,
    execArgv: ['--conditions', '@meridiem/source', '--import', 'tsx'],
    minThreads: 1,
    maxThreads: THREADS,
    idleTimeout: 60_000,
  });
  const queue = createWorkQueue({ atOnce: THREADS });
  const run = <T>(job: object, name: string, isPageWaiting: boolean): Promise<T> =>
    queue.add(
      { personId: requestScope()?.personId ?? null, isPageWaiting },
      (signal) => pool.run(job, { name, signal }) as Promise<T>,
    );
  return {
    plan: (job) => run<PlanResult>(job, 'default', true),
    limit: (job) => run<LimitCost>(job, 'limitJob', true),
    usable: (job) => run<number[][]>(job, 'usableJob', true),
    outlook: (job) => run<Outlook>(job, 'outlookJob', false),
    close: () => pool.destroy(),
  };
}

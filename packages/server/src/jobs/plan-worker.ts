// Runs the planner off the event loop, in worker threads.
import { Piscina } from 'piscina';
import type { LimitCost, Outlook } from '@meridiem/core';
import type { LimitJob, OutlookJob, PlanJob, PlanResult, UsableJob } from './plan-job.ts';

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
    maxThreads: 2,
    idleTimeout: 60_000,
  });
  return {
    plan: (job) => pool.run(job) as Promise<PlanResult>,
    outlook: (job) => pool.run(job, { name: 'outlookJob' }) as Promise<Outlook>,
    limit: (job) => pool.run(job, { name: 'limitJob' }) as Promise<LimitCost>,
    usable: (job) => pool.run(job, { name: 'usableJob' }) as Promise<number[][]>,
    close: () => pool.destroy(),
  };
}

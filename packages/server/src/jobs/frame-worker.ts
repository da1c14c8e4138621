// Reads and draws frames off the event loop, in worker threads of their own: planning does not wait for pictures.
import type { FrameFigures } from '@meridiem/contract';
import { requestScope } from '../plugins/request-scope.ts';
import type { DrawJob } from './frame-job.ts';
import { createThreadPool } from './thread-pool.ts';
import { createWorkQueue } from './work-queue.ts';

const THREADS = 2;
/** A sheet of pictures asks for a screenful at once. */
const MOST_OF_ONE = 80;

export interface FrameWorker {
  draw(job: DrawJob): Promise<Uint8Array>;
  measure(job: Pick<DrawJob, 'path'>): Promise<FrameFigures>;
  close(): Promise<void>;
}

export function createFrameWorker(): FrameWorker {
  const pool = createThreadPool(THREADS, './frame-job.ts');
  const queue = createWorkQueue({ atOnce: THREADS, mostWaiting: 400, mostOfOne: MOST_OF_ONE });
  const run = <T>(job: object, name: string): Promise<T> =>
    queue.add({ personId: requestScope()?.personId ?? null, isPageWaiting: true }, (signal) =>
      pool.run<T>(job, { name, signal }),
    );
  return {
    draw: (job) => run<Uint8Array>(job, 'drawJob'),
    measure: (job) => run<FrameFigures>(job, 'measureJob'),
    close: () => pool.close(),
  };
}

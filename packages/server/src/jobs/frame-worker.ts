// Reads and draws frames off the event loop, one at a time: a sheet of pictures leaves threads for planning.
import type { FrameFigures } from '@meridiem/contract';
import { requestScope } from '../plugins/request-scope.ts';
import type { DrawJob, MeasureJob } from './frame-job.ts';
import type { ThreadPool } from './thread-pool.ts';
import { createWorkQueue } from './work-queue.ts';

/** Frames worked on at once. */
export const FRAME_THREADS = 1;
/** A sheet of pictures asks for a screenful at once. */
const MOST_OF_ONE = 80;

export interface FrameWorker {
  draw(job: DrawJob): Promise<Uint8Array>;
  measure(job: MeasureJob, isPageWaiting: boolean): Promise<FrameFigures>;
}

export function createFrameWorker(pool: ThreadPool): FrameWorker {
  const queue = createWorkQueue({ atOnce: FRAME_THREADS, mostWaiting: 400, mostOfOne: MOST_OF_ONE });
  const run = <T>(job: object, name: string, isPageWaiting = true): Promise<T> =>
    queue.add({ personId: requestScope()?.personId ?? null, isPageWaiting }, (signal) =>
      pool.run<T>(job, { name, signal }),
    );
  return {
    draw: (job) => run<Uint8Array>(job, 'drawJob'),
    measure: (job, isPageWaiting) => run<FrameFigures>(job, 'measureJob', isPageWaiting),
  };
}

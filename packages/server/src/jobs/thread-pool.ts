// Worker threads that compute: one pool a process, the same functions in each.
import type { Transferable } from 'node:worker_threads';
import { Piscina } from 'piscina';

export interface ThreadPool {
  run<T>(
    task: object,
    options: { name: string; signal?: AbortSignal; transferList?: readonly Transferable[] },
  ): Promise<T>;
  close(): Promise<void>;
}

export function createThreadPool(threads: number): ThreadPool {
  const pool = new Piscina({
    filename: new URL('./thread-jobs.ts', import.meta.url).href,
    execArgv: ['--conditions', '@meridiem/source', '--import', 'tsx'],
    minThreads: 1,
    maxThreads: threads,
    idleTimeout: 60_000,
  });
  return {
    run: <T>(task: object, { transferList, ...options }: Parameters<ThreadPool['run']>[1]) =>
      pool.run(task, { ...options, transferList: transferList as never }) as Promise<T>,
    close: () => pool.destroy(),
  };
}

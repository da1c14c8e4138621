// The server as it is, told beside by its parent: how late its event loop was since it was last asked.
import { monitorEventLoopDelay } from 'node:perf_hooks';

const RESOLUTION_MS = 5;
const delays = monitorEventLoopDelay({ resolution: RESOLUTION_MS });
delays.enable();

/** Percentiles of the delay beyond the sampling itself, in milliseconds. */
export interface LoopDelay {
  readonly p50Ms: number;
  readonly p99Ms: number;
  readonly mostMs: number;
}

process.on('message', (word) => {
  if (word === 'begin') delays.reset();
  if (word !== 'end') return;
  const ms = (nanoseconds: number): number => Math.max(0, nanoseconds / 1e6 - RESOLUTION_MS);
  const answer: LoopDelay = {
    p50Ms: ms(delays.percentile(50)),
    p99Ms: ms(delays.percentile(99)),
    mostMs: ms(delays.max),
  };
  process.send!(answer);
});

await import('../packages/server/src/main.ts');

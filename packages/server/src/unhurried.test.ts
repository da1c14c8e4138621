import { monitorEventLoopDelay } from 'node:perf_hooks';
import { describe, expect, it } from '@jest/globals';
import { mapUnhurried } from './unhurried.ts';

describe('a long loop', () => {
  const items = Array.from({ length: 400 }, (_, i) => i);
  const busy = (ms: number): void => {
    for (const end = performance.now() + ms; performance.now() < end;);
  };

  it('gives what map gives, in order', async () => {
    expect(await mapUnhurried(items, (item, index) => item * 2 + index)).toEqual(items.map((item) => item * 3));
    expect(await mapUnhurried([], () => 1)).toEqual([]);
  });

  it('holds the thread for no longer than a turn', async () => {
    const delay = monitorEventLoopDelay({ resolution: 1 });
    delay.enable();
    await mapUnhurried(items, () => busy(1));
    delay.disable();
    // 400 ms of work; a plain loop would hold the thread all the while.
    expect(delay.percentile(90) / 1e6).toBeLessThan(60);
  });
});

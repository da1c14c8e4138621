import { describe, expect, it } from '@jest/globals';
import { DeviceError } from '@meridiem/devices';
import type { NightClock } from './night-clock.ts';
import { SAFETY_TIMEOUT_MS, SILENT_IS_UNSAFE_SEC, watchSafety } from './safety-watch.ts';

/** A clock whose waits pass at once, ended by whoever has seen enough. */
function quickClock() {
  let utcMs = 0;
  let woken = 0;
  const clock = {
    nowUtcMs: async () => utcMs,
    wake: () => void (woken += 1),
    beside: () => ({
      wait: async (sec: number) => {
        utcMs += 1000 * sec;
        await new Promise((resolve) => setImmediate(resolve));
        return utcMs;
      },
      end: () => undefined,
    }),
  } as unknown as NightClock;
  return { clock, pass: (ms: number) => void (utcMs += ms), now: () => utcMs, woken: () => woken };
}

/** Looks until something holds, or for a while. */
async function until(condition: () => boolean): Promise<void> {
  for (let i = 0; i < 200 && !condition(); i++) await new Promise((resolve) => setImmediate(resolve));
}

describe('safety', () => {
  it('is taken as said, with since when, and wakes the night where it changes', async () => {
    const { clock, woken } = quickClock();
    let isSafe = true;
    const watch = await watchSafety({ isSafe: async () => isSafe } as never, clock);
    expect(watch.isSafe).toBe(true);
    isSafe = false;
    await until(() => !watch.isSafe);
    expect([watch.isSafe, woken(), watch.sinceUtcMs > 0]).toEqual([false, 1, true]);
    isSafe = true;
    expect(await watch.ask()).toBe(true);
    await watch.stop();
  });

  it('is lost before its monitor has been silent for fifteen seconds, and not by one answer that does not come', async () => {
    const { clock, pass, now } = quickClock();
    let silent = 0;
    const readingMs = 2 * SAFETY_TIMEOUT_MS;
    const safety = {
      isSafe: async () => {
        if (silent === 0) return true;
        silent -= 1;
        pass(readingMs);
        throw new DeviceError('safety monitor', 'silent', 'no answer');
      },
    };
    const watch = await watchSafety(safety as never, clock);
    silent = 1;
    await until(() => silent === 0 && now() > readingMs + 4000);
    expect(watch.isSafe).toBe(true);
    const fromUtcMs = now();
    silent = 100;
    await until(() => !watch.isSafe);
    expect(watch.isSafe).toBe(false);
    expect(watch.sinceUtcMs - fromUtcMs).toBeLessThanOrEqual(1000 * SILENT_IS_UNSAFE_SEC);
    await watch.stop();
  });

  it('is not known before it is first answered', async () => {
    const { clock } = quickClock();
    const watch = await watchSafety({ isSafe: () => Promise.reject(new Error('no')) } as never, clock);
    expect(watch.isSafe).toBe(false);
    await watch.stop();
  });
});

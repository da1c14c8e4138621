// The observatory's time: a real one's is this machine's; a simulated one's is its own, and runs only while it is waited for.

export interface NightClock {
  nowUtcMs(): Promise<number>;
  /** Waits until a device is worth looking at again. */
  poll(): Promise<void>;
  /** Waits so long by the observatory's time. */
  wait(sec: number): Promise<void>;
}

const POLL_SEC = 1;
const LONGEST_POLL_SEC = 3;
/** Observatory seconds that pass between two looks, for each unit of speed. */
const POLL_PER_SPEED = 0.005;
const LONGEST_CALL_MS = 2000;

export const realClock = (sleep: (ms: number) => Promise<void>, nowUtcMs: () => number): NightClock => ({
  nowUtcMs: async () => nowUtcMs(),
  poll: () => sleep(1000 * POLL_SEC),
  wait: (sec) => sleep(1000 * sec),
});

/** @param baseUrl of the simulated rig */
export function simulatedClock(baseUrl: string, speed: number): NightClock {
  const run = async (sec: number): Promise<void> => {
    await fetch(`${baseUrl}/clock/run`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ sec }),
      signal: AbortSignal.timeout(3 * LONGEST_CALL_MS),
    });
  };
  const pollSec = Math.min(LONGEST_POLL_SEC, Math.max(POLL_SEC, POLL_PER_SPEED * speed));
  const mostSec = Math.max(pollSec, (LONGEST_CALL_MS / 1000) * speed);
  return {
    async nowUtcMs() {
      const answer = await fetch(`${baseUrl}/clock`, { signal: AbortSignal.timeout(5000) });
      return ((await answer.json()) as { utcMs: number }).utcMs;
    },
    poll: () => run(pollSec),
    async wait(sec) {
      for (let left = sec; left > 0; left -= mostSec) await run(Math.min(left, mostSec));
    },
  };
}

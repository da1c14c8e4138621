// The observatory's time: a real one's is this machine's; a simulated one's is its own, and runs only while it is waited for.

export interface NightClock {
  nowUtcMs(): Promise<number>;
  /** Waits until a device is worth looking at again. */
  poll(): Promise<void>;
  /** Waits so long by the observatory's time. */
  wait(sec: number): Promise<void>;
  /** Work that takes no observatory time where that can be had: a simulated clock stands still meanwhile. */
  still<T>(work: () => Promise<T>): Promise<T>;
}

const POLL_SEC = 1;
const LONGEST_POLL_SEC = 3;
/** Observatory seconds that pass between two looks, for each unit of speed. */
const POLL_PER_SPEED = 0.005;
const LONGEST_CALL_MS = 2000;
/** A simulated clock that nobody waits by goes on by itself; asked this often, it stands. */
const HOLD_EVERY_MS = 1000;

export const realClock = (sleep: (ms: number) => Promise<void>, nowUtcMs: () => number): NightClock => ({
  nowUtcMs: async () => nowUtcMs(),
  poll: () => sleep(1000 * POLL_SEC),
  wait: (sec) => sleep(1000 * sec),
  still: (work) => work(),
});

/** @param baseUrl of the simulated rig */
export function simulatedClock(baseUrl: string, speed: number): NightClock {
  let standing: Promise<void> | null = null;
  const run = async (sec: number): Promise<void> => {
    if (sec > 0) await standing;
    await answered(() =>
      fetch(`${baseUrl}/clock/run`, {
        method: 'POST',
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify({ sec }),
        signal: AbortSignal.timeout(3 * LONGEST_CALL_MS),
      }),
    );
  };
  const pollSec = Math.min(LONGEST_POLL_SEC, Math.max(POLL_SEC, POLL_PER_SPEED * speed));
  const mostSec = Math.max(pollSec, (LONGEST_CALL_MS / 1000) * speed);
  return {
    async nowUtcMs() {
      const answer = await answered(() => fetch(`${baseUrl}/clock`, { signal: AbortSignal.timeout(5000) }));
      return ((await answer.json()) as { utcMs: number }).utcMs;
    },
    poll: () => run(pollSec),
    async wait(sec) {
      for (let left = sec; left > 0; left -= mostSec) await run(Math.min(left, mostSec));
    },
    async still(work) {
      const { promise, resolve } = withResolvers();
      standing = promise;
      const holding = setInterval(() => void run(0).catch(() => undefined), HOLD_EVERY_MS);
      try {
        return await work();
      } finally {
        clearInterval(holding);
        standing = null;
        resolve();
      }
    },
  };
}

function withResolvers(): { promise: Promise<void>; resolve: () => void } {
  let resolve!: () => void;
  const promise = new Promise<void>((done) => (resolve = done));
  return { promise, resolve };
}

const AGAIN_MS = 200;
const LONGEST_SILENCE_MS = 60_000;

/** Without its clock a simulated night stands still: it is asked again until it answers, for a minute. */
async function answered(ask: () => Promise<Response>): Promise<Response> {
  for (const startMs = performance.now(); ;) {
    try {
      const answer = await ask();
      if (answer.ok) return answer;
      throw new Error(`the simulated clock answered ${answer.status}`);
    } catch (error) {
      if (performance.now() - startMs > LONGEST_SILENCE_MS) throw error;
      await new Promise((resolve) => setTimeout(resolve, AGAIN_MS));
    }
  }
}

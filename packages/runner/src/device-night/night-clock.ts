// The observatory's time: a real one's is this machine's; a simulated one's is its own, and runs only while it is waited for.

import type { Answer } from '@meridiem/devices';
import { exchange, exchangeJson } from '@meridiem/devices';

export interface NightClock {
  nowUtcMs(): Promise<number>;
  /** Waits until a device is worth looking at again; a simulated clock for as long as is asked, or until it is woken. */
  poll(sec?: number): Promise<void>;
  /** Something has happened beside the night that it must hear of at once. */
  wake(): void;
  /** Waits so long by the observatory's time. */
  wait(sec: number): Promise<void>;
  /** For what goes on beside the night: its waiting lets no simulated time pass, and its work is waited for. */
  beside(): SideClock;
}

export interface SideClock {
  /** Returns early where it has ended. @returns the time by then, null where it ended */
  wait(sec: number): Promise<number | null>;
  /** Whoever used it is done, and waits no longer. */
  end(): void;
}

const POLL_SEC = 1;
const LONGEST_POLL_SEC = 3;
/** Observatory seconds that pass between two looks, for each unit of speed. */
const POLL_PER_SPEED = 0.005;
const LONGEST_CALL_MS = 2000;

export const realClock = (sleep: (ms: number) => Promise<void>, nowUtcMs: () => number): NightClock => ({
  nowUtcMs: async () => nowUtcMs(),
  poll: () => sleep(1000 * POLL_SEC),
  wake: () => undefined,
  wait: (sec) => sleep(1000 * sec),
  beside: () => {
    let end!: () => void;
    const ended = new Promise<null>((resolve) => (end = () => resolve(null)));
    return { wait: (sec) => Promise.race([sleep(1000 * sec).then(nowUtcMs), ended]), end };
  },
});

/** Simulated time passes only while the night itself waits and nothing beside it is at work: a call over the network, or a
 * busy machine, costs none. @param baseUrl of the simulated rig */
export function simulatedClock(baseUrl: string, speed: number): NightClock {
  const run = async (sec: number, isBeside: boolean, over?: AbortSignal): Promise<number> => {
    const answer = await answered(
      () =>
        exchangeJson(
          `${baseUrl}/clock/run`,
          'POST',
          { sec, isBeside },
          over ?? AbortSignal.timeout(3 * LONGEST_CALL_MS),
        ),
      over,
    );
    return ((await answer.json()) as { utcMs: number }).utcMs;
  };
  const sides = sideWork();
  const runWhenIdle = async (sec: number): Promise<void> => {
    await sides.idle();
    await run(sec, false);
  };
  let woken = new AbortController();
  const pollSec = Math.min(LONGEST_POLL_SEC, Math.max(POLL_SEC, POLL_PER_SPEED * speed));
  const mostSec = Math.max(pollSec, (LONGEST_CALL_MS / 1000) * speed);
  return {
    nowUtcMs: () => simulatedUtcMs(baseUrl),
    async poll(sec = pollSec) {
      await sides.idle();
      if (sec <= pollSec) return void (await run(sec, false));
      // A wake from before this look is heard now: nobody knows on which side of the last look it came.
      const { signal } = woken;
      if (!signal.aborted)
        await run(Math.min(sec, mostSec), false, signal).catch((error: unknown) => {
          if (!signal.aborted) throw error;
        });
      if (signal.aborted) woken = new AbortController();
    },
    wake: () => woken.abort(),
    async wait(sec) {
      for (let left = sec; left > 0; left -= mostSec) await runWhenIdle(Math.min(left, mostSec));
    },
    beside() {
      const work = sides.begin();
      const over = new AbortController();
      return {
        async wait(sec) {
          work.rest();
          return over.signal.aborted ? null : run(sec, true, over.signal).finally(work.goOn);
        },
        end() {
          over.abort();
          work.end();
        },
      };
    },
  };
}

/** Who is at work beside the night. */
function sideWork() {
  const working = new Set<object>();
  let waiting: (() => void)[] = [];
  return {
    async idle(): Promise<void> {
      while (working.size > 0) await new Promise<void>((resolve) => waiting.push(resolve));
    },
    begin() {
      const one = {};
      let isOver = false;
      working.add(one);
      return {
        rest(): void {
          working.delete(one);
          const woken = waiting;
          waiting = [];
          woken.forEach((wake) => wake());
        },
        goOn: () => void (isOver || working.add(one)),
        end(): void {
          isOver = true;
          this.rest();
        },
      };
    },
  };
}

/** What a simulated rig's clock says. @throws when it answers nothing for a minute */
export async function simulatedUtcMs(baseUrl: string): Promise<number> {
  const answer = await answered(() => exchange(`${baseUrl}/clock`, { signal: AbortSignal.timeout(5000) }));
  return ((await answer.json()) as { utcMs: number }).utcMs;
}

const AGAIN_MS = 200;
const LONGEST_SILENCE_MS = 60_000;

/** Without its clock a simulated night stands still: it is asked again until it answers, for a minute. */
async function answered(ask: () => Promise<Answer>, over?: AbortSignal): Promise<Answer> {
  for (const startMs = performance.now(); ;) {
    try {
      const answer = await ask();
      if (answer.isOk) return answer;
      await answer.bytes();
      throw new Error(`the simulated clock answered ${answer.status}`);
    } catch (error) {
      if (over?.aborted || performance.now() - startMs > LONGEST_SILENCE_MS) throw error;
      await new Promise((resolve) => setTimeout(resolve, AGAIN_MS));
    }
  }
}

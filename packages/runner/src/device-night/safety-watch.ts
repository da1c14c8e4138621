// Safety, read every few seconds beside everything else: no valid answer for a while is as unsafe as a bad one.
import type { SafetyClient } from '@meridiem/devices';
import type { NightClock } from './night-clock.ts';

/** Without a valid answer for so long the sky counts as unsafe, observatory seconds. */
export const SILENT_IS_UNSAFE_SEC = 15;
const LOOK_EVERY_SEC = 2;
/** The longest that one call to the safety monitor takes, real milliseconds; a reading is two calls. */
export const SAFETY_TIMEOUT_MS = 2000;
/** By then the next answer may come, the wait and the whole reading counted. */
const NEXT_ANSWER_SEC = LOOK_EVERY_SEC + (2 * SAFETY_TIMEOUT_MS) / 1000;

export interface SafetyWatch {
  readonly isSafe: boolean;
  /** Since when it has been as it is. */
  readonly sinceUtcMs: number;
  /** Asks at once instead of at the next look. */
  ask(): Promise<boolean>;
  stop(): Promise<void>;
}

export async function watchSafety(safety: SafetyClient, clock: NightClock): Promise<SafetyWatch> {
  const now = await clock.nowUtcMs();
  let [isSafe, sinceUtcMs, heardUtcMs, isOver] = [await safety.isSafe().catch(() => false), now, now, false];
  /** @param askedUtcMs a moment at or before this look: what is as before needs no later one */
  const look = async (askedUtcMs: number): Promise<void> => {
    const answer = await safety.isSafe().catch(() => null);
    if (answer === isSafe) return void (heardUtcMs = Math.max(heardUtcMs, askedUtcMs));
    const utcMs = await clock.nowUtcMs();
    if (answer !== null) heardUtcMs = utcMs;
    const next = answer ?? (utcMs - heardUtcMs > 1000 * (SILENT_IS_UNSAFE_SEC - NEXT_ANSWER_SEC) ? false : isSafe);
    if (next === isSafe) return;
    [isSafe, sinceUtcMs] = [next, utcMs];
    clock.wake();
  };
  const beside = clock.beside();
  const watching = (async () => {
    for (let utcMs: number | null = now; !isOver;) {
      await (utcMs === null ? clock.nowUtcMs().then(look) : look(utcMs)).catch(() => undefined);
      utcMs = await beside.wait(LOOK_EVERY_SEC).catch(() => null);
    }
  })();
  return {
    get isSafe() {
      return isSafe;
    },
    get sinceUtcMs() {
      return sinceUtcMs;
    },
    async ask() {
      await look(await clock.nowUtcMs());
      return isSafe;
    },
    async stop() {
      isOver = true;
      beside.end();
      await watching;
    },
  };
}

// Long loops that let others through: many small pieces of work on the server's one thread.
import { setImmediate as nextTurn } from 'node:timers/promises';

/** As long as a stretch of such work may hold the thread. */
const TURN_MS = 15;

/** `items.map(work)`, with the thread given up whenever a turn is over. */
export async function mapUnhurried<T, R>(items: readonly T[], work: (item: T, index: number) => R): Promise<R[]> {
  const results: R[] = [];
  let startedMs = performance.now();
  for (const [index, item] of items.entries()) {
    results.push(work(item, index));
    if (performance.now() - startedMs < TURN_MS) continue;
    await nextTurn();
    startedMs = performance.now();
  }
  return results;
}

// Who computes next: what a page waits for before what runs in the background, nobody more than their share, and no more
// than can be done soon.
import { ServiceError } from '../errors.ts';

export interface QueueLimits {
  /** How many are computed at once. */
  readonly atOnce: number;
  readonly mostWaiting: number;
  /** Waiting and running, of one person. */
  readonly mostOfOne: number;
  /** From being asked for to being done. */
  readonly longestMs: number;
}

export const DEFAULT_QUEUE_LIMITS: QueueLimits = { atOnce: 2, mostWaiting: 60, mostOfOne: 12, longestMs: 60_000 };

export interface Asked {
  /** Null for the server's own work. */
  readonly personId: string | null;
  readonly isPageWaiting: boolean;
}

interface Waiting extends Asked {
  readonly begin: () => void;
}

export interface WorkQueue {
  /** Runs the work when its turn comes.
   * @throws NOT_READY where too much waits already, or it takes too long */
  add<T>(asked: Asked, work: (signal: AbortSignal) => Promise<T>): Promise<T>;
  readonly length: () => number;
}

export function createWorkQueue(limits: Partial<QueueLimits> = {}): WorkQueue {
  const { atOnce, mostWaiting, mostOfOne, longestMs } = { ...DEFAULT_QUEUE_LIMITS, ...limits };
  const waiting: Waiting[] = [];
  const ofPerson = new Map<string, number>();
  let running = 0;

  const count = (personId: string | null, by: number): void => {
    if (personId === null) return;
    const left = (ofPerson.get(personId) ?? 0) + by;
    if (left > 0) ofPerson.set(personId, left);
    else ofPerson.delete(personId);
  };
  const refuseTooMuch = ({ personId }: Asked): void => {
    if (waiting.length >= mostWaiting)
      throw new ServiceError('NOT_READY', 'More is being computed than can be done soon; try again in a little while');
    if (personId !== null && (ofPerson.get(personId) ?? 0) >= mostOfOne)
      throw new ServiceError('NOT_READY', 'Much of what you asked for is still being computed; wait for it first');
  };
  const next = (): void => {
    if (running >= atOnce || waiting.length === 0) return;
    const first = waiting.findIndex(({ isPageWaiting }) => isPageWaiting);
    running += 1;
    waiting.splice(Math.max(0, first), 1)[0].begin();
  };
  const turn = (asked: Asked, signal: AbortSignal): Promise<void> =>
    new Promise((begin, fail) => {
      const place: Waiting = { ...asked, begin };
      waiting.push(place);
      signal.addEventListener('abort', () => {
        const at = waiting.indexOf(place);
        if (at < 0) return;
        waiting.splice(at, 1);
        fail(tooLong());
      });
      next();
    });

  return {
    length: () => waiting.length,
    async add(asked, work) {
      refuseTooMuch(asked);
      count(asked.personId, 1);
      const stop = new AbortController();
      const timer = setTimeout(() => stop.abort(), longestMs);
      try {
        await turn(asked, stop.signal);
        return await work(stop.signal)
          .catch((error: unknown) => {
            throw stop.signal.aborted ? tooLong() : error;
          })
          .finally(() => {
            running -= 1;
            next();
          });
      } finally {
        clearTimeout(timer);
        count(asked.personId, -1);
      }
    },
  };
}

const tooLong = (): ServiceError =>
  new ServiceError('NOT_READY', 'This took longer than it may; ask for less at once, or try again later');

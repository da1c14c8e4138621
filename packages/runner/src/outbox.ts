// Reports to the server, in their order, behind the night: a silent server holds up no command to a device.

export interface Outbox<T> {
  /** Sent when everything before it has been. */
  add(item: T): void;
  /** Resolves when all that was added has been sent. */
  flush(): Promise<void>;
  /** Items that wait. */
  readonly waiting: number;
}

export interface OutboxParts<T> {
  /** Sends one item, or several that may go together. */
  readonly send: (items: readonly T[]) => Promise<void>;
  /** Whether an item may go together with others like it. */
  readonly together: (item: T) => boolean;
  /** As many go together. */
  readonly most: number;
  readonly sleep: (ms: number) => Promise<void>;
  /** Told when the server refuses a report: it is dropped. */
  readonly onRefused: (error: unknown) => void;
}

/** What may go together is waited for this long: nobody who watches notices, and the server is called far less often. */
const GATHER_MS = 200;

export function createOutbox<T>({ send, together, most, sleep, onRefused }: OutboxParts<T>): Outbox<T> {
  const queue: T[] = [];
  let sending = 0;
  let work: Promise<void> | null = null;
  const takeNext = (): T[] => {
    const alone = queue.findIndex((item) => !together(item));
    const count = alone === 0 ? 1 : Math.min(most, alone === -1 ? queue.length : alone);
    return queue.splice(0, count);
  };
  const sendAll = async (): Promise<void> => {
    while (queue.length > 0) {
      if (queue.every(together)) await sleep(GATHER_MS);
      const next = takeNext();
      sending = next.length;
      await send(next).catch(onRefused);
      sending = 0;
    }
    work = null;
  };
  return {
    add(item) {
      queue.push(item);
      work ??= Promise.resolve().then(sendAll);
    },
    flush: async () => void (await work),
    get waiting() {
      return queue.length + sending;
    },
  };
}

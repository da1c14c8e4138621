// Reports to the server, in their order, behind the night: a silent server holds up no command to a device.

export interface Outbox {
  /** Sent when everything before it has been. */
  add(send: () => Promise<void>): void;
  /** Resolves when all that was added has been sent. */
  flush(): Promise<void>;
  /** Reports that wait. */
  readonly waiting: number;
}

/** @param onRefused told when the server refuses a report: it is dropped */
export function createOutbox(onRefused: (error: unknown) => void): Outbox {
  let last: Promise<void> = Promise.resolve();
  let waiting = 0;
  return {
    add(send) {
      waiting += 1;
      last = last
        .then(send)
        .catch(onRefused)
        .finally(() => (waiting -= 1));
    },
    flush: () => last,
    get waiting() {
      return waiting;
    },
  };
}

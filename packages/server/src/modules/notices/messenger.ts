// Sends what is due, one message after the other: put off in quiet hours, tried again with growing pauses, given up in the end.
import { quietUntilUtcMs } from '@meridiem/core';
import type { Clock } from '../../clock.ts';
import type { Database } from '../../database/connection.ts';
import type { SendOutside } from './outside.ts';
import type { DueMessage } from './messages-repository.ts';
import { giveUp, markSent, putOff, takeMessage } from './messages-repository.ts';

const LOOK_MS = 1_000;
const FIRST_PAUSE_MS = 15_000;
const MOST_TRIES = 8;

export interface MessengerParts {
  readonly database: Database;
  readonly clock: Clock;
  readonly outside: Record<DueMessage['channel'], SendOutside>;
  readonly warn: (error: unknown, words: string) => void;
  readonly firstPauseMs?: number;
}

export interface Messenger {
  /** Lets what is on its way arrive, and sends nothing more. */
  close(): Promise<void>;
}

export function createMessenger({
  database,
  clock,
  outside,
  warn,
  firstPauseMs = FIRST_PAUSE_MS,
}: MessengerParts): Messenger {
  let isClosing = false;
  let wake: () => void = () => undefined;

  const quietMs = ({ kind, quietFromMin, quietToMin, timeZone }: DueMessage): number =>
    kind === 'danger' || quietFromMin === null || quietToMin === null
      ? 0
      : quietUntilUtcMs(clock.nowUtcMs(), { fromMin: quietFromMin, toMin: quietToMin }, timeZone) - clock.nowUtcMs();

  async function send(message: DueMessage): Promise<void> {
    const { id, tries } = message;
    const waitMs = quietMs(message);
    if (waitMs > 0) return void (await putOff(database, id, { due: inMs(waitMs), problem: null, tries: tries - 1 }));
    try {
      await outside[message.channel](message);
    } catch (error) {
      const problem = error instanceof Error ? error.message.slice(0, 300) : 'It could not be sent';
      if (tries >= MOST_TRIES) return void (await giveUp(database, id, problem));
      return void (await putOff(database, id, { due: inMs(firstPauseMs * 2 ** (tries - 1)), problem, tries }));
    }
    await markSent(database, id);
  }

  async function sendAll(): Promise<void> {
    while (!isClosing) {
      const message = await takeMessage(database);
      if (!message) return;
      await send(message);
    }
  }

  async function run(): Promise<void> {
    while (!isClosing) {
      await sendAll().catch((error: unknown) => warn(error, 'sending messages'));
      if (isClosing) return;
      await new Promise<void>((resolve) => {
        const timer = setTimeout(resolve, LOOK_MS);
        wake = () => (clearTimeout(timer), resolve());
      });
    }
  }

  const running = run();
  return {
    async close() {
      isClosing = true;
      wake();
      await running;
    },
  };
}

const inMs = (ms: number): Date => new Date(Date.now() + ms);

// The outbox of events, followed: PostgreSQL tells the number of each event when its transaction commits, and every one is read once.
import type { WhereOptions } from 'sequelize';
import { Op } from 'sequelize';
import type { Database } from '../database/connection.ts';
import { listen } from '../database/listening.ts';

/** What changed, and whose. */
export interface LiveEvent {
  readonly seq: string;
  readonly observatoryId: string;
  readonly topic: string;
  readonly ids: readonly string[];
}

/** Transactions commit in another order than they took their numbers: how far back from the newest one is looked after a lost connection. */
const LOOK_BACK = 2000;

export interface OutboxParts {
  readonly database: Database;
  readonly databaseUrl: string;
  readonly tell: (event: LiveEvent) => void;
  /** Sessions of a person have ended; of anybody (null), where ends may have been missed. */
  readonly sessionsEnded: (personId: string | null) => Promise<void>;
  readonly warn: (error: unknown) => void;
}

/** Follows the outbox on a connection of its own.
 * @returns what ends it */
export function followOutbox({ database, databaseUrl, tell, sessionsEnded, warn }: OutboxParts): () => Promise<void> {
  let newest: number | null = null;
  let first = 0;
  const announced = new Set<string>();
  const told = new Set<string>();
  let reading = Promise.resolve();

  const eventsWhere = async (where: WhereOptions): Promise<LiveEvent[]> =>
    (await database.models.Event.findAll({ where, order: [['seq', 'ASC']] })).map((row) => ({
      seq: String(row.seq),
      observatoryId: row.observatoryId,
      topic: row.topic,
      ids: row.ids as string[],
    }));
  const tellOnce = (events: readonly LiveEvent[]): void => {
    for (const event of events) {
      if (told.has(event.seq)) continue;
      told.add(event.seq);
      newest = Math.max(newest ?? 0, Number(event.seq));
      tell(event);
    }
    for (const seq of told) if (Number(seq) < newest! - LOOK_BACK) told.delete(seq);
  };
  const readAnnounced = async (): Promise<void> => {
    const seqs = [...announced];
    if (seqs.length === 0) return;
    tellOnce(await eventsWhere({ seq: { [Op.in]: seqs } }));
    // Not before: what could not be read is read with the next.
    for (const seq of seqs) announced.delete(seq);
  };
  const readMissed = async (since: number): Promise<void> => tellOnce(await eventsWhere({ seq: { [Op.gt]: since } }));
  const inTurn = (read: () => Promise<void>): void => {
    reading = reading.then(read).catch(warn);
  };

  return listen(databaseUrl, {
    channels: {
      meridiem_events: (seq) => {
        announced.add(seq);
        inTurn(readAnnounced);
      },
      meridiem_sessions: (personId) => inTurn(() => sessionsEnded(personId)),
    },
    async connected() {
      inTurn(() => sessionsEnded(null));
      // What was told already stays told; what is older than the first connection was never missed.
      if (newest === null) newest = first = Number((await database.models.Event.max('seq')) ?? 0);
      else inTurn(() => readMissed(Math.max(first, newest! - LOOK_BACK)));
    },
  });
}

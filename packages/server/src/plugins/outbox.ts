// The outbox of events, followed: PostgreSQL tells the number of each event when its transaction commits, and every one is read once.
import { Client } from 'pg';
import type { WhereOptions } from 'sequelize';
import { Op } from 'sequelize';
import type { Database } from '../database/connection.ts';

/** What changed, and whose. */
export interface LiveEvent {
  readonly seq: string;
  readonly observatoryId: string;
  readonly topic: string;
  readonly ids: readonly string[];
}

/** Transactions commit in another order than they took their numbers: how far back from the newest one is looked after a lost connection. */
const LOOK_BACK = 2000;
const RECONNECT_MS = 500;

export interface OutboxParts {
  readonly database: Database;
  readonly databaseUrl: string;
  readonly tell: (event: LiveEvent) => void;
  /** Sessions of a person have ended; of anybody (null), where ends may have been missed. */
  readonly sessionsEnded: (personId: string | null) => Promise<void>;
  readonly warn: (error: unknown) => void;
}

/** Follows the outbox on a connection of its own, which it makes anew when it is lost.
 * @returns what ends it */
export function followOutbox({ database, databaseUrl, tell, sessionsEnded, warn }: OutboxParts): () => Promise<void> {
  let client: Client | null = null;
  let closed = false;
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

  const connect = async (): Promise<void> => {
    if (closed) return;
    const next = new Client({ connectionString: databaseUrl });
    client = next;
    const again = (): void => void setTimeout(() => void connect(), RECONNECT_MS).unref();
    let connected = false;
    next.on('error', () => undefined);
    next.on('notification', ({ channel, payload }) => {
      if (channel === 'meridiem_sessions') return inTurn(() => sessionsEnded(payload!));
      announced.add(payload!);
      inTurn(readAnnounced);
    });
    try {
      await next.connect();
      connected = true;
      next.on('end', again);
      await next.query('LISTEN meridiem_events');
      await next.query('LISTEN meridiem_sessions');
      inTurn(() => sessionsEnded(null));
      if (newest !== null) {
        // What was told already stays told; what is older than the first connection was never missed.
        const since = Math.max(first, newest - LOOK_BACK);
        inTurn(() => readMissed(since));
        return;
      }
      newest = first = Number((await database.models.Event.max('seq')) ?? 0);
    } catch {
      // Its end begins again.
      if (connected) await next.end().catch(again);
      else again();
    }
  };
  void connect();
  return async () => {
    closed = true;
    await client?.end().catch(() => undefined);
  };
}

// The outbox of events, followed: PostgreSQL tells the number of each event when its transaction commits, and every one is read once.
import { Client } from 'pg';
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

const COLUMNS = 'seq::text, observatory_id AS "observatoryId", topic, ids';

export interface OutboxParts {
  readonly database: Database;
  readonly databaseUrl: string;
  readonly tell: (event: LiveEvent) => void;
  readonly warn: (error: unknown) => void;
}

/** Follows the outbox on a connection of its own, which it makes anew when it is lost.
 * @returns what ends it */
export function followOutbox({ database, databaseUrl, tell, warn }: OutboxParts): () => Promise<void> {
  let client: Client | null = null;
  let closed = false;
  let newest: number | null = null;
  let first = 0;
  const announced = new Set<string>();
  const told = new Set<string>();
  let reading = Promise.resolve();

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
    tellOnce(
      await database.rows<LiveEvent>(`SELECT ${COLUMNS} FROM events WHERE seq = ANY ($1::bigint[]) ORDER BY seq`, [
        seqs,
      ]),
    );
    // Not before: what could not be read is read with the next.
    for (const seq of seqs) announced.delete(seq);
  };
  const readMissed = async (since: number): Promise<void> =>
    tellOnce(await database.rows<LiveEvent>(`SELECT ${COLUMNS} FROM events WHERE seq > $1 ORDER BY seq`, [since]));
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
    next.on('notification', ({ payload }) => {
      announced.add(payload!);
      inTurn(readAnnounced);
    });
    try {
      await next.connect();
      connected = true;
      next.on('end', again);
      await next.query('LISTEN meridiem_events');
      if (newest !== null) {
        // What was told already stays told; what is older than the first connection was never missed.
        const since = Math.max(first, newest - LOOK_BACK);
        inTurn(() => readMissed(since));
        return;
      }
      const row = await database.one<{ seq: string }>('SELECT coalesce(max(seq), 0)::text AS seq FROM events');
      newest = first = Number(row?.seq ?? 0);
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

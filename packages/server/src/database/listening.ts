// Follows the database's announcements on a connection of its own, made again when it is lost.
import { Client } from 'pg';

const RECONNECT_MS = 500;

export interface Listening {
  /** What to do with an announcement, by channel. */
  readonly channels: Readonly<Record<string, (payload: string) => void>>;
  /** After each connection, when its channels are followed: what was announced before has been missed. */
  readonly connected?: () => void | Promise<void>;
}

/** @returns what ends it */
export function listen(databaseUrl: string, { channels, connected }: Listening): () => Promise<void> {
  let client: Client | null = null;
  let timer: NodeJS.Timeout | null = null;
  let isClosed = false;

  const connect = async (): Promise<void> => {
    const next = new Client({ connectionString: databaseUrl, connectionTimeoutMillis: 5_000 });
    client = next;
    const again = (): void => {
      if (isClosed || client !== next) return;
      client = null;
      timer = setTimeout(() => void connect(), RECONNECT_MS).unref();
    };
    next.on('error', () => undefined);
    next.on('end', again);
    next.on('notification', ({ channel, payload }) => channels[channel]?.(payload ?? ''));
    try {
      await next.connect();
      for (const channel of Object.keys(channels)) await next.query(`LISTEN ${channel}`);
      await connected?.();
    } catch {
      await next.end().catch(() => undefined);
      again();
    }
  };
  void connect();
  return async () => {
    isClosed = true;
    if (timer) clearTimeout(timer);
    await client?.end().catch(() => undefined);
  };
}

// Live events: an outbox in the database, a listener that is told numbers only, and one stream per browser.
import { EventEmitter } from 'node:events';
import { fastifySSE } from '@fastify/sse';
import type { LiveTopic } from '@meridiem/contract';
import { followEvents } from '@meridiem/contract';
import type { FastifyInstance } from 'fastify';
import fastifyPlugin from 'fastify-plugin';
import { Client } from 'pg';
import type { Database, Queries } from '../database/connection.ts';
import { serve } from './operations.ts';

export interface LiveEvent {
  readonly seq: string;
  readonly observatoryId: string;
  readonly topic: LiveTopic;
  readonly ids: readonly string[];
}

/** Puts an event into the outbox; it is announced when the transaction commits. */
export async function announce(
  queries: Queries,
  observatoryId: string,
  topic: LiveTopic,
  ids: readonly string[] = [],
): Promise<void> {
  await queries.rows('INSERT INTO events (observatory_id, topic, ids) VALUES ($1, $2, $3)', [
    observatoryId,
    topic,
    JSON.stringify(ids),
  ]);
}

const SELECT_EVENTS = `SELECT seq::text, observatory_id AS "observatoryId", topic, ids FROM events WHERE seq > $1 ORDER BY seq LIMIT 500`;

export const livePlugin = fastifyPlugin(
  async (app: FastifyInstance, { database, databaseUrl }: { database: Database; databaseUrl: string }) => {
    await app.register(fastifySSE, { heartbeatInterval: 15_000 });
    const emitter = new EventEmitter().setMaxListeners(0);
    const stopListening = listen(app, database, databaseUrl, emitter);
    const streams = new Set<() => void>();
    app.addHook('preClose', async () => {
      for (const close of streams) close();
      await stopListening();
    });
    serve(
      app,
      followEvents,
      async ({ viewer, reply }) => {
        reply.sse.keepAlive();
        await reply.sse.send({ event: 'hello', data: {} });
        const forward = (event: LiveEvent): void => {
          if (event.observatoryId !== viewer.observatoryId) return;
          reply.sse
            .send({ id: event.seq, event: 'changed', data: { topic: event.topic, ids: event.ids } })
            .catch(() => undefined);
        };
        const close = (): void => reply.sse.close();
        emitter.on('event', forward);
        streams.add(close);
        reply.sse.onClose(() => {
          emitter.off('event', forward);
          streams.delete(close);
        });
        return undefined as never;
      },
      { sse: true },
    );
  },
);

/** Listens on a connection of its own and reconnects; what was missed meanwhile is read from the outbox. */
function listen(
  app: FastifyInstance,
  database: Database,
  databaseUrl: string,
  emitter: EventEmitter,
): () => Promise<void> {
  let client: Client | null = null;
  let closed = false;
  let last: string | null = null;
  let reading = Promise.resolve();
  const catchUp = (): void => {
    reading = reading
      .then(
        async () => {
          if (last === null) return;
          for (const event of await database.rows<LiveEvent>(SELECT_EVENTS, [last])) {
            last = event.seq;
            emitter.emit('event', event);
          }
        },
        () => undefined,
      )
      .catch((error: unknown) => app.log.warn({ err: error }, 'events could not be read'));
  };
  const connect = async (): Promise<void> => {
    if (closed) return;
    const next = new Client({ connectionString: databaseUrl });
    client = next;
    next.on('error', () => undefined);
    next.on('notification', catchUp);
    try {
      await next.connect();
      next.on('end', () => setTimeout(() => void connect(), 500).unref());
      await next.query('LISTEN meridiem_events');
      last ??=
        (await database.one<{ seq: string }>('SELECT coalesce(max(seq), 0)::text AS seq FROM events'))?.seq ?? '0';
      catchUp();
    } catch {
      setTimeout(() => void connect(), 500).unref();
    }
  };
  void connect();
  return async () => {
    closed = true;
    await client?.end().catch(() => undefined);
  };
}

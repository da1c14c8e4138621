// Live events: an outbox in the database, a listener that is told numbers only, and one stream per browser.
import { EventEmitter } from 'node:events';
import { fastifySSE } from '@fastify/sse';
import type { LiveTopic } from '@meridiem/contract';
import { followEvents } from '@meridiem/contract';
import type { FastifyInstance } from 'fastify';
import fastifyPlugin from 'fastify-plugin';
import type { Database, Queries } from '../database/connection.ts';
import { serve } from './operations.ts';
import type { LiveEvent } from './outbox.ts';
import { followOutbox } from './outbox.ts';

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

export const livePlugin = fastifyPlugin(
  async (app: FastifyInstance, { database, databaseUrl }: { database: Database; databaseUrl: string }) => {
    await app.register(fastifySSE, { heartbeatInterval: 15_000 });
    const emitter = new EventEmitter().setMaxListeners(0);
    const stopFollowing = followOutbox({
      database,
      databaseUrl,
      tell: (event) => emitter.emit('event', event),
      warn: (error) => app.log.warn({ err: error }, 'events could not be read'),
    });
    const streams = new Set<() => void>();
    app.addHook('preClose', async () => {
      for (const close of streams) close();
      await stopFollowing();
    });
    serve(
      app,
      followEvents,
      async ({ viewer, reply }) => {
        reply.sse.keepAlive();
        await reply.sse.send({ event: 'hello', data: {} });
        // One after the other: a page that reads slowly is waited for.
        let sending = Promise.resolve();
        const forward = ({ observatoryId, seq, topic, ids }: LiveEvent): void => {
          if (observatoryId !== viewer.observatoryId) return;
          sending = sending
            .then(() => reply.sse.send({ id: seq, event: 'changed', data: { topic, ids } }))
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

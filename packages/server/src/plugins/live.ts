// Live events: an outbox in the database, a listener that is given numbers only, and one stream per page.
import { fastifySSE } from '@fastify/sse';
import type { LiveTopic } from '@meridiem/contract';
import { followEvents } from '@meridiem/contract';
import type { FastifyInstance, FastifyReply } from 'fastify';
import fastifyPlugin from 'fastify-plugin';
import type { Database, Queries } from '../database/connection.ts';
import { ServiceError } from '../errors.ts';
import { serve } from './operations.ts';
import type { LiveEvent } from './outbox.ts';
import { followOutbox } from './outbox.ts';
import { livingSessions } from './sessions-repository.ts';

/** Pages one person may have open on one server. */
export const MOST_STREAMS = 6;

/** Puts an event into the outbox; it is announced when the transaction commits. */
export async function announce(
  { models }: Queries,
  observatoryId: string,
  topic: LiveTopic,
  ids: readonly string[] = [],
): Promise<void> {
  await models.Event.create({ observatoryId, topic, ids });
}

interface Stream {
  readonly personId: string;
  readonly sessionId: string | null;
  readonly observatoryId: string;
  readonly send: (event: LiveEvent) => void;
  readonly close: () => void;
}

export const livePlugin = fastifyPlugin(
  async (app: FastifyInstance, { database, databaseUrl }: { database: Database; databaseUrl: string }) => {
    await app.register(fastifySSE, { heartbeatInterval: 15_000 });
    const streams = new Set<Stream>();
    const stopFollowing = followOutbox({
      database,
      databaseUrl,
      tell: (event) => {
        for (const stream of streams) if (stream.observatoryId === event.observatoryId) stream.send(event);
      },
      sessionsEnded: (personId) => closeEnded(database, streams, personId),
      warn: (error) => app.log.warn({ err: error }, 'events could not be read'),
    });
    app.addHook('preClose', async () => {
      for (const { close } of streams) close();
      await stopFollowing();
    });
    serve(
      app,
      followEvents,
      async ({ viewer, request, reply }) => {
        const { personId, observatoryId } = viewer;
        if ([...streams].filter((stream) => stream.personId === personId).length >= MOST_STREAMS)
          throw new ServiceError('TOO_MANY_TRIES', `At most ${MOST_STREAMS} pages can follow live; close one`);
        const { sessionId } = request;
        const stream: Stream = {
          personId,
          sessionId,
          observatoryId,
          send: sender(reply),
          close: () => reply.sse.close(),
        };
        // A page that has left already is told of by no event: its stream would be counted for good.
        if (!reply.sse.isConnected || reply.raw.destroyed || request.raw.destroyed) return undefined as never;
        streams.add(stream);
        reply.sse.keepAlive();
        reply.sse.onClose(() => streams.delete(stream));
        await reply.sse.send({ event: 'hello', data: {} }).catch(() => streams.delete(stream));
        return undefined as never;
      },
      { sse: true },
    );
  },
);

/** One after the other: a page that reads slowly is waited for. */
function sender(reply: FastifyReply): (event: LiveEvent) => void {
  let sending = Promise.resolve();
  return ({ seq, topic, ids }) => {
    sending = sending
      .then(() => reply.sse.send({ id: seq, event: 'changed', data: { topic, ids } }))
      .catch(() => undefined);
  };
}

/** Closes the streams whose session has ended.
 * @param personId whose; null looks at all, after a time in which ends could not be heard */
async function closeEnded(database: Database, streams: ReadonlySet<Stream>, personId: string | null): Promise<void> {
  const theirs = [...streams].filter((stream) => personId === null || stream.personId === personId);
  if (theirs.length === 0) return;
  const living = await livingSessions(
    database,
    theirs.flatMap(({ sessionId }) => sessionId ?? []),
  );
  for (const { sessionId, close } of theirs) if (sessionId === null || !living.has(sessionId)) close();
}

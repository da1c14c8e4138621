// Answers that many pages ask for again and again are kept while nothing in their observatory has changed: as text, ready to send.
import type { FastifyReply, FastifyRequest } from 'fastify';
import { LRUCache } from 'lru-cache';

const MOST_KEPT = 400;

interface Kept {
  readonly revision: string;
  readonly untilMs: number;
  readonly text: Promise<string>;
}

export type AnswerKeeper = ReturnType<typeof createAnswerKeeper>;

/** One server's kept answers. Every change of an observatory puts an event into its outbox within its transaction, so the
 * newest event's number, read with the session, tells whether an answer still holds; any number of servers agree.
 * @param longestMs what an answer shows of passing time is at most this old */
export function createAnswerKeeper(longestMs: number) {
  const kept = new LRUCache<string, Kept>({ max: MOST_KEPT });
  return async (request: FastifyRequest, reply: FastifyReply, answer: () => Promise<unknown>): Promise<unknown> => {
    const { viewer, observatoryRevision: revision } = request;
    if (!viewer || revision === null) return answer();
    // By person: what one may see, and in which words, is part of the answer.
    const key = `${viewer.personId} ${viewer.observatoryId} ${viewer.role} ${request.url}`;
    const before = kept.get(key);
    const holds = before !== undefined && before.revision === revision && before.untilMs > Date.now();
    const text = holds ? before.text : answer().then((value) => JSON.stringify(value));
    if (!holds) {
      kept.set(key, { revision, untilMs: Date.now() + longestMs, text });
      text.catch(() => kept.delete(key));
    }
    return reply.type('application/json; charset=utf-8').send(await text);
  };
}

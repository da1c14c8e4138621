// Registers contract operations as routes. One that isn't in the contract fails the build.
import type { AnyOperation, BodyOf, ParamsOf, QueryOf, ResponseOf } from '@meridiem/contract';
import { OPERATIONS } from '@meridiem/contract';
import type { FastifyInstance, FastifyReply, FastifyRequest } from 'fastify';
import type { AnswerKeeper } from './kept-answers.ts';
import type { Viewer } from './sessions.ts';

declare module 'fastify' {
  interface FastifyInstance {
    keepAnswer: AnswerKeeper;
  }
}

export const API_PREFIX = '/api';

export interface Call<O extends AnyOperation> {
  readonly params: ParamsOf<O>;
  readonly query: QueryOf<O>;
  readonly body: BodyOf<O>;
  /** Who asks. For public operations nobody may be signed in: use `request`. */
  readonly viewer: Viewer;
  readonly request: FastifyRequest;
  readonly reply: FastifyReply;
}

/** Dear answers a person may have; a page asks for a few. */
const DEAR = { max: 120, timeWindow: '1 minute' };

const known = new Set<AnyOperation>(Object.values(OPERATIONS));

/** Serves one operation: validation and access come from the contract, the handler makes one service call. */
export function serve<O extends AnyOperation>(
  app: FastifyInstance,
  operation: O,
  handler: (call: Call<O>) => Promise<ResponseOf<O>>,
  extra: { sse?: boolean; isKept?: boolean; rateLimit?: { max: number; timeWindow: string } } = {},
): void {
  const rateLimit = extra.rateLimit ?? (operation.isDear ? DEAR : null);
  if (!known.has(operation)) throw new Error(`${operation.method} ${operation.path} is not in the contract`);
  app.route({
    method: operation.method,
    url: API_PREFIX + operation.path,
    config: { operation, ...(rateLimit ? { rateLimit } : {}) },
    ...(extra.sse ? { sse: 'only' as const } : {}),
    // Asked every second by programs: no line of log for each.
    ...(operation.access === 'runner' || operation.path === '/health' ? { logLevel: 'warn' as const } : {}),
    schema: {
      params: operation.params,
      querystring: operation.query,
      ...(operation.method === 'GET' ? {} : { body: bodyOf(operation) }),
    },
    handler: async (request, reply) => {
      const answer = () =>
        handler({
          params: request.params as ParamsOf<O>,
          query: request.query as QueryOf<O>,
          body: request.body as BodyOf<O>,
          viewer: request.viewer as Viewer,
          request,
          reply,
        });
      return extra.isKept ? app.keepAnswer(request, reply, answer) : answer();
    },
  });
}

/** What a call may carry: where the contract names no fields, nothing at all or an empty object. */
function bodyOf({ body }: AnyOperation): object {
  const isEmpty = Object.keys((body as { properties?: object }).properties ?? {}).length === 0;
  return isEmpty ? { anyOf: [{ type: 'null' }, body] } : body;
}

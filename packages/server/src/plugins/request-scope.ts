// What is going on in a request, for those far from it: who asks, and the id that the caller gave the call.
import { AsyncLocalStorage } from 'node:async_hooks';
import type { FastifyInstance } from 'fastify';
import fastifyPlugin from 'fastify-plugin';
import { ServiceError } from '../errors.ts';

export interface RequestScope {
  readonly personId: string | null;
  /** Null for reading, and where the caller gave none. */
  readonly callId: string | null;
  readonly operation: string;
  /** Transactions begun so far. */
  transactions: number;
}

const storage = new AsyncLocalStorage<RequestScope>();

/** The request under way; null outside one. */
export const requestScope = (): RequestScope | null => storage.getStore() ?? null;

const UUID = /^[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}$/i;

/** After validation, so that the handler runs within. */
export const requestScopePlugin = fastifyPlugin(async (app: FastifyInstance) => {
  app.addHook('preHandler', (request, _reply, done) => {
    const given = request.method === 'GET' ? undefined : request.headers['x-call-id'];
    if (given !== undefined && !UUID.test(String(given)))
      throw new ServiceError('INPUT_INVALID', 'The header x-call-id is no id', { field: 'x-call-id' });
    const scope: RequestScope = {
      personId: request.viewer?.personId ?? null,
      callId: given === undefined ? null : String(given),
      operation: `${request.method} ${request.url}`.slice(0, 500),
      transactions: 0,
    };
    storage.run(scope, done);
  });
});

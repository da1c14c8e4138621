// The whole interface as an OpenAPI document, written by the library from the contract's operations as they are registered.
import swagger from '@fastify/swagger';
import type { AnyOperation, ErrorCode } from '@meridiem/contract';
import { ERROR_STATUS, ErrorBody, OPERATIONS } from '@meridiem/contract';
import type { FastifyInstance } from 'fastify';
import fp from 'fastify-plugin';
import { sample } from 'openapi-sampler';
import { described } from './property-words.ts';
import { SESSION_COOKIE } from './sessions.ts';

const NAMES = new Map(Object.entries(OPERATIONS).map(([name, operation]) => [operation as AnyOperation, name]));

/** Statuses that an operation may answer beside 200, by who may call it and whether it takes anything. */
function statusesOf({ access, method, path }: AnyOperation): number[] {
  return [
    400,
    ...(access === 'public' ? [] : [401, 403]),
    ...(path.includes(':') ? [404] : []),
    ...(method === 'GET' ? [] : [409, 413, 422]),
    429,
    500,
    503,
  ];
}

const codesOf = (status: number): ErrorCode[] =>
  (Object.keys(ERROR_STATUS) as ErrorCode[]).filter((code) => ERROR_STATUS[code] === status);

function errorsOf(operation: AnyOperation): Record<number, object> {
  const answers = statusesOf(operation).map((status) => {
    const [code] = codesOf(status);
    const example = { code, message: 'What is wrong, in words that a person can act on' };
    const content = { 'application/json': { schema: described(ErrorBody), example } };
    return [status, { description: codesOf(status).join(', '), content }];
  });
  return Object.fromEntries(answers) as Record<number, object>;
}

function answerOf({ response, media = ['application/json'] }: AnyOperation): object {
  const schema = described(response);
  const content = Object.fromEntries(
    media.map((type) => [type, type === 'application/json' ? { schema, example: sample(schema) } : { schema }]),
  );
  return { description: 'Done', content };
}

const isEmpty = (schema: unknown): boolean =>
  Object.keys((schema as { properties?: object }).properties ?? {}).length === 0;

/** What the document says of one route. */
function schemaOf(operation: AnyOperation): Record<string, unknown> {
  const { path, method, summary, access, params, query, body } = operation;
  const security = access === 'public' ? [] : access === 'runner' ? [{ runner: [] }] : [{ session: [] }];
  const example = isEmpty(body) ? undefined : (sample(described(body), { skipReadOnly: true }) as unknown);
  return {
    operationId: NAMES.get(operation),
    summary,
    tags: [path.split('/')[1]],
    security,
    'x-access': access,
    ...(isEmpty(params) ? {} : { params: described(params) }),
    ...(isEmpty(query) ? {} : { querystring: described(query) }),
    ...(method === 'GET' || isEmpty(body) ? {} : { body: { ...described(body), examples: [example] } }),
    response: { 200: answerOf(operation), ...errorsOf(operation) },
  };
}

export const openApiPlugin = fp(async (app: FastifyInstance, { version }: { version: string }): Promise<void> => {
  await app.register(swagger, {
    openapi: {
      openapi: '3.1.0',
      info: {
        title: 'Meridiem',
        version,
        description: 'The interface of a shared observatory: everything that its pages do is done through it.',
      },
      components: {
        securitySchemes: {
          session: { type: 'apiKey', in: 'cookie', name: SESSION_COOKIE, description: 'Of the one who is signed in.' },
          runner: { type: 'http', scheme: 'bearer', description: 'The runner’s key.' },
        },
      },
    },
    transform: ({ schema, url, route }) => {
      const operation = (route.config as { operation?: AnyOperation } | undefined)?.operation;
      return operation ? { url, schema: schemaOf(operation) as never } : { url, schema: { ...schema, hide: true } };
    },
  });
});

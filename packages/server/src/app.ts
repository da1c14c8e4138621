// The server as a value: everything wired, nothing listening yet.
import { existsSync } from 'node:fs';
import { constants } from 'node:zlib';
import compress from '@fastify/compress';
import helmet from '@fastify/helmet';
import rateLimit from '@fastify/rate-limit';
import { readHealth, readOpenApi } from '@meridiem/contract';
import type { ValidateFunction } from 'ajv';
import { Ajv } from 'ajv';
import addFormats from 'ajv-formats';
import type { FastifyInstance } from 'fastify';
import Fastify from 'fastify';
import type { Clock } from './clock.ts';
import type { Config } from './config.ts';
import type { Database } from './database/connection.ts';
import { oncePerCall } from './database/once-per-call.ts';
import { createSeal } from './database/sealed.ts';
import { createPing } from './database/ping.ts';
import { createHousekeeping } from './jobs/housekeeping.ts';
import type { FrameWorker } from './jobs/frame-worker.ts';
import type { PlanWorker } from './jobs/plan-worker.ts';
import { registerModules } from './modules.ts';
import { errorsPlugin } from './plugins/errors.ts';
import { hostsPlugin } from './plugins/hosts.ts';
import { createAnswerKeeper } from './plugins/kept-answers.ts';
import { livePlugin } from './plugins/live.ts';
import { openApiPlugin } from './plugins/open-api.ts';
import { serve } from './plugins/operations.ts';
import { pagesPlugin } from './plugins/pages.ts';
import { plainTextPlugin } from './plugins/plain-text.ts';
import { privateAnswersPlugin } from './plugins/private-answers.ts';
import { requestScopePlugin } from './plugins/request-scope.ts';
import { requestSerializer } from './plugins/request-log.ts';
import { sessionsPlugin } from './plugins/sessions.ts';
import { silentConnectionsPlugin } from './plugins/silent-connections.ts';

export const VERSION = '0.1.0';
/** Fast rather than small: answers are made anew each time. */
const BROTLI = { [constants.BROTLI_PARAM_QUALITY]: 3 };
/** What can't be written is lost. */
const LOG_STREAM = { write: (line: string): void => void process.stdout.write(line) };
const MOST_BODY_BYTES = 1_048_576;

export interface Parts {
  readonly config: Config;
  readonly database: Database;
  readonly clock: Clock;
  readonly planWorker: PlanWorker;
  readonly frameWorker: FrameWorker;
}

export async function createApp({
  config,
  database: plain,
  clock,
  planWorker,
  frameWorker,
}: Parts): Promise<FastifyInstance> {
  const database = oncePerCall(plain, createSeal(config.sessionSecret));
  const app = Fastify({
    bodyLimit: MOST_BODY_BYTES,
    trustProxy: config.trustedProxies.length > 0 ? [...config.trustedProxies] : false,
    // Whoever sends headers or a body by drops is dropped.
    requestTimeout: 30_000,
    connectionTimeout: 0,
    http: { headersTimeout: 10_000, connectionsCheckingInterval: 5_000 },
    forceCloseConnections: 'idle',
    logger: { level: config.logLevel, serializers: { req: requestSerializer }, stream: LOG_STREAM },
  });
  app.setValidatorCompiler(validators());
  await app.register(errorsPlugin);
  await app.register(compress, { threshold: 1024, encodings: ['br', 'gzip'], brotliOptions: { params: BROTLI } });
  await app.register(silentConnectionsPlugin);
  await app.register(hostsPlugin, { config });
  await app.register(privateAnswersPlugin);
  await app.register(plainTextPlugin);
  await app.register(helmet, {
    contentSecurityPolicy: { useDefaults: false, directives: CONTENT_SECURITY },
    strictTransportSecurity: false,
  });
  await app.register(rateLimit, {
    global: false,
    hook: 'preHandler',
    // By person where one is signed in: members behind one address do not share an allowance.
    keyGenerator: ({ viewer, ip }) => viewer?.personId ?? ip,
  });
  await app.register(openApiPlugin, { version: VERSION });
  await app.register(sessionsPlugin, { config, database });
  app.decorate('keepAnswer', createAnswerKeeper(config.keptAnswerMs));
  await app.register(requestScopePlugin);
  await app.register(livePlugin, { database, databaseUrl: config.databaseUrl });

  await registerModules(app, { config, database, clock, planWorker, frameWorker });
  const ping = createPing(config.databaseUrl);
  const housekeeping = createHousekeeping({
    database,
    config,
    warn: (error) => app.log.warn({ err: error }, 'pruning failed'),
  });
  app.addHook('onClose', async () => {
    housekeeping.stop();
    await ping.close();
  });
  serve(app, readHealth, async ({ reply }) => {
    const answers = await ping.answers();
    if (!answers) reply.code(503);
    return { ok: answers, database: answers, version: VERSION, instance: config.instance };
  });
  serve(app, readOpenApi, async () => app.swagger() as unknown as Record<string, unknown>);
  if (config.webRoot && existsSync(config.webRoot)) await app.register(pagesPlugin, { webRoot: config.webRoot });
  return app;
}

/** Addresses carry text only, so their numbers and lists are read from it; a body says what it means: null stays null. */
function validators(): (route: { schema: unknown; httpPart?: string }) => ValidateFunction {
  const make = (coerceTypes: 'array' | false): Ajv => {
    const ajv = new Ajv({ strict: false, coerceTypes, useDefaults: true });
    addFormats.default(ajv);
    return ajv;
  };
  const [ofAddresses, ofBodies] = [make('array'), make(false)];
  return ({ schema, httpPart }) =>
    onFirstUse(() => (httpPart === 'body' ? ofBodies : ofAddresses).compile<unknown>(schema as object));
}

/** Most of a server's start would be checks of routes that are asked much later. */
function onFirstUse(compile: () => ValidateFunction): ValidateFunction {
  let compiled: ValidateFunction | null = null;
  const check = (data: unknown): boolean => {
    compiled ??= compile();
    const isRight = compiled(data) as boolean;
    check.errors = compiled.errors;
    return isRight;
  };
  check.errors = null as ValidateFunction['errors'];
  return check as unknown as ValidateFunction;
}

const CONTENT_SECURITY = {
  'default-src': ["'none'"],
  'script-src': ["'self'"],
  'style-src': ["'self'", "'unsafe-inline'"],
  'img-src': ["'self'", 'data:', 'blob:'],
  'font-src': ["'self'"],
  'connect-src': ["'self'"],
  'worker-src': ["'self'"],
  'form-action': ["'self'"],
  'base-uri': ["'none'"],
  'frame-ancestors': ["'none'"],
};

// A server on a database of its own: migrated, loaded with a small demo, every answer held against the contract.
import { randomBytes } from 'node:crypto';
import { setTimeout as sleep } from 'node:timers/promises';
import type { AnyOperation, BodyOf, ErrorBody, ParamsOf, QueryOf, ResponseOf } from '@meridiem/contract';
import { Ajv } from 'ajv';
import addFormats from 'ajv-formats';
import type { FastifyInstance } from 'fastify';
import { Sequelize } from 'sequelize';
import { loadDemo } from '../../../demo/load.ts';
import { DEMO_PASSWORD, PEOPLE, emailOf } from '../../../demo/people.ts';
import type { Story } from '../../../demo/story.ts';
import { demoStory } from '../../../demo/story.ts';
import { createApp } from '../src/app.ts';
import { createClock } from '../src/clock.ts';
import type { Config } from '../src/config.ts';
import type { Database } from '../src/database/connection.ts';
import { createDatabase, UNHURRIED } from '../src/database/connection.ts';
import { migrate } from '../src/database/migrate.ts';
import type { JobWorker } from '../src/jobs/job-worker.ts';
import { createJobWorker } from '../src/jobs/job-worker.ts';
import { applyParts, importWork } from '../src/modules/imports/index.ts';
import { drawJob, measureJob } from '../src/jobs/frame-job.ts';
import type { EarlyEndsJob, LimitJob, OutlookJob, UsableJob } from '../src/jobs/plan-job.ts';
import planNightJob, { earlyEndsJob, limitJob, outlookJob, usableJob } from '../src/jobs/plan-night.ts';
import { loadCatalogue } from '../src/modules/catalogue/index.ts';
import { cachedStory } from './story-cache.ts';
import { templateDatabase } from './template-database.ts';

/** A dark night of the station: new moon, afternoon. */
export const NOW = Date.parse('2026-10-11T05:00:00Z');
export const RUNNER_KEY = 'runner-key-of-the-tests-0123456789';
export const APP = { role: 'meridiem_test_app', password: 'test' };

export interface Answer<T> {
  readonly status: number;
  readonly body: T;
  readonly error: ErrorBody;
}

export interface TestApp {
  readonly app: FastifyInstance;
  readonly database: Database;
  readonly ownerDatabase: Database;
  readonly story: Story;
  readonly ownerUrl: string;
  readonly appUrl: string;
  /** Calls an operation as a person of the demo (by key), as nobody (null) or as the runner. */
  call<O extends AnyOperation>(
    who: string | null,
    operation: O,
    parts?: { params?: ParamsOf<O>; query?: QueryOf<O>; body?: BodyOf<O> },
  ): Promise<Answer<ResponseOf<O>>>;
  /** The session cookie of a person of the demo, signed in where they are not. */
  cookieOf(who: string): Promise<string>;
  /** Signs a person in again at their next call. */
  forget(who: string): void;
  close(): Promise<void>;
}

/** How many of the story's newest exposures are loaded: each number is a database of its own to copy from. */
type LoadedExposures = 0 | 20 | 60 | 200 | 400 | 700;

/**
 * @param worker whether stored jobs are worked off, over fewer nights than people ask for */
export async function createTestApp({
  exposures = 400 as LoadedExposures,
  settings = {} as Partial<Config>,
  worker = false,
} = {}): Promise<TestApp> {
  const maintenance = process.env.MERIDIEM_TEST_DATABASE_URL;
  if (!maintenance) throw new Error('MERIDIEM_TEST_DATABASE_URL is missing: run the tests through ./meridiem test');
  const name = `meridiem_test_${randomBytes(5).toString('hex')}`;
  const full = cachedStory(`24 nights before ${NOW}`, () =>
    demoStory(NOW, [...new Set(loadCatalogue().byKey.values())], 24),
  );
  const story = { ...full, exposures: full.exposures.slice(-exposures) };
  const template = await templateDatabase(maintenance, `${exposures} exposures`, async (url) => {
    await migrate(url, APP);
    const loading = createDatabase(url, { ...UNHURRIED, statementMs: 1_800_000 });
    await loadDemo(loading, story).finally(() => loading.close());
  });
  await runOn(maintenance, `CREATE DATABASE ${name} TEMPLATE ${template}`);
  await runOn(maintenance, `ALTER DATABASE ${name} SET synchronous_commit TO off`);
  const ownerUrl = withDatabase(maintenance, name);
  const appUrl = withDatabase(maintenance, name, APP);
  const database = createDatabase(appUrl, UNHURRIED);
  // Tests and benchmarks recount whole ledgers.
  const ownerDatabase = createDatabase(ownerUrl, { ...UNHURRIED, statementMs: 1_800_000 });
  const config: Config = {
    host: '127.0.0.1',
    port: 0,
    databaseUrl: appUrl,
    ownerDatabaseUrl: ownerUrl,
    sessionSecret: 'x'.repeat(40),
    runnerKey: RUNNER_KEY,
    logLevel: 'silent',
    webRoot: null,
    simulatorUrl: null,
    deviceHosts: [],
    cacheFolder: null,
    framesFolder: null,
    deepStarsFile: null,
    solverProgram: null,
    surveyHosts: [],
    smtpUrl: null,
    webhookHosts: [],
    // Tests change rows behind the server's back.
    keptAnswerMs: 0,
    searchEffort: 1,
    instance: 'tests',
    portFile: null,
    publicUrl: null,
    trustedProxies: [],
    demo: true,
    clockStartUtcMs: NOW,
    ...settings,
  };
  const planWorker = {
    plan: async (job: Parameters<typeof planNightJob>[0]) =>
      planNightJob({ ...job, options: { ...job.options, iterations: 400 } }),
    earlyEnds: async (job: EarlyEndsJob) => earlyEndsJob({ ...job, options: { ...job.options, iterations: 400 } }),
    limit: async (job: LimitJob) => limitJob(job),
    usable: async (job: UsableJob) => usableJob(job),
  };
  const frameWorker = { draw: drawJob, measure: measureJob };
  const app = await createApp({ config, database, clock: createClock(NOW), planWorker, frameWorker });
  const jobWorker = worker ? await testWorker(database, appUrl) : null;
  const checkResponse = responseChecker();
  const cookies = new Map<string, string>();

  const cookieOf = async (who: string): Promise<string> => cookies.get(who) ?? signedIn(app, who, cookies);

  const call: TestApp['call'] = async (who, operation, parts = {}) => {
    const path = operation.path.replace(/:(\w+)/g, (_, key: string) =>
      String((parts.params as Record<string, unknown>)[key]),
    );
    const headers: Record<string, string> = {};
    if (who === 'runner') headers.authorization = `Bearer ${RUNNER_KEY}`;
    else if (who) headers.cookie = await cookieOf(who);
    const query = parts.query as Record<string, string> | undefined;
    const answer = await app.inject({
      method: operation.method,
      url: `/api${path}`,
      headers,
      query,
      ...(operation.method === 'GET' || parts.body === undefined ? {} : { payload: parts.body as object }),
    });
    const isJson = String(answer.headers['content-type']).includes('json');
    const body: unknown = answer.body === '' ? undefined : isJson ? answer.json() : answer.body;
    if (answer.statusCode === 200) checkResponse(operation, body);
    return { status: answer.statusCode, body: body as never, error: body as ErrorBody };
  };

  return {
    app,
    database,
    ownerDatabase,
    story,
    ownerUrl,
    appUrl,
    call,
    cookieOf,
    forget: (who) => void cookies.delete(who),
    async close() {
      await jobWorker?.close();
      await app.close();
      await database.close();
      await ownerDatabase.close();
      await runOn(maintenance, `DROP DATABASE ${name} WITH (FORCE)`);
    },
  };
}

/** The queue's library looks once more, a second after it was stopped. */
const LAST_LOOK_MS = 1_200;

/** Works off stored jobs in this process. */
export async function testWorker(
  database: Database,
  databaseUrl: string,
  run: (task: OutlookJob, signal: AbortSignal) => Promise<object> = async (task) =>
    outlookJob({ ...task, nights: task.nights.slice(0, 8) }),
): Promise<JobWorker> {
  const worker = await createJobWorker({
    database,
    databaseUrl,
    threads: {
      run: <T>(task: object, { signal }: { signal?: AbortSignal }) => run(task as OutlookJob, signal!) as Promise<T>,
      close: async () => undefined,
    },
    works: { import: importWork(database, applyParts(database)) },
    warn: () => undefined,
  });
  return { close: () => worker.close().then(() => sleep(LAST_LOOK_MS)) };
}

async function signedIn(app: FastifyInstance, who: string, cookies: Map<string, string>): Promise<string> {
  const answer = await app.inject({
    method: 'POST',
    url: '/api/session',
    payload: { email: emailOf({ key: who }), password: DEMO_PASSWORD },
  });
  if (answer.statusCode !== 200) throw new Error(`${who} could not sign in: ${answer.body}`);
  const cookie = String(answer.headers['set-cookie']).split(';')[0];
  cookies.set(who, cookie);
  return cookie;
}

/** Throws where an answer does not fit the contract. */
function responseChecker(): (operation: AnyOperation, body: unknown) => void {
  const ajv = new Ajv({ strict: false, allErrors: true });
  addFormats.default(ajv);
  return (operation, body) => {
    const validate = ajv.compile(operation.response as object);
    if (!validate(body))
      throw new Error(
        `${operation.method} ${operation.path} answers outside its contract: ${ajv.errorsText(validate.errors)}`,
      );
  };
}

export async function runOn(url: string, sql: string): Promise<void> {
  const sequelize = new Sequelize(url, { dialect: 'postgres', logging: false });
  await sequelize.query(sql).finally(() => sequelize.close());
}

export function withDatabase(url: string, name: string, user?: { role: string; password: string }): string {
  const next = new URL(url);
  next.pathname = `/${name}`;
  if (user) [next.username, next.password] = [user.role, user.password];
  return next.toString();
}

/** One member of each role. */
export const BY_ROLE = Object.fromEntries([...PEOPLE].reverse().map((person) => [person.role, person.key])) as Record<
  'guest' | 'member' | 'helper' | 'coordinator',
  string
>;

// The whole application for the browser tests: its own database, server, simulator and runner, on a fixed dark night.
import type { ChildProcess } from 'node:child_process';
import { execFileSync, spawn } from 'node:child_process';
import { randomBytes } from 'node:crypto';
import { openSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { createServer } from 'node:net';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { Client } from 'pg';

const root = join(dirname(fileURLToPath(import.meta.url)), '..');
const NODE_FLAGS = ['--conditions', '@meridiem/source', '--import', 'tsx'];
/** Two parts of the suite go side by side, each with an application of its own. */
const PART = process.env.MERIDIEM_BROWSER_PART ?? 'whole';
const RESULTS = join(root, 'test-results', PART);
const STATE_FILE = join(RESULTS, 'stack.json');
/** A moonless October night of the demo's station, early afternoon there. */
export const CLOCK = '2026-10-11T04:00:00Z';

export interface StackState {
  readonly url: string;
  readonly environment: Record<string, string>;
  readonly maintenanceUrl: string;
  readonly database: string;
  readonly pids: Record<string, number>;
}

export const stackState = (): StackState => JSON.parse(readFileSync(STATE_FILE, 'utf8')) as StackState;
const save = (state: StackState): void => writeFileSync(STATE_FILE, JSON.stringify(state));

export async function startStack(): Promise<StackState> {
  const maintenanceUrl = process.env.MERIDIEM_TEST_DATABASE_URL;
  if (!maintenanceUrl) throw new Error('MERIDIEM_TEST_DATABASE_URL is missing: run the tests through ./meridiem test');
  mkdirSync(RESULTS, { recursive: true });
  const database = `meridiem_e2e_${randomBytes(5).toString('hex')}`;
  await onDatabase(maintenanceUrl, `CREATE DATABASE ${database}`);
  const owner = new URL(maintenanceUrl);
  owner.pathname = `/${database}`;
  const app = new URL(owner);
  [app.username, app.password] = [`meridiem_e2e_${PART}`, 'e2e'];
  const [port, simulatorPort, postPort] = [await freePort(), await freePort(), await freePort()];
  const environment: Record<string, string> = {
    MERIDIEM_DATABASE_URL: app.toString(),
    MERIDIEM_OWNER_DATABASE_URL: owner.toString(),
    MERIDIEM_SESSION_SECRET: randomBytes(24).toString('hex'),
    MERIDIEM_RUNNER_KEY: randomBytes(24).toString('hex'),
    MERIDIEM_RUNNER_SITE: 'the tests',
    MERIDIEM_PORT: String(port),
    MERIDIEM_SIMULATOR_PORT: String(simulatorPort),
    MERIDIEM_SIMULATED_SKY: 'calm',
    MERIDIEM_POST_PORT: String(postPort),
    MERIDIEM_SMTP_URL: `smtp://127.0.0.1:${postPort}`,
    MERIDIEM_WEBHOOK_HOSTS: `127.0.0.1:${simulatorPort}`,
    MERIDIEM_SERVER_URL: `http://127.0.0.1:${port}`,
    MERIDIEM_SIMULATOR_URL: `http://127.0.0.1:${simulatorPort}`,
    MERIDIEM_WEB_ROOT: join(root, 'packages/web/dist'),
    MERIDIEM_CATALOGUE: join(root, 'packages/server/catalogue'),
    MERIDIEM_CACHE: join(RESULTS, 'cache'),
    MERIDIEM_FRAMES: join(RESULTS, 'frames', database),
    MERIDIEM_RIGS: join(RESULTS, 'rigs', database),
    MERIDIEM_DEMO: '1',
    // What is tested is what becomes of a season, not how good it is.
    MERIDIEM_SEARCH_EFFORT: process.env.MERIDIEM_LONG === '1' ? '1' : '0.2',
    MERIDIEM_CLOCK: CLOCK,
    MERIDIEM_LOG_LEVEL: 'warn',
  };
  execFileSync('node', [...NODE_FLAGS, 'demo/main.ts'], {
    cwd: root,
    env: { ...process.env, ...environment },
    stdio: 'inherit',
  });
  const state: StackState = { url: environment.MERIDIEM_SERVER_URL, environment, maintenanceUrl, database, pids: {} };
  for (const name of ['server', 'simulator', 'runner']) startProcess(state, name);
  await answers(state.url);
  startProcess(state, 'worker');
  return state;
}

/** Starts one of the processes and remembers it; "worker-2" is one more worker. */
export function startProcess(state: StackState, name: string, settings: Record<string, string> = {}): ChildProcess {
  const log = openSync(join(RESULTS, `${name}.log`), 'a');
  const [main] = name.split('-');
  const path = main === 'worker' ? 'packages/server/src/worker.ts' : `packages/${main}/src/main.ts`;
  // A runner keeps its frames at the site: the server has what is copied to it.
  const own =
    main === 'runner'
      ? { MERIDIEM_FRAMES: join(state.environment.MERIDIEM_FRAMES, '..', `${state.database}-at-site`) }
      : {};
  const child = spawn('node', [...NODE_FLAGS, path], {
    cwd: root,
    env: { ...process.env, ...state.environment, ...own, ...settings },
    stdio: ['ignore', log, log],
    detached: true,
  });
  child.unref();
  state.pids[name] = child.pid!;
  save(state);
  return child;
}

/** One more server on the same database, at a port of its own.
 * @returns its address */
export async function startSecondServer(state: StackState): Promise<string> {
  const port = await freePort();
  const url = `http://127.0.0.1:${port}`;
  startProcess(state, 'server-2', { MERIDIEM_PORT: String(port), MERIDIEM_SERVER_URL: url });
  await answers(url);
  return url;
}

/** Ends a process without asking, as a crash would. */
export const killProcess = (state: StackState, name: string): void => void process.kill(state.pids[name], 'SIGKILL');

/** Holds every worker still, as a busy machine would; the returned function lets them go on. */
export function pauseWorkers(state: StackState): () => void {
  const send = (signal: NodeJS.Signals): void => {
    for (const [name, pid] of Object.entries(state.pids)) {
      if (!name.startsWith('worker')) continue;
      try {
        process.kill(pid, signal);
      } catch {
        // It has been ended by another test.
      }
    }
  };
  send('SIGSTOP');
  return () => send('SIGCONT');
}

export interface EmptyStack {
  readonly url: string;
  /** Where the printed founding link leads. */
  readonly link: string;
  readonly stop: () => Promise<void>;
}

/** A server and a worker on a database without an observatory, with the founding link that the start command prints. */
export async function startEmptyStack(): Promise<EmptyStack> {
  const state = stackState();
  const database = `meridiem_e2e_${randomBytes(5).toString('hex')}`;
  await onDatabase(state.maintenanceUrl, `CREATE DATABASE ${database}`);
  const urlOn = (old: string): string => old.replace(/\/[^/]*$/, `/${database}`);
  const port = await freePort();
  const url = `http://127.0.0.1:${port}`;
  const own = {
    MERIDIEM_DATABASE_URL: urlOn(state.environment.MERIDIEM_DATABASE_URL),
    MERIDIEM_OWNER_DATABASE_URL: urlOn(state.environment.MERIDIEM_OWNER_DATABASE_URL),
    MERIDIEM_PORT: String(port),
    MERIDIEM_SERVER_URL: url,
  };
  const path = execFileSync('node', [...NODE_FLAGS, 'packages/server/src/founding-link.ts'], {
    cwd: root,
    env: { ...process.env, ...state.environment, ...own },
    encoding: 'utf8',
  });
  startProcess(state, 'server-empty', own);
  await answers(url);
  startProcess(stackState(), 'worker-empty', own);
  const stop = async (): Promise<void> => {
    for (const name of ['server-empty', 'worker-empty']) killProcess(stackState(), name);
    await onDatabase(state.maintenanceUrl, `DROP DATABASE IF EXISTS ${database} WITH (FORCE)`);
  };
  return { url, link: url + path.trim(), stop };
}

export async function stopStack(): Promise<void> {
  const state = stackState();
  for (const pid of Object.values(state.pids)) {
    try {
      process.kill(pid, 'SIGKILL');
    } catch {
      // It has ended already.
    }
  }
  await onDatabase(state.maintenanceUrl, `DROP DATABASE IF EXISTS ${state.database} WITH (FORCE)`);
}

/** Waits until the server answers. */
export async function answers(url: string): Promise<void> {
  for (let i = 0; i < 150; i++) {
    const ok = await fetch(`${url}/api/health`).then(
      (answer) => answer.ok,
      () => false,
    );
    if (ok) return;
    await new Promise((resolve) => setTimeout(resolve, 200));
  }
  throw new Error(`${url} does not answer; see ${RESULTS}/server.log`);
}

export async function queryStack<T>(sql: string): Promise<T[]> {
  const client = new Client({ connectionString: stackState().environment.MERIDIEM_OWNER_DATABASE_URL });
  await client.connect();
  try {
    return (await client.query(sql)).rows as T[];
  } finally {
    await client.end();
  }
}

const COPIED_WITHIN_MS = 120_000;

/** Waits until every frame that the runner has told of is on the server as well. */
export async function framesCopied(): Promise<void> {
  for (const sinceMs = performance.now(); ;) {
    const [{ left }] = await queryStack<{ left: number }>(
      'SELECT count(*)::int AS left FROM frames WHERE copied IS NULL',
    );
    if (left === 0) return;
    if (performance.now() - sinceMs > COPIED_WITHIN_MS) throw new Error(`${left} frames were not copied to the server`);
    await new Promise((resolve) => setTimeout(resolve, 500));
  }
}

async function onDatabase(url: string, sql: string): Promise<void> {
  const client = new Client({ connectionString: url });
  await client.connect();
  await client.query(sql).finally(() => client.end());
}

const freePort = (): Promise<number> =>
  new Promise((resolve) => {
    const probe = createServer();
    probe.listen(0, '127.0.0.1', () => {
      const { port } = probe.address() as { port: number };
      probe.close(() => resolve(port));
    });
  });

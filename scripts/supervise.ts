// Keeps the application's processes running: starts them, restarts what dies with growing pauses, writes their logs, says how they are.
import type { ChildProcess } from 'node:child_process';
import { spawn } from 'node:child_process';
import { readFileSync, renameSync, rmSync, writeFileSync } from 'node:fs';
import { connect } from 'node:net';
import { join } from 'node:path';
import { rotatingLog } from './rotating-log.ts';

export interface Service {
  readonly name: string;
  readonly main: string;
  /** Settings it gets beside PATH and HOME; no others reach it. */
  readonly settings: readonly string[];
}

export interface ServiceStatus {
  readonly state: 'runs' | 'waits' | 'stopped';
  readonly pid: number | null;
  readonly restarts: number;
  readonly lastEnd: string | null;
}

const FIRST_PAUSE_MS = 500;
const LONGEST_PAUSE_MS = 30_000;
/** Whoever has run this long has started well: its next end is the first again. */
const SETTLED_MS = 60_000;
const STOP_WITHIN_MS = 25_000;
const DATABASE_CHECK_MS = 3_000;
const PORT_CHECK_MS = 200;
const NODE_FLAGS = ['--conditions', '@meridiem/source', '--import', 'tsx'];

const DATABASE = ['MERIDIEM_DATABASE_URL'];
const ADDRESSES = ['MERIDIEM_SERVER_URL', 'MERIDIEM_SIMULATOR_URL', 'MERIDIEM_CLOCK', 'MERIDIEM_LOG_LEVEL'];
const MESSAGES = ['MERIDIEM_SMTP_URL', 'MERIDIEM_MAIL_FROM', 'MERIDIEM_WEBHOOK_HOSTS', 'MERIDIEM_PUBLIC_URL'];
const SERVER = [
  ...DATABASE,
  ...ADDRESSES,
  'MERIDIEM_OWNER_DATABASE_URL',
  'MERIDIEM_SESSION_SECRET',
  'MERIDIEM_RUNNER_KEY',
  'MERIDIEM_INSTANCE',
  'MERIDIEM_HOST',
  'MERIDIEM_PORT',
  'MERIDIEM_PORT_FILE',
  'MERIDIEM_WEB_ROOT',
  'MERIDIEM_CACHE',
  'MERIDIEM_FRAMES',
  'MERIDIEM_STARS',
  'MERIDIEM_SOLVER',
  'MERIDIEM_SURVEY_HOSTS',
  'MERIDIEM_DEVICE_HOSTS',
  'MERIDIEM_SEARCH_EFFORT',
  ...MESSAGES,
  'MERIDIEM_TRUSTED_PROXIES',
  'MERIDIEM_DEMO',
];

export function servicesFor(workers: number): Service[] {
  return [
    {
      name: 'simulator',
      main: 'packages/simulator/src/main.ts',
      settings: [
        ...ADDRESSES,
        'MERIDIEM_SIMULATOR_PORT',
        'MERIDIEM_SIMULATED_SKY',
        'MERIDIEM_CATALOGUE',
        'MERIDIEM_RIGS',
        'MERIDIEM_POST_PORT',
      ],
    },
    { name: 'server', main: 'packages/server/src/main.ts', settings: SERVER },
    ...Array.from({ length: workers }, (_, i) => ({
      name: `worker-${i + 1}`,
      main: 'packages/server/src/worker.ts',
      settings: [...DATABASE, ...MESSAGES, 'MERIDIEM_CLOCK', 'MERIDIEM_LOG_LEVEL'],
    })),
    {
      name: 'runner',
      main: 'packages/runner/src/main.ts',
      settings: [...ADDRESSES, 'MERIDIEM_RUNNER_KEY', 'MERIDIEM_RUNNER_SITE', 'MERIDIEM_FRAMES'],
    },
  ];
}

interface Places {
  readonly root: string;
  readonly run: string;
  readonly logs: string;
}

/** Starts services and keeps them; the returned function ends them all. */
export function supervise(services: readonly Service[], { root, run, logs }: Places): () => Promise<void> {
  const status = new Map<string, ServiceStatus>();
  const children = new Map<string, ChildProcess>();
  let stopping = false;
  const note = (name: string, change: Partial<ServiceStatus>): void => {
    const before = status.get(name) ?? { state: 'stopped', pid: null, restarts: 0, lastEnd: null };
    status.set(name, { ...before, ...change });
    writeWhole(join(run, 'status.json'), JSON.stringify(Object.fromEntries(status), null, 1));
  };

  const start = (service: Service, pauseMs: number): void => {
    if (stopping) return;
    const { name, main, settings } = service;
    const serverPort = portOf(process.env.MERIDIEM_PORT_FILE);
    if (serverPort === null && settings.includes('MERIDIEM_SERVER_URL') && name === 'runner') {
      setTimeout(() => start(service, pauseMs), PORT_CHECK_MS);
      return;
    }
    const log = rotatingLog(join(logs, `${name}.log`));
    const kept = ['PATH', 'HOME', 'LANG', 'TZ', ...settings];
    const env = Object.fromEntries(
      kept.flatMap((key) => (process.env[key] === undefined ? [] : [[key, process.env[key]!]])),
    );
    // Where the server has found its port, it keeps it through restarts, and the runner knows it.
    if (serverPort !== null) {
      if (settings.includes('MERIDIEM_PORT')) env.MERIDIEM_PORT = String(serverPort);
      if (name === 'runner') env.MERIDIEM_SERVER_URL = `http://127.0.0.1:${serverPort}`;
    }
    const child = spawn(process.execPath, [...NODE_FLAGS, main], { cwd: root, env, stdio: ['ignore', 'pipe', 'pipe'] });
    const startedMs = Date.now();
    children.set(name, child);
    note(name, { state: 'runs', pid: child.pid ?? null });
    for (const stream of [child.stdout, child.stderr])
      stream!.on('data', (part: Uint8Array) => log.write(part)).on('error', () => undefined);
    const ended = (words: string): void => {
      if (children.get(name) !== child) return;
      children.delete(name);
      if (stopping) return note(name, { state: 'stopped', pid: null });
      const nextMs = Date.now() - startedMs > SETTLED_MS ? FIRST_PAUSE_MS : pauseMs;
      log.write(
        `${JSON.stringify({ at: new Date().toISOString(), words: `${name} ended (${words}); starting again in ${nextMs} ms` })}\n`,
      );
      const { restarts } = status.get(name)!;
      note(name, {
        state: 'waits',
        pid: null,
        restarts: restarts + 1,
        lastEnd: `${new Date().toISOString()} ${words}`,
      });
      setTimeout(() => start(service, Math.min(LONGEST_PAUSE_MS, nextMs * 2)), nextMs);
    };
    child.on('error', (error) => ended(error.message));
    child.on('exit', (code, signal) => ended(signal ?? `exit ${code}`));
  };

  for (const service of services) start(service, FIRST_PAUSE_MS);
  return async () => {
    stopping = true;
    // The runner first: it says what it does to the server.
    for (const child of [...children.values()].reverse()) child.kill('SIGTERM');
    const deadline = Date.now() + STOP_WITHIN_MS;
    while (children.size > 0 && Date.now() < deadline) await new Promise((resolve) => setTimeout(resolve, 50));
    for (const child of children.values()) child.kill('SIGKILL');
  };
}

/** The port that the server has written down; null before. */
function portOf(path: string | undefined): number | null {
  try {
    return Number(readFileSync(path!, 'utf8')) || null;
  } catch {
    return null;
  }
}

/** Written beside and renamed: nobody reads half of it; a full disk leaves the last one. */
function writeWhole(path: string, text: string): void {
  try {
    writeFileSync(`${path}.new`, text, { mode: 0o600 });
    renameSync(`${path}.new`, path);
  } catch {
    // Said again with the next change.
  }
}

/** Starts PostgreSQL again where its port stays silent; the command knows how, and as whom. */
function watchDatabase({ root, logs }: Places): () => void {
  const port = Number(new URL(process.env.MERIDIEM_DATABASE_URL!).port);
  const log = rotatingLog(join(logs, 'database.log'));
  let silent = 0;
  let isStarting = false;
  const answered = (isThere: boolean): void => {
    silent = isThere ? 0 : silent + 1;
    if (silent < 2 || isStarting) return;
    isStarting = true;
    const child = spawn(join(root, 'meridiem'), ['start-database'], {
      env: { ...process.env, MERIDIEM_POSTGRES_PORT_KEPT: '1' },
    });
    for (const stream of [child.stdout, child.stderr]) stream.on('data', (part: Uint8Array) => log.write(part));
    child.on('exit', () => ((isStarting = false), (silent = 0)));
    child.on('error', () => (isStarting = false));
  };
  const timer = setInterval(() => {
    const socket = connect({ port, host: '127.0.0.1', timeout: 2000 });
    socket.once('connect', () => (socket.destroy(), answered(true)));
    socket.once('error', () => answered(false));
    socket.once('timeout', () => (socket.destroy(), answered(false)));
  }, DATABASE_CHECK_MS);
  return () => clearInterval(timer);
}

if (process.argv[1]?.endsWith('supervise.ts')) {
  process.umask(0o077);
  const [root, run, logs, workers] = process.argv.slice(2);
  const places = { root, run, logs };
  const stopWatching = process.env.MERIDIEM_OWN_DATABASE === '1' ? watchDatabase(places) : () => undefined;
  const stop = supervise(servicesFor(Number(workers)), places);
  const pidFile = join(run, 'supervisor.pid');
  const end = (): void => {
    stopWatching();
    void stop().then(() => {
      if (readFileSync(pidFile, 'utf8').trim() === String(process.pid)) rmSync(pidFile);
      rmSync(join(run, 'status.json'), { force: true });
      process.exit(0);
    });
  };
  process.on('SIGTERM', end);
  process.on('SIGINT', end);
}

// What machines do to an application, done to an installation of its own: npm run machine. As root, since it fills a disk.
import { execFileSync, spawn } from 'node:child_process';
import { mkdirSync, mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { createServer } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { setTimeout as sleep } from 'node:timers/promises';
import { DEMO_PASSWORD, emailOf } from '../demo/people.ts';

const root = join(import.meta.dirname, '..');
const state = mkdtempSync(join(tmpdir(), 'machine-'));
const environment = { ...process.env, MERIDIEM_STATE: state, MERIDIEM_PORT: '4810', MERIDIEM_POSTGRES_PORT: '5810' };
const WRITES = 50;
const AWAY_MS = 60_000;

let problems = 0;
const expect = (words: string, holds: boolean, found: unknown = ''): void => {
  if (!holds) problems += 1;
  console.log(`${holds ? 'holds' : 'FAILS'}: ${words}${found === '' ? '' : ` (${String(found)})`}`);
};

const meridiem = (...words: string[]): Promise<number> =>
  new Promise((resolve) => {
    const child = spawn(join(root, 'meridiem'), words, { env: environment, stdio: 'ignore' });
    child.on('exit', (code) => resolve(code ?? 1));
  });
const address = (): string => `http://127.0.0.1:${readFileSync(join(state, 'server-port'), 'utf8').trim()}`;
const pidOf = (name: string): number =>
  (JSON.parse(readFileSync(join(state, 'run', 'status.json'), 'utf8')) as Record<string, { pid: number }>)[name].pid;
const answers = async (): Promise<boolean> =>
  fetch(`${address()}/api/health`, { signal: AbortSignal.timeout(3000) }).then(
    ({ ok }) => ok,
    () => false,
  );
async function until(holds: () => Promise<boolean>, mostMs: number): Promise<number> {
  const started = Date.now();
  while (!(await holds().catch(() => false))) {
    if (Date.now() - started > mostMs) return Infinity;
    await sleep(200);
  }
  return Date.now() - started;
}
async function signedIn(): Promise<string> {
  const answer = await fetch(`${address()}/api/session`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ email: emailOf({ key: 'ilse' }), password: DEMO_PASSWORD }),
  });
  return answer.headers.get('set-cookie')!.split(';')[0];
}
/** The postmaster and every process of its own. */
function postgresPids(): number[] {
  const read = (...words: string[]): number[] => execFileSync('pgrep', words).toString().trim().split('\n').map(Number);
  const [postmaster] = read('-o', '-f', readFileSync(join(state, 'postgres-folder'), 'utf8').trim());
  return [postmaster, ...read('-P', String(postmaster))];
}

async function twoStartsAndATakenPort(): Promise<void> {
  const taken = createServer().listen(4810, '127.0.0.1');
  const codes = await Promise.all([meridiem('demo'), meridiem('demo')]);
  expect(
    'two starts at once both end well',
    codes.every((code) => code === 0),
    codes.join(),
  );
  expect('a port that is taken is passed over', address() !== 'http://127.0.0.1:4810', address());
  taken.close();
}

async function postgresKilledAndAway(): Promise<void> {
  const cookie = await signedIn();
  const ask = () => fetch(`${address()}/api/projects`, { headers: { cookie }, signal: AbortSignal.timeout(40_000) });
  process.kill(postgresPids()[0], 'SIGKILL');
  await sleep(300);
  const { status } = await ask();
  expect('a call while PostgreSQL is gone answers 503 in words', status === 503, status);
  const backMs = await until(async () => (await ask()).ok, 60_000);
  expect('PostgreSQL killed is started again by itself', backMs < 60_000, `${(backMs / 1000).toFixed(1)} s`);
  const pids = postgresPids();
  for (const pid of pids) process.kill(pid, 'SIGSTOP');
  const asked = Date.now();
  const away = await ask().then(
    (answer) => answer.status,
    () => 0,
  );
  expect(
    'a call while PostgreSQL is silent is answered 503 before long',
    away === 503,
    `${away} after ${Date.now() - asked} ms`,
  );
  await sleep(Math.max(0, AWAY_MS - (Date.now() - asked)));
  for (const pid of pids)
    try {
      process.kill(pid, 'SIGCONT');
    } catch {
      // A connection that has ended meanwhile.
    }
  const againMs = await until(async () => (await ask()).ok, 60_000);
  expect('PostgreSQL back after 60 s serves again', againMs < 60_000, `${(againMs / 1000).toFixed(1)} s`);
}

async function stoppedAmidWrites(): Promise<void> {
  const cookie = await signedIn();
  const write = (i: number): Promise<boolean> =>
    fetch(`${address()}/api/themes`, {
      method: 'POST',
      headers: {
        'content-type': 'application/json',
        cookie,
        'x-call-id': `00000000-0000-4000-8000-${String(i).padStart(12, '0')}`,
      },
      body: JSON.stringify({ name: `Amid ${i}`, take: 'any' }),
    }).then(
      ({ ok }) => ok,
      () => false,
    );
  const first = Array.from({ length: WRITES }, (_, i) => write(i));
  await sleep(30);
  process.kill(pidOf('server'), 'SIGTERM');
  const done = (await Promise.all(first)).filter(Boolean).length;
  await until(answers, 30_000);
  await sleep(500);
  for (let i = 0; i < WRITES; i += 1) for (let tries = 0; tries < 20 && !(await write(i)); tries += 1) await sleep(300);
  const shelf = (await (await fetch(`${address()}/api/shelf`, { headers: { cookie } })).json()) as {
    themes: { name: string }[];
  };
  const names = shelf.themes.map(({ name }) => name).filter((name) => name.startsWith('Amid '));
  expect(
    `${WRITES} writes, ${done} answered before the stop, are there once each after trying again`,
    names.length === WRITES && new Set(names).size === WRITES,
    names.length,
  );
}

async function diskFull(): Promise<void> {
  const logs = join(state, 'logs');
  await meridiem('stop');
  mkdirSync(logs, { recursive: true });
  execFileSync('mount', ['-t', 'tmpfs', '-o', 'size=64k,mode=700', 'tmpfs', logs]);
  try {
    execFileSync('sh', ['-c', `cat /dev/zero > "${join(logs, 'full')}" || true`], { stdio: 'ignore' });
    expect('it starts with a full disk for its logs', (await meridiem('demo')) === 0);
    const cookie = await signedIn();
    let good = 0;
    for (let i = 0; i < 200; i += 1)
      good += (await fetch(`${address()}/api/projects`, { headers: { cookie } })).ok ? 1 : 0;
    expect('200 calls are answered with no room for a line of log', good === 200, good);
    await meridiem('stop');
  } finally {
    execFileSync('umount', [logs]);
  }
}

async function serverKilled(): Promise<void> {
  const before = pidOf('server');
  process.kill(before, 'SIGKILL');
  const ms = await until(async () => pidOf('server') !== before && (await answers()), 30_000);
  expect('a server that is killed is started again', ms < 30_000, `${(ms / 1000).toFixed(1)} s`);
}

try {
  await twoStartsAndATakenPort();
  await serverKilled();
  await postgresKilledAndAway();
  await stoppedAmidWrites();
  await diskFull();
} finally {
  await meridiem('stop');
  rmSync(readFileSync(join(state, 'postgres-folder'), 'utf8').trim(), { recursive: true, force: true });
  rmSync(state, { recursive: true, force: true });
}
console.log(`${problems} problems`);
process.exit(problems === 0 ? 0 : 1);

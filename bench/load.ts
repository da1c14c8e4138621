// Twenty pages asking at once: how many answers a second, how late the slowest, and how late the server's event loop.
// npm run bench:load [-- SECONDS] on a running PostgreSQL with the demo (MERIDIEM_DATABASE_URL, MERIDIEM_OWNER_DATABASE_URL).
import type { ChildProcess } from 'node:child_process';
import { spawn } from 'node:child_process';
import { once } from 'node:events';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { Agent, request } from 'node:http';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { setTimeout as sleep } from 'node:timers/promises';
import { DEMO_PASSWORD, emailOf } from '../demo/people.ts';
import type { LoopDelay } from './measured-server.ts';

const CONNECTIONS = 20;
const DEAR_A_MINUTE = 60;
const seconds = Number(process.argv[2] ?? 30);

interface Answered {
  readonly status: number;
  readonly body: string;
  readonly ms: number;
}

const agent = new Agent({ keepAlive: true, maxSockets: CONNECTIONS });
const beside = new Agent({ keepAlive: true });
let address = '';

function ask(
  path: string,
  cookie: string,
  { method = 'GET', body = undefined as object | undefined, via = agent } = {},
): Promise<Answered> {
  const started = performance.now();
  return new Promise((resolve, reject) => {
    const text = body && JSON.stringify(body);
    const headers = { cookie, ...(text ? { 'content-type': 'application/json' } : {}) };
    const call = request(`${address}/api${path}`, { method, headers, agent: via }, (answer) => {
      let read = '';
      answer.setEncoding('utf8').on('data', (part: string) => (read += part));
      answer.on('end', () => resolve({ status: answer.statusCode!, body: read, ms: performance.now() - started }));
    });
    call.on('error', reject).end(text);
  });
}

async function signedIn(key: string): Promise<string> {
  const answer = await fetch(`${address}/api/session`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ email: emailOf({ key }), password: DEMO_PASSWORD }),
  });
  if (!answer.ok) throw new Error(`${key} could not sign in: ${await answer.text()}`);
  return answer.headers.get('set-cookie')!.split(';')[0];
}

async function startServer(): Promise<{ child: ChildProcess; stop: () => Promise<void> }> {
  const folder = mkdtempSync(join(tmpdir(), 'load-'));
  const portFile = join(folder, 'port');
  const child = spawn(
    process.execPath,
    ['--conditions', '@meridiem/source', '--import', 'tsx', 'bench/measured-server.ts'],
    {
      stdio: ['ignore', 'ignore', 'inherit', 'ipc'],
      env: {
        ...process.env,
        MERIDIEM_PORT: '4700',
        MERIDIEM_PORT_FILE: portFile,
        MERIDIEM_SESSION_SECRET: 'load'.repeat(12),
        MERIDIEM_RUNNER_KEY: 'load-runner-key',
        MERIDIEM_LOG_LEVEL: 'warn',
      },
    },
  );
  for (let tries = 0; address === ''; tries += 1) {
    await sleep(100);
    if (tries > 300) throw new Error('The server did not start');
    try {
      address = `http://127.0.0.1:${Number(readFileSync(portFile, 'utf8'))}`;
    } catch {
      // Not there yet.
    }
  }
  const stop = async (): Promise<void> => {
    child.kill('SIGTERM');
    await once(child, 'exit');
    rmSync(folder, { recursive: true });
  };
  return { child, stop };
}

interface Measured {
  readonly perSec: number;
  readonly p50Ms: number;
  readonly p99Ms: number;
  readonly failed: number;
  readonly loop: LoopDelay;
}

/** Every connection asks again as soon as it is answered. */
async function load(child: ChildProcess, path: string, cookie: string): Promise<Measured> {
  const { body: full } = await ask(path, cookie);
  const times: number[] = [];
  let failed = 0;
  child.send('begin');
  const started = performance.now();
  const end = started + seconds * 1000;
  const asking = async (): Promise<void> => {
    while (performance.now() < end) {
      const { status, body, ms } = await ask(path, cookie);
      times.push(ms);
      if (status !== 200 || body.length < full.length / 2) failed += 1;
    }
  };
  await Promise.all(Array.from({ length: CONNECTIONS }, asking));
  const tookSec = (performance.now() - started) / 1000;
  child.send('end');
  const [loop] = (await once(child, 'message')) as [LoopDelay];
  times.sort((a, b) => a - b);
  const at = (share: number): number => times[Math.min(times.length - 1, Math.floor(times.length * share))];
  return { perSec: times.length / tookSec, p50Ms: at(0.5), p99Ms: at(0.99), failed, loop };
}

const { child, stop } = await startServer();
const [coordinator, guest] = [await signedIn('ilse'), await signedIn('sam')];
const { projects } = JSON.parse((await ask('/projects', coordinator)).body) as { projects: { id: string }[] };
const [{ id }] = projects;

// One write a second, and one guest who asks for dear answers all the while.
let isRunning = true;
let dear = 0;
let refusedDear = 0;
const writing = (async () => {
  for (let i = 0; isRunning; i += 1) {
    const { body } = await ask(`/projects/${id}`, coordinator, { via: beside });
    const { version } = JSON.parse(body) as { version: number };
    await ask(`/projects/${id}`, coordinator, { method: 'PATCH', via: beside, body: { version, why: `load ${i}` } });
    await sleep(1000);
  }
})();
const wishing = (async () => {
  for (let i = 0; isRunning; i += 1) {
    const project = projects[i % projects.length].id;
    const { status } = await ask(`/projects/${project}/limits/preview`, guest, {
      method: 'POST',
      via: beside,
      body: { class: 'broadband', key: 'minAltitudeDeg', proposed: 20 + (i % 40) },
    });
    if (status === 429 || status === 503) refusedDear += 1;
    else dear += 1;
    await sleep(60_000 / DEAR_A_MINUTE);
  }
})();

const rows = [
  ['Tonight', '/nights/tonight'],
  ['project list', '/projects'],
  ['project page', `/projects/${id}`],
] as const;
console.log(
  `| page | answers a second | median | p99 | not full | event loop p99 | most |\n| --- | --- | --- | --- | --- | --- | --- |`,
);
for (const [name, path] of rows) {
  const { perSec, p50Ms, p99Ms, failed, loop } = await load(child, path, coordinator);
  console.log(
    `| ${name} | ${perSec.toFixed(0)} | ${p50Ms.toFixed(0)} ms | ${p99Ms.toFixed(0)} ms | ${failed} | ${loop.p99Ms.toFixed(0)} ms | ${loop.mostMs.toFixed(0)} ms |`,
  );
}
isRunning = false;
await Promise.all([writing, wishing]);
console.log(`beside: one write a second; a guest’s dear questions: ${dear} answered, ${refusedDear} refused`);
agent.destroy();
beside.destroy();
await stop();

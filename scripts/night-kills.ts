// Nights by devices on two rigs under every kind of ending: servers, runner and simulator killed, the database away, the link cut;
// two servers throughout. Judged by ledger, files and the simulated observatory's own records. npm run night:kills [-- SHARE]
import { createServer, connect } from 'node:net';
import type { Socket } from 'node:net';
import { existsSync, readdirSync } from 'node:fs';
import { Client } from 'pg';
import { seededRandom } from '../packages/core/src/index.ts';
import { DEMO_PASSWORD, emailOf } from '../demo/people.ts';
import {
  framesCopied,
  answers,
  killProcess,
  queryStack,
  startProcess,
  startSecondServer,
  startStack,
  stopStack,
} from '../e2e/stack.ts';

/** Nights long and dark enough; one after the other until everything has happened. */
const NIGHTS = ['2026-10-13', '2026-10-14', '2026-10-15', '2026-10-16', '2026-10-17', '2026-10-18'];
const SPEED = 60;
const SHARE = Number(process.argv[2] ?? 1);
const DATABASE_AWAY_MS = 30_000;
/** Up to two hours of observatory time. */
const LONGEST_CUT_MS = (7200 / SPEED) * 1000;
const DISTURBANCES = { server: 25, runner: 25, simulator: 20, database: 10, link: 10 } as const;
type Disturbance = keyof typeof DISTURBANCES;

const random = seededRandom(Number(process.env.MERIDIEM_SEED ?? 1));
const sleep = (ms: number): Promise<void> => new Promise((resolve) => setTimeout(resolve, ms));
const problems: string[] = [];
const expect = (holds: boolean, words: string): void => {
  if (!holds) problems.push(words);
};

const state = await startStack();
const framesFolder = state.environment.MERIDIEM_FRAMES;
const second = await startSecondServer(state);
const link = await openLink([portOf(state.url), portOf(second)]);
let cookie = '';

const waiting = (Object.keys(DISTURBANCES) as Disturbance[])
  .flatMap((what) => Array.from({ length: Math.ceil(SHARE * DISTURBANCES[what]) }, () => ({ what, at: random() })))
  .toSorted((a, b) => a.at - b.at)
  .map(({ what }) => what);
const done: Record<Disturbance, number> = { server: 0, runner: 0, simulator: 0, database: 0, link: 0 };

try {
  killProcess(state, 'runner');
  startRunner();
  await call('POST', '/session', { email: emailOf({ key: 'ilse' }), password: DEMO_PASSWORD });
  const { rigs } = await call<{ rigs: { id: string }[] }>('GET', '/observatory');
  for (const { id } of rigs) await call('PUT', `/rigs/${id}/devices`, { kind: 'simulated', url: null });
  for (const night of NIGHTS) {
    if (waiting.length > 0)
      await playThrough(
        night,
        rigs.map(({ id }) => id),
      );
  }
  await judge(rigs.map(({ id }) => id));
} finally {
  link.close();
  await stopStack();
}
console.log(
  problems.length === 0
    ? 'No problem.'
    : `${problems.length} problems:\n${problems.map((words) => `- ${words}`).join('\n')}`,
);
process.exit(problems.length === 0 ? 0 : 1);

async function playThrough(night: string, rigIds: readonly string[]): Promise<void> {
  for (const rigId of rigIds) {
    await call('POST', `/nights/${night}/publish`, { rigId });
    await call('POST', `/nights/${night}/play`, { rigId, speed: SPEED });
  }
  console.log(`${night} plays on ${rigIds.length} rigs`);
  while (await isPlaying()) {
    await sleep(1000 + 4000 * random());
    const [next] = waiting;
    if (next && (await isPlaying())) {
      waiting.shift();
      await disturb(next);
      done[next] += 1;
      console.log(`  ${new Date().toISOString().slice(11, 19)} ${next}; ${waiting.length} left`);
    } else if (!next) await sleep(2000);
  }
}

async function disturb(what: Disturbance): Promise<void> {
  if (what === 'database') return databaseAway();
  if (what === 'link') return link.cut(LONGEST_CUT_MS * random());
  const name = what === 'server' && random() < 0.5 ? 'server-2' : what;
  try {
    killProcess(state, name);
  } catch {
    expect(false, `${name} had ended by itself`);
  }
  await sleep(2000 * random());
  if (what === 'runner') startRunner();
  else if (name === 'server-2')
    startProcess(state, name, { MERIDIEM_PORT: String(portOf(second)), MERIDIEM_SERVER_URL: second });
  else startProcess(state, name);
  if (what === 'server') await answers(name === 'server' ? state.url : second);
}

function startRunner(): void {
  startProcess(state, 'runner', { MERIDIEM_SERVER_URL: `http://127.0.0.1:${link.port}` });
}

/** No connection is taken and none is left, as where the database server is stopped. */
async function databaseAway(): Promise<void> {
  const client = new Client({ connectionString: state.maintenanceUrl });
  await client.connect();
  await client.query(`ALTER DATABASE ${state.database} ALLOW_CONNECTIONS false`);
  await client.query(`SELECT pg_terminate_backend(pid) FROM pg_stat_activity WHERE datname = $1`, [state.database]);
  await sleep(DATABASE_AWAY_MS);
  await client.query(`ALTER DATABASE ${state.database} ALLOW_CONNECTIONS true`);
  await client.end();
  await answers(state.url);
}

async function isPlaying(): Promise<boolean> {
  const runs = await query(`SELECT 1 FROM night_runs WHERE state IN ('requested', 'running', 'stopping')`);
  return runs.length > 0;
}

async function judge(rigIds: readonly string[]): Promise<void> {
  const [counts] = await query<
    Record<'taken' | 'lost' | 'replaced' | 'open' | 'inLedger' | 'steps' | 'frames' | 'unknown' | 'openActions', number>
  >(
    `SELECT (count(*) FILTER (WHERE outcome = 'done'))::int AS taken, (count(*) FILTER (WHERE outcome = 'lost'))::int AS lost,
       (count(*) FILTER (WHERE outcome = 'replaced'))::int AS replaced, (count(*) FILTER (WHERE outcome IS NULL))::int AS open,
       (SELECT count(*)::int FROM exposures WHERE run_step_id IS NOT NULL) AS "inLedger",
       (SELECT count(DISTINCT run_step_id)::int FROM exposures) AS steps, (SELECT count(*)::int FROM frames) AS frames,
       (SELECT count(*)::int FROM run_actions WHERE outcome = 'unknown') AS unknown,
       (SELECT count(*)::int FROM run_actions WHERE outcome IS NULL) AS "openActions" FROM run_steps`,
  );
  await framesCopied();
  const files = filesIn(framesFolder);
  const known = new Set((await query<{ name: string }>('SELECT name FROM frames')).map(({ name }) => name));
  const ends = await query<{ ended: string; nights: number }>(
    `SELECT ended_as AS ended, count(*)::int AS nights FROM night_runs GROUP BY 1 ORDER BY 1`,
  );
  console.log(
    `\n${Object.entries(done)
      .map(([what, count]) => `${what} ${count}`)
      .join(
        ', ',
      )}\n${JSON.stringify({ ...counts, files: files.length })}\n${ends.map(({ ended, nights }) => `${nights} nights ended "${ended}"`).join(', ')}`,
  );
  expect(
    counts.taken > 0 &&
      counts.taken === counts.inLedger &&
      counts.taken === counts.steps &&
      counts.taken === counts.frames,
    'steps, ledger and frames differ in number',
  );
  expect(counts.open === 0 && counts.openActions === 0, 'something has no outcome');
  expect(
    files.filter((name) => !known.has(name)).length === 0 && files.length === known.size,
    `${files.length} files, ${known.size} known to the ledger`,
  );
  for (const rigId of rigIds) {
    const { entries, roof, isParked } = (await (
      await fetch(`${state.environment.MERIDIEM_SIMULATOR_URL}/rigs/${rigId}/truth`)
    ).json()) as {
      entries: { what: string; isViolation: boolean; utcMs: number }[];
      roof: string;
      isParked: boolean;
    };
    const broken = entries.filter(({ isViolation }) => isViolation);
    console.log(
      `${rigId}: ${entries.length} entries, ${entries.filter(({ what }) => what === 'the watchdog closes the roof').length} times closed by the watchdog`,
    );
    expect(
      broken.length === 0,
      `${rigId}: ${broken.map(({ what, utcMs }) => `${what} at ${new Date(utcMs).toISOString()}`).join('; ')}`,
    );
    expect(roof === 'closed' && isParked, `${rigId}: the roof is ${roof}, the mount ${isParked ? '' : 'not '}parked`);
  }
  const unequal = await query(
    `SELECT 1 FROM goal_totals_true t JOIN goal_totals g USING (goal_id) WHERE (t.accepted, t.undecided, t.rejected, t.exposure_count) IS DISTINCT FROM (g.accepted, g.undecided, g.rejected, g.exposure_count)`,
  );
  expect(unequal.length === 0, `${unequal.length} goal totals differ from their recount`);
}

function filesIn(folder: string): string[] {
  if (!existsSync(folder)) return [];
  return (readdirSync(folder, { recursive: true }) as string[]).filter((name) => name.endsWith('.fits'));
}

async function query<T>(sql: string): Promise<T[]> {
  for (let attempt = 0; ; attempt++) {
    try {
      return await queryStack<T>(sql);
    } catch (error) {
      if (attempt > 150) throw error;
      await sleep(300);
    }
  }
}

async function call<T>(method: string, path: string, body?: object): Promise<T> {
  for (let attempt = 0; ; attempt++) {
    const answer = await fetch(`${state.url}/api${path}`, {
      method,
      headers: { cookie, ...(body ? { 'content-type': 'application/json' } : {}) },
      body: body ? JSON.stringify(body) : undefined,
    }).catch(() => null);
    if (answer && path === '/session') cookie = String(answer.headers.get('set-cookie')).split(';')[0];
    if (answer?.ok) return (await answer.json()) as T;
    if (attempt > 100 || (answer && answer.status < 500))
      throw new Error(`${method} ${path}: ${answer?.status} ${await answer?.text()}`);
    await sleep(300);
  }
}

function portOf(url: string): number {
  return Number(new URL(url).port);
}

interface Link {
  readonly port: number;
  /** Nothing goes through for so long. */
  cut(ms: number): Promise<void>;
  close(): void;
}

/** The way from the runner to the servers, one connection to each in turn. */
async function openLink(ports: readonly number[]): Promise<Link> {
  const sockets = new Set<Socket>();
  let [isCut, turn] = [false, 0];
  const server = createServer((near) => {
    if (isCut) return void near.destroy();
    const far = connect(ports[turn++ % ports.length], '127.0.0.1');
    for (const [one, other] of [
      [near, far],
      [far, near],
    ]) {
      sockets.add(one);
      one.on('error', () => undefined);
      one.on('close', () => {
        sockets.delete(one);
        other.destroy();
      });
      one.pipe(other);
    }
  });
  await new Promise<void>((ready) => server.listen(0, '127.0.0.1', ready));
  return {
    port: (server.address() as { port: number }).port,
    async cut(ms) {
      isCut = true;
      for (const socket of sockets) socket.destroy();
      await sleep(ms);
      isCut = false;
    },
    close: () => void server.close(),
  };
}

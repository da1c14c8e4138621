// Drives the kills: two servers on one database, two nights playing, imports all the while, a page open; see kills.sh.
import type { ChildProcess } from 'node:child_process';
import { execFileSync, spawn } from 'node:child_process';
import { openSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { chromium } from '@playwright/test';
import { Client } from 'pg';
import { seededRandom } from '../packages/core/src/index.ts';
import { DEMO_PASSWORD, emailOf } from '../demo/people.ts';

const SERVER_KILLS = Number(process.argv[2] ?? 20);
const POSTGRES_KILLS = Number(process.argv[3] ?? 5);
const NIGHT = '2026-10-11';
const SPEED = 60;
const FRAMES_AN_IMPORT = 40;

const random = seededRandom(Number(process.env.MERIDIEM_SEED ?? 1));
const env = (name: string): string => process.env[name]!;
const sleep = (ms: number): Promise<void> => new Promise((resolve) => setTimeout(resolve, ms));
const problems: string[] = [];
const expect = (holds: boolean, words: string): void => {
  if (!holds) problems.push(words);
};

interface Server {
  readonly name: 'A' | 'B';
  readonly url: string;
  process: ChildProcess;
  cookie: string;
}

function spawned(name: 'A' | 'B'): ChildProcess {
  const log = openSync(join(env('MERIDIEM_STATE'), `logs/server-${name}.log`), 'a');
  return spawn('node', ['--conditions', '@meridiem/source', '--import', 'tsx', 'packages/server/src/main.ts'], {
    env: { ...process.env, MERIDIEM_PORT: env(`MERIDIEM_PORT_${name}`) },
    stdio: ['ignore', log, log],
  });
}

/** Calls until there is an answer, as a person would who tries again. */
async function call<T>(
  server: Server,
  method: string,
  path: string,
  body?: object,
): Promise<{ status: number; body: T }> {
  for (let attempt = 0; ; attempt++) {
    try {
      const answer = await fetch(`${server.url}/api${path}`, {
        method,
        headers: { cookie: server.cookie, ...(body ? { 'content-type': 'application/json' } : {}) },
        body: body ? JSON.stringify(body) : undefined,
        signal: AbortSignal.timeout(20_000),
      });
      if (answer.status < 500) return { status: answer.status, body: (await answer.json()) as T };
    } catch {
      // The server is away: try again.
    }
    if (attempt > 150) throw new Error(`${method} ${path} on ${server.name} never answered`);
    await sleep(300);
  }
}

async function signIn(server: Server): Promise<void> {
  for (let attempt = 0; ; attempt++) {
    const answer = await fetch(`${server.url}/api/session`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ email: emailOf({ key: 'ilse' }), password: DEMO_PASSWORD }),
    }).catch(() => null);
    if (answer?.ok) {
      server.cookie = answer.headers.getSetCookie()[0].split(';')[0];
      return;
    }
    if (attempt > 150) throw new Error(`${server.name} did not come up`);
    await sleep(200);
  }
}

async function query<T>(sql: string): Promise<T[]> {
  for (let attempt = 0; ; attempt++) {
    const client = new Client({ connectionString: env('MERIDIEM_OWNER_DATABASE_URL') });
    try {
      await client.connect();
      return (await client.query(sql)).rows as T[];
    } catch (error) {
      if (attempt > 60) throw error;
      await sleep(300);
    } finally {
      await client.end().catch(() => undefined);
    }
  }
}

let wantedFrames = 0;
let appliedImports = 0;
let finishing = false;

/** Imports batch after batch; whether an import was applied when its answer never came is asked of the import itself. */
async function importAllTheWhile(servers: readonly Server[], cameraName: string): Promise<void> {
  for (let batch = 0; !finishing; batch++) {
    const server = () => servers[Math.floor(random() * servers.length)];
    const { id } = (await call<{ id: string }>(server(), 'POST', '/imports', { source: `batch ${batch}` })).body;
    const files = Array.from({ length: FRAMES_AN_IMPORT }, (_, i) => frame(cameraName, wantedFrames + i));
    const { ids } = (await call<{ ids: string[] }>(server(), 'POST', `/imports/${id}/files`, { files })).body;
    if (!ids) throw new Error('the files of an import were refused');
    const applied = await call<{ code?: string }>(server(), 'POST', `/imports/${id}/apply`, {});
    expect(
      applied.status === 200 || applied.body.code === 'NOT_POSSIBLE',
      `import ${batch} answered ${applied.status}`,
    );
    wantedFrames += FRAMES_AN_IMPORT;
    appliedImports += 1;
    await sleep(200 + 400 * random());
  }
}

const frame = (cameraName: string, serial: number) => ({
  name: `kill-${serial}.fits`,
  sizeBytes: 1000,
  facts: {
    kind: 'light',
    objectName: null,
    centre: null,
    positionAngleDeg: null,
    scaleArcsecPerPx: null,
    isMirrored: null,
    startUtcMs: Date.parse('2025-01-01T00:00:00Z') + serial * 130_000,
    startStepMs: 1,
    exposureSec: 120,
    filterName: 'L',
    gain: 75,
    offset: 30,
    binning: 1,
    sensorC: -10,
    cameraName,
    telescopeName: null,
    observerName: null,
    sequence: null,
    widthPx: 1600,
    heightPx: 1200,
    isTruncated: false,
    isSimulated: false,
    dataStart: 0,
    dataLength: 0,
    doubts: [],
  },
  refused: null,
  dataSha256: null,
  pixelsSha256: null,
  headerKey: null,
  verdict: null,
});

/** Whether both servers tell the same; what changes while it is asked is asked again. */
async function agree(a: Server, b: Server): Promise<boolean> {
  for (let attempt = 0; attempt < 40; attempt++) {
    const told = await Promise.all(
      [a, b].map(async (server) =>
        JSON.stringify([
          (await call<{ totals: object }>(server, 'GET', '/exposures')).body.totals,
          (await call<{ nights: object[] }>(server, 'GET', '/exposures/nights')).body.nights,
        ]),
      ),
    );
    if (told[0] === told[1]) return true;
    await sleep(50);
  }
  return false;
}

const postmaster = (): number => {
  const folder = readFileSync(join(env('MERIDIEM_STATE'), 'postgres-folder'), 'utf8').trim();
  return Number(readFileSync(join(folder, 'postmaster.pid'), 'utf8').split('\n')[0]);
};

const servers: readonly Server[] = (['A', 'B'] as const).map((name) => ({
  name,
  url: `http://127.0.0.1:${env(`MERIDIEM_PORT_${name}`)}`,
  process: spawned(name),
  cookie: '',
}));
const [a, b] = servers;
const stopAll = (): void => servers.forEach((server) => void server.process.kill('SIGKILL'));
process.on('exit', stopAll);
for (const server of servers) await signIn(server);

const { rigs } = (await call<{ rigs: { id: string; name: string }[] }>(a, 'GET', '/observatory')).body;
for (const { id } of rigs) {
  await call(a, 'POST', `/nights/${NIGHT}/publish`, { rigId: id });
  const played = await call(b, 'POST', `/nights/${NIGHT}/play`, { rigId: id, speed: SPEED });
  if (played.status !== 200) throw new Error(`the night of ${id} does not play: ${JSON.stringify(played.body)}`);
}
const [{ serial }] = await query<{ serial: string }>(
  `SELECT c.serial FROM rigs r JOIN rig_revisions v ON v.rig_id = r.id AND v.during @> now() JOIN cameras c ON c.id = v.camera_id WHERE r.id = '${rigs[0].id}'`,
);
const browser = await chromium.launch({
  executablePath: env('MERIDIEM_CHROMIUM'),
  args: [
    '--headless',
    '--no-sandbox',
    '--disable-gpu',
    '--disable-quic',
    '--no-first-run',
    '--disable-background-networking',
  ],
});
const page = await browser.newPage();
await page
  .context()
  .addCookies([{ name: a.cookie.split('=')[0], value: a.cookie.split('=').slice(1).join('='), url: a.url }]);
await page.goto(`${a.url}/tonight`);
await page.getByRole('group', { name: 'The night as it plays' }).first().waitFor();
const silence = page.getByText(/No contact with the server since/);
const importing = importAllTheWhile(servers, serial);

const order = [
  ...Array.from({ length: SERVER_KILLS }, (_, i) => (i % 2 === 0 ? 'A' : 'B')),
  ...Array.from({ length: POSTGRES_KILLS }, () => 'PostgreSQL'),
]
  .map((what) => ({ what, at: random() }))
  .toSorted((x, y) => x.at - y.at)
  .map(({ what }) => what);
let said = 0;
for (const [i, what] of order.entries()) {
  await sleep(500 + 3500 * random());
  if (what === 'PostgreSQL') {
    process.kill(postmaster(), 'SIGKILL');
    await sleep(500 * random());
    execFileSync('bash', ['scripts/kills.sh', 'start-postgres'], { stdio: ['ignore', 'ignore', 'inherit'] });
  } else {
    const server = what === 'A' ? a : b;
    server.process.kill('SIGKILL');
    if (what === 'A') {
      await silence.waitFor({ timeout: 30_000 }).then(
        () => (said += 1),
        () => expect(false, `kill ${i}: the page said nothing`),
      );
    }
    server.process = spawned(server.name);
  }
  for (const server of servers) await call(server, 'GET', '/health');
  if (what !== 'B')
    await silence
      .waitFor({ state: 'hidden', timeout: 40_000 })
      .catch(() => expect(false, `kill ${i} (${what}): the page did not recover`));
  expect(await agree(a, b), `kill ${i} (${what}): the servers disagree`);
  console.log(`${i + 1} of ${order.length}: ${what} killed; ${appliedImports} imports so far`);
}
finishing = true;
await importing;
for (const { id } of await query<{ id: string }>(
  `SELECT id FROM night_runs WHERE state IN ('requested', 'running', 'stopping')`,
))
  await call(a, 'POST', `/runs/${id}/stop`, {});
for (let i = 0; i < 200; i++) {
  const open = await query(`SELECT 1 FROM night_runs WHERE state IN ('requested', 'running', 'stopping')`);
  if (open.length === 0) break;
  await sleep(300);
}

const [counts] = await query<Record<'done' | 'taken' | 'starts' | 'imported' | 'distinct', number>>(
  `SELECT (SELECT count(*)::int FROM run_steps s WHERE outcome = 'done') AS done,
     count(*) FILTER (WHERE run_step_id IS NOT NULL)::int AS taken, count(DISTINCT run_step_id)::int AS starts,
     count(*) FILTER (WHERE start_utc < '2026-01-01')::int AS imported, count(DISTINCT start_utc) FILTER (WHERE start_utc < '2026-01-01')::int AS distinct
   FROM exposures`,
);
expect(
  counts.taken === counts.done && counts.starts === counts.taken,
  `steps done ${counts.done}, exposures taken ${counts.taken}`,
);
expect(
  counts.imported === wantedFrames && counts.distinct === wantedFrames,
  `frames wanted ${wantedFrames}, imported ${counts.imported}`,
);
const unequal = await query(
  `SELECT 1 FROM goal_totals_true t JOIN goal_totals g USING (goal_id) WHERE (t.accepted, t.undecided, t.rejected, t.exposure_count) IS DISTINCT FROM (g.accepted, g.undecided, g.rejected, g.exposure_count)`,
);
expect(unequal.length === 0, `${unequal.length} goal totals differ from their recount`);
const untrue = await query(
  '(SELECT exposure_id, project_id, verdict FROM ledger_rows EXCEPT SELECT exposure_id, project_id, verdict FROM ledger_rows_true) UNION ALL (SELECT exposure_id, project_id, verdict FROM ledger_rows_true EXCEPT SELECT exposure_id, project_id, verdict FROM ledger_rows)',
);
expect(untrue.length === 0, `${untrue.length} ledger rows differ from their recount`);
await browser.close();
stopAll();
console.log(
  `${SERVER_KILLS} kills of servers, ${POSTGRES_KILLS} of PostgreSQL: ${counts.taken} exposures of two nights and ${counts.imported} imported frames in ${appliedImports} imports, each once; the page said so ${said} times and recovered; ${problems.length} problems`,
);
for (const problem of problems) console.log(`  ${problem}`);
process.exit(problems.length === 0 ? 0 : 1);

// A ledger of a million exposures: pages, filters, totals and bulk verdicts through the whole server, against a count from the bare history.
// npm run bench:ledger [-- EXPOSURES]; needs MERIDIEM_TEST_DATABASE_URL.
import { judgeExposures, listExposures, putGoals } from '@meridiem/contract';
import { quantileOf, seededRandom } from '@meridiem/core';
import type { TestApp } from '../packages/server/test/test-app.ts';
import { createTestApp } from '../packages/server/test/test-app.ts';

const EXPOSURES = Number(process.argv[2] ?? 1_000_000);
const BATCH = 100_000;
const REQUESTS = 300;
const BULKS = 20;
const TRIGGERED = ['exposures', 'attributions', 'verdicts'];

const test = await createTestApp({ exposures: 200 });
try {
  await seed(test);
  const lines = [
    '| work | median | 95 % | limit |',
    '| --- | --- | --- | --- |',
    await benchPages(test),
    await benchBulk(test),
    await benchGoals(test),
    await benchRecount(test),
  ];
  console.log(lines.join('\n'));
  console.log(await plansOf(test));
} finally {
  await test.close();
}

/** Exposures over all goals and ten years. Triggers rest meanwhile; then the served tables are filled from their defining views. */
async function seed({ ownerDatabase }: TestApp): Promise<void> {
  const started = performance.now();
  for (const table of TRIGGERED) await ownerDatabase.rows(`ALTER TABLE ${table} DISABLE TRIGGER USER`);
  for (let from = 0; from < EXPOSURES; from += BATCH) {
    await ownerDatabase.rows(
      `WITH goal AS (SELECT row_number() OVER (ORDER BY g.id) - 1 AS n, count(*) OVER () AS goals, g.id, g.panel_id, l.project_id, g.observatory_id, r.filter_id, v.exposure_s, x.id AS revision
         FROM goals g JOIN panels l ON l.id = g.panel_id JOIN projects p ON p.id = l.project_id JOIN recipe_revisions v ON v.id = g.recipe_revision_id JOIN recipes r ON r.id = v.recipe_id
         JOIN LATERAL (SELECT id FROM rig_revisions y WHERE y.rig_id = p.rig_id ORDER BY seq LIMIT 1) x ON true),
       made AS (INSERT INTO exposures (observatory_id, rig_revision_id, night_date, start_utc, exposure_s, filter_id, gain, "offset", binning, header_key)
         SELECT g.observatory_id, g.revision, (timestamp '2016-01-01' + i * interval '315 seconds')::date, timestamptz '2016-01-01' + i * interval '315 seconds', g.exposure_s, g.filter_id, 100, 30, 1, 'bench ' || i || ' ' || g.n
         FROM generate_series($1::int, $2::int) i JOIN goal g ON g.n = (i / 40) % g.goals RETURNING id, observatory_id, header_key),
       credited AS (INSERT INTO attributions (observatory_id, exposure_id, project_id, panel_id, goal_id, credit_share, reason)
         SELECT m.observatory_id, m.id, g.project_id, g.panel_id, g.id, 1, 'bench' FROM made m JOIN goal g ON g.n = split_part(m.header_key, ' ', 3)::int RETURNING exposure_id)
       INSERT INTO verdicts (observatory_id, exposure_id, origin, verdict, reason)
         SELECT observatory_id, id, 'rule', CASE WHEN hashtext(id::text) % 12 = 0 THEN 'rejected' ELSE 'accepted' END, 'bench' FROM made WHERE hashtext(id::text) % 50 <> 0`,
      [from, Math.min(from + BATCH, EXPOSURES) - 1],
    );
  }
  for (const table of TRIGGERED) await ownerDatabase.rows(`ALTER TABLE ${table} ENABLE TRIGGER USER`);
  await ownerDatabase.rows('ANALYZE');
  await ownerDatabase.rows(
    'INSERT INTO ledger_rows SELECT * FROM ledger_rows_true t WHERE NOT EXISTS (SELECT 1 FROM ledger_rows r WHERE r.exposure_id = t.exposure_id)',
  );
  await ownerDatabase.rows('SELECT refresh_goal_totals(array_agg(id)) FROM goals');
  await ownerDatabase.rows('VACUUM ANALYZE');
  console.error(`${EXPOSURES} exposures made in ${((performance.now() - started) / 1000).toFixed(0)} s`);
}

async function benchPages({ call, database }: TestApp): Promise<string> {
  const random = seededRandom(3);
  const pick = <T>(list: readonly T[]): T => list[Math.floor(random() * list.length)];
  const ids = async (table: string): Promise<string[]> =>
    (await database.rows<{ id: string }>(`SELECT id FROM ${table}`)).map(({ id }) => id);
  const [projects, filters] = [await ids('projects'), await ids('filters')];
  const nights = (
    await database.rows<{ night: string }>('SELECT DISTINCT night_date::text AS night FROM ledger_tallies')
  ).map(({ night }) => night);
  const tookMs: number[] = [];
  for (let i = 0; i < REQUESTS; i++) {
    const query = {
      ...(random() < 0.4 ? { project: pick(projects) } : {}),
      ...(random() < 0.4 ? { filter: pick(filters) } : {}),
      ...(random() < 0.3 ? { night: pick(nights) } : {}),
      ...(random() < 0.5 ? { verdict: pick(['accepted', 'rejected', 'undecided'] as const) } : {}),
      ...(random() < 0.3 ? { before: `${new Date(1.46e12 + random() * 3e11).toISOString()}_${pick(projects)}` } : {}),
    };
    const started = performance.now();
    const { status } = await call('ilse', listExposures, { query });
    tookMs.push(performance.now() - started);
    if (status !== 200) throw new Error(`a page answered ${status}`);
  }
  return row(`a page of 200 with its totals, ${REQUESTS} random filters`, tookMs, 150);
}

async function benchBulk({ call, database }: TestApp): Promise<string> {
  const tookMs: number[] = [];
  for (let i = 0; i < BULKS; i++) {
    const rows = await database.rows<{ id: string }>(
      'SELECT exposure_id AS id FROM ledger_rows ORDER BY start_utc DESC, exposure_id LIMIT 500 OFFSET $1',
      [i * 20_000],
    );
    const started = performance.now();
    const { status } = await call('ilse', judgeExposures, {
      body: { exposureIds: rows.map(({ id }) => id), verdict: 'rejected', reason: 'cloud' },
    });
    tookMs.push(performance.now() - started);
    if (status !== 200) throw new Error(`a bulk verdict answered ${status}`);
  }
  return row('a verdict for 500 exposures', tookMs, 1000);
}

/** Goals on every panel of a mosaic, as a set puts them: nothing of the ledger is looked at. */
async function benchGoals({ call, ownerDatabase }: TestApp): Promise<string> {
  const mosaic = (await ownerDatabase.one<{ id: string; rigId: string }>(
    'SELECT p.id, p.rig_id AS "rigId" FROM projects p JOIN panels l ON l.project_id = p.id GROUP BY p.id HAVING count(*) >= 6 LIMIT 1',
  ))!;
  const panels = await ownerDatabase.rows<{ id: string }>(
    'SELECT id FROM framed_panels WHERE project_id = $1 LIMIT 6',
    [mosaic.id],
  );
  const recipes = await ownerDatabase.rows<{ id: string }>(
    `INSERT INTO recipes (observatory_id, rig_id, filter_id, name) SELECT observatory_id, rig_id, filter_id, 'bench ' || n || ' ' || name FROM recipes, generate_series(1, $2::int) n
     WHERE rig_id = $1 AND name NOT LIKE 'bench%' ORDER BY name LIMIT $3 RETURNING id`,
    [mosaic.rigId, BULKS, 4 * BULKS],
  );
  await ownerDatabase.rows(
    `INSERT INTO recipe_revisions (observatory_id, recipe_id, seq, camera_mode_id, exposure_s, "offset", binning, sensor_c, pause_s, dither_every)
     SELECT r.observatory_id, r.id, 1, v.camera_mode_id, 123, v."offset", v.binning, v.sensor_c, v.pause_s, v.dither_every
     FROM recipes r CROSS JOIN LATERAL (SELECT * FROM recipe_revisions x LIMIT 1) v WHERE r.id = ANY ($1)`,
    [recipes.map(({ id }) => id)],
  );
  const tookMs: number[] = [];
  for (let from = 0; from + 4 <= recipes.length; from += 4) {
    const items = recipes.slice(from, from + 4).map(({ id }) => ({ recipeId: id, wanted: 10 }));
    const started = performance.now();
    const { status, body } = await call('ilse', putGoals, {
      params: { id: mosaic.id },
      body: { panelIds: panels.map(({ id }) => id), items },
    });
    tookMs.push(performance.now() - started);
    if (status !== 200 || body.added !== 24) throw new Error(`24 goals answered ${status}`);
  }
  return row('24 goals more', tookMs, 100);
}

/** What the tallies spare: the same totals from the history. */
async function benchRecount({ ownerDatabase: database }: TestApp): Promise<string> {
  const started = performance.now();
  await database.rows('SELECT verdict, count(*) FROM ledger_rows_true GROUP BY verdict');
  return row('against: totals counted from the bare history, once', [performance.now() - started], null);
}

function row(work: string, tookMs: readonly number[], limitMs: number | null): string {
  return `| ${work} | ${quantileOf(tookMs, 0.5).toFixed(0)} ms | ${quantileOf(tookMs, 0.95).toFixed(0)} ms | ${limitMs === null ? '' : `${limitMs} ms`} |`;
}

/** The plans of the queries behind a page. */
async function plansOf({ database }: TestApp): Promise<string> {
  const one = await database.one<{ o: string; p: string; f: string }>(
    'SELECT observatory_id AS o, project_id AS p, filter_id AS f FROM ledger_rows WHERE project_id IS NOT NULL LIMIT 1',
  );
  const { o, p, f } = one!;
  const page = 'ORDER BY start_utc DESC, exposure_id DESC LIMIT 201';
  const queries = {
    'newest page': `SELECT * FROM ledger_rows WHERE observatory_id = '${o}' ${page}`,
    'page of a project': `SELECT * FROM ledger_rows WHERE observatory_id = '${o}' AND project_id = '${p}' ${page}`,
    'page of a filter and verdict': `SELECT * FROM ledger_rows WHERE observatory_id = '${o}' AND filter_id = '${f}' AND verdict = 'undecided' ${page}`,
    'totals of everything': `SELECT verdict, sum(exposures) FROM ledger_tallies WHERE observatory_id = '${o}' GROUP BY verdict`,
  };
  const texts = [];
  for (const [name, sql] of Object.entries(queries)) {
    const plan = await database.rows<{ 'QUERY PLAN': string }>(`EXPLAIN (ANALYZE, COSTS OFF, TIMING OFF) ${sql}`);
    texts.push(`${name}:`, ...plan.map((line) => `  ${line['QUERY PLAN']}`));
  }
  return texts.join('\n');
}

// A database as it stood on 28 November 2026, brought up to date: every total as before, every row still there.
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { randomBytes } from 'node:crypto';
import { readFileSync } from 'node:fs';
import { gunzipSync } from 'node:zlib';
import { Client } from 'pg';
import { migrate } from '../src/database/migrate.ts';
import { APP, runOn, withDatabase } from './test-app.ts';

const DUMP = new URL('fixtures/main-2026-11-28.sql.gz', import.meta.url);
const maintenance = process.env.MERIDIEM_TEST_DATABASE_URL!;
const name = `meridiem_test_${randomBytes(5).toString('hex')}`;
const url = withDatabase(maintenance, name);
let client: Client;

const totals = async () => {
  const read = async (sql: string) => (await client.query(sql)).rows as Record<string, unknown>[];
  return {
    goals: await read('SELECT * FROM goal_totals ORDER BY goal_id'),
    tallies: await read('SELECT * FROM ledger_tallies ORDER BY project_id, filter_id, night_date, verdict'),
    rows: await read(
      'SELECT exposure_id, project_id, verdict, credit_share FROM ledger_rows ORDER BY exposure_id, project_id',
    ),
    time: await read(
      'SELECT count(*)::int AS n, sum(extract(epoch FROM upper(during) - lower(during)))::float8 AS sec FROM time_entries',
    ),
  };
};
const countsOf = async (tables: readonly string[]) => {
  const counts: Record<string, number> = {};
  for (const table of tables)
    counts[table] = Number((await client.query(`SELECT count(*) AS n FROM "${table}"`)).rows[0].n);
  return counts;
};

let before: Awaited<ReturnType<typeof totals>>;
let kept: Record<string, number>;
beforeAll(async () => {
  await runOn(maintenance, `CREATE DATABASE ${name}`);
  client = new Client({ connectionString: url });
  await client.connect();
  await client.query(gunzipSync(readFileSync(DUMP)).toString('utf8'));
  await client.query('SET search_path = public');
  before = await totals();
  const { rows } = await client.query<{ t: string }>(
    `SELECT relname AS t FROM pg_class WHERE relnamespace = 'public'::regnamespace AND relkind = 'r' AND relname NOT IN ('sessions', 'migrations') ORDER BY 1`,
  );
  kept = await countsOf(rows.map(({ t }) => t));
  await migrate(url, APP);
}, 60_000);
afterAll(async () => {
  await client.end();
  await runOn(maintenance, `DROP DATABASE ${name} WITH (FORCE)`);
});

describe('a database of before', () => {
  it('keeps its totals', async () => {
    expect(before.goals.length).toBeGreaterThan(10);
    expect(before.rows.length).toBeGreaterThan(100);
    expect(await totals()).toEqual(before);
  });
  it('keeps every row, sessions apart', async () => {
    expect(await countsOf(Object.keys(kept))).toEqual(kept);
  });
  it('names no source of an import in its history', async () => {
    const { rows } = await client.query(`SELECT words FROM changes WHERE entity = 'imports' AND words ~ ' from '`);
    expect(rows).toEqual([]);
  });
  it('is brought up to date once', async () => {
    expect(await migrate(url, APP)).toEqual([]);
  });
});

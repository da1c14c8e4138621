// Locks that somebody holds, connections that are all taken, a ledger of any size: a call ends soon, with an answer.
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { addGoal, copyProject, editProject, readHealth } from '@meridiem/contract';
import Fastify from 'fastify';
import { Client } from 'pg';
import { createDatabase } from '../../src/database/connection.ts';
import { ServiceError } from '../../src/errors.ts';
import { errorsPlugin } from '../../src/plugins/errors.ts';
import type { TestApp } from '../test-app.ts';
import { createTestApp } from '../test-app.ts';

let test: TestApp;
beforeAll(async () => {
  test = await createTestApp({ exposures: 60 });
}, 60_000);
afterAll(() => test.close());

async function locking(sql: string): Promise<() => Promise<void>> {
  const client = new Client({ connectionString: test.ownerUrl });
  await client.connect();
  await client.query('BEGIN');
  await client.query(sql);
  return async () => {
    await client.query('ROLLBACK');
    await client.end();
  };
}
const timed = async <T>(work: Promise<T>): Promise<[T, number]> => {
  const started = performance.now();
  return [await work, performance.now() - started];
};
const projectRow = async () =>
  (await test.ownerDatabase.one<{ id: string; version: number }>(
    'SELECT id, version FROM projects ORDER BY created, id LIMIT 1',
  ))!;

describe('a row that somebody is changing', () => {
  it('is waited for at most a second, then the answer is: try again', async () => {
    const edit = async () => {
      const { id, version } = await projectRow();
      return timed(test.call('ilse', editProject, { params: { id }, body: { version, why: `at ${version}` } }));
    };
    // The same call while nobody changes the row: what this machine takes for it today.
    await edit();
    const [, freeMs] = await edit();
    const release = await locking(`SELECT 1 FROM projects WHERE id = '${(await projectRow()).id}' FOR UPDATE`);
    const [{ status, error }, ms] = await edit();
    await release();
    expect([status, error.code]).toEqual([409, 'BUSY']);
    expect(ms - freeMs).toBeLessThan(3000);
  });
  it('does not keep two people from changing different fields', async () => {
    const { id, version } = await projectRow();
    const edits = [{ why: 'one' }, { resting: true }, { filterGroup: 3 }, { stepGuide: false }];
    const answers = await Promise.all(
      edits.map((edit) => test.call('ilse', editProject, { params: { id }, body: { version, ...edit } })),
    );
    expect(answers.map(({ status }) => status)).toEqual([200, 200, 200, 200]);
  });
});

describe('one connection', () => {
  it('is enough for a transaction and everything within it', async () => {
    const single = createDatabase(test.appUrl, { connections: 1, acquireMs: 500 });
    const seen = await single.transaction(async (queries) => {
      // Through other surfaces, by oversight: still the same transaction.
      const [viaRows, viaModel, nested] = [
        await single.rows<{ n: number }>('SELECT count(*)::int AS n FROM projects'),
        await single.models.Project.count(),
        await single.transaction(async (inner) => inner.models.Project.count()),
      ];
      return [viaRows[0].n, viaModel, nested, await queries.models.Project.count()];
    });
    expect(new Set(seen).size).toBe(1);
    await single.close();
  });
  it('that never comes free is not waited for without end, and is said in words', async () => {
    const single = createDatabase(test.appUrl, { connections: 1, acquireMs: 300 });
    let release = (): void => undefined;
    const held = single.transaction(() => new Promise<void>((resolve) => (release = resolve)));
    const [error, ms] = await timed(single.rows('SELECT 1').catch((caught: Error) => caught));
    release();
    await held;
    await single.close();
    expect((error as Error).name).toBe('SequelizeConnectionAcquireTimeoutError');
    expect(ms).toBeLessThan(2000);
  });
  it('that is busy does not make the database look away', async () => {
    const sleeping = Array.from({ length: 12 }, () => test.database.rows('SELECT pg_sleep(1)'));
    const [{ status }, ms] = await timed(test.call(null, readHealth));
    await Promise.all(sleeping);
    expect(status).toBe(200);
    expect(ms).toBeLessThan(800);
  });
  it('does not run a statement for longer than it may', async () => {
    const short = createDatabase(test.appUrl, { statementMs: 200 });
    await expect(short.rows('SELECT pg_sleep(2)')).rejects.toMatchObject({ parent: { code: '57014' } });
    await short.close();
  });
});

describe('sixty copies of a six-panel project at once', () => {
  it('are all made', async () => {
    const mosaic = (await test.ownerDatabase.one<{ id: string }>(
      'SELECT project_id AS id FROM panels GROUP BY project_id HAVING count(*) >= 6 LIMIT 1',
    ))!;
    const answers = await Promise.all(
      Array.from({ length: 60 }, (_, i) =>
        test.call('ilse', copyProject, { params: { id: mosaic.id }, body: { name: `Copy ${i}`, withGoals: true } }),
      ),
    );
    expect(answers.filter(({ status }) => status !== 200).map(({ error }) => error)).toEqual([]);
    const { n } = (await test.ownerDatabase.one<{ n: number }>(
      `SELECT count(*)::int AS n FROM panels l JOIN projects p ON p.id = l.project_id WHERE p.name LIKE 'Copy %'`,
    ))!;
    expect(n).toBe(360);
  }, 60_000);
});

describe('a new goal', () => {
  it('looks at no exposure: the plan of its statement names no ledger', async () => {
    const { body } = (await test.ownerDatabase.one<{ body: string }>(
      `SELECT prosrc AS body FROM pg_proc WHERE proname = 'totals_after_goal'`,
    ))!;
    expect(body).not.toMatch(/goal_totals_true|ledger_rows|exposures\b/);
  });
  it('starts from nothing, as a recount says', async () => {
    const [panel] = await test.ownerDatabase.rows<{ id: string; rig: string }>(
      `SELECT l.id, p.rig_id AS rig FROM panels l JOIN projects p ON p.id = l.project_id WHERE p.name = 'Copy 1' LIMIT 1`,
    );
    await test.ownerDatabase.rows('DELETE FROM goals WHERE panel_id = $1', [panel.id]);
    const [recipe] = await test.ownerDatabase.rows<{ id: string }>('SELECT id FROM recipes WHERE rig_id = $1 LIMIT 1', [
      panel.rig,
    ]);
    const body = { panelId: panel.id, recipeId: recipe.id, wanted: 5, allPanels: false };
    const added = await test.call('ilse', addGoal, { body });
    const [served, recounted] = await Promise.all(
      ['goal_totals', 'goal_totals_true'].map((name) =>
        test.ownerDatabase.rows(`SELECT * FROM ${name} WHERE goal_id = ANY ($1)`, [added.body.ids]),
      ),
    );
    expect(served).toHaveLength(1);
    expect(served).toEqual(recounted);
  });
});

it.each([
  ['GET', 503, 'NOT_READY'],
  ['POST', 409, 'BUSY'],
] as const)(
  'a %s that somebody is in the way of is answered %i: no reading is answered with a conflict',
  async (method, status, code) => {
    const app = Fastify();
    await app.register(errorsPlugin);
    app.route({
      method,
      url: '/',
      handler: () => {
        throw new ServiceError('BUSY', 'Somebody is changing this');
      },
    });
    const answer = await app.inject({ method, url: '/' });
    expect([answer.statusCode, answer.json<{ code: string }>().code]).toEqual([status, code]);
  },
);

// A connection cut after the server has done its work: whoever repeats the call gets the same answer and no second row.
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { randomUUID } from 'node:crypto';
import type { TestApp } from '../test-app.ts';
import { createTestApp } from '../test-app.ts';

let test: TestApp;
let rigId: string;
let filterId: string;
let projectId: string;
beforeAll(async () => {
  test = await createTestApp({ exposures: 20 });
  [{ id: rigId }] = await test.ownerDatabase.rows<{ id: string }>('SELECT id FROM rigs ORDER BY position');
  [{ id: filterId }] = await test.ownerDatabase.rows<{ id: string }>('SELECT id FROM filters ORDER BY position');
  [{ id: projectId }] = await test.ownerDatabase.rows<{ id: string }>('SELECT id FROM projects ORDER BY created, id');
}, 60_000);
afterAll(() => test.close());

const post = async (who: string, url: string, callId: string | undefined, payload: object) =>
  test.app.inject({
    method: 'POST',
    url: `/api${url}`,
    headers: { cookie: await test.cookieOf(who), ...(callId ? { 'x-call-id': callId } : {}) },
    payload,
  });
const countOf = async (table: string): Promise<number> =>
  (await test.ownerDatabase.one<{ n: number }>(`SELECT count(*)::int AS n FROM ${table}`))!.n;

describe('a call made again with its id', () => {
  const CREATING = [
    [
      'projects',
      '/projects',
      () => ({ name: 'Again', rigId, targetName: 'Again', raText: '', decText: '', positionAngleDeg: 0 }),
    ],
    ['projects', `/projects/:project/copy`, () => ({ name: 'A copy', withGoals: true })],
    ['targets', '/shelf', () => ({ name: 'Kept', raDeg: 10, decDeg: -40, sizeArcmin: null })],
    ['themes', '/themes', () => ({ name: 'Kept for later', take: 'any' })],
    ['imports', '/imports', () => ({ source: 'a folder' })],
    [
      'one_time_links',
      '/invitations',
      () => ({ name: 'New', email: 'new@saltbush.example', role: 'member', timeZone: 'UTC', fitsObserver: null }),
    ],
  ] as const;
  it.each(CREATING)('adds one row to %s by %s', async (table, path, payload) => {
    const url = path.replace(':project', projectId);
    const callId = randomUUID();
    const before = await countOf(table);
    const first = await post('ilse', url, callId, payload());
    expect(first.statusCode).toBe(200);
    const again = await post('ilse', url, callId, payload());
    expect([again.statusCode, again.json()]).toEqual([200, first.json()]);
    expect(await countOf(table)).toBe(before + 1);
  });

  it('ten times at once adds one row', async () => {
    const callId = randomUUID();
    const before = await countOf('themes');
    const answers = await Promise.all(
      Array.from({ length: 10 }, () => post('ilse', '/themes', callId, { name: 'At once', take: 'all' })),
    );
    const done = answers.filter(({ statusCode }) => statusCode === 200).map(({ body }) => body);
    expect(done.length).toBeGreaterThan(0);
    expect(new Set(done).size).toBe(1);
    expect(await countOf('themes')).toBe(before + 1);
  });

  it('that was refused the first time is tried again', async () => {
    const callId = randomUUID();
    expect((await post('ilse', '/recipes', callId, { name: 'x' })).statusCode).toBe(400);
    expect((await post('ilse', '/themes', callId, { name: 'After all', take: 'all' })).statusCode).toBe(200);
  });

  it('leaves no secret in the database', async () => {
    const callId = randomUUID();
    const payload = {
      name: 'Other',
      email: 'other@saltbush.example',
      role: 'guest',
      timeZone: 'UTC',
      fitsObserver: null,
    };
    const { path } = (await post('ilse', '/invitations', callId, payload)).json() as { path: string };
    const token = path.split('/').at(-1)!;
    const rows = await test.ownerDatabase.rows('SELECT result::text AS result FROM done_calls');
    expect(rows.length).toBeGreaterThan(0);
    expect(JSON.stringify(rows)).not.toContain(token);
  });

  it('of another person is their own', async () => {
    const callId = randomUUID();
    const payload = { source: 'mine' };
    const [mine, theirs] = [
      await post('ruan', '/imports', callId, payload),
      await post('mirela', '/imports', callId, payload),
    ];
    expect(mine.json().id).not.toBe(theirs.json().id);
  });

  it('given to another call is refused', async () => {
    const callId = randomUUID();
    await post('ilse', '/themes', callId, { name: 'First', take: 'all' });
    const other = await post('ilse', '/imports', callId, { source: 'x' });
    expect([other.statusCode, other.json().field]).toEqual([400, 'x-call-id']);
  });

  it('whose id is none is refused', async () =>
    expect((await post('ilse', '/themes', 'again', { name: 'x', take: 'all' })).statusCode).toBe(400));

  it('without an id is done each time', async () => {
    const before = await countOf('imports');
    await post('ruan', '/imports', undefined, { source: 'a' });
    await post('ruan', '/imports', undefined, { source: 'a' });
    expect(await countOf('imports')).toBe(before + 2);
    expect(filterId).toBeDefined();
  });
});

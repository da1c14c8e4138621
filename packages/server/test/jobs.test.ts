// Stored jobs: asked for once, taken over when a worker dies, stopped, kept by what was asked.
import { afterAll, beforeAll, beforeEach, describe, expect, it } from '@jest/globals';
import { setTimeout as sleep } from 'node:timers/promises';
import { askProjectOutlook, readProjectOutlook, stopJob } from '@meridiem/contract';
import { createDatabase } from '../src/database/connection.ts';
import type { TestApp } from './test-app.ts';
import { createTestApp, testWorker } from './test-app.ts';

const DONE = { nights: [], doneNightDate: null, leftExposures: 0 };
let test: TestApp;
let id: string;
beforeAll(async () => {
  test = await createTestApp({ exposures: 20 });
  [{ id }] = await test.ownerDatabase.rows<{ id: string }>(
    `SELECT id FROM projects WHERE state = 'granted' AND NOT private ORDER BY created, id`,
  );
}, 60_000);
beforeEach(() =>
  test.ownerDatabase.rows('DELETE FROM job_results').then(() => test.ownerDatabase.rows('DELETE FROM jobs')),
);
afterAll(() => test.close());

/** Work that ends only when it is stopped. */
const endless = (_: unknown, signal: AbortSignal): Promise<object> =>
  new Promise((_done, fail) => signal.addEventListener('abort', () => fail(new Error('stopped'))));

const ask = async (who = 'ruan') => (await test.call(who, askProjectOutlook, { params: { id } })).body;
const read = async () => (await test.call('ruan', readProjectOutlook, { params: { id } })).body;
async function until(holds: () => Promise<boolean>, mostMs = 20_000): Promise<void> {
  for (const end = Date.now() + mostMs; !(await holds()); await sleep(50))
    if (Date.now() > end) throw new Error('What was waited for has not come');
}

describe('a long computation', () => {
  it('is nothing until it is asked for, and one however often it is asked for', async () => {
    expect(await read()).toEqual({ outlook: null, job: null });
    const asked = await Promise.all([ask(), ask(), ask('mirela'), ask('ilse')]);
    expect(new Set(asked.map(({ job }) => job!.id)).size).toBe(1);
    expect((await test.ownerDatabase.rows('SELECT 1 FROM jobs')).length).toBe(1);
  });

  it('begins within 100 ms of being asked for', async () => {
    let begunMs = 0;
    const worker = await testWorker(test.database, test.appUrl, async () => ((begunMs = performance.now()), DONE));
    await sleep(500);
    const askedMs = performance.now();
    await ask();
    await until(async () => (await read()).outlook !== null);
    await worker.close();
    // From the answer to the work: the asking itself reads the whole request.
    expect(begunMs - askedMs).toBeLessThan(1000);
    const [{ ms }] = await test.ownerDatabase.rows<{ ms: number }>(
      `SELECT extract(epoch FROM (started_on - created_on)) * 1000 AS ms FROM pgboss.job ORDER BY created_on DESC LIMIT 1`,
    );
    expect(Number(ms)).toBeLessThan(100);
  });

  it('tells how far it is', async () => {
    let go = (): void => undefined;
    const worker = await testWorker(test.database, test.appUrl, async (task) => {
      (task as unknown as { progress: MessagePort }).progress.postMessage(0.4);
      await new Promise<void>((resolve) => (go = resolve));
      return DONE;
    });
    await ask();
    await until(async () => (await read()).job?.progress === 0.4);
    expect((await read()).job).toMatchObject({ kind: 'outlook', state: 'running' });
    go();
    await until(async () => (await read()).outlook !== null);
    await worker.close();
  });

  it('can be stopped by whoever asked, not by another member, and asked for again', async () => {
    const worker = await testWorker(test.database, test.appUrl, endless);
    const { job } = await ask();
    await until(async () => (await read()).job?.state === 'running');
    expect((await test.call('mirela', stopJob, { params: { id: job!.id } })).status).toBe(403);
    expect((await test.call('ruan', stopJob, { params: { id: job!.id } })).status).toBe(200);
    expect((await read()).job?.state).toBe('stopped');
    await worker.close();
    expect((await ask()).job?.id).not.toBe(job!.id);
  });

  it('whose worker dies is finished by another', async () => {
    // A worker that is killed says nothing more: its connections end, its heartbeat stops.
    const dead = createDatabase(test.appUrl, { connections: 3 });
    const deadWorker = await testWorker(dead, test.appUrl, endless);
    const { job } = await ask();
    await until(async () => (await read()).job?.state === 'running');
    await dead.close();
    const alive = await testWorker(test.database, test.appUrl, async () => DONE);
    await until(async () => (await read()).outlook !== null, 30_000);
    await alive.close();
    await deadWorker.close();
    const [row] = await test.ownerDatabase.rows('SELECT state, attempt FROM jobs WHERE id = $1', [job!.id]);
    expect(row).toEqual({ state: 'done', attempt: 2 });
  }, 60_000);

  it('that fails three times says so', async () => {
    let tries = 0;
    const worker = await testWorker(test.database, test.appUrl, async () => {
      tries += 1;
      throw new Error('broken');
    });
    await ask();
    await until(async () => (await read()).job?.state === 'failed', 30_000);
    await worker.close();
    expect(tries).toBe(3);
    expect((await read()).job?.failure).toMatch(/logged/);
  }, 60_000);
});

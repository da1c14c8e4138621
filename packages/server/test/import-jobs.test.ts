// Large imports: written by a worker in one go, with how far it is; stopped or cut off, nothing of them is there.
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { randomUUID } from 'node:crypto';
import { setTimeout as sleep } from 'node:timers/promises';
import type { ImportedFile } from '@meridiem/contract';
import {
  addImportFiles,
  applyImport,
  beginImport,
  editMembership,
  readImport,
  readImportWriting,
  stopJob,
  undoLast,
} from '@meridiem/contract';
import { frameFromRow } from '@meridiem/core';
import { createDatabase } from '../src/database/connection.ts';
import { importWork, applyParts } from '../src/modules/imports/index.ts';
import type { JobHand } from '../src/jobs/job-work.ts';
import type { TestApp } from './test-app.ts';
import { createTestApp, testWorker } from './test-app.ts';

const COUNT = 1_200;
let test: TestApp;
let camera: string;
beforeAll(async () => {
  test = await createTestApp({ exposures: 20 });
  [{ camera }] = await test.ownerDatabase.rows<{ camera: string }>(
    'SELECT serial AS camera FROM cameras ORDER BY serial LIMIT 1',
  );
}, 60_000);
afterAll(() => test.close());

/** Frames of one long winter, five minutes apart. */
const frames = (startUtc: string): ImportedFile[] =>
  Array.from({ length: COUNT }, (_, i) => ({
    name: `${i}.fits`,
    sizeBytes: 0,
    facts: {
      ...frameFromRow(
        {
          start_utc: new Date(Date.parse(startUtc) + i * 300_000).toISOString(),
          exposure_s: '240',
          filter: 'L',
          camera,
          object: 'Somewhere',
        },
        i + 1,
      ),
      doubts: [],
    },
    refused: null,
    dataSha256: null,
    pixelsSha256: null,
    headerKey: null,
    verdict: null,
  }));

async function begun(who: string, startUtc: string): Promise<string> {
  const { body } = await test.call(who, beginImport, { body: { source: 'a winter' } });
  const files = frames(startUtc);
  for (let i = 0; i < files.length; i += 400)
    await test.call(who, addImportFiles, { params: { id: body.id }, body: { files: files.slice(i, i + 400) } });
  return body.id;
}
const writing = async (id: string) => (await test.call('ruan', readImportWriting, { params: { id } })).body;
const apply = async (id: string) => (await test.call('ruan', applyImport, { params: { id } })).body;
const exposuresFrom = async (year: string): Promise<number> =>
  (await test.ownerDatabase.one<{ count: number }>(
    'SELECT count(*)::int FROM exposures WHERE extract(year FROM start_utc) = $1',
    [year],
  ))!.count;
async function until(holds: () => Promise<boolean>, mostMs = 60_000): Promise<void> {
  for (const end = Date.now() + mostMs; !(await holds()); await sleep(50))
    if (Date.now() > end) throw new Error('What was waited for has not come');
}

describe('a large import', () => {
  it('is written by a worker, tells how far it is, and is taken back by one undo', async () => {
    const id = await begun('ruan', '2011-05-01T10:00:00Z');
    expect(await apply(id)).toMatchObject({ written: null, job: { kind: 'import', state: 'waiting' } });
    expect(await exposuresFrom('2011')).toBe(0);
    const worker = await testWorker(test.database, test.appUrl);
    await until(async () => (await writing(id)).written !== null);
    await worker.close();
    expect((await writing(id)).written).toEqual({ added: COUNT, known: 0, left: 0 });
    expect(await exposuresFrom('2011')).toBe(COUNT);
    expect((await test.call('ruan', readImport, { params: { id } })).body.state).toBe('applied');
    expect((await test.call('ruan', undoLast)).status).toBe(200);
    expect((await test.call('ruan', readImport, { params: { id } })).body.state).toBe('undone');
  }, 120_000);

  it('that is stopped has written nothing, and can be asked for again', async () => {
    const id = await begun('ruan', '2012-05-01T10:00:00Z');
    const { job } = await apply(id);
    await test.call('ruan', stopJob, { params: { id: job!.id } });
    const worker = await testWorker(test.database, test.appUrl);
    expect((await writing(id)).job?.state).toBe('stopped');
    await apply(id);
    await until(async () => (await writing(id)).written !== null);
    await worker.close();
    expect(await exposuresFrom('2012')).toBe(COUNT);
  }, 120_000);

  it.each(['stopped amid it', 'taken over by another worker'])(
    '%s leaves nothing of it',
    async (how) => {
      const id = await begun('ruan', '2013-05-01T10:00:00Z');
      const stop = new AbortController();
      const shares: number[] = [];
      const hand: JobHand = {
        signal: stop.signal,
        tell: (share) => {
          shares.push(share);
          if (how === 'stopped amid it' && share > 0) stop.abort();
        },
        finish: async () => {
          throw new Error('The job is not this worker’s any more');
        },
      };
      const viewer = await test.ownerDatabase.one<{ personId: string; observatoryId: string }>(
        `SELECT p.id AS "personId", m.observatory_id AS "observatoryId" FROM people p JOIN memberships m ON m.person_id = p.id WHERE p.email LIKE 'ruan%'`,
      );
      const request = { importId: id, personId: viewer!.personId };
      const job = {
        id: randomUUID(),
        kind: 'import',
        requestHash: id,
        request,
        attempt: 1,
        observatoryId: viewer!.observatoryId,
      };
      await expect(importWork(test.database, applyParts(test.database))(job, hand)).rejects.toThrow();
      expect(shares[0]).toBe(0);
      expect(shares.at(-1)).toBeGreaterThan(0);
      expect(await exposuresFrom('2013')).toBe(0);
      expect((await test.call('ruan', readImport, { params: { id } })).body.state).toBe('preview');
    },
    60_000,
  );

  it('whose worker dies is written by another, once', async () => {
    const id = await begun('ruan', '2014-05-01T10:00:00Z');
    const dead = createDatabase(test.appUrl, { connections: 3 });
    const deadWorker = await testWorker(dead, test.appUrl);
    await apply(id);
    await until(async () => (await writing(id)).job?.state === 'running');
    await dead.close();
    const alive = await testWorker(test.database, test.appUrl);
    await until(async () => (await writing(id)).written !== null);
    await alive.close();
    await deadWorker.close();
    expect(await exposuresFrom('2014')).toBe(COUNT);
  }, 120_000);

  it('asked for by somebody who may not import any more says so', async () => {
    const id = await begun('jonah', '2015-05-01T10:00:00Z');
    const { body } = await test.call('jonah', applyImport, { params: { id } });
    const person = await test.ownerDatabase.one<{ id: string }>(`SELECT person_id AS id FROM jobs WHERE id = $1`, [
      body.job!.id,
    ]);
    await test.call('ilse', editMembership, { params: { id: person!.id }, body: { role: 'guest' } });
    const worker = await testWorker(test.database, test.appUrl);
    const ofIlse = async () => (await test.call('ilse', readImportWriting, { params: { id } })).body;
    await until(async () => (await ofIlse()).job?.state === 'failed');
    await worker.close();
    expect((await ofIlse()).job?.failure).toMatch(/may not import any more/);
    expect(await exposuresFrom('2015')).toBe(0);
  }, 60_000);
});

// Frames that come from the site piece by piece, cut off and gone on with, wrong and right.
import { createHash, randomBytes } from 'node:crypto';
import { mkdtemp, readFile, rm, stat } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import type { ClaimedRun } from '@meridiem/contract';
import {
  claimRun,
  copyFrame,
  endRun,
  finishStep,
  listExposures,
  playNight,
  publishPlan,
  readNight,
} from '@meridiem/contract';
import { seededRandom } from '@meridiem/core';
import type { TestApp } from './test-app.ts';
import { createTestApp } from './test-app.ts';

const nightDate = '2026-10-11';
const bytes = randomBytes(200_000);
const NAME = 'Wren/2026-10-11/one.fits';

let test: TestApp;
let folder: string;
let run: ClaimedRun;
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'copies-'));
  test = await createTestApp({ exposures: 200, settings: { framesFolder: folder } });
  const { body } = await test.call('ilse', readNight, { params: { nightDate } });
  const { rigId } = body.rigs.find((rig) => rig.blocks.length > 0)!;
  await test.call('ilse', publishPlan, { params: { nightDate }, body: { rigId } });
  await test.call('ilse', playNight, { params: { nightDate }, body: { rigId, speed: 60 } });
  run = (await test.call('runner', claimRun, { body: { holder: 'tests' } })).body.run!;
}, 60_000);
afterAll(async () => {
  await test.close();
  await rm(folder, { recursive: true });
});

const finish = (index: number, name: string) => {
  const { id: stepId, plannedStartUtcMs, exposureSec, gain } = run.steps[index];
  const sha256 = createHash('sha256').update(bytes).digest('hex');
  const exposure = {
    startUtcMs: plannedStartUtcMs, exposureSec, gain, sensorC: -10, halfFluxRadiusPx: 1.9, starCount: 300,
    guidingRmsArcsec: null, backgroundE: 120, temperatureC: 9, afterMove: false, rateMeasured: null,
    frame: { name, sizeBytes: bytes.length, sha256 },
  }; // prettier-ignore
  const body = { fence: run.fence, stepId, outcome: 'done' as const, words: 'Taken', exposure };
  return test.call('runner', finishStep, { params: { id: run.id }, body });
};
const ask = (index: number) => test.call('runner', copyFrame, { params: { id: run.steps[index].id }, body: {} });
const send = (index: number, fromByte: number, piece: Buffer) =>
  test.call('runner', copyFrame, {
    params: { id: run.steps[index].id },
    body: { piece: { fromByte, base64: piece.toString('base64') } },
  });
const framesSeen = async (): Promise<number> =>
  (await test.call('ilse', listExposures, { query: { limit: 300 } })).body.rows.filter(({ hasFrame }) => hasFrame).length; // prettier-ignore

describe('a frame from the site', () => {
  it('is told of first, and shown as kept once it is here whole', async () => {
    expect((await ask(0)).status).toBe(404);
    expect((await finish(0, NAME)).status).toBe(200);
    expect(await framesSeen()).toBe(0);
    expect((await ask(0)).body).toEqual({ bytes: 0, isWanted: true });
    const random = seededRandom(3);
    for (let at = 0; at < bytes.length;) {
      const length = 1 + Math.floor(40_000 * random());
      // A piece that was sent twice, or does not follow, changes nothing: the answer says where to go on.
      if (at > 0) expect((await send(0, 0, bytes.subarray(0, 10))).body).toEqual({ bytes: at, isWanted: true });
      const { body } = await send(0, at, bytes.subarray(at, at + length));
      at = Math.min(bytes.length, at + length);
      expect(body).toEqual({ bytes: at, isWanted: at < bytes.length });
    }
    expect((await readFile(join(folder, NAME))).equals(bytes)).toBe(true);
    expect(await framesSeen()).toBe(1);
    expect((await ask(0)).body).toEqual({ bytes: bytes.length, isWanted: false });
    await expect(stat(join(folder, `${NAME}.copy`))).rejects.toThrow('ENOENT');
  });

  it('that came wrong is begun again, and one that grows beyond its word is refused', async () => {
    await finish(1, 'Wren/2026-10-11/two.fits');
    const wrong = Buffer.from(bytes);
    wrong[5] ^= 1;
    expect((await send(1, 0, wrong)).body).toEqual({ bytes: 0, isWanted: true });
    expect((await send(1, 0, bytes.subarray(0, 1000))).body.bytes).toBe(1000);
    expect((await send(1, 1000, bytes)).error).toMatchObject({ code: 'NOT_POSSIBLE' });
    expect((await send(1, 1000, bytes.subarray(1000))).body).toEqual({ bytes: bytes.length, isWanted: false });
  });

  it('asked for by two at once is written once', async () => {
    await finish(2, 'Wren/2026-10-11/three.fits');
    const answers = await Promise.all([1, 2, 3].map(() => send(2, 0, bytes)));
    expect(answers.map(({ body }) => body)).toEqual(Array(3).fill({ bytes: bytes.length, isWanted: false }));
    expect((await readFile(join(folder, 'Wren/2026-10-11/three.fits'))).equals(bytes)).toBe(true);
  });

  it('is copied by runners alone, in pieces that are base64', async () => {
    expect((await test.call('ilse', copyFrame, { params: { id: run.steps[0].id }, body: {} })).status).toBe(403);
    const body = { piece: { fromByte: 0, base64: '../../etc' } };
    expect((await test.call('runner', copyFrame, { params: { id: run.steps[0].id }, body })).status).toBe(400);
  });

  it('that comes last after the end of the night has its owner told, once, that all are there', async () => {
    const notices = (): Promise<{ words: string; link: string; projectId: string }[]> =>
      test.ownerDatabase.rows(
        `SELECT n.words, n.link, p.id AS "projectId" FROM notices n JOIN projects p ON p.owner_id = n.person_id WHERE n.link = '/projects/' || p.id || '/files' ORDER BY n.id`,
      );
    await finish(3, 'Wren/2026-10-11/four.fits');
    expect(await notices()).toEqual([]);
    await test.call('runner', endRun, { params: { id: run.id }, body: { fence: run.fence, end: 'finished' } });
    const own = await test.ownerDatabase.rows<{ projectId: string; files: number; missing: number }>(
      `SELECT a.project_id AS "projectId", count(*)::int AS files, (count(*) FILTER (WHERE f.copied IS NULL))::int AS missing FROM frames f JOIN attributions a ON a.exposure_id = f.exposure_id GROUP BY a.project_id`,
    );
    // Projects of which nothing is missing know at the end of the night; the one that waits for the last file does not.
    const waits = own.find(({ missing }) => missing > 0)!;
    expect((await notices()).some(({ projectId }) => projectId === waits.projectId)).toBe(false);
    await Promise.all([1, 2].map(() => send(3, 0, bytes)));
    await send(3, 0, bytes);
    const told = await notices();
    expect(told.map(({ projectId }) => projectId).sort()).toEqual(own.map(({ projectId }) => projectId).sort());
    const last = told.find(({ projectId }) => projectId === waits.projectId)!;
    expect(last.words).toMatch(
      waits.files === 1
        ? /: the file of the night of 2026-10-11 \(0\.2 MB\)/
        : new RegExp(`: all ${waits.files} files of the night of 2026-10-11`),
    );
    expect(last.link).toBe(`/projects/${waits.projectId}/files`);
  });
});

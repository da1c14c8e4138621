// Calibration frames that a rig takes by itself after its night, as the server sees them.
import { createHash, randomUUID } from 'node:crypto';
import { mkdtemp, readFile, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import type { SetToTake } from '@meridiem/contract';
import {
  copyFrame,
  endRun,
  listNotices,
  readCalibration,
  readCalibrationToTake,
  reportCalibration,
  setNightRule,
} from '@meridiem/contract';
import { claimedNight } from './device-night.ts';
import type { TestApp } from './test-app.ts';
import { createTestApp } from './test-app.ts';

const nightDate = '2026-10-11';
const FILE = Buffer.from('a dark as a file');
let test: TestApp;
let folder: string;
let night: Awaited<ReturnType<typeof claimedNight>>;

beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'darks-'));
  test = await createTestApp({ exposures: 20, settings: { simulatorUrl: 'http://127.0.0.1:9', framesFolder: folder } });
  night = await claimedNight(test, nightDate);
}, 60_000);
afterAll(async () => {
  await test.close();
  await rm(folder, { recursive: true });
});

const missing = async (fence = night.run.fence) =>
  test.call('runner', readCalibrationToTake, { params: night.params, body: { fence } });

/** One frame of a set. */
const taken = ({ kind, filterId, exposureSec, gain, offset, binning, region, sensorC }: SetToTake, i: number) => ({
  ...{ id: randomUUID(), kind, filterId, exposureSec, gain, offset, binning, region, sensorC: sensorC ?? 12 },
  startUtcMs: night.run.deviceRun!.endUtcMs + 1000 * i * (exposureSec + 5),
  frame: {
    name: `Wren/${nightDate}/calibration/${kind}_${exposureSec}_${i}.fits`.replace(/(\d)\.(\d)/, '$1-$2'),
    sizeBytes: FILE.length,
    sha256: createHash('sha256').update(FILE).digest('hex'),
  },
});
const report = (body: ReturnType<typeof taken> & { mechanicalAngleDeg?: number }) =>
  test.call('runner', reportCalibration, { params: night.params, body });
const needs = async () =>
  (await test.call('sam', readCalibration, { query: { from: nightDate, to: nightDate } })).body.rigs.find(({ rigId }) => rigId === night.rigId)!.needs; // prettier-ignore

describe('calibration by the rig itself', () => {
  it('are what the lights of earlier nights still lack, while the night has none of its own', async () => {
    await test.ownerDatabase.rows(
      `INSERT INTO exposures (observatory_id, rig_revision_id, night_date, kind, start_utc, exposure_s, filter_id, gain, "offset", binning, sensor_c, header_key)
       SELECT v.observatory_id, v.id, date '${nightDate}' - days, 'light', timestamptz '${nightDate} 14:00Z' - days * interval '1 day', 300, f.id, 100, 30, 1, -10, 'earlier ' || days
       FROM rig_revisions v JOIN filters f ON f.observatory_id = v.observatory_id AND f.letter = 'SII', (VALUES (5), (40)) AS d(days) WHERE v.rig_id = '${night.rigId}' AND upper_inf(v.during)`,
    );
    const { sets } = (await missing()).body;
    expect(sets.map(({ kind, filterLetter, count }) => [kind, filterLetter, count])).toEqual([['flat', 'SII', 10], ['bias', null, 20], ['dark', null, 10]]); // prettier-ignore
  });

  it('are what the night’s own lights lack, asked by whoever holds the night', async () => {
    for (const step of night.run.steps.slice(0, 3)) await night.take(step);
    const { sets } = (await missing()).body;
    expect(sets.map(({ kind, count }) => [kind, count])).toContainEqual(['bias', 20]);
    const lengths = new Set(night.run.steps.slice(0, 3).map(({ exposureSec }) => exposureSec));
    expect(new Set(sets.flatMap(({ kind, exposureSec }) => (kind === 'dark' ? [exposureSec] : [])))).toEqual(lengths);
    expect((await missing(night.run.fence + 1)).error!.code).toBe('LEASE_LOST');
  });

  it('are recorded once, fill their set, and are missing no more', async () => {
    const { sets } = (await missing()).body;
    let i = 0;
    expect(sets.map(({ kind, filterLetter }) => (kind === 'flat' ? filterLetter : null)).filter(Boolean)).toEqual([...new Set(night.run.steps.slice(0, 3).map(({ filterLetter }) => filterLetter))].sort()); // prettier-ignore
    // Flats are left to a person here.
    for (const set of sets.filter(({ kind }) => kind !== 'flat'))
      for (let n = 0; n < set.count; n++) {
        const dark = taken(set, ++i);
        expect((await report(dark)).status).toBe(200);
        if (n === 0) await report(dark);
      }
    expect((await missing()).body.sets.filter(({ kind }) => kind !== 'flat')).toEqual([]);
    const after = await needs();
    expect(after.filter(({ kind }) => kind !== 'flat').map(({ state }) => state)).toEqual(after.filter(({ kind }) => kind !== 'flat').map(() => 'matched')); // prettier-ignore
    expect(after.some(({ kind, state }) => kind === 'flat' && state === 'owed')).toBe(true);
    const [{ count }] = await test.database.rows<{ count: number }>(`SELECT count(*)::int AS count FROM exposures WHERE kind IN ('dark', 'bias') AND simulated`); // prettier-ignore
    expect(count).toBe(i);
    const [{ credited }] = await test.database.rows<{ credited: number }>(`SELECT count(*)::int AS credited FROM attributions a JOIN exposures e ON e.id = a.exposure_id WHERE e.kind <> 'light'`); // prettier-ignore
    expect(credited).toBe(0);
  });

  it('flats ask for darks of their own length, and are owed no more', async () => {
    const [set] = (await missing()).body.sets;
    expect(set).toMatchObject({ kind: 'flat', exposureSec: 1, count: 10 });
    for (let n = 0; n < set.count; n++) expect((await report(taken({ ...set, exposureSec: 2.4 }, 900 + n))).status).toBe(200); // prettier-ignore
    const { sets } = (await missing()).body;
    expect(sets.some(({ kind, filterId }) => kind === 'flat' && filterId === set.filterId)).toBe(false);
    expect(sets).toContainEqual(expect.objectContaining({ kind: 'dark', exposureSec: 2.4, count: 10 }));
  });

  it('flats are owed at each angle that a motor turned the camera to, half a turn apart too, until they are there', async () => {
    const [first, second] = night.run.steps.slice(3, 5);
    await night.take(first, { mechanicalAngleDeg: 30.04 });
    await night.take(second, { mechanicalAngleDeg: 210 });
    const wanted = [[first.filterLetter, 30], [second.filterLetter, 210]]; // prettier-ignore
    const turned = async () => (await missing()).body.sets.flatMap((set) => (set.kind === 'flat' && [30, 210].includes(set.mechanicalAngleDeg!) ? [set] : [])); // prettier-ignore
    const sets = await turned();
    expect(sets.map(({ filterLetter, mechanicalAngleDeg }) => [filterLetter, mechanicalAngleDeg]).sort()).toEqual(wanted.sort()); // prettier-ignore
    const half = sets.find(({ mechanicalAngleDeg }) => mechanicalAngleDeg === 210)!;
    // A degree off is within what flats tolerate.
    for (let n = 0; n < half.count; n++) expect((await report({ ...taken({ ...half, exposureSec: 2.4 }, 2000 + n), mechanicalAngleDeg: 211 })).status).toBe(200); // prettier-ignore
    expect((await turned()).map(({ mechanicalAngleDeg }) => mechanicalAngleDeg)).toEqual([30]);
    expect((await report({ ...taken({ ...half, exposureSec: 2.4 }, 3000), mechanicalAngleDeg: 400 })).status).toBe(400);
  });

  it('are wanted, and recorded, of the part of the sensor that the lights were read from', async () => {
    const [step] = night.run.steps.slice(5);
    const PART = { widthPx: 200, heightPx: 120 };
    await test.ownerDatabase.rows(
      `UPDATE recipe_revisions SET region_width_px = 200, region_height_px = 120 WHERE id = (SELECT g.recipe_revision_id FROM run_steps s JOIN goals g ON g.id = s.goal_id WHERE s.id = '${step.id}')`,
    );
    await night.take(step);
    const ofPart = async () => (await missing()).body.sets.filter(({ region }) => region !== null);
    const bias = (await ofPart()).find(({ kind }) => kind === 'bias')!;
    expect(bias).toMatchObject({ region: PART, count: 20 });
    for (let i = 0; i < 20; i++) expect((await report(taken(bias, 4000 + i))).status).toBe(200);
    expect((await ofPart()).map(({ kind }) => kind)).toEqual(['flat', 'dark']);
    expect((await needs()).find(({ kind, region }) => kind === 'bias' && region)).toMatchObject({ region: PART, state: 'matched' }); // prettier-ignore
  });

  it('say whether the guide camera’s darks are due: never taken, and not again for as long as the rig keeps them', async () => {
    const keep = (value: number | null) =>
      test.call('ilse', setNightRule, { params: { id: night.rigId }, body: { name: 'guideDarksKeepDays', value } });
    const due = async () => (await missing()).body.areGuideDarksDue;
    const shown = async () =>
      (await test.call('sam', readCalibration, { query: { from: nightDate, to: nightDate } })).body.rigs.find(({ rigId }) => rigId === night.rigId)!.guideDarks; // prettier-ignore
    expect([await due(), await shown()]).toEqual([false, null]);
    expect((await keep(30)).status).toBe(200);
    expect([await due(), await shown()]).toEqual([true, { takenUtcMs: null, isDue: true }]);
    const startUtcMs = Date.now() - 86_400_000;
    await night.report([{ kind: 'guide darks', startUtcMs, endUtcMs: startUtcMs + 40_000 }]);
    expect([await due(), await shown()]).toEqual([false, { takenUtcMs: startUtcMs + 40_000, isDue: false }]);
    await keep(null);
  });

  it('are copied to the server like any frame', async () => {
    const [{ id, name }] = await test.database.rows<{ id: string; name: string }>(`SELECT e.id, f.name FROM exposures e JOIN frames f ON f.exposure_id = e.id WHERE e.kind = 'bias' LIMIT 1`); // prettier-ignore
    const piece = { fromByte: 0, base64: FILE.toString('base64') };
    expect((await test.call('runner', copyFrame, { params: { id }, body: { piece } })).body.isWanted).toBe(false);
    expect(await readFile(join(folder, name), 'utf8')).toBe(FILE.toString());
  });

  it('with a wrong name, length or run are refused', async () => {
    const set: SetToTake = { kind: 'dark', filterId: null, filterLetter: null, exposureSec: 60, gain: 100, offset: 30, binning: 1, region: null, sensorC: -10, mechanicalAngleDeg: null, count: 1 }; // prettier-ignore
    const dark = taken(set, 1);
    expect((await report({ ...dark, frame: { ...dark.frame, name: '../../etc/passwd.fits' } })).status).toBe(400);
    expect((await report({ ...dark, exposureSec: -1 })).status).toBe(400);
    expect((await test.call('runner', reportCalibration, { params: { id: randomUUID() }, body: dark })).status).toBe(
      404,
    );
  });

  it('are no longer owed in the morning’s report', async () => {
    await test.call('runner', endRun, { params: night.params, body: { fence: night.run.fence, end: 'finished' } });
    const { notices } = (await test.call('ilse', listNotices)).body;
    const words = notices.find((notice) => notice.words.includes('Calibration owed'))!.words;
    expect(words).not.toContain('bias');
  });
});

// What calibration lights need, from the ledger as imports fill it.
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import type { CalibrationNeed } from '@meridiem/contract';
import { beginImport, readCalibration, setNightRule } from '@meridiem/contract';
import type { TestApp } from './test-app.ts';
import { createTestApp } from './test-app.ts';

let test: TestApp;
let rig: { id: string; revision: string; filter: string; letter: string; observatory: string };
const period = { from: '2026-06-01', to: '2026-06-30' };
beforeAll(async () => {
  test = await createTestApp({ exposures: 0 });
  rig = (await test.ownerDatabase.one<typeof rig>(
    `SELECT g.id, v.id AS revision, f.id AS filter, f.letter, g.observatory_id AS observatory FROM rigs g JOIN rig_revisions v ON v.rig_id = g.id AND upper_inf(v.during)
     JOIN filters f ON f.observatory_id = g.observatory_id AND f.letter = 'L' JOIN rig_angles a ON a.rig_id = g.id LIMIT 1`,
  ))!;
  await test.ownerDatabase.rows(`DELETE FROM rig_angles WHERE rig_id = '${rig.id}'`);
  await test.ownerDatabase.rows(
    `INSERT INTO rig_angles (observatory_id, rig_id, during, sky_angle_deg) VALUES
       ('${rig.observatory}', '${rig.id}', '[2020-01-01, 2026-06-15T12:00Z)', 30), ('${rig.observatory}', '${rig.id}', '[2026-06-15T12:00Z,)', 210)`,
  );
}, 60_000);
afterAll(() => test.close());

let taken = 0;
const takes = (kind: string, count: number, night: string, { exposureSec = 300, filter = true } = {}) =>
  test.ownerDatabase.rows(
    `INSERT INTO exposures (observatory_id, rig_revision_id, night_date, kind, start_utc, exposure_s, filter_id, gain, "offset", binning, sensor_c, header_key)
     SELECT '${rig.observatory}', '${rig.revision}', '${night}', '${kind}', timestamptz '${night} 22:00Z' + i * interval '1 second', ${exposureSec},
       ${filter ? `'${rig.filter}'` : 'NULL'}, 100, 30, 1, -10.2, 'made ' || (i + ${(taken += 1000)}) FROM generate_series(1, ${count}) i`,
  );
const needs = async (who = 'sam', nights = period): Promise<CalibrationNeed[]> =>
  (await test.call(who, readCalibration, { query: nights })).body.rigs.find(({ rigId }) => rigId === rig.id)!.needs;
const said = async () => (await needs()).map(({ kind, lights, state }) => `${kind} ${state} for ${lights}`);

describe('calibration', () => {
  it('is owed by nobody where there are no lights', async () => {
    expect(await needs()).toEqual([]);
  });

  it('is owed for lights, each kind as it is taken', async () => {
    await takes('light', 12, '2026-06-10');
    expect(await said()).toEqual(['flat owed for 12', 'dark owed for 12', 'bias owed for 12']);
    await takes('flat', 15, '2026-06-11', { exposureSec: 2 });
    await takes('dark', 4, '2026-06-11', { filter: false });
    expect(await said()).toEqual([
      'flat matched for 12',
      'flat-dark owed for 1',
      'dark few for 12',
      'bias owed for 12',
    ]);
    await takes('dark', 20, '2026-06-12', { filter: false });
    await takes('dark', 20, '2026-06-12', { filter: false, exposureSec: 2 });
    await takes('bias', 25, '2026-01-05', { filter: false, exposureSec: 0 });
    expect(new Set((await needs()).map(({ state }) => state))).toEqual(new Set(['matched']));
    expect((await needs())[0]).toMatchObject({ filterLetter: 'L', gain: 100, offset: 30, binning: 1, mechanicalAngleDeg: 30, exposureSec: null, set: { count: 15 }, words: '' }); // prettier-ignore
  });

  it('is owed again once a visit has cleaned the optics between lights and flats; not where it left that work', async () => {
    const [{ id }] = await test.ownerDatabase.rows<{ id: string }>(
      `INSERT INTO visits (observatory_id, night_date, person_id) SELECT '${rig.observatory}', '2026-06-11', id FROM people WHERE email LIKE 'ilse@%' RETURNING id`,
    );
    await test.ownerDatabase.rows(
      `INSERT INTO visit_jobs (observatory_id, visit_id, rig_id, work, state, settled, settled_by) SELECT observatory_id, id, '${rig.id}', 'cleaning', 'done', now(), person_id FROM visits WHERE id = '${id}'`,
    );
    const flat = async () => (await needs()).find(({ kind }) => kind === 'flat')!;
    expect(await flat()).toMatchObject({ state: 'changed', words: 'cleaned on 11 Jun 2026' });
    expect((await needs()).find(({ kind }) => kind === 'dark')!.state).toBe('matched');
    await test.ownerDatabase.rows(`UPDATE visit_jobs SET state = 'left' WHERE visit_id = '${id}'`);
    expect((await flat()).state).toBe('matched');
  });

  it('is owed again once a visit has turned the camera by half a turn', async () => {
    await takes('light', 3, '2026-06-20');
    expect((await needs()).filter(({ kind }) => kind === 'flat')).toMatchObject([
      { mechanicalAngleDeg: 30, lights: 12, state: 'matched' },
      { mechanicalAngleDeg: 210, lights: 3, state: 'owed' },
    ]);
  });

  it('is enough where the rig’s own numbers say so', async () => {
    const set = (value: number | null) =>
      test.call('ilse', setNightRule, { params: { id: rig.id }, body: { name: 'flatsFewest', value } });
    const flats = async () => (await needs()).flatMap(({ kind, state, words }) => (kind === 'flat' ? [`${state} ${words}`] : [])); // prettier-ignore
    expect((await set(16)).status).toBe(200);
    expect((await flats())[0]).toBe('few 15 of at least 16');
    const { rigs } = (await test.call('sam', readCalibration, { query: period })).body;
    expect(rigs.find(({ rigId }) => rigId === rig.id)!.rules.fewest).toEqual({ flat: 16, dark: 10, bias: 20 });
    expect(rigs.find(({ rigId }) => rigId !== rig.id)!.rules.fewest.flat).toBe(10);
    expect((await set(0)).error!.message).toContain('from 1 to 200');
    await set(null);
    expect((await flats())[0]).toBe('matched ');
  });

  it('takes no dated sky angle for the angle of a rotator', async () => {
    const turnedBy = (kind: string) => test.ownerDatabase.rows(`UPDATE rig_revisions SET rotator_kind = '${kind}' WHERE id = '${rig.revision}'`); // prettier-ignore
    const angles = async () => (await needs()).flatMap(({ kind, mechanicalAngleDeg }) => (kind === 'flat' ? [mechanicalAngleDeg] : [])); // prettier-ignore
    await turnedBy('motor');
    expect(await angles()).toEqual([null]);
    await turnedBy('hand');
    expect(await angles()).toEqual([30, 210]);
  });

  it('asks for no calibration of what was withdrawn, and refuses a period that is none', async () => {
    const { id } = (await test.call('ilse', beginImport, { body: { source: 'a folder' } })).body;
    await test.ownerDatabase.rows(
      `INSERT INTO exposure_presence (observatory_id, exposure_id, import_id, present) SELECT observatory_id, id, '${id}', false FROM exposures WHERE night_date = '2026-06-20'`,
    );
    expect((await needs()).filter(({ kind }) => kind === 'flat')).toHaveLength(1);
    const bad = await test.call('sam', readCalibration, { query: { from: '2026-06-30', to: '2026-06-01' } });
    expect(bad.error.field).toBe('to');
    expect((await test.call(null, readCalibration, { query: period })).status).toBe(401);
  });
});

import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import {
  addTimeRemark,
  closeNights,
  editCharging,
  exportDues,
  listExposures,
  readAccountedNight,
  readProjectTime,
  readTimeAccount,
  judgeExposures,
  undoLast,
  withdrawTimeRemark,
} from '@meridiem/contract';
import { nightDatePlus, readCsv, SITE_REASONS } from '@meridiem/core';
import type { TestApp } from './test-app.ts';
import { createTestApp } from './test-app.ts';

let test: TestApp;
let rigId: string;
let lastNight: string;
const COORDINATOR = 'ilse';

beforeAll(async () => {
  test = await createTestApp({ exposures: 400 });
  const newest = await test.ownerDatabase.one<{ rigId: string; nightDate: string }>(
    `SELECT v.rig_id AS "rigId", e.night_date::text AS "nightDate" FROM exposures e JOIN rig_revisions v ON v.id = e.rig_revision_id ORDER BY e.start_utc DESC LIMIT 1`,
  );
  ({ rigId, nightDate: lastNight } = newest!);
}, 60_000);
afterAll(() => test.close());

const period = (from: string, to: string) => ({ from, to });
const read = async (from: string, to = from) =>
  (await test.call(COORDINATOR, readTimeAccount, { query: period(from, to) })).body;
const nightOf = async (nightDate: string) => (await read(nightDate)).rigs.find((rig) => rig.rigId === rigId)!.nights[0];
const hoursOf = (night: Awaited<ReturnType<typeof nightOf>>, kind?: string): number =>
  night.spent.filter((spent) => !kind || spent.kind === kind).reduce((sum, { hours }) => sum + hours, 0);
const close = (from: string, to = from, who = COORDINATOR) =>
  test.call(who, closeNights, { params: { id: rigId }, body: period(from, to) });

describe('the time account', () => {
  it('gives every minute of an open night to a kind, from what was recorded', async () => {
    const night = await nightOf(lastNight);
    expect(night.state).toBe('open');
    expect(hoursOf(night)).toBeCloseTo(24, 6);
    const recorded = await test.ownerDatabase.one<{ hours: number }>(
      `SELECT sum(e.exposure_s) / 3600 AS hours FROM exposures e JOIN rig_revisions v ON v.id = e.rig_revision_id WHERE v.rig_id = $1 AND e.night_date = $2`,
      [rigId, lastNight],
    );
    expect(hoursOf(night, 'exposing')).toBeCloseTo(recorded!.hours, 2);
    expect(hoursOf(night, 'overhead')).toBeGreaterThan(0);
  });

  it('is written whole when the night is closed, and reads as before', async () => {
    const before = await nightOf(lastNight);
    expect((await close(lastNight)).body).toEqual({ closed: 1 });
    const after = await nightOf(lastNight);
    expect(after.state).toBe('closed');
    expect(after.closedBy).toMatch(/Ilse/);
    for (const kind of ['exposing', 'overhead', 'waiting', 'idle'])
      expect([kind, hoursOf(after, kind)]).toEqual([kind, expect.closeTo(hoursOf(before, kind), 6)]);
    expect((await close(lastNight)).error).toMatchObject({ code: 'NOT_POSSIBLE', message: /closed already/ });
  });

  it('does not close what is not over', async () => {
    expect((await close('2026-10-11')).error).toMatchObject({ code: 'NOT_POSSIBLE', message: /once its noon/ });
  });

  it('holds no gap, no minute twice and no change, by the database itself', async () => {
    const closing = await test.ownerDatabase.one<{ id: string }>('SELECT id FROM night_closings LIMIT 1');
    const copied = (night: string) =>
      test.ownerDatabase.transaction(async (queries) => {
        const copy = await queries.one<{ id: string }>(
          `INSERT INTO night_closings (observatory_id, rig_id, night_date, seq, night, charge_dark, charge_bright, closed_by)
           SELECT observatory_id, rig_id, night_date, seq + 100, night, charge_dark, charge_bright, closed_by FROM night_closings WHERE id = $1 RETURNING id`,
          [closing!.id],
        );
        await queries.rows(
          `INSERT INTO time_entries (observatory_id, closing_id, night, during, kind, sky_class) SELECT observatory_id, $2, night, during, kind, sky_class FROM time_entries WHERE closing_id = $1 ${night}`,
          [closing!.id, copy!.id],
        );
      });
    await expect(copied('ORDER BY id OFFSET 1')).rejects.toThrow(/has gaps/);
    const entry = (during: string) =>
      test.ownerDatabase.rows(
        `INSERT INTO time_entries (observatory_id, closing_id, night, during, kind, sky_class) SELECT observatory_id, id, night, ${during}, 'idle', 'dark' FROM night_closings WHERE id = $1`,
        [closing!.id],
      );
    await expect(entry("tstzrange(lower(night), lower(night) + interval '1 minute')")).rejects.toThrow();
    await expect(entry("tstzrange(upper(night), upper(night) + interval '1 minute')")).rejects.toThrow();
    for (const table of ['time_entries', 'night_closings'])
      await expect(test.database.rows(`DELETE FROM ${table}`)).rejects.toThrow(/permission denied/);
  });

  it('charges what is exposed with its overhead, dark whole and bright half, to whom the project belongs', async () => {
    const { charged } = await read(lastNight);
    expect(charged.length).toBeGreaterThan(0);
    for (const { skyClass, clockHours, chargedHours } of charged)
      expect(chargedHours).toBeLessThanOrEqual(clockHours * (skyClass === 'dark' ? 1 : 0.5) + 1e-9);
    const night = (await read(lastNight)).rigs.find((rig) => rig.rigId === rigId)!.nights[0];
    const owned = charged.reduce((sum, { clockHours }) => sum + clockHours, 0);
    expect(owned).toBeCloseTo(hoursOf(night, 'exposing') + hoursOf(night, 'overhead'), 6);
  });

  it.each(SITE_REASONS)(
    'stops charging an exposure that is rejected for %s, and charges it again when it counts',
    async (reason) => {
      const sum = async () =>
        (await read(lastNight)).charged.reduce((total, { chargedHours }) => total + chargedHours, 0);
      const before = await sum();
      const { rows } = (
        await test.call(COORDINATOR, listExposures, { query: { night: lastNight, verdict: 'accepted' } })
      ).body;
      const own = await test.ownerDatabase.one<{ id: string; hours: number }>(
        `SELECT t.exposure_id AS id, sum(t.charged_hours) AS hours FROM time_account t WHERE t.exposure_id = ANY ($1::uuid[]) GROUP BY 1 LIMIT 1`,
        [rows.map(({ id }) => id)],
      );
      await test.call(COORDINATOR, judgeExposures, { body: { exposureIds: [own!.id], verdict: 'rejected', reason } });
      expect(await sum()).toBeCloseTo(before - own!.hours, 9);
      await test.call(COORDINATOR, undoLast);
      expect(await sum()).toBeCloseTo(before, 9);
    },
  );

  it('writes dues that equal the account', async () => {
    const rule = { dark: 1, bright: 0.5, duesPerHour: 4, currency: 'EUR' };
    expect((await test.call(COORDINATOR, editCharging, { body: { ...rule, currency: ' ' } })).error).toMatchObject({
      field: 'currency',
    });
    await test.call(COORDINATOR, editCharging, { body: rule });
    const { charged } = await read(lastNight);
    const rows = readCsv(
      (await test.call(COORDINATOR, exportDues, { query: period(lastNight, lastNight) })).body as string,
    );
    expect(
      rows.map((row) => [
        row.member,
        row.rig,
        row.sky_class,
        Number(row.charged_hours),
        Number(row.dues),
        row.currency,
      ]),
    ).toEqual(
      charged.map(({ memberName, rigName, skyClass, chargedHours }) => [
        memberName,
        rigName,
        skyClass,
        expect.closeTo(chargedHours, 4),
        expect.closeTo(chargedHours * 4, 2),
        'EUR',
      ]),
    );
    await test.call(COORDINATOR, undoLast);
    expect((await read(lastNight)).rule.duesPerHour).toBeNull();
  });
});

describe('a remark', () => {
  const remark = (
    body: Partial<{ kind: 'weather' | 'fault'; from: string; to: string; words: string }>,
    nightDate = lastNight,
  ) =>
    test.call('petra', addTimeRemark, {
      params: { id: rigId, nightDate },
      body: { kind: 'weather', from: '23:00', to: '01:30', words: 'fog', ...body },
    });

  it('stands above what was recorded, reopens the night, and is closed with it', async () => {
    const before = (await read(lastNight)).charged.reduce((sum, { chargedHours }) => sum + chargedHours, 0);
    expect((await remark({})).status).toBe(200);
    expect((await nightOf(lastNight)).state).toBe('changed');
    expect((await close(lastNight, lastNight, 'petra')).body).toEqual({ closed: 1 });
    const night = await nightOf(lastNight);
    expect([night.state, hoursOf(night, 'weather')]).toEqual(['closed', expect.closeTo(2.5, 6)]);
    expect(
      (await read(lastNight)).charged.reduce((sum, { chargedHours }) => sum + chargedHours, 0),
    ).toBeLessThanOrEqual(before);
    const detail = (await test.call('sam', readAccountedNight, { params: { id: rigId, nightDate: lastNight } })).body;
    expect(detail.stretches[0].startUtcMs).toBe(detail.startUtcMs);
    expect(detail.stretches.at(-1)!.endUtcMs).toBe(detail.endUtcMs);
    expect(detail.remarks.map(({ kind, words }) => `${kind} ${words}`)).toEqual(['weather fog']);
  });

  it('is refused in words where it can not be', async () => {
    expect((await remark({ from: '25:00' })).error).toMatchObject({ field: 'from', message: /no clock time/ });
    expect((await remark({ from: '03:00', to: '22:00' })).error).toMatchObject({
      field: 'to',
      message: /noon to noon/,
    });
    expect((await remark({ from: '01:00', to: '02:00' })).error).toMatchObject({
      field: 'from',
      message: /weather already/,
    });
  });

  it('is taken back, and undone', async () => {
    const nightDate = nightDatePlus(lastNight, -1);
    await remark({ kind: 'fault', words: 'mount' }, nightDate);
    const detail = async () =>
      (await test.call('petra', readAccountedNight, { params: { id: rigId, nightDate } })).body.remarks;
    const [{ id }] = await detail();
    await test.call('petra', withdrawTimeRemark, { params: { id } });
    expect(await detail()).toEqual([]);
    expect((await test.call('petra', undoLast)).status).toBe(200);
    expect((await detail()).map(({ kind }) => kind)).toEqual(['fault']);
  });
});

describe('a project’s time', () => {
  it('adds up to what the ledger and the closed nights hold', async () => {
    const project = await test.ownerDatabase.one<{ id: string }>(
      `SELECT project_id AS id FROM time_account WHERE project_id IS NOT NULL GROUP BY 1 ORDER BY sum(hours) DESC LIMIT 1`,
    );
    const time = (await test.call(COORDINATOR, readProjectTime, { params: { id: project!.id } })).body;
    const ledger = await test.ownerDatabase.one<{ hours: number }>(
      'SELECT sum(exposure_s) / 3600 AS hours FROM ledger_rows WHERE project_id = $1',
      [project!.id],
    );
    const lost = time.rejected.reduce((sum, { hours }) => sum + hours, 0);
    expect(time.acceptedHours + time.undecidedHours + lost).toBeCloseTo(ledger!.hours, 6);
    expect(time.closedNights).toBeGreaterThan(0);
    expect(time.overheadHours).toBeGreaterThan(0);
  });
});

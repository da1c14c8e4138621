// Standing as nights go by: cloud moves nobody, a night closed again counts once, rejected and spoiled exposures follow the account, whoever leaves earns no more.
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import type { Standing, StandingRow } from '@meridiem/contract';
import {
  addTimeRemark,
  closeNights,
  editCharging,
  endMembership,
  listPeople,
  readObservatory,
  readStanding,
  readTimeAccount,
} from '@meridiem/contract';
import { nightDatePlus } from '@meridiem/core';
import type { TestApp } from './test-app.ts';
import { createTestApp } from './test-app.ts';

let test: TestApp;
let rigId: string;
let nights: string[];
beforeAll(async () => {
  test = await createTestApp({ exposures: 400 });
  rigId = (await test.call('ilse', readObservatory, {})).body.rigs[0].id;
  nights = test.story.nights.map(({ nightDate }) => nightDate);
  await close(nights[0], nights.at(-1)!);
}, 120_000);
afterAll(() => test.close());

const standing = async (): Promise<Standing> => (await test.call('ilse', readStanding, {})).body;
const rowsOf = ({ rows }: Standing): StandingRow[] => rows.filter((row) => row.rigId === rigId);
const close = (from: string, to = from) =>
  test.call('ilse', closeNights, { params: { id: rigId }, body: { from, to } });
const remark = (nightDate: string, kind: 'weather' | 'fault' | 'visit') =>
  test.call('petra', addTimeRemark, {
    params: { id: rigId, nightDate },
    body: { kind, from: '13:00', to: '11:00', words: 'all night' },
  });
const sum = (rows: readonly StandingRow[], key: 'entitledHours' | 'chargedHours'): number =>
  rows.reduce((total, row) => total + row[key], 0);

describe('standing over time', () => {
  it('does not move in a month of cloud, faults and visits', async () => {
    const before = await standing();
    const kinds = ['weather', 'fault', 'visit'] as const;
    for (let i = 1; i <= 30; i++) {
      const nightDate = nightDatePlus(nights[0], -i);
      expect((await remark(nightDate, kinds[i % 3])).status).toBe(200);
    }
    await close(nightDatePlus(nights[0], -30), nightDatePlus(nights[0], -1));
    const after = await standing();
    const counted = (one: Standing) => one.counted.find((rig) => rig.rigId === rigId)!;
    expect(counted(after).openNights).toBe(counted(before).openNights);
    rowsOf(after).forEach((row, i) => {
      expect(Math.abs(row.multiplier - rowsOf(before)[i].multiplier)).toBeLessThan(0.02);
      expect(row.entitledHours).toBeCloseTo(rowsOf(before)[i].entitledHours, 6);
    });
  }, 60_000);

  it('loses a night’s hours for everybody once it is said to have been cloudy and closed again', async () => {
    const exposed = await test.ownerDatabase.one<{ nightDate: string }>(
      `SELECT e.night_date::text AS "nightDate" FROM exposures e JOIN rig_revisions v ON v.id = e.rig_revision_id WHERE v.rig_id = $1 ORDER BY e.start_utc DESC LIMIT 1`,
      [rigId],
    );
    const before = rowsOf(await standing());
    expect((await remark(exposed!.nightDate, 'weather')).status).toBe(200);
    expect((await close(exposed!.nightDate)).body).toEqual({ closed: 1 });
    const after = rowsOf(await standing());
    expect(sum(after, 'entitledHours')).toBeLessThan(sum(before, 'entitledHours'));
    expect(sum(after, 'chargedHours')).toBeLessThan(sum(before, 'chargedHours'));
    const [{ closings }] = await test.ownerDatabase.rows<{ closings: number }>(
      `SELECT count(*)::int AS closings FROM night_closings WHERE rig_id = $1 AND night_date = $2`,
      [rigId, exposed!.nightDate],
    );
    expect(closings).toBe(2);
  }, 60_000);

  it('charges what the time account charges, to the last minute', async () => {
    const query = { from: nightDatePlus(nights[0], -40), to: nights.at(-1)! };
    const { charged } = (await test.call('ilse', readTimeAccount, { query })).body;
    const own = charged.filter((row) => row.rigId === rigId);
    const inAccount = own.reduce((total, { chargedHours }) => total + chargedHours, 0);
    expect(sum(rowsOf(await standing()), 'chargedHours')).toBeCloseTo(inAccount, 4);
  });

  it('keeps nights closed already as they were weighed, and weighs later ones by the new rule', async () => {
    const before = rowsOf(await standing());
    const rule = { dark: 2, bright: 1, duesPerHour: null, currency: '' };
    await test.call('ilse', editCharging, { body: rule });
    expect(sum(rowsOf(await standing()), 'entitledHours')).toBeCloseTo(sum(before, 'entitledHours'), 6);
    await test.call('ilse', editCharging, { body: { ...rule, dark: 1, bright: 0.5 } });
  });

  it('ends with a membership: who has left has no row, and no later night entitles them', async () => {
    const { people } = (await test.call('ilse', listPeople, {})).body;
    const jonah = people.find(({ name }) => name.startsWith('Jonah'))!;
    expect(rowsOf(await standing()).some(({ memberId }) => memberId === jonah.id)).toBe(true);
    await test.call('ilse', endMembership, { params: { id: jonah.id }, body: { handOnTo: null } });
    expect(rowsOf(await standing()).some(({ memberId }) => memberId === jonah.id)).toBe(false);
    const shares = rowsOf(await standing()).filter(({ skyClass }) => skyClass === 'dark');
    expect(shares.reduce((total, { share }) => total + share, 0)).toBeLessThanOrEqual(1 + 1e-9);
  });

  it('gives the same numbers however often it is asked, to the last digit', async () => {
    const [first, second] = [await standing(), await standing()];
    expect(second).toEqual(first);
  });
});

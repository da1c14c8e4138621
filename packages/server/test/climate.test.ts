// Closed nights and odds of clear ones: by coordinators only, said at their field where they are wrong, undone, and never another observatory's.
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import type { Observatory } from '@meridiem/contract';
import {
  addClosure,
  editClimateMonth,
  editObservatory,
  readObservatory,
  removeClosure,
  undoLast,
} from '@meridiem/contract';
import { nightDatePlus } from '@meridiem/core';
import type { TestApp } from './test-app.ts';
import { createTestApp } from './test-app.ts';

const STRANGER = '00000000-0000-4000-8000-000000000001';

let test: TestApp;
beforeAll(async () => {
  test = await createTestApp({ exposures: 20 });
}, 60_000);
afterAll(() => test.close());

const observatory = async (): Promise<Observatory> => (await test.call('ilse', readObservatory, {})).body;
const closureOf = (one: Observatory, reason: string) => one.closures.find((closure) => closure.reason === reason);

describe('closed nights', () => {
  const shut = async (
    fields: Partial<{ rigId: string | null; firstNight: string; lastNight: string; reason: string }> = {},
  ) => {
    const { tonight } = await observatory();
    const body = { rigId: null, firstNight: nightDatePlus(tonight, 30), lastNight: nightDatePlus(tonight, 31), reason: 'new dome seal', ...fields }; // prettier-ignore
    return test.call('ilse', addClosure, { body });
  };

  it('are kept with their reason, opened again, and each of both is undone', async () => {
    expect((await shut()).status).toBe(200);
    const { id } = closureOf(await observatory(), 'new dome seal')!;
    await test.call('ilse', removeClosure, { params: { id } });
    expect(closureOf(await observatory(), 'new dome seal')).toBeUndefined();
    await test.call('ilse', undoLast, {});
    expect(closureOf(await observatory(), 'new dome seal')).toBeDefined();
    expect((await test.call('ilse', removeClosure, { params: { id } })).status).toBe(200);
    expect((await test.call('ilse', removeClosure, { params: { id } })).status).toBe(404);
  });

  it('say what is wrong with their nights, and take a reason', async () => {
    const { tonight } = await observatory();
    expect((await shut({ lastNight: nightDatePlus(tonight, 29) })).error.field).toBe('lastNight');
    expect((await shut({ lastNight: nightDatePlus(tonight, 600) })).error.field).toBe('lastNight');
    expect((await shut({ firstNight: 'tomorrow' })).status).toBe(400);
    expect((await shut({ reason: '' })).status).toBe(400);
    expect((await shut({ rigId: STRANGER })).status).toBe(404);
    expect((await test.call('ilse', removeClosure, { params: { id: STRANGER } })).status).toBe(404);
  });

  it('that are over are not listed', async () => {
    const { tonight } = await observatory();
    const reason = 'long ago';
    await shut({ firstNight: nightDatePlus(tonight, -20), lastNight: nightDatePlus(tonight, -10), reason });
    expect(closureOf(await observatory(), reason)).toBeUndefined();
  });

  it('are a coordinator’s to close and to open', async () => {
    const { tonight, closures } = await observatory();
    const body = { rigId: null, firstNight: tonight, lastNight: tonight, reason: 'mine' };
    for (const who of ['ruan', 'petra', 'sam']) {
      expect((await test.call(who, addClosure, { body })).status).toBe(403);
      expect((await test.call(who, removeClosure, { params: { id: closures[0].id } })).status).toBe(403);
    }
  });
});

describe('odds of clear nights', () => {
  it('hold for a month, between never and always, and are undone', async () => {
    const [january] = (await observatory()).climate;
    const edit = async (clearOdds: number, version: number) =>
      test.call('ilse', editClimateMonth, { params: { id: january.id }, body: { version, clearOdds } });
    expect((await edit(0.9, january.version)).status).toBe(200);
    expect((await observatory()).climate[0].clearOdds).toBe(0.9);
    await test.call('ilse', undoLast, {});
    const again = (await observatory()).climate[0];
    expect(again.clearOdds).toBe(january.clearOdds);
    for (const odds of [-0.1, 1.01]) expect((await edit(odds, again.version)).status).toBe(400);
  });

  it('keep what two people set one after the other, and refuse to write over what one has not seen', async () => {
    const march = (await observatory()).climate[2];
    const edit = (clearOdds: number) =>
      test.call('ilse', editClimateMonth, { params: { id: march.id }, body: { version: march.version, clearOdds } });
    expect((await edit(0.2)).status).toBe(200);
    const second = await edit(0.4);
    expect(second).toMatchObject({ status: 409, error: { code: 'CONFLICT' } });
    expect((await observatory()).climate[2].clearOdds).toBe(0.2);
  });

  it('are twelve, of this observatory, and a coordinator’s', async () => {
    const { climate } = await observatory();
    expect(climate.map(({ month }) => month)).toEqual(Array.from({ length: 12 }, (_, i) => i + 1));
    const body = { version: 1, clearOdds: 0.5 };
    expect((await test.call('ilse', editClimateMonth, { params: { id: STRANGER }, body })).status).toBe(404);
    expect((await test.call('ruan', editClimateMonth, { params: { id: climate[0].id }, body })).status).toBe(403);
  });

  it('stand beside persistence and where they come from', async () => {
    const { version } = await observatory();
    const edited = await test.call('ilse', editObservatory, { body: { version, weatherPersistence: 0.6, climateSource: 'ten years of logs' } }); // prettier-ignore
    expect(edited.status).toBe(200);
    expect(await observatory()).toMatchObject({ weatherPersistence: 0.6, climateSource: 'ten years of logs' });
    const next = (await observatory()).version;
    expect(
      (await test.call('ilse', editObservatory, { body: { version: next, weatherPersistence: 0.95 } })).status,
    ).toBe(400);
  });
});

// Shares as the application keeps them: agreed, written down with each closed night, given, swapped, and never somebody else's to give.
import { afterAll, beforeAll, beforeEach, describe, expect, it } from '@jest/globals';
import type { Allotment, Standing, StandingRow } from '@meridiem/contract';
import {
  addSharePeriod,
  answerSwap,
  closeNights,
  editFairness,
  editSharePeriod,
  giveHours,
  listPeople,
  proposeSwap,
  readObservatory,
  readStanding,
  removeSharePeriod,
  undoLast,
} from '@meridiem/contract';
import { multipliersOf } from '../src/modules/planning/favours.ts';
import type { GoalRow } from '../src/modules/planning/goals-repository.ts';
import { goalRowsOf } from '../src/modules/planning/goals-repository.ts';
import type { TestApp } from './test-app.ts';
import { BY_ROLE, createTestApp } from './test-app.ts';

let test: TestApp;
let rigId: string;
const ids = new Map<string, string>();
beforeAll(async () => {
  test = await createTestApp({ exposures: 400 });
  const { rigs } = (await test.call('ilse', readObservatory, {})).body;
  rigId = rigs[0].id;
  const { people } = (await test.call('ilse', listPeople, {})).body;
  for (const key of ['ilse', 'petra', 'ruan']) {
    const person = people.find(({ name }) => name.toLowerCase().startsWith(key))!;
    ids.set(key, person.id);
  }
}, 120_000);
afterAll(() => test.close());
beforeEach(async () => {
  for (const table of ['allotments', 'share_periods', 'share_gifts', 'share_swaps'])
    await test.ownerDatabase.rows(`DELETE FROM ${table}`);
  await test.ownerDatabase.rows(`DELETE FROM settings WHERE key = 'fairness'`);
});

const standing = async (who = 'ilse'): Promise<Standing> => (await test.call(who, readStanding, {})).body;
const rowOf = ({ rows }: Standing, who: string, skyClass = 'dark'): StandingRow =>
  rows.find((row) => row.memberId === ids.get(who) && row.rigId === rigId && row.skyClass === skyClass)!;
const allotment = (who: string, share: number, more: Partial<Allotment> = {}): Allotment => ({
  memberId: ids.get(who)!,
  rigId: null,
  skyClass: null,
  share,
  ...more,
});
const agree = (allotments: Allotment[], firstNight = '2020-01-01', lastNight: string | null = null) =>
  test.call('ilse', addSharePeriod, { body: { firstNight, lastNight, allotments } });

describe('shares', () => {
  it('are equal among all but guests where none are agreed', async () => {
    const found = await standing();
    expect(found.periodInForceId).toBeNull();
    const members = new Set(found.rows.map(({ memberId }) => memberId));
    for (const { share } of found.rows) expect(share).toBeCloseTo(1 / members.size);
    const { people } = (await test.call('ilse', listPeople, {})).body;
    expect(members.size).toBe(people.filter(({ role }) => role !== 'guest').length);
  });

  it('hold from the first to the last night that was agreed, by rig and sky', async () => {
    await agree([
      allotment('petra', 0.3),
      allotment('petra', 0.6, { rigId, skyClass: 'dark' }),
      allotment('ruan', 0.4),
    ]);
    const found = await standing();
    expect(found.periodInForceId).toBe(found.periods[0].id);
    expect(rowOf(found, 'petra').share).toBe(0.6);
    expect(rowOf(found, 'petra', 'bright').share).toBe(0.3);
    expect(rowOf(found, 'ruan').share).toBe(0.4);
    expect(rowOf(found, 'ilse').share).toBe(0);
  });

  it('can be changed, taken away and put back, each by undo as well', async () => {
    const { id } = (await agree([allotment('petra', 0.5)])).body;
    const body = {
      firstNight: '2020-01-01',
      lastNight: null,
      allotments: [allotment('petra', 0.25), allotment('ruan', 0.5)],
    };
    expect((await test.call('ilse', editSharePeriod, { params: { id }, body })).status).toBe(200);
    expect(rowOf(await standing(), 'petra').share).toBe(0.25);
    await test.call('ilse', undoLast, {});
    expect(rowOf(await standing(), 'petra').share).toBe(0.5);
    expect(rowOf(await standing(), 'ruan').share).toBe(0);
    await test.call('ilse', removeSharePeriod, { params: { id } });
    expect((await standing()).periods).toEqual([]);
    await test.call('ilse', undoLast, {});
    expect((await standing()).periods).toHaveLength(1);
  });

  it('are refused with words at their field where they overlap, end before they begin or exceed the whole', async () => {
    await agree([allotment('petra', 1)], '2026-01-01', '2026-02-01');
    const twice = await agree([allotment('petra', 1)], '2026-02-01', '2026-03-01');
    expect(twice).toMatchObject({ status: 422, error: { field: 'firstNight' } });
    const reversed = await agree([allotment('petra', 1)], '2026-05-01', '2026-04-01');
    expect(reversed).toMatchObject({ status: 422, error: { field: 'lastNight' } });
    const much = await agree([allotment('petra', 0.7), allotment('ruan', 0.4)], '2026-05-01');
    expect(much).toMatchObject({ status: 422, error: { field: 'allotments' } });
    expect(much.error.message).toMatch(/110 %/);
    const nobody = await agree([allotment('petra', 0)], '2026-05-01');
    expect(nobody.status).toBe(422);
    const same = await agree([allotment('petra', 0.1), allotment('petra', 0.2)], '2026-05-01');
    expect(same.status).toBe(422);
  });

  it('cannot be agreed for strangers or rigs elsewhere', async () => {
    const stranger = '00000000-0000-4000-8000-000000000001';
    expect((await agree([{ ...allotment('petra', 0.5), memberId: stranger }])).status).toBe(404);
    expect((await agree([allotment('petra', 0.5, { rigId: stranger })])).status).toBe(404);
    expect((await test.call('ilse', removeSharePeriod, { params: { id: stranger } })).status).toBe(404);
  });

  it('do not overlap in the database, whoever writes them', async () => {
    await agree([allotment('petra', 1)], '2026-01-01', '2026-02-01');
    const write = test.ownerDatabase.rows(
      `INSERT INTO share_periods (observatory_id, first_night, person_id) SELECT observatory_id, '2026-01-15', person_id FROM share_periods`,
    );
    await expect(write).rejects.toThrow(/Exclusion/);
  });
});

describe('fairness', () => {
  it('counts half until a coordinator says otherwise, and is taken back by undo', async () => {
    expect((await standing()).fairness).toBe(0.5);
    await test.call('ilse', editFairness, { body: { fairness: 1 } });
    expect((await standing()).fairness).toBe(1);
    await test.call('ilse', undoLast, {});
    expect((await standing()).fairness).toBe(0.5);
  });

  it('carries over the share of twenty open nights at most until a coordinator says otherwise; each setting by itself', async () => {
    await test.call('ilse', editFairness, { body: { fairness: 0.75 } });
    expect((await standing()).carryOverNights).toBe(20);
    await test.call('ilse', editFairness, { body: { carryOverNights: 5 } });
    expect(await standing()).toMatchObject({ fairness: 0.75, carryOverNights: 5 });
    expect((await test.call('ilse', editFairness, { body: { carryOverNights: 0 } })).status).toBe(400);
    expect((await test.call('sam', editFairness, { body: { carryOverNights: 9 } })).status).toBe(403);
    await test.call('ilse', undoLast, {});
    await test.call('ilse', undoLast, {});
    expect(await standing()).toMatchObject({ fairness: 0.5, carryOverNights: 20 });
  });

  it('of nothing makes every multiplier one', async () => {
    await test.call('ilse', editFairness, { body: { fairness: 0 } });
    for (const { multiplier } of (await standing()).rows) expect(multiplier).toBe(1);
  });
});

describe('a night that is closed', () => {
  it('entitles those whose work it could have held, and the last sixty open ones are counted', async () => {
    const before = await standing();
    const { nightsToClose } = before.counted.find((one) => one.rigId === rigId)!;
    const nights = test.story.nights.map(({ nightDate }) => nightDate);
    await test.call('ilse', closeNights, { params: { id: rigId }, body: { from: nights[0], to: nights.at(-1)! } });
    const after = await standing();
    const counted = after.counted.find((one) => one.rigId === rigId)!;
    expect(nightsToClose).toBeGreaterThan(0);
    expect(counted.nightsToClose).toBe(0);
    expect(counted.openNights).toBeGreaterThan(0);
    const sum = (key: 'entitledHours' | 'chargedHours'): number =>
      after.rows.filter((row) => row.rigId === rigId).reduce((total, row) => total + row[key], 0);
    expect(sum('entitledHours')).toBeGreaterThan(0);
    expect(sum('chargedHours')).toBeGreaterThan(0);
    const stored = await test.ownerDatabase.rows<{ sum: number }>(
      `SELECT sum(e.hours) AS sum FROM entitlements e JOIN night_closings c ON c.id = e.closing_id WHERE c.rig_id = '${rigId}' AND NOT EXISTS (SELECT 1 FROM night_closings n WHERE n.rig_id = c.rig_id AND n.night_date = c.night_date AND n.seq > c.seq)`,
    );
    expect(sum('entitledHours')).toBeCloseTo(stored[0].sum, 4);
    const months = after.months.reduce((total, { chargedHours }) => total + chargedHours, 0);
    expect(months).toBeCloseTo(
      after.rows.reduce((total, { chargedHours }) => total + chargedHours, 0),
      4,
    );
  }, 60_000);

  it('makes an hour of whoever is behind count more than one of whoever is ahead', async () => {
    await test.call('ilse', editFairness, { body: { fairness: 1 } });
    for (const row of (await standing()).rows) {
      const behind = row.entitledHours + row.givenHours - row.chargedHours;
      if (behind > 0.01) expect(row.multiplier).toBeGreaterThan(1);
      if (behind < -0.01) expect(row.multiplier).toBeLessThan(1);
    }
  });
});

describe('in a night’s plan', () => {
  const weighed = async (
    sky: { darkHours: number; darkMoonlessHours: number },
    envelope: GoalRow['envelope'] = null,
  ) => {
    const { observatoryId } = (await test.database.one<{ observatoryId: string }>(
      'SELECT observatory_id AS "observatoryId" FROM rigs WHERE id = $1',
      [rigId],
    ))!;
    const { tonight } = (await test.call('ilse', readObservatory, {})).body;
    const rows = (await goalRowsOf(test.database, rigId)).map((row) => ({ ...row, envelope }));
    const weights = await multipliersOf(test.database, { id: observatoryId, tonight }, { rigId, sky }, rows);
    const ownerOf = new Map(rows.map(({ projectId, ownerId }) => [projectId, ownerId]));
    return [...weights].map(([projectId, weight]) => ({ ownerId: ownerOf.get(projectId)!, weight }));
  };
  const multiplierOf = (found: Standing, ownerId: string, skyClass: string): number =>
    found.rows.find((row) => row.memberId === ownerId && row.rigId === rigId && row.skyClass === skyClass)!.multiplier;

  it('an hour counts by the sky that the night has: moonless, moonlit, or each by its hours', async () => {
    await test.call('ilse', editFairness, { body: { fairness: 1 } });
    const found = await standing();
    const differs = found.rows.some(({ memberId, multiplier }) => Math.abs(multiplier - multiplierOf(found, memberId, 'bright')) > 0.01); // prettier-ignore
    expect(differs).toBe(true);
    for (const [sky, moonless] of [
      [{ darkHours: 9, darkMoonlessHours: 9 }, 1],
      [{ darkHours: 9, darkMoonlessHours: 0 }, 0],
      [{ darkHours: 8, darkMoonlessHours: 6 }, 0.75],
    ] as const)
      for (const { ownerId, weight } of await weighed(sky))
        expect(weight).toBeCloseTo(
          moonless * multiplierOf(found, ownerId, 'dark') + (1 - moonless) * multiplierOf(found, ownerId, 'bright'),
          9,
        );
  });

  it('a sky of which a grant holds nothing more counts nothing', async () => {
    await test.call('ilse', editFairness, { body: { fairness: 1 } });
    const found = await standing();
    const sky = { darkHours: 8, darkMoonlessHours: 6 };
    for (const { ownerId, weight } of await weighed(sky, { dark: 0, bright: 3 }))
      expect(weight).toBeCloseTo(multiplierOf(found, ownerId, 'bright'), 9);
    for (const { ownerId, weight } of await weighed(sky, { dark: 2, bright: 0 }))
      expect(weight).toBeCloseTo(multiplierOf(found, ownerId, 'dark'), 9);
  });
});

describe('hours given', () => {
  const give = (who: string, body: Partial<{ toId: string; hours: number; rigId: string }> = {}) =>
    test.call(who, giveHours, {
      body: { rigId, toId: ids.get('ruan')!, skyClass: 'dark', hours: 2, words: 'for the comet', ...body },
    });

  it('move from the giver to whom they were given, and back by undo', async () => {
    const before = await standing();
    expect((await give('petra')).status).toBe(200);
    const after = await standing();
    expect(rowOf(after, 'petra').givenHours).toBeCloseTo(rowOf(before, 'petra').givenHours - 2);
    expect(rowOf(after, 'ruan').givenHours).toBeCloseTo(rowOf(before, 'ruan').givenHours + 2);
    expect(rowOf(after, 'ruan').multiplier).toBeGreaterThanOrEqual(rowOf(before, 'ruan').multiplier);
    expect(after.gifts[0]).toMatchObject({ hours: 2, words: 'for the comet', isOfSwap: false });
    await test.call('petra', undoLast, {});
    expect((await standing()).gifts).toEqual([]);
  });

  it('go to another member only, of a rig that is here, and by no guest', async () => {
    expect((await give('petra', { toId: ids.get('petra')! })).error.field).toBe('toId');
    expect((await give('petra', { toId: '00000000-0000-4000-8000-000000000001' })).error.field).toBe('toId');
    expect((await give('petra', { rigId: '00000000-0000-4000-8000-000000000001' })).status).toBe(404);
    expect((await give('petra', { hours: 0 })).status).toBe(400);
    expect((await give(BY_ROLE.guest)).status).toBe(403);
  });
});

describe('a swap', () => {
  const offer = async () =>
    (
      await test.call('petra', proposeSwap, {
        body: { rigId, toId: ids.get('ruan')!, givesSky: 'bright', givesHours: 6, getsHours: 3, words: '' },
      })
    ).body.id;
  const answer = (who: string, id: string, how: 'accepted' | 'declined' | 'withdrawn') =>
    test.call(who, answerSwap, { params: { id }, body: { answer: how } });

  it('moves hours of both once both have agreed', async () => {
    const id = await offer();
    expect((await standing()).gifts).toEqual([]);
    expect((await standing('ruan')).swaps.map((swap) => swap.id)).toEqual([id]);
    expect((await answer('ruan', id, 'accepted')).status).toBe(200);
    const after = await standing();
    expect(rowOf(after, 'petra').givenHours).toBe(3);
    expect(rowOf(after, 'petra', 'bright').givenHours).toBe(-6);
    expect(rowOf(after, 'ruan').givenHours).toBe(-3);
    expect(rowOf(after, 'ruan', 'bright').givenHours).toBe(6);
    expect((await standing('ruan')).swaps).toEqual([]);
  });

  it('is seen and answered by its two members only', async () => {
    const id = await offer();
    expect((await standing('ilse')).swaps).toEqual([]);
    expect((await answer('ilse', id, 'accepted')).status).toBe(404);
    expect((await answer('petra', id, 'accepted')).status).toBe(403);
    expect((await answer('ruan', id, 'withdrawn')).status).toBe(403);
    expect((await answer('petra', id, 'withdrawn')).status).toBe(200);
    expect((await answer('ruan', id, 'accepted')).status).toBe(409);
  });

  it('that two answers meet is answered once', async () => {
    const id = await offer();
    const answers = await Promise.all([answer('ruan', id, 'accepted'), answer('ruan', id, 'declined'), answer('petra', id, 'withdrawn')]); // prettier-ignore
    expect(answers.filter(({ status }) => status === 200)).toHaveLength(1);
    const [{ gifts, state }] = await test.ownerDatabase.rows<{ gifts: number; state: string }>(
      `SELECT (SELECT count(*)::int FROM share_gifts) AS gifts, state FROM share_swaps`,
    );
    expect(gifts).toBe(state === 'accepted' ? 2 : 0);
  });

  it('is open again when its answer is taken back', async () => {
    const id = await offer();
    await answer('ruan', id, 'accepted');
    expect((await test.call('ruan', undoLast, {})).status).toBe(200);
    const after = await standing('ruan');
    expect(after.gifts).toEqual([]);
    expect(after.swaps).toHaveLength(1);
  });
});

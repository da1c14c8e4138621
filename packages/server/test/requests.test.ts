// Hours asked for, granted within bounds, returned, queued: by whom, seen by whom, and what the planner makes of it.
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import type { ProjectRequests } from '@meridiem/contract';
import {
  addGoal,
  addProject,
  askForHours,
  editMembership,
  editProject,
  grantRequest,
  listNotices,
  listPeople,
  listRequests,
  queueRequest,
  readNightStandings,
  readObservatory,
  readPlanning,
  readProject,
  readProjectRequests,
  returnRequest,
  undoLast,
  withdrawRequest,
} from '@meridiem/contract';
import type { TestApp } from './test-app.ts';
import { createTestApp } from './test-app.ts';

let test: TestApp;
let rigId: string;
let recipeId: string;
let tonight: string;
beforeAll(async () => {
  test = await createTestApp({ exposures: 200 });
  const observatory = (await test.call('ilse', readObservatory, {})).body;
  rigId = observatory.rigs[0].id;
  tonight = observatory.tonight;
  recipeId = observatory.recipes.find((recipe) => recipe.rigId === rigId)!.id;
}, 120_000);
afterAll(() => test.close());

let made = 0;
/** A draft with a goal in a part of the sky that is up. */
async function draft(who = 'ruan', wanted = 30): Promise<string> {
  const target = test.story.projects.find((project) => project.target !== null)!.target!;
  const { id } = (
    await test.call(who, addProject, {
      body: {
        name: `Asked for ${++made}`,
        rigId,
        targetName: 'a field',
        raText: String(target.raDeg / 15),
        decText: String(target.decDeg),
        positionAngleDeg: 0,
      },
    })
  ).body;
  const { panels } = (await test.call(who, readProject, { params: { id } })).body;
  await test.call(who, addGoal, { body: { panelId: panels[0].id, recipeId, wanted, allPanels: false } });
  return id;
}
const ask = (who: string, id: string, darkHours = 4, brightHours = 2) =>
  test.call(who, askForHours, { params: { id }, body: { darkHours, brightHours, words: 'for the winter' } });
const of = async (who: string, id: string): Promise<ProjectRequests> =>
  (await test.call(who, readProjectRequests, { params: { id } })).body;
const stateOf = async (id: string): Promise<string> =>
  (await test.call('ilse', readProject, { params: { id } })).body.state;
const grant = (who: string, id: string, darkHours = 3, brightHours = 1) =>
  test.call(who, grantRequest, { params: { id }, body: { darkHours, brightHours, remark: '' } });
const back = (who: string, id: string) =>
  test.call(who, returnRequest, { params: { id }, body: { remark: 'shorter, please', remarkField: 'hours' } });
const queue = (who: string, id: string, remark = 'the season is full') =>
  test.call(who, queueRequest, { params: { id }, body: { remark } });

describe('a request', () => {
  it('says what the goals would take, and proposes the project', async () => {
    const id = await draft();
    const before = await of('ruan', id);
    expect(before.neededDarkHours + before.neededBrightHours).toBeGreaterThan(0.5);
    expect(before).toMatchObject({ requests: [], envelope: null, mayAsk: true, mayDecide: false });
    expect((await ask('ruan', id)).status).toBe(200);
    expect(await stateOf(id)).toBe('proposed');
    const { requests } = await of('ilse', id);
    expect(requests).toMatchObject([{ darkHours: 4, brightHours: 2, state: 'open', words: 'for the winter' }]);
  });

  it('is the owner’s and the coordinator’s to make, one at a time, for some hours', async () => {
    const id = await draft();
    expect((await ask('petra', id)).status).toBe(403);
    expect((await ask('ruan', id, 0, 0)).error.field).toBe('darkHours');
    expect((await ask('ruan', id)).status).toBe(200);
    expect((await ask('ruan', id)).status).toBe(409);
    const both = await draft();
    const answers = await Promise.all([ask('ruan', both), ask('ruan', both), ask('ruan', both)]);
    expect(answers.filter(({ status }) => status === 200)).toHaveLength(1);
  });

  it('of a retired project is refused', async () => {
    const id = await draft();
    const { version } = (await test.call('ruan', readProject, { params: { id } })).body;
    await test.call('ruan', editProject, { params: { id }, body: { version, state: 'retired' } });
    expect((await ask('ruan', id)).status).toBe(403);
  });

  it('is taken back by its owner, who then has a draft again', async () => {
    const id = await draft();
    const request = (await ask('ruan', id)).body.id;
    expect((await test.call('petra', withdrawRequest, { params: { id: request } })).status).toBe(403);
    expect((await test.call('ruan', withdrawRequest, { params: { id: request } })).status).toBe(200);
    expect(await stateOf(id)).toBe('draft');
    expect((await test.call('ruan', withdrawRequest, { params: { id: request } })).status).toBe(409);
    expect((await grant('ilse', request)).status).toBe(409);
  });
});

describe('granting', () => {
  it('gives the hours that the coordinator says, tells the owner, and is undone with everything it did', async () => {
    const id = await draft();
    const request = (await ask('ruan', id)).body.id;
    expect((await grant('ilse', request)).status).toBe(200);
    expect(await stateOf(id)).toBe('granted');
    expect((await of('ruan', id)).envelope).toEqual({ darkHours: 3, brightHours: 1, usedDarkHours: 0, usedBrightHours: 0 }); // prettier-ignore
    const { notices } = (await test.call('ruan', listNotices, {})).body;
    expect(notices[0]).toMatchObject({ words: expect.stringContaining('granted'), link: `/projects/${id}` });
    expect((await test.call('ilse', undoLast, {})).status).toBe(200);
    expect(await stateOf(id)).toBe('proposed');
    expect((await of('ruan', id)).envelope).toBeNull();
    expect((await of('ruan', id)).requests[0].state).toBe('open');
    expect((await grant('ilse', request)).status).toBe(200);
  });

  it('bounds what a night places, and more is a request of its own while the granted part goes on', async () => {
    const id = await draft('ruan', 400);
    const request = (await ask('ruan', id, 20, 0)).body.id;
    await grant('ilse', request, 0.5, 0);
    const { request: planned } = (await test.call('ilse', readPlanning, { params: { id: rigId, nightDate: tonight } })).body as unknown as { request: { projects: { id: string }[]; panels: { id: string; projectId: string }[]; goals: { panelId: string; toPlan: number; settings: { exposureSec: number } }[] } }; // prettier-ignore
    const panels = planned.panels.filter(({ projectId }) => projectId === id).map((panel) => panel.id);
    const sec = planned.goals
      .filter(({ panelId }) => panels.includes(panelId))
      .reduce((sum, { toPlan, settings }) => sum + toPlan * settings.exposureSec, 0);
    expect(sec).toBeGreaterThan(0);
    expect(sec).toBeLessThan(0.5 * 3600 + 400);
    expect((await ask('ruan', id, 5, 0)).status).toBe(200);
    expect(await stateOf(id)).toBe('granted');
    const second = (await of('ruan', id)).requests[0];
    expect(second.state).toBe('open');
    await grant('ilse', second.id, 5, 0);
    expect((await of('ruan', id)).envelope).toMatchObject({ darkHours: 5.5, brightHours: 0 });
  });

  it('of hours that are all used leaves the project out, and says so', async () => {
    const id = await draft();
    const request = (await ask('ruan', id)).body.id;
    await grant('ilse', request, 0.01, 0);
    const { standings } = (await test.call('ilse', readNightStandings, { params: { nightDate: tonight } })).body;
    expect(standings.find(({ projectId }) => projectId === id)?.reason?.code).toBe('ENVELOPE_USED');
  });

  it('is a coordinator’s, not of their own project while there is another, and recorded where they are alone', async () => {
    const id = await draft();
    const request = (await ask('ruan', id)).body.id;
    expect((await grant('ruan', request)).status).toBe(403);
    expect((await grant('petra', request)).status).toBe(403);
    const own = await draft('ilse');
    const ownRequest = (await ask('ilse', own)).body.id;
    const { people } = (await test.call('ilse', listPeople, {})).body;
    const petra = people.find(({ name }) => name.startsWith('Petra'))!;
    await test.call('ilse', editMembership, { params: { id: petra.id }, body: { role: 'coordinator' } });
    test.forget('petra');
    expect((await grant('ilse', ownRequest)).status).toBe(403);
    expect((await of('ilse', own)).mayNotDecideWhy).toMatch(/another coordinator/);
    const { version } = (await test.call('ilse', readProject, { params: { id: own } })).body;
    expect((await test.call('ilse', editProject, { params: { id: own }, body: { version, state: 'granted' } })).status).not.toBe(200); // prettier-ignore
    await test.call('petra', editMembership, { params: { id: petra.id }, body: { role: petra.role } });
    test.forget('petra');
    expect((await grant('ilse', ownRequest)).status).toBe(200);
    const [{ alone }] = await test.ownerDatabase.rows<{ alone: boolean }>(
      `SELECT decided_alone AS alone FROM requests WHERE id = '${ownRequest}'`,
    );
    expect(alone).toBe(true);
  });

  it('needs a place in the sky', async () => {
    const { id } = (
      await test.call('ruan', addProject, {
        body: { name: 'Nowhere yet', rigId, targetName: 'a field', raText: '', decText: '', positionAngleDeg: 0 },
      })
    ).body;
    const request = (await ask('ruan', id)).body.id;
    expect((await grant('ilse', request)).status).toBe(422);
    expect(await stateOf(id)).toBe('proposed');
  });

  it('by the project’s state is refused while hours are asked for', async () => {
    const id = await draft();
    await ask('ruan', id);
    const { version } = (await test.call('ilse', readProject, { params: { id } })).body;
    const answer = await test.call('ilse', editProject, { params: { id }, body: { version, state: 'granted' } });
    expect(answer).toMatchObject({ status: 422, error: { field: 'state' } });
  });
});

describe('a request that is not granted', () => {
  it('is returned with a remark at its field, and can be made again', async () => {
    const id = await draft();
    const request = (await ask('ruan', id)).body.id;
    const empty = await test.call('ilse', returnRequest, { params: { id: request }, body: { remark: '', remarkField: 'hours' } }); // prettier-ignore
    expect(empty.status).toBe(400);
    expect((await back('ilse', request)).status).toBe(200);
    expect(await stateOf(id)).toBe('returned');
    expect((await of('ruan', id)).requests[0]).toMatchObject({ state: 'returned', remark: 'shorter, please', remarkField: 'hours' }); // prettier-ignore
    expect((await ask('ruan', id, 2, 0)).status).toBe(200);
    expect(await stateOf(id)).toBe('proposed');
  });

  it('waits in a queue whose places close up, and is granted from there', async () => {
    // The demo's own waits already.
    const known = (await test.call('ilse', listRequests, {})).body.requests.filter(({ state }) => state === 'queued');
    const before = known.length;
    const [first, second, third] = [await draft(), await draft(), await draft()];
    const requests: string[] = [];
    for (const id of [first, second, third]) {
      const request = (await ask('ruan', id)).body.id;
      await queue('ilse', request);
      requests.push(request);
    }
    const placeOf = async (id: string) => (await of('ruan', id)).requests[0].queuePlace;
    expect([await placeOf(first), await placeOf(second), await placeOf(third)]).toEqual([
      before + 1,
      before + 2,
      before + 3,
    ]);
    await grant('ilse', requests[0]);
    expect([await placeOf(first), await placeOf(second), await placeOf(third)]).toEqual([null, before + 1, before + 2]);
    const { requests: waiting } = (await test.call('petra', listRequests, {})).body;
    expect(waiting.filter(({ state }) => state === 'queued').map(({ projectId }) => projectId)).toEqual([
      ...known.map(({ projectId }) => projectId),
      second,
      third,
    ]);
    await test.call('ilse', undoLast, {});
    expect([await placeOf(first), await placeOf(second), await placeOf(third)]).toEqual([
      before + 1,
      before + 2,
      before + 3,
    ]);
  });

  it('comes back to its place where its withdrawal is undone', async () => {
    const id = await draft();
    const request = (await ask('ruan', id)).body.id;
    await queue('ilse', request, 'after the comet');
    await test.call('ruan', withdrawRequest, { params: { id: request } });
    expect((await test.call('ruan', undoLast, {})).status).toBe(200);
    expect((await of('ruan', id)).requests[0]).toMatchObject({
      state: 'queued',
      remark: 'after the comet',
      decidedByName: 'Ilse Marwick',
    });
    expect(await stateOf(id)).toBe('queued');
  });

  it('for a private project is in the queue of others without a name', async () => {
    const id = await draft();
    const { version } = (await test.call('ruan', readProject, { params: { id } })).body;
    await test.call('ruan', editProject, { params: { id }, body: { version, private: true } });
    const request = (await ask('ruan', id)).body.id;
    await queue('ilse', request, 'a remark for its owner');
    const seenBy = async (who: string) =>
      (await test.call(who, listRequests, {})).body.requests.find((one) => one.id === request)!;
    expect(await seenBy('petra')).toMatchObject({ projectId: null, projectName: null, personName: null, remark: null });
    expect(await seenBy('ruan')).toMatchObject({ projectId: id, remark: 'a remark for its owner' });
    expect((await test.call('petra', readProjectRequests, { params: { id } })).status).toBe(404);
  });
});

describe('ranks', () => {
  it('are the owner’s own to give', async () => {
    const id = await draft();
    const edit = async (who: string, ownRank: number) => {
      const { version } = (await test.call(who, readProject, { params: { id } })).body;
      return (await test.call(who, editProject, { params: { id }, body: { version, ownRank } })).status;
    };
    expect(await edit('ruan', 3)).toBe(200);
    expect((await test.call('ruan', readProject, { params: { id } })).body.ownRank).toBe(3);
    expect(await edit('ilse', 1)).toBe(403);
    expect(await edit('ruan', 4)).toBe(400);
  });
});

// Whose things are: other people's ids, rights that have ended, names that are not one's own to read.
import { mkdtemp, readdir, utimes, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import {
  addGoal,
  addProject,
  beginImport,
  editClimateMonth,
  editMembership,
  editProject,
  listChanges,
  listExposures,
  listGoalSets,
  listImports,
  promoteTryOut,
  readImport,
  readObservatory,
  readProject,
  readStanding,
  removeGoalSet,
  saveGoalSet,
  undoLast,
} from '@meridiem/contract';
import { pruneFolder } from '../../src/jobs/housekeeping.ts';
import type { TestApp } from '../test-app.ts';
import { createTestApp } from '../test-app.ts';

let test: TestApp;
let rigId: string;
let recipeId: string;
beforeAll(async () => {
  test = await createTestApp({ exposures: 60 });
  const observatory = (await test.call('ilse', readObservatory, {})).body;
  rigId = observatory.rigs[0].id;
  recipeId = observatory.recipes.find((recipe) => recipe.rigId === rigId)!.id;
}, 120_000);
afterAll(() => test.close());

const personId = async (name: string): Promise<string> =>
  (await test.database.one<{ id: string }>('SELECT id FROM people WHERE name = $1', [name]))!.id;
/** Another role ends every session of theirs: they sign in again. */
async function role(name: string, next: 'guest' | 'member' | 'helper' | 'coordinator', key: string): Promise<void> {
  await test.call('ilse', editMembership, { params: { id: await personId(name) }, body: { role: next } });
  test.forget(key);
}

describe('a set of goals', () => {
  const save = (who: string, name: string, wanted = 10) =>
    test.call(who, saveGoalSet, { body: { rigId, name, items: [{ recipeId, wanted }] } });
  const remove = (who: string, id: string) => test.call(who, removeGoalSet, { params: { id } });
  const named = async (name: string) =>
    (await test.call('ilse', listGoalSets, {})).body.sets.find((set) => set.name === name);

  it('is changed and deleted by whoever made it, or a coordinator, and used by all', async () => {
    const { id } = (await save('ruan', 'of Ruan')).body;
    expect((await save('mirela', 'of Ruan', 99)).status).toBe(403);
    expect((await remove('mirela', id)).status).toBe(403);
    expect((await named('of Ruan'))!.items[0].wanted).toBe(10);
    expect((await save('ruan', 'of Ruan', 12)).status).toBe(200);
    expect((await save('ilse', 'of Ruan', 14)).status).toBe(200);
    expect((await named('of Ruan'))!.items[0].wanted).toBe(14);
    expect((await remove('ilse', (await named('of Ruan'))!.id)).status).toBe(200);
    expect(await named('of Ruan')).toBeUndefined();
    expect((await remove('ruan', id)).status).toBe(404);
  });
});

describe('an import', () => {
  it('is told, with the name of its source, to whoever began it and to coordinators', async () => {
    const { id } = (await test.call('ruan', beginImport, { body: { source: 'a very private folder' } })).body;
    const sees = async (who: string): Promise<boolean> =>
      JSON.stringify((await test.call(who, listImports, {})).body).includes('very private');
    expect(await Promise.all(['ruan', 'ilse', 'mirela', 'petra'].map(sees))).toEqual([true, true, false, false]);
    expect((await test.call('mirela', readImport, { params: { id } })).status).toBe(404);
    expect((await test.call('ilse', readImport, { params: { id } })).status).toBe(200);
  });
});

describe('exposures of nobody', () => {
  it('become a project only of whoever imported them, or of a coordinator', async () => {
    const { rows } = (await test.call('ilse', listExposures, { query: { limit: 5 } })).body;
    const free = rows[0].id;
    await test.ownerDatabase.rows('UPDATE attributions SET withdrawn = now() WHERE exposure_id = $1', [free]);
    const promote = (who: string) =>
      test.call(who, promoteTryOut, { body: { exposureIds: [free], name: `of ${who}` } });
    expect((await promote('mirela')).status).toBe(403);
    // A coordinator may: what then stands in the way is something else.
    expect((await promote('ilse')).status).not.toBe(403);
  });
});

describe('undo', () => {
  it('asks for the role that is held now, not for the one that was', async () => {
    await role('Petra Lindholm', 'coordinator', 'petra');
    const { climate } = (await test.call('petra', readObservatory, {})).body;
    const [{ id, version, clearOdds }] = climate;
    await test.call('petra', editClimateMonth, { params: { id }, body: { version, clearOdds: 0.123 } });
    await role('Petra Lindholm', 'member', 'petra');
    const refused = await test.call('petra', undoLast, {});
    expect([refused.status, refused.error.message]).toEqual([403, expect.stringMatching(/may no longer change that/)]);
    const odds = async (): Promise<number> => (await test.call('ilse', readObservatory, {})).body.climate[0].clearOdds;
    expect(await odds()).toBe(0.123);
    await role('Petra Lindholm', 'coordinator', 'petra');
    expect((await test.call('petra', undoLast, {})).status).toBe(200);
    expect(await odds()).toBe(clearOdds);
    await role('Petra Lindholm', 'helper', 'petra');
  });

  it('of a project that has another owner now is refused to the one before', async () => {
    const made = await test.call('ruan', addProject, {
      body: {
        name: 'Handed on',
        rigId,
        targetName: 'a field',
        raText: '12 00 00',
        decText: '-20',
        positionAngleDeg: 0,
      },
    });
    const { id } = made.body;
    const { panels, version } = (await test.call('ruan', readProject, { params: { id } })).body;
    await test.call('ruan', addGoal, { body: { panelId: panels[0].id, recipeId, wanted: 5, allPanels: false } });
    await test.call('ruan', editProject, { params: { id }, body: { version, why: 'mine' } });
    await test.ownerDatabase.rows('UPDATE projects SET owner_id = $1 WHERE id = $2', [
      await personId('Mirela Costin'),
      id,
    ]);
    expect((await test.call('ruan', undoLast, {})).status).toBe(403);
    expect((await test.call('ilse', readProject, { params: { id } })).body.why).toBe('mine');
  });

  it('never takes back what somebody else did', async () => {
    const before = (await test.call('ilse', listChanges, {})).body.changes.length;
    const nothing = await test.call('sam', undoLast, {});
    expect([nothing.status, nothing.error.code]).toEqual([
      nothing.status,
      expect.stringMatching(/NOTHING_TO_UNDO|NOT_ALLOWED/),
    ]);
    expect((await test.call('ilse', listChanges, {})).body.changes).toHaveLength(before);
  });
});

describe('dear answers', () => {
  it('are rationed by person: one who asks without end waits, the others do not', async () => {
    await test.cookieOf('jonah');
    const asked = await Promise.all(Array.from({ length: 140 }, () => test.call('jonah', readStanding, {})));
    const refused = asked.filter(({ status }) => status === 429);
    expect(asked.filter(({ status }) => status === 200)).toHaveLength(120);
    expect(refused).toHaveLength(20);
    expect(refused[0].error.message.length).toBeGreaterThan(10);
    expect((await test.call('mirela', readStanding, {})).status).toBe(200);
  });
});

describe('kept pictures of the sky', () => {
  it('lose the least lately used until the rest fit, and nothing more', async () => {
    const folder = await mkdtemp(join(tmpdir(), 'pictures-'));
    for (const [i, name] of ['old', 'older', 'new', 'newer'].entries()) {
      await writeFile(join(folder, name), Buffer.alloc(100));
      const at = [200, 100, 300, 400][i];
      await utimes(join(folder, name), at, at);
    }
    await pruneFolder(folder, 400);
    expect((await readdir(folder)).sort()).toEqual(['new', 'newer', 'old', 'older']);
    await pruneFolder(folder, 250);
    expect((await readdir(folder)).sort()).toEqual(['new', 'newer']);
    await pruneFolder(join(folder, 'no such folder'), 10);
  });
});

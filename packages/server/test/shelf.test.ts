import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import {
  addGoal,
  addProject,
  addTheme,
  catalogueObjects,
  editProject,
  editTheme,
  readNight,
  readObservatory,
  readProject,
  readShelf,
  removeTheme,
  shelve,
  shelveOrbits,
  undoLast,
  unshelve,
} from '@meridiem/contract';
import { angleBetweenDeg, movingPlace, unitVector } from '@meridiem/core';
import type { TestApp } from './test-app.ts';
import { createTestApp } from './test-app.ts';

let test: TestApp;
beforeAll(async () => {
  test = await createTestApp({ exposures: 20 });
}, 60_000);
afterAll(() => test.close());

const shelf = async (who = 'jonah') => (await test.call(who, readShelf)).body;
const lineOf = (perihelion: string, name: string): string => {
  const cells: [number, string][] = [[1, '    CK26Z010'], [15, perihelion], [31, ' 2.104500'], [42, '0.998700'], [52, ' 85.1200'], [62, '120.3400'], [72, ' 67.5600'], [82, '20261010'], [103, name]]; // prettier-ignore
  return cells.reduce((line, [column, text]) => line.padEnd(column - 1) + text, '');
};

describe('the shelf', () => {
  it('keeps a target once, gives it back by undo, and lets a project begin from it', async () => {
    const before = (await shelf()).targets.length;
    const body = { name: 'Dusty arc', raDeg: 100.5, decDeg: -20, sizeArcmin: 30 };
    const { id } = (await test.call('jonah', shelve, { body })).body;
    expect((await shelf()).targets.find((target) => target.id === id)).toMatchObject({
      ...body,
      projects: 0,
      orbit: null,
    });
    const twice = await test.call('mirela', shelve, { body: { ...body, name: 'dusty ARC' } });
    expect([twice.status, JSON.stringify(twice.body)]).toEqual([
      422,
      expect.stringContaining('is on the shelf already'),
    ]);
    await test.call('jonah', unshelve, { params: { id } });
    expect((await shelf()).targets.length).toBe(before);
    await test.call('jonah', undoLast);
    expect((await shelf()).targets.length).toBe(before + 1);
    const { rigs } = (await test.call('jonah', readObservatory)).body;
    await test.call('jonah', addProject, {
      body: {
        name: 'The arc',
        rigId: rigs[0].id,
        targetName: 'Dusty arc',
        targetId: id,
        raText: '100.5°',
        decText: '-20',
        positionAngleDeg: 0,
      },
    });
    expect((await shelf()).targets.find((target) => target.id === id)!.projects).toBe(1);
  });

  it('has themes of targets, any or all of them wanted', async () => {
    const { id } = (await test.call('jonah', addTheme, { body: { name: 'Winter dust', take: 'any' } })).body;
    const again = await test.call('mirela', addTheme, { body: { name: 'winter dust', take: 'all' } });
    expect(again.status).toBe(422);
    const targetIds = (await shelf()).targets.map((target) => target.id);
    await test.call('mirela', editTheme, { params: { id }, body: { take: 'all', targetIds } });
    const after = await shelf();
    expect(after.themes.find((theme) => theme.id === id)).toEqual({ id, name: 'Winter dust', take: 'all' });
    expect(after.targets.every(({ themeIds }) => themeIds.includes(id))).toBe(true);
    await test.call('jonah', removeTheme, { params: { id } });
    const left = await shelf();
    expect(left.themes.some((theme) => theme.id === id)).toBe(false);
    expect(left.targets.length).toBe(after.targets.length);
  });
});

describe('what moves', () => {
  it('is read from one-line orbits, told line by line, and learns newer elements under its name', async () => {
    const text = `${lineOf('2027 02 14.2500', 'C/2026 Z1 (Invented)')}\nnot an orbit`;
    const told = (await test.call('jonah', shelveOrbits, { body: { text } })).body;
    expect(told.names).toEqual(['C/2026 Z1 (Invented)']);
    expect(told.problems).toEqual([{ lineNumber: 2, words: expect.stringContaining('the year of perihelion') }]);
    await test.call('jonah', shelveOrbits, { body: { text: lineOf('2027 02 15.5000', 'C/2026 Z1 (Invented)') } });
    const moving = (await shelf()).targets.filter(({ name }) => name === 'C/2026 Z1 (Invented)');
    expect(moving.length).toBe(1);
    expect(moving[0]).toMatchObject({ raDeg: null, decDeg: null });
    expect(moving[0].orbit!.perihelionMjdTt).toBeCloseTo(61_451.5, 6);
    const lines = await test.database.one<{ n: number }>('SELECT count(*)::int AS n FROM orbits WHERE target_id = $1', [
      moving[0].id,
    ]);
    expect(lines!.n).toBe(2);
    expect((await test.call('jonah', shelveOrbits, { body: { text: ' \n' } })).status).toBe(422);
  });

  it('is planned where its orbit has it that night, not where it was', async () => {
    const target = (await shelf('ilse')).targets.find(({ name }) => name === 'C/2026 Z1 (Invented)')!;
    const { rigs, recipes, tonight, ...site } = (await test.call('ilse', readObservatory)).body;
    const { id } = (
      await test.call('ilse', addProject, {
        body: {
          name: 'Comet',
          rigId: rigs[0].id,
          targetName: target.name,
          targetId: target.id,
          raText: '',
          decText: '',
          positionAngleDeg: 0,
        },
      })
    ).body;
    const draft = (await test.call('ilse', readProject, { params: { id } })).body;
    const recipe = recipes.find(({ rigId }) => rigId === rigs[0].id)!;
    await test.call('ilse', addGoal, {
      body: { panelId: draft.panels[0].id, recipeId: recipe.id, wanted: 10, allPanels: true },
    });
    const granted = await test.call('ilse', editProject, {
      params: { id },
      body: { version: draft.version, state: 'granted' },
    });
    expect(granted.status).toBe(200);
    const page = (await test.call('ilse', readProject, { params: { id } })).body;
    expect(page.moves).toBe(true);
    const now = movingPlace(target.orbit!, site.nowUtcMs, site).position;
    const shown = { raDeg: page.panels[0].raDeg!, decDeg: page.panels[0].decDeg! };
    expect(angleBetweenDeg(unitVector(shown), unitVector(now))).toBeLessThan(0.001);
    const reason = page.panels[0].goals[0].tonight?.reason;
    expect(reason?.code).not.toBe('NO_POSITION');
    expect((await test.call('ilse', readNight, { params: { nightDate: tonight }, query: {} })).status).toBe(200);
  });
});

describe('the catalogue as a whole', () => {
  it('has every object once, in rows', async () => {
    const { objects } = (await test.call('sam', catalogueObjects)).body;
    expect(objects.length).toBeGreaterThan(10_000);
    expect(new Set(objects.map(([designation]) => designation)).size).toBe(objects.length);
  });
});

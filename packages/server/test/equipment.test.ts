// Equipment as its owner sets it, in an observatory founded from nothing but what the interface offers.
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import type { BodyOf } from '@meridiem/contract';
import {
  addCameraMode,
  addFilter,
  addGoal,
  addProject,
  addRecipe,
  copyProject,
  copyRig,
  editFilter,
  editGoal,
  editObservatory,
  editProject,
  listProjects,
  previewRig,
  readNight,
  readObservatory,
  readProject,
  removeGoal,
  renameRecipe,
  renameRig,
  restoreRetired,
  retireCameraMode,
  retireFilter,
  retireRecipe,
  retireRig,
  reviseCameraMode,
  reviseRecipe,
  reviseRig,
  undoLast,
} from '@meridiem/contract';
import { momentOfChange } from '../src/database/validity.ts';
import { rigsOf } from '../src/modules/observatory/repository.ts';
import { takenExposures } from '../src/modules/ledger/repository.ts';
import type { TestApp } from './test-app.ts';
import { createTestApp } from './test-app.ts';

let test: TestApp;
beforeAll(async () => {
  test = await createTestApp({ exposures: 400 });
}, 60_000);
afterAll(() => test.close());

const observatory = async () => (await test.call('ilse', readObservatory)).body;
const rigOf = async (start: string) => (await observatory()).rigs.find(({ name }) => name.startsWith(start))!;
const MODE: BodyOf<typeof addCameraMode> = {
  name: 'Fast readout',
  gain: 320,
  gainKind: 'gain',
  readNoiseE: 3.1,
  fullWellE: 9000,
  ePerAdu: 0.14,
  typicalOffset: 12,
};
const recipe = async (changes: Partial<BodyOf<typeof addRecipe>> = {}): Promise<BodyOf<typeof addRecipe>> => {
  const rig = await rigOf('Wren');
  return {
    name: 'Quick look',
    rigId: rig.id,
    kind: 'light',
    filterId: rig.slots[0].filterId,
    cameraModeId: rig.cameraModes[0].id,
    exposureSec: 45,
    offset: 30,
    binning: 1,
    sensorC: -10,
    pauseSec: 0,
    ditherEvery: 4,
    ditherPx: 12,
    region: null,
    ...changes,
  };
};

describe('camera modes', () => {
  it('are added by a coordinator, each with a name of its own', async () => {
    const { id } = await rigOf('Wren');
    expect((await test.call('mirela', addCameraMode, { params: { id }, body: MODE })).status).toBe(403);
    expect((await test.call('ilse', addCameraMode, { params: { id }, body: MODE })).status).toBe(200);
    expect((await rigOf('Wren')).cameraModes.at(-1)).toMatchObject({ ...MODE, revisionSeq: 1 });
    expect((await test.call('ilse', addCameraMode, { params: { id }, body: MODE })).error.field).toBe('name');
  });

  it('corrected, keep their old numbers for what was exposed before', async () => {
    const before = momentOfChange();
    const [{ id: exposureId, gain }] = await test.database.rows<{ id: string; gain: number }>(
      `SELECT e.id, e.gain FROM exposures e JOIN rig_revisions v ON v.id = e.rig_revision_id JOIN rigs r ON r.id = v.rig_id
       WHERE r.name LIKE 'Wren%' AND e.kind = 'light' AND e.gain IS NOT NULL LIMIT 1`,
    );
    const mode = (await rigOf('Wren')).cameraModes.find((one) => one.gain === gain)!;
    const noiseOfExposure = async () => (await takenExposures(test.database, [exposureId]))[0].detector.readNoiseE;
    expect(await noiseOfExposure()).toBe(mode.readNoiseE);
    const body = { basedOnSeq: mode.revisionSeq, name: 'Corrected', gain: mode.gain + 5, readNoiseE: 2.4 };
    expect((await test.call('ilse', reviseCameraMode, { params: { id: mode.id }, body })).status).toBe(200);
    const now = (await rigOf('Wren')).cameraModes.find(({ id }) => id === mode.id)!;
    expect(now).toMatchObject({ name: 'Corrected', readNoiseE: 2.4, gain: mode.gain + 5, revisionSeq: 2 });
    const { id: observatoryId } = await observatory();
    const then = (await rigsOf(test.database, observatoryId, before)).find(({ name }) => name.startsWith('Wren'))!;
    expect(then.cameraModes.find(({ id }) => id === mode.id)!.readNoiseE).toBe(mode.readNoiseE);
    expect(await noiseOfExposure()).toBe(mode.readNoiseE);
    expect((await test.call('ilse', reviseCameraMode, { params: { id: mode.id }, body })).status).toBe(409);
  });

  it('follow the rig to another camera, and their recipes with them', async () => {
    const rig = await rigOf('Heron');
    const body = { basedOnSeq: rig.revisionSeq, cameraSerial: 'HE-0900', pixelUm: 6 };
    expect((await test.call('ilse', reviseRig, { params: { id: rig.id }, body })).status).toBe(200);
    const now = await rigOf('Heron');
    expect(now).toMatchObject({ cameraSerial: 'HE-0900', pixelUm: 6, cameraModes: rig.cameraModes });
    const { recipes } = await observatory();
    for (const { cameraModeId } of recipes.filter(({ rigId }) => rigId === rig.id))
      expect(now.cameraModes.map(({ id }) => id)).toContain(cameraModeId);
  });

  it('are retired only without recipes, never the last one, and brought back', async () => {
    const { id: wrenId, cameraModes } = await rigOf('Wren');
    const someRecipe = (await observatory()).recipes.find(({ rigId }) => rigId === wrenId)!;
    const used = cameraModes.find(({ id }) => id === someRecipe.cameraModeId)!;
    const refusal = await test.call('ilse', retireCameraMode, { params: { id: used.id } });
    expect(refusal).toMatchObject({
      status: 409,
      error: { message: expect.stringMatching(/Recipes use /) },
    });
    const spare = cameraModes.find(({ name }) => name === MODE.name)!;
    expect((await test.call('ilse', retireCameraMode, { params: { id: spare.id } })).status).toBe(200);
    expect((await rigOf('Wren')).cameraModes).toHaveLength(cameraModes.length - 1);
    expect((await observatory()).retired[0]).toMatchObject({ what: 'camera mode', name: MODE.name });
    expect((await test.call('ilse', addCameraMode, { params: { id: wrenId }, body: MODE })).error.message).toMatch(
      /retired mode/,
    );
    expect((await test.call('ilse', restoreRetired, { params: { id: spare.id } })).status).toBe(200);
    expect((await rigOf('Wren')).cameraModes).toHaveLength(cameraModes.length);
  });
});

describe('filters', () => {
  const OF = {
    letter: 'Hb',
    name: 'Hydrogen beta, 7 nm',
    class: 'narrowband' as const,
    centreNm: 486.1,
    widthNm: 7,
    extinctionMagPerAirmass: 0.21,
    zenithMag: 22,
    moonFactor: 1.4,
  };
  const named = async (letter: string) => (await observatory()).filters.find((filter) => filter.letter === letter)!;

  it('are added, renamed with undo, and no two share a short name', async () => {
    expect((await test.call('ilse', addFilter, { body: OF })).status).toBe(200);
    expect((await test.call('ilse', addFilter, { body: OF })).error.field).toBe('letter');
    const { id, version } = await named('Hb');
    const taken = await test.call('ilse', editFilter, { params: { id }, body: { version, letter: 'Ha' } });
    expect(taken.error).toMatchObject({ field: 'letter', message: expect.stringMatching(/already/) });
    const body = { version, letter: 'Hβ', class: 'broadband' as const };
    expect((await test.call('ilse', editFilter, { params: { id }, body })).status).toBe(200);
    expect(await named('Hβ')).toMatchObject({ class: 'broadband', centreNm: 486.1 });
    await test.call('ilse', undoLast);
    expect(await named('Hb')).toMatchObject({ class: 'narrowband' });
  });

  it('are retired only where no rig and no recipe has them', async () => {
    const { id } = await named('Hb');
    const l = await named('L');
    expect((await test.call('ilse', retireFilter, { params: { id: l.id } })).error.message).toMatch(/Recipes use L/);
    const rig = await rigOf('Heron');
    const fitted = [...rig.slots, { slot: 8, filterId: id, focusOffsetSteps: null }];
    const fit = async (slots: typeof fitted) =>
      test.call('ilse', reviseRig, {
        params: { id: rig.id },
        body: { basedOnSeq: (await rigOf('Heron')).revisionSeq, slots },
      });
    expect((await fit(fitted)).status).toBe(200);
    expect((await test.call('ilse', retireFilter, { params: { id } })).error.message).toMatch(/fitted to a rig/);
    expect((await fit(rig.slots)).status).toBe(200);
    expect((await test.call('ilse', retireFilter, { params: { id } })).status).toBe(200);
    expect(await named('Hb')).toBeUndefined();
    expect((await test.call('ilse', restoreRetired, { params: { id } })).status).toBe(200);
    expect(await named('Hb')).toBeDefined();
  });

  it('fill no more places than there are, and a drawer holds one', async () => {
    const rig = await rigOf('Wren');
    const revise = (body: Omit<BodyOf<typeof reviseRig>, 'basedOnSeq'>) =>
      test.call('ilse', reviseRig, { params: { id: rig.id }, body: { basedOnSeq: rig.revisionSeq, ...body } });
    expect((await revise({ filterPlaces: 5 })).error).toMatchObject({ field: 'slots' });
    expect((await revise({ filterHolder: 'drawer' })).error).toMatchObject({ field: 'filterPlaces' });
    const effects = await test.call('ilse', previewRig, {
      params: { id: rig.id },
      body: { filterHolder: 'drawer', filterPlaces: 1, slots: [rig.slots[0]] },
    });
    expect(effects.body.effects.some(({ words }) => /wait until the filter is fitted/.test(words))).toBe(true);
  });
});

describe('rigs', () => {
  it('are copied with modes, wheel, steps and everybody’s recipes, without projects', async () => {
    const { id, slots, cameraModes } = await rigOf('Heron');
    const body = { name: 'Egret', cameraSerial: 'EG-1' };
    expect((await test.call('ilse', copyRig, { params: { id }, body })).status).toBe(200);
    expect((await test.call('ilse', copyRig, { params: { id }, body })).error.field).toBe('name');
    const copy = await rigOf('Egret');
    expect(copy).toMatchObject({ cameraSerial: 'EG-1', slots, skyAngleDeg: null, revisionSeq: 1 });
    expect(copy.cameraModes.map(({ name, gain }) => [name, gain])).toEqual(cameraModes.map(({ name, gain }) => [name, gain])); // prettier-ignore
    const { recipes } = await observatory();
    const namesOf = (rigId: string) => recipes.filter((one) => one.rigId === rigId).map(({ name }) => name);
    expect(namesOf(copy.id)).toEqual(namesOf(id));
    expect((await test.call('ilse', listProjects)).body.projects.some(({ rigId }) => rigId === copy.id)).toBe(false);
  });

  it('are renamed, parked, and retired once no open project uses them', async () => {
    const { id, revisionSeq } = await rigOf('Egret');
    const stow = { altitudeDeg: 5, azimuthDeg: 90 };
    const body = { basedOnSeq: revisionSeq, stow, roofClears: 'stowed' as const };
    expect((await test.call('ilse', reviseRig, { params: { id }, body })).status).toBe(200);
    expect(await rigOf('Egret')).toMatchObject({ stow, roofClears: 'stowed' });
    expect((await test.call('ilse', renameRig, { params: { id }, body: { name: 'Heron' } })).status).toBe(200);
    const taken = (await observatory()).rigs.find(({ name }) => name.startsWith('Wren'))!.name;
    expect((await test.call('ilse', renameRig, { params: { id }, body: { name: taken } })).error.field).toBe('name');
    const { id: used } = await rigOf('Wren');
    expect((await test.call('ilse', retireRig, { params: { id: used } })).error.message).toMatch(/Projects use Wren/);
    const after = await test.call('ilse', retireRig, { params: { id } });
    expect(after.body.rigs.map((rig) => rig.id)).not.toContain(id);
    expect(after.body.recipes.map(({ rigId }) => rigId)).not.toContain(id);
    expect(after.body.retired[0]).toMatchObject({ id, what: 'rig' });
    const body2 = { name: 'On it', rigId: id, targetName: 'A place', raText: '', decText: '', positionAngleDeg: 0 };
    expect((await test.call('mirela', addProject, { body: body2 })).error.field).toBe('rigId');
  });

  it('that are retired take no project back into use, not even as a copy', async () => {
    const { id: rigId } = await rigOf('Heron');
    await test.database.rows(`UPDATE projects SET state = 'retired' WHERE rig_id = $1`, [rigId]);
    const { projects } = (await test.call('ilse', listProjects)).body;
    const project = projects.find((one) => one.rigId === rigId)!;
    expect((await test.call('ilse', retireRig, { params: { id: rigId } })).status).toBe(200);
    const edit = await test.call('ilse', editProject, {
      params: { id: project.id },
      body: { version: project.version, state: 'draft' },
    });
    expect(edit.error.message).toMatch(/rig of this project is retired/);
    const copy = await test.call('ilse', copyProject, { params: { id: project.id }, body: { name: 'Again', withGoals: true } }); // prettier-ignore
    expect(copy.error.message).toMatch(/rig of this project is retired/);
    expect((await test.call('ilse', readProject, { params: { id: project.id } })).status).toBe(200);
    expect((await test.call('ilse', restoreRetired, { params: { id: rigId } })).status).toBe(200);
  });
});

describe('recipes', () => {
  it('of a member are the member’s own: others look, a coordinator changes', async () => {
    expect((await test.call('mirela', addRecipe, { body: await recipe() })).status).toBe(200);
    const { recipes } = await observatory();
    const own = recipes.find(({ name }) => name === 'Quick look')!;
    expect(own).toMatchObject({ ownerName: expect.stringMatching(/^Mirela/), ditherPx: 12 });
    const revise = (who: 'jonah' | 'mirela' | 'ilse', basedOnSeq: number) =>
      test.call(who, reviseRecipe, { params: { id: own.id }, body: { basedOnSeq, exposureSec: 50 } });
    expect((await revise('jonah', 1)).status).toBe(403);
    expect((await revise('mirela', 1)).status).toBe(200);
    expect((await revise('ilse', 2)).status).toBe(200);
    const shared = recipes.find(({ ownerId }) => ownerId === null)!;
    expect((await test.call('mirela', retireRecipe, { params: { id: shared.id } })).status).toBe(403);
    expect((await test.call('sam', addRecipe, { body: await recipe({ name: 'No' }) })).status).toBe(403);
  });

  it('of light need a filter, fitted or not, darks need none', async () => {
    const refuse = async (changes: Partial<BodyOf<typeof addRecipe>>) =>
      (await test.call('ilse', addRecipe, { body: await recipe({ name: 'New', ...changes }) })).error;
    expect(await refuse({ filterId: null })).toMatchObject({
      field: 'filterId',
      message: expect.stringMatching(/darks/),
    });
    expect(await refuse({ cameraModeId: (await rigOf('Heron')).cameraModes[0].id })).toMatchObject({
      field: 'cameraModeId',
    });
    expect(await refuse({ region: { widthPx: 1601, heightPx: 100 } })).toMatchObject({ field: 'region' });
    const dark = await recipe({ name: 'Dark 300', kind: 'dark', exposureSec: 300, ditherEvery: 0, ditherPx: 0 });
    expect((await test.call('ilse', addRecipe, { body: dark })).status).toBe(200);
    expect((await observatory()).recipes.find(({ name }) => name === 'Dark 300')).toMatchObject({
      kind: 'dark',
      filterId: null,
    });
  });

  it('for calibration, or retired, become no goals', async () => {
    const { projects } = (await test.call('ilse', listProjects)).body;
    const rigId = (await rigOf('Wren')).id;
    const { id } = projects.find((project) => project.rigId === rigId)!;
    const [panel] = (await test.call('ilse', readProject, { params: { id } })).body.panels;
    const goalOf = async (name: string) =>
      test.call('ilse', addGoal, {
        body: {
          panelId: panel.id,
          recipeId: (await observatory()).recipes.find((one) => one.name === name)!.id,
          wanted: 3,
          allPanels: false,
        },
      });
    expect((await goalOf('Dark 300')).error.field).toBe('recipeId');
    expect((await goalOf('Quick look')).status).toBe(200);
    const quick = (await observatory()).recipes.find(({ name }) => name === 'Quick look')!;
    const rename = await test.call('mirela', renameRecipe, { params: { id: quick.id }, body: { name: 'Glance' } });
    expect(rename.status).toBe(200);
    expect((await test.call('mirela', retireRecipe, { params: { id: quick.id } })).status).toBe(200);
    const kept = (await test.call('ilse', readProject, { params: { id } })).body.panels[0].goals;
    expect(kept.map(({ recipeName }) => recipeName)).toContain('Glance');
    const again = await recipe({ name: 'Glance' });
    expect((await test.call('ilse', addRecipe, { body: again })).error.message).toMatch(/retired recipe/);
  });
});

it('a recipe comes back after its filter and its camera mode, never before', async () => {
  const { id: rigId } = await rigOf('Wren');
  await test.call('ilse', addCameraMode, { params: { id: rigId }, body: { ...MODE, name: 'Spare' } });
  const mode = (await rigOf('Wren')).cameraModes.find(({ name }) => name === 'Spare')!;
  await test.call('ilse', addRecipe, { body: await recipe({ name: 'With the spare', cameraModeId: mode.id }) });
  const own = (await observatory()).recipes.find(({ name }) => name === 'With the spare')!;
  await test.call('ilse', retireRecipe, { params: { id: own.id } });
  expect((await test.call('ilse', retireCameraMode, { params: { id: mode.id } })).status).toBe(200);
  const early = await test.call('ilse', restoreRetired, { params: { id: own.id } });
  expect(early).toMatchObject({
    status: 409,
    error: { message: expect.stringMatching(/needs the camera mode Spare/) },
  });
  await test.call('ilse', restoreRetired, { params: { id: mode.id } });
  expect((await test.call('ilse', restoreRetired, { params: { id: own.id } })).status).toBe(200);
});

describe('a goal’s recipe', () => {
  const openProject = async () => {
    const rigId = (await rigOf('Wren')).id;
    const { projects } = (await test.call('ilse', listProjects)).body;
    return projects.find((project) => project.rigId === rigId)!;
  };
  const goalsOf = async (id: string) => (await test.call('ilse', readProject, { params: { id } })).body.panels[0].goals;

  it('is changed in place for another of its filter; its exposures keep their credit', async () => {
    const { id } = await openProject();
    const goal = (await goalsOf(id)).find(({ recipeName }) => / standard$/.test(recipeName))!;
    const body = await recipe({ name: 'Another length', filterId: goal.filterId, exposureSec: 77, ditherPx: 9 });
    await test.call('ilse', addRecipe, { body });
    const { recipes } = await observatory();
    const other = recipes.find(({ name }) => name === 'Another length')!;
    const change = (recipeId: string, version: number) =>
      test.call('ilse', editGoal, { params: { id: goal.id }, body: { version, recipeId } });
    const foreign = recipes.find(({ rigId, filterId, kind }) => kind === 'light' && rigId === other.rigId && filterId !== goal.filterId)!; // prettier-ignore
    expect((await change(foreign.id, goal.version)).error).toMatchObject({
      field: 'recipeId',
      message: expect.stringMatching(/add a goal for another filter instead/),
    });
    expect((await change(other.id, goal.version)).status).toBe(200);
    const changed = (await goalsOf(id)).find((one) => one.id === goal.id)!;
    expect(changed).toMatchObject({ recipeName: 'Another length', exposureSec: 77, ditherPx: 9, region: null });
    expect(changed.tally.accepted).toBe(goal.tally.accepted);
    await test.call('ilse', undoLast);
    expect((await goalsOf(id)).find((one) => one.id === goal.id)!.recipeId).toBe(goal.recipeId);
  });

  it('goes with its goal where nothing was exposed, and comes back by undo', async () => {
    const { id } = await openProject();
    const [panel] = (await test.call('ilse', readProject, { params: { id } })).body.panels;
    const other = (await observatory()).recipes.find(({ name }) => name === 'Another length')!;
    await test.call('ilse', addGoal, { body: { panelId: panel.id, recipeId: other.id, wanted: 4, allPanels: false } });
    const goal = (await goalsOf(id)).find(({ recipeId }) => recipeId === other.id)!;
    expect((await test.call('ilse', removeGoal, { params: { id: goal.id } })).status).toBe(200);
    expect((await goalsOf(id)).map((one) => one.id)).not.toContain(goal.id);
    await test.call('ilse', undoLast);
    expect((await goalsOf(id)).find((one) => one.id === goal.id)).toMatchObject({ wanted: 4, recipeId: other.id });
  });
});

it('bounds are moved by a coordinator, with undo, and never beyond what is safe', async () => {
  const { version, bounds } = await observatory();
  const set = (changes: Partial<typeof bounds>) =>
    test.call('ilse', editObservatory, { body: { version, bounds: changes } });
  expect((await set({ sunAltitudeMaxDeg: 3 })).status).toBe(400);
  expect((await set({ mountAltitudeMinDeg: 22 })).body.bounds).toEqual({ ...bounds, mountAltitudeMinDeg: 22 });
  await test.call('ilse', undoLast);
  expect((await observatory()).bounds).toEqual(bounds);
});

it('the call time follows the preparation that the observatory takes', async () => {
  const { version } = await observatory();
  const set = (preparationMin: number) => test.call('ilse', editObservatory, { body: { version, preparationMin } });
  expect((await set(600)).status).toBe(400);
  expect((await set(30)).body.preparationMin).toBe(30);
  expect((await test.call('sam', readNight, { params: { nightDate: 'tonight' } })).body.preparationMin).toBe(30);
});

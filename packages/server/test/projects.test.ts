import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import type { Goal, Project } from '@meridiem/contract';
import {
  addGoal,
  addProject,
  addRecipe,
  checkSunset,
  copyProject,
  editFilter,
  editGoal,
  editObservatory,
  editPanel,
  editProject,
  grantRequest,
  listChanges,
  listProjects,
  readNight,
  readObservatory,
  readProject,
  readProjectRequests,
  removeGoal,
  replaceHorizon,
  reviseRecipe,
  reviseRig,
  searchCatalogue,
  setLimit,
  undoLast,
} from '@meridiem/contract';
import type { TestApp } from './test-app.ts';
import { createTestApp } from './test-app.ts';

let test: TestApp;
beforeAll(async () => {
  test = await createTestApp();
}, 60_000);
afterAll(() => test.close());

const projectNamed = async (part: string): Promise<Project> => {
  const { body } = await test.call('ilse', listProjects);
  const row = body.projects.find((project) => project.name.includes(part))!;
  return (await test.call('ilse', readProject, { params: { id: row.id } })).body;
};
const observatory = async () => (await test.call('ilse', readObservatory)).body;

describe('a new project', () => {
  const fields = { name: 'Trial', targetName: 'Trial', positionAngleDeg: 0 };

  it('may have no position, which is none and not zero', async () => {
    const { rigs } = await observatory();
    const { body } = await test.call('ruan', addProject, {
      body: { ...fields, rigId: rigs[0].id, raText: '', decText: ' ' },
    });
    const { body: project } = await test.call('ruan', readProject, { params: { id: body.id } });
    expect(project.panels[0]).toMatchObject({ raDeg: null, decDeg: null });
    expect(project).toMatchObject({ state: 'draft', ownerName: 'Ruan Aldous', mayEdit: true });
    const granted = await test.call('ilse', editProject, {
      params: { id: body.id },
      body: { version: project.version, state: 'granted' },
    });
    expect(granted).toMatchObject({ status: 422, error: { field: 'state' } });
  });

  it.each([
    ['5 34 32', '', 'decText', /declination is missing/],
    ['', '-5', 'raText', /right ascension is missing/],
    ['25h', '-5', 'raText', /outside/],
    ['5h', '-95', 'decText', /outside/],
  ])('with RA "%s" and Dec "%s" is refused at its field', async (raText, decText, field, words) => {
    const { rigs } = await observatory();
    const { status, error } = await test.call('ruan', addProject, {
      body: { ...fields, rigId: rigs[0].id, raText, decText },
    });
    expect(status).toBe(422);
    expect(error.field).toBe(field);
    expect(error.message).toMatch(words);
  });

  it('names the field that the contract refuses', async () => {
    const { error } = await test.call('ruan', addProject, {
      body: { ...fields, name: '', rigId: 'x', raText: '', decText: '' },
    });
    expect(error).toMatchObject({ code: 'INPUT_INVALID' });
    expect(error.field).toBeDefined();
  });
});

describe('goals', () => {
  it('are put on all panels at once, with a definite recipe', async () => {
    const mosaic = await projectNamed('six panels');
    const { recipes } = await observatory();
    const recipe = recipes.find(
      (candidate) =>
        candidate.rigId === mosaic.rigId && !mosaic.panels[0].goals.some((goal) => goal.recipeId === candidate.id),
    )!;
    const { body } = await test.call('mirela', addGoal, {
      body: { panelId: mosaic.panels[0].id, recipeId: recipe.id, wanted: 12, allPanels: true },
    });
    expect(body.ids).toHaveLength(6);
    const twice = await test.call('mirela', addGoal, {
      body: { panelId: mosaic.panels[0].id, recipeId: recipe.id, wanted: 12, allPanels: true },
    });
    expect(twice).toMatchObject({ status: 422, error: { field: 'recipeId' } });
    const undone = await test.call('mirela', undoLast);
    expect(undone.body.words).toMatch(/Undone: new goal/);
    expect((await projectNamed('six panels')).panels.every((panel) => panel.goals.length === 3)).toBe(true);
  });

  it('refuse a recipe of another rig', async () => {
    const mosaic = await projectNamed('six panels');
    const other = (await observatory()).recipes.find((recipe) => recipe.rigId !== mosaic.rigId)!;
    const { error } = await test.call('mirela', addGoal, {
      body: { panelId: mosaic.panels[0].id, recipeId: other.id, wanted: 1, allPanels: false },
    });
    expect(error).toMatchObject({ code: 'VALUE_REFUSED', field: 'recipeId' });
  });

  it('merge edits of different fields and refuse the same field with both values', async () => {
    const goal = (await projectNamed('in colour')).panels[0].goals[0];
    const edit = (who: string, fields: object) =>
      test.call(who, editGoal, { params: { id: goal.id }, body: { version: goal.version, ...fields } });
    expect((await edit('ruan', { wanted: 777 })).status).toBe(200);
    expect((await edit('ilse', { why: 'deeper' })).status).toBe(200);
    const conflict = await edit('ilse', { wanted: 5 });
    expect(conflict).toMatchObject({
      status: 409,
      error: { code: 'CONFLICT', field: 'wanted', details: { stored: 777, offered: 5 } },
    });
    expect((await projectNamed('in colour')).panels[0].goals[0]).toMatchObject({ wanted: 777, why: 'deeper' });
  });

  it('go back by undo, unless somebody built on the change', async () => {
    const goal = (await projectNamed('in colour')).panels[0].goals[1];
    const edit = (who: string, version: number, wanted: number) =>
      test.call(who, editGoal, { params: { id: goal.id }, body: { version, wanted } });
    await edit('ruan', goal.version, 41);
    expect((await test.call('ruan', undoLast)).status).toBe(200);
    expect(await wantedOf(goal)).toBe(goal.wanted);
    const after = (await projectNamed('in colour')).panels[0].goals[1];
    await edit('ruan', after.version, 42);
    await edit('ilse', after.version + 1, 43);
    expect(await test.call('ruan', undoLast)).toMatchObject({ status: 409, error: { code: 'CONFLICT' } });
  });
  const wantedOf = async (goal: Goal) =>
    (await projectNamed('in colour')).panels[0].goals.find((candidate) => candidate.id === goal.id)!.wanted;

  it('of another member are not for changing', async () => {
    const goal = (await projectNamed('in colour')).panels[0].goals[0];
    expect(
      await test.call('jonah', editGoal, { params: { id: goal.id }, body: { version: goal.version, wanted: 1 } }),
    ).toMatchObject({ status: 403, error: { code: 'NOT_ALLOWED' } });
  });

  it('with exposures stay; others can be removed', async () => {
    const used = (await projectNamed('in colour')).panels[0].goals.find(
      (goal) => goal.tally.accepted + goal.tally.rejected + goal.tally.undecided > 0,
    );
    if (used)
      expect(await test.call('ruan', removeGoal, { params: { id: used.id } })).toMatchObject({
        status: 409,
        error: { code: 'NOT_POSSIBLE' },
      });
    const fresh = (await projectNamed('along the diagonal')).panels[0].goals[0];
    expect((await test.call('jonah', removeGoal, { params: { id: fresh.id } })).status).toBe(200);
  });

  it('show time left with the overhead apart, and an end for what is planned', async () => {
    const { goals } = (await projectNamed('in colour')).panels[0];
    const open = goals.find((goal) => (goal.tally.toPlan ?? 0) > 0)!;
    expect(open.leftExposingSec).toBe(open.tally.toPlan! * open.exposureSec);
    expect(open.leftOverheadSec).toBeGreaterThan(0);
    for (const goal of goals) if (goal.tonight!.planned > 0) expect(goal.tonight!.plannedEndUtcMs).toBeGreaterThan(0);
    for (const goal of goals) if (goal.tonight!.planned === 0) expect(goal.tonight!.reason).not.toBeNull();
  });
});

describe('limits', () => {
  it('of a project carry their origin, can be switched off and given back', async () => {
    const project = await projectNamed('in colour');
    const set = (setting: object) =>
      test.call('ruan', setLimit, {
        body: {
          scope: 'project',
          scopeId: project.id,
          class: 'broadband',
          key: 'minAltitudeDeg',
          setting: setting as never,
        },
      });
    const shown = async () =>
      (await projectNamed('in colour')).panels[0].goals[0].limits.find((limit) => limit.key === 'minAltitudeDeg');
    expect(await shown()).toMatchObject({ value: 32, origin: 'observatory' });
    await set({ value: 44 });
    expect(await shown()).toMatchObject({ value: 44, origin: 'project class' });
    await set({ off: true });
    expect(await shown()).toMatchObject({ value: null, origin: 'project class' });
    await test.call('ruan', undoLast);
    expect(await shown()).toMatchObject({ value: 44 });
    await set({ inherit: true });
    expect(await shown()).toMatchObject({ value: 32, origin: 'observatory' });
    expect(await set({ value: 200 })).toMatchObject({ status: 422, error: { field: 'value' } });
  });

  it('of the observatory are the coordinator’s', async () => {
    const body = {
      scope: 'observatory' as const,
      scopeId: null,
      class: null,
      key: 'minAltitudeDeg' as const,
      setting: { value: 20 },
    };
    expect((await test.call('ruan', setLimit, { body })).status).toBe(403);
    expect((await test.call('ilse', setLimit, { body })).status).toBe(200);
    await test.call('ilse', undoLast);
  });
});

describe('members and states', () => {
  it('a member proposes, a coordinator grants', async () => {
    const project = await projectNamed('and its field');
    const edit = (who: string, fields: object) =>
      test.call(who, editProject, { params: { id: project.id }, body: { version: project.version, ...fields } });
    expect((await edit('ruan', { state: 'granted' })).status).toBe(403);
    expect((await edit('ruan', { grade: 3 })).status).toBe(403);
    // Its hours are asked for: it is granted by that request.
    const params = { id: project.id };
    const { requests } = (await test.call('ilse', readProjectRequests, { params })).body;
    const body = { darkHours: 2, brightHours: 0, remark: '' };
    expect((await test.call('ilse', grantRequest, { params: { id: requests[0].id }, body })).status).toBe(200);
    expect((await projectNamed('and its field')).state).toBe('granted');
  });

  it('a resting project keeps everything and is out of tonight', async () => {
    const { tonight } = (await test.call('ilse', listProjects)).body.projects.find((project) => project.resting)!;
    expect(tonight).toMatchObject({ planned: 0, reason: { code: 'RESTING' } });
  });

  it('a new pointing is added, never written over', async () => {
    const project = await projectNamed('along the diagonal');
    await test.call('jonah', editPanel, {
      params: { id: project.panels[0].id },
      body: { raText: '01 00 00', decText: '-30 00 00', positionAngleDeg: 12 },
    });
    expect((await projectNamed('along the diagonal')).panels[0]).toMatchObject({
      raDeg: 15,
      decDeg: -30,
      positionAngleDeg: 12,
    });
    const count = await test.database.one<{ n: number }>(
      'SELECT count(*)::int AS n FROM panel_pointings WHERE panel_id = $1',
      [project.panels[0].id],
    );
    expect(count?.n).toBe(2);
  });

  it('history names who changed what', async () => {
    const project = await projectNamed('in colour');
    const { body } = await test.call('sam', listChanges, { query: { project: project.id } });
    expect(body.changes.map((change) => change.who)).toEqual(expect.arrayContaining(['Ruan Aldous', 'Ilse Marwick']));
  });
});

describe('the catalogue', () => {
  it.each([
    ['ngc0253', 'NGC 253'],
    ['M 83', 'M 83'],
    ['ngc 5236', 'M 83'],
    ['sculptor galaxy', 'NGC 253'],
  ])('finds %s', async (q, designation) => {
    const { body } = await test.call('sam', searchCatalogue, { query: { q } });
    expect(body.objects[0]?.designation).toBe(designation);
  });

  it('reads typed coordinates', async () => {
    const { body } = await test.call('sam', searchCatalogue, { query: { q: '05 38 42 −69 06 03' } });
    expect(body.objects[0]).toMatchObject({ kind: 'place' });
    expect(body.objects[0].raDeg).toBeCloseTo(84.675, 3);
  });

  it('finds nothing for nonsense', async () =>
    expect((await test.call('sam', searchCatalogue, { query: { q: 'qwxyz' } })).body.objects).toEqual([]));
});

describe('the observatory', () => {
  it('tells a wrong hemisphere by the noon sun', async () => {
    const place = { longitudeDeg: 137.85, elevationM: 610, timeZone: 'Australia/Adelaide' };
    const south = (await test.call('ilse', checkSunset, { query: { ...place, latitudeDeg: -31.62 } })).body;
    const north = (await test.call('ilse', checkSunset, { query: { ...place, latitudeDeg: 31.62 } })).body;
    expect(Math.abs(south.noonSunAzimuthDeg - 180)).toBeGreaterThan(90);
    expect(Math.abs(north.noonSunAzimuthDeg - 180)).toBeLessThan(90);
  });

  it('refuses an unknown zone at its field', async () => {
    const { version } = await observatory();
    expect(await test.call('ilse', editObservatory, { body: { version, timeZone: 'Nowhere/Else' } })).toMatchObject({
      status: 422,
      error: { field: 'timeZone' },
    });
  });

  it('names the line of a horizon that can not be read, and converts what was seen through air', async () => {
    const bad = await test.call('ilse', replaceHorizon, { body: { text: '0 10\n10 x', asSeen: false } });
    expect(bad.error.message).toMatch(/Line 2/);
    const seen = await test.call('ilse', replaceHorizon, { body: { text: '0 10\n180 10', asSeen: true } });
    expect(seen.body.horizon[0].altitudeDeg).toBeLessThan(9.95);
    expect(seen.body.horizon[0].altitudeDeg).toBeGreaterThan(9.85);
  });

  it('keeps revisions of a rig, and refuses a flip later than the mount’s limit', async () => {
    const [rig] = (await observatory()).rigs;
    const revise = (fields: object) =>
      test.call('ilse', reviseRig, { params: { id: rig.id }, body: { basedOnSeq: rig.revisionSeq, ...fields } });
    expect(await revise({ flipAfterSec: 1200 })).toMatchObject({ status: 422, error: { field: 'flipAfterSec' } });
    const { body } = await revise({ focalLengthMm: 424, pixelUm: 4.63, skyAngleDeg: 30 });
    expect(body.rigs[0]).toMatchObject({
      revisionSeq: rig.revisionSeq + 1,
      focalLengthMm: 424,
      pixelUm: 4.63,
      skyAngleDeg: 30,
    });
    expect(await revise({ focalLengthMm: 500 })).toMatchObject({ status: 409, error: { code: 'CONFLICT' } });
  });

  it('adds recipes with a definite filter and revises them', async () => {
    const { rigs, filters } = await observatory();
    const settings = {
      exposureSec: 60,
      offset: 30,
      binning: 1,
      sensorC: -10,
      pauseSec: 0,
      ditherEvery: 0,
      ditherPx: 0,
    };
    const added = await test.call('ilse', addRecipe, {
      body: {
        name: 'Short L',
        kind: 'light',
        region: null,
        rigId: rigs[0].id,
        filterId: filters[0].id,
        cameraModeId: rigs[0].cameraModes[0].id,
        ...settings,
      },
    });
    const recipe = added.body.recipes.find((candidate) => candidate.name === 'Short L')!;
    expect(recipe.ditherEvery).toBe(0);
    const revised = await test.call('ilse', reviseRecipe, {
      params: { id: recipe.id },
      body: { basedOnSeq: 1, exposureSec: 90 },
    });
    expect(revised.body.recipes.find((candidate) => candidate.id === recipe.id)).toMatchObject({
      exposureSec: 90,
      revisionSeq: 2,
    });
  });

  it('edits filters', async () => {
    const [filter] = (await observatory()).filters;
    const { body } = await test.call('ilse', editFilter, {
      params: { id: filter.id },
      body: { version: filter.version, moonFactor: 1.1 },
    });
    expect(body.filters[0].moonFactor).toBe(1.1);
  });
});

describe('a night', () => {
  it('has a plan for each rig, with a reason for what is left out', async () => {
    const { body } = await test.call('sam', readNight, { params: { nightDate: 'tonight' } });
    expect(body).toMatchObject({ isTonight: true, isEstimate: false, timeZone: 'Australia/Adelaide' });
    expect(body.rigs).toHaveLength(2);
    expect(body.rigs.flatMap((rig) => rig.blocks).length).toBeGreaterThan(0);
    for (const { reason } of body.rigs.flatMap((rig) => rig.leftOut)) expect(reason.code).not.toBe('');
  });

  it('of the coming quarter is an estimate; beyond is not there', async () => {
    expect((await test.call('sam', readNight, { params: { nightDate: '2026-11-20' } })).body.isEstimate).toBe(true);
    expect((await test.call('sam', readNight, { params: { nightDate: '2027-11-20' } })).status).toBe(404);
  });
});

describe('a copy', () => {
  it('has target, panels, limits and goals, and nothing that was gathered', async () => {
    const source = await projectNamed('six panels');
    const copied = await test.call('jonah', copyProject, {
      params: { id: source.id },
      body: { name: 'Six again', withGoals: true },
    });
    const { body: copy } = await test.call('jonah', readProject, { params: copied.body });
    expect(copy).toMatchObject({ name: 'Six again', ownerName: 'Jonah Teague', state: 'draft', mayEdit: true });
    expect(copy.limits).toEqual(source.limits);
    expect(copy.panels.map(({ raDeg, decDeg, positionAngleDeg }) => ({ raDeg, decDeg, positionAngleDeg }))).toEqual(
      source.panels.map(({ raDeg, decDeg, positionAngleDeg }) => ({ raDeg, decDeg, positionAngleDeg })),
    );
    const goals = copy.panels.flatMap((panel) => panel.goals);
    expect(goals.map(({ filterLetter, wanted }) => [filterLetter, wanted])).toEqual(
      source.panels.flatMap((panel) => panel.goals).map(({ filterLetter, wanted }) => [filterLetter, wanted]),
    );
    expect(goals.every(({ tally }) => tally.accepted + tally.undecided + tally.rejected === 0)).toBe(true);
  });

  it('may come without goals, and of a private project only to those who see it', async () => {
    const source = await projectNamed('six panels');
    const params = { id: source.id };
    const bare = await test.call('ilse', copyProject, { params, body: { name: 'Bare', withGoals: false } });
    const { body: copy } = await test.call('ilse', readProject, { params: bare.body });
    expect(copy.panels).toHaveLength(source.panels.length);
    expect(copy.panels.flatMap((panel) => panel.goals)).toEqual([]);
    await test.ownerDatabase.rows('UPDATE projects SET private = true WHERE id = $1', [source.id]);
    const other = source.ownerName === 'Jonah Teague' ? 'ruan' : 'jonah';
    expect((await test.call(other, copyProject, { params, body: { name: 'x', withGoals: true } })).status).toBe(404);
    await test.ownerDatabase.rows('UPDATE projects SET private = false WHERE id = $1', [source.id]);
  });
});

describe('a goal whose exposures mix gains', () => {
  it('says so', async () => {
    const before = await test.database.one<{ goalId: string; projectId: string; exposureId: string }>(
      `SELECT goal_id AS "goalId", project_id AS "projectId", exposure_id AS "exposureId" FROM ledger_rows WHERE goal_id IS NOT NULL AND verdict = 'accepted' LIMIT 1`,
    );
    const { goalId, projectId, exposureId } = before!;
    const goalNow = async () => {
      const { body } = await test.call('ilse', readProject, { params: { id: projectId } });
      return body.panels.flatMap((panel) => panel.goals).find((goal) => goal.id === goalId)!;
    };
    expect((await goalNow()).mixed).toBeNull();
    const [{ gain }] = await test.ownerDatabase.rows<{ gain: number }>('SELECT gain FROM exposures WHERE id = $1', [exposureId]); // prettier-ignore
    await test.ownerDatabase.rows('UPDATE exposures SET gain = 999 WHERE id = $1', [exposureId]);
    expect((await goalNow()).mixed).toMatch(/gains .*999/);
    await test.ownerDatabase.rows('UPDATE exposures SET gain = $2 WHERE id = $1', [exposureId, gain]);
  });
});

describe('what was exposed before', () => {
  it('is offered as recipes, and a goal that has another setting says so', async () => {
    const { projectId, filterId } = (await test.database.one<{ projectId: string; filterId: string }>(
      `SELECT r.project_id AS "projectId", e.filter_id AS "filterId" FROM ledger_rows r JOIN exposures e ON e.id = r.exposure_id
       WHERE r.goal_id IS NOT NULL AND r.verdict = 'accepted' ORDER BY e.start_utc LIMIT 1`,
    ))!;
    const read = async () => (await test.call('ilse', readProject, { params: { id: projectId } })).body;
    const project = await read();
    const before = project.earlier.find((row) => row.filterId === filterId)!;
    const recipe = (await observatory()).recipes.find(({ id }) => id === before.recipeId)!;
    expect(recipe).toMatchObject({ filterId, exposureSec: before.exposureSec, binning: before.binning });
    const goalNow = async (): Promise<Goal> =>
      (await read()).panels.flatMap((panel) => panel.goals).find((goal) => goal.recipeId === recipe.id)!;
    expect((await goalNow()).differs).toBeNull();

    await test.call('ilse', reviseRecipe, {
      params: { id: recipe.id },
      body: { basedOnSeq: recipe.revisionSeq, exposureSec: recipe.exposureSec + 60 },
    });
    // A new goal would take the newest revision, which is no longer what was exposed before.
    expect((await read()).earlier.find((row) => row.filterId === filterId)!.recipeId).toBeNull();
    const goal = await goalNow();
    expect(goal.differs).toBeNull();
    const taken = { version: goal.version, takeNewestRevision: true as const };
    await test.call('ilse', editGoal, { params: { id: goal.id }, body: taken });
    expect((await goalNow()).differs).toBe(`${before.exposureSec} s`);
  });
});

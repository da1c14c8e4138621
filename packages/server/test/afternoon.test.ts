import { randomUUID } from 'node:crypto';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import type { NightPage, RigPlan } from '@meridiem/contract';
import {
  beginStep,
  changeByHand,
  claimRun,
  editEarlyEnds,
  editObservatory,
  editProject,
  endRun,
  fetchForecast,
  finishStep,
  importForecast,
  keepHandChange,
  listGoalSets,
  listNotices,
  listProjects,
  previewLimit,
  publishPlan,
  putGoals,
  readEarlyEnds,
  readFits,
  readForecast,
  readNight,
  readNightStandings,
  readObservatory,
  readPlanning,
  readProject,
  rehearseNight,
  saveGoalSet,
  seeNotices,
  setRigSteps,
  undoLast,
} from '@meridiem/contract';
import { planNight } from '@meridiem/core';
import type { TestApp } from './test-app.ts';
import { takenExposure } from './taken-exposure.ts';
import { createTestApp } from './test-app.ts';

let test: TestApp;
let rigId: string;
const nightDate = '2026-10-11';
const MINUTE = 60_000;
beforeAll(async () => {
  test = await createTestApp({ exposures: 200 });
  const { body } = await test.call('ilse', readNight, { params: { nightDate } });
  rigId = body.rigs.reduce((most, rig) => (rig.blocks.length > most.blocks.length ? rig : most)).rigId;
}, 60_000);
afterAll(() => test.close());

const night = async (plan?: string): Promise<NightPage> =>
  (await test.call('ilse', readNight, { params: { nightDate }, query: plan ? { plan } : {} })).body;
const planOf = async (plan?: string): Promise<RigPlan> => (await night(plan)).rigs.find((rig) => rig.rigId === rigId)!;
const byHand = (changes: Parameters<typeof test.call>[2] extends infer _ ? object[] : never, replaces: string[] = []) =>
  test.call('ilse', changeByHand, {
    params: { id: rigId, nightDate },
    body: { changes: changes as never, replaces },
  });

describe('a night that may end early', () => {
  const ends = async (who = 'ilse') => (await test.call(who, readEarlyEnds, { params: { id: rigId, nightDate } })).body;

  it('is told hour by hour: exposures held by then, as the plan has them', async () => {
    const { blocks } = await planOf('working');
    const { chancePercent, cuts, price } = await ends('sam');
    expect([chancePercent, price]).toEqual([0, null]);
    const runs = blocks.flatMap((block) => block.runs);
    const last = cuts.at(-1)!;
    expect(last.utcMs).toBe(blocks.at(-1)!.endUtcMs);
    expect(last.exposures.reduce((sum, { count }) => sum + count, 0)).toBe(
      runs.reduce((sum, { count }) => sum + count, 0),
    );
    for (const [i, { utcMs, heldShare }] of cuts.entries()) {
      if (i > 0) expect(utcMs).toBeGreaterThan(cuts[i - 1].utcMs);
      expect(heldShare).toBeGreaterThanOrEqual(0);
      expect(heldShare).toBeLessThanOrEqual(1);
    }
  });

  it('is planned otherwise once a coordinator says how likely it is, at a price; undo plans as before', async () => {
    const before = await planOf('working');
    expect((await test.call('ilse', editEarlyEnds, { body: { chancePercent: 30 } })).status).toBe(200);
    const { chancePercent, price } = await ends();
    expect(chancePercent).toBe(30);
    expect(price!.lostShare).toBeGreaterThanOrEqual(0);
    expect(price!.gainShare).toBeGreaterThanOrEqual(0);
    expect((await test.call('ilse', readPlanning, { params: { id: rigId, nightDate } })).body.request.endHazardPerHour).toBeCloseTo(0.3567, 4); // prettier-ignore
    const during = await planOf('working');
    if (price!.gainShare > 0.001) expect(during.blocks).not.toEqual(before.blocks);
    await test.call('ilse', undoLast);
    expect((await planOf('working')).blocks).toEqual(before.blocks);
    expect((await ends()).chancePercent).toBe(0);
  });

  it('is not set beyond what plans can allow for', async () => {
    const answer = await test.call('ilse', editEarlyEnds, { body: { chancePercent: 70 } });
    expect(answer.status).toBe(400);
    expect(JSON.stringify(answer.error)).toContain('chancePercent');
    expect((await ends()).chancePercent).toBe(0);
  });
});

describe('hand changes', () => {
  it('leave a panel out, tell the value before, and are undone whole', async () => {
    const before = await planOf('working');
    const { panelId } = before.blocks[0];
    await byHand([{ id: randomUUID(), kind: 'ban', panelId }]);
    const after = await planOf('working');
    expect(after.blocks.some((block) => block.panelId === panelId)).toBe(false);
    expect(after.wishes).toMatchObject([{ kind: 'ban', panelId, broken: null }]);
    expect(after.automaticValue).toBeCloseTo(before.value, 9);
    expect((await planOf('automatic')).blocks).toEqual(before.blocks);
    await test.call('ilse', undoLast);
    expect((await planOf('working')).blocks).toEqual(before.blocks);
  });

  it('pin a run; the page plans the same by itself from what the server gave it', async () => {
    const before = await planOf('working');
    const run = before.blocks[0].runs[0];
    const change = { id: randomUUID(), kind: 'pin', goalId: run.goalId, utcMs: run.startUtcMs + 6 * MINUTE, count: 2 };
    await byHand([change]);
    const after = await planOf('working');
    const starts = after.blocks.flatMap((b) => b.runs).filter((r) => r.goalId === run.goalId);
    expect(starts.some((r) => Math.abs(r.startUtcMs - change.utcMs) < 1000 || r.startUtcMs < change.utcMs)).toBe(true);
    const { body } = await test.call('ilse', readPlanning, { params: { id: rigId, nightDate } });
    expect(body.request.wishes).toHaveLength(1);
    const own = planNight(body.request, { seed: 1, iterations: 400 }).plan;
    expect(own.blocks.map((b) => b.runs.map((r) => r.startUtcMs))).toEqual(
      after.blocks.map((b) => b.runs.map((r) => r.startUtcMs)),
    );
    await byHand([], [change.id]);
    expect((await planOf('working')).blocks).toEqual(before.blocks);
  });

  it('outside the limits are said to be broken, with what is kept', async () => {
    const { blocks } = await planOf('working');
    const { goalId } = blocks[0].runs[0];
    const id = randomUUID();
    const sunset = (await night()).sky.sunsetUtcMs!;
    await byHand([{ id, kind: 'pin', goalId, utcMs: sunset, count: 3 }]);
    expect((await planOf('working')).wishes).toMatchObject([{ broken: { code: 'OUTSIDE_LIMITS', kept: 0, asked: 3 } }]);
    await byHand([], [id]);
  });

  it('of what is not on the rig are refused at their field', async () => {
    const refusal = await byHand([{ id: randomUUID(), kind: 'ban', panelId: randomUUID() }]);
    expect(refusal).toMatchObject({ status: 422, error: { field: 'panelId' } });
  });

  it('kept for good become a limit or switch goals off', async () => {
    const { blocks } = await planOf('working');
    const [first, ...others] = blocks;
    const second = others.find((block) => block.projectId !== first.projectId) ?? others[0];
    const [hold, ban] = [randomUUID(), randomUUID()];
    await byHand([
      { id: hold, kind: 'not_before', panelId: first.panelId, utcMs: first.startUtcMs + 20 * MINUTE },
      { id: ban, kind: 'ban', panelId: second.panelId },
    ]);
    const kept = await test.call('ilse', keepHandChange, { params: { id: hold } });
    expect(kept.body.words).toMatch(/not before \d\d:\d\d on every night/);
    await test.call('ilse', keepHandChange, { params: { id: ban } });
    expect((await planOf('working')).wishes).toEqual([]);
    const project = (await test.call('ilse', readProject, { params: { id: second.projectId } })).body;
    const panel = project.panels.find(({ id }) => id === second.panelId)!;
    expect(panel.goals.every(({ enabled }) => !enabled)).toBe(true);
    for (let i = 0; i < 1 + panel.goals.length; i++) await test.call('ilse', undoLast);
  });
});

describe('the cut-off hour', () => {
  it('freezes a published plan: later versions need a reason and tell the members they touch', async () => {
    const first = await test.call('ilse', publishPlan, { params: { nightDate }, body: { rigId } });
    expect(first.body.seq).toBe(1);
    const { body: site } = await test.call('ilse', readObservatory);
    // The clock of the tests stands in the morning; the night's cut-off is put before it.
    expect((await planOf()).cutOffUtcMs).toBeGreaterThan(site.nowUtcMs);
    const plan = await planOf();
    const { panelId, projectId } = plan.blocks[0];
    await byHand([{ id: randomUUID(), kind: 'ban', panelId }]);
    await test.ownerDatabase.rows(`UPDATE observatories SET cut_off_clock_min = 1439`);
    const early = await test.call('ilse', publishPlan, { params: { nightDate }, body: { rigId } });
    expect(early.body.seq).toBe(2);
    const owner = (await test.call('ilse', listProjects)).body.projects.find(({ id }) => id === projectId)!;
    const person = test.story && (await keyOf(owner.ownerName));
    const told = (await test.call(person, listNotices)).body;
    expect(told.unseen).toBeGreaterThan(0);
    expect(told.notices[0].words).toMatch(/version 2/);
    await test.call(person, seeNotices);
    expect((await test.call(person, listNotices)).body.unseen).toBe(0);
  });

  it('keeps every version to be looked at again', async () => {
    expect((await planOf('v1')).state).toBe('superseded');
    const { versions } = await planOf();
    expect(versions.map(({ seq }) => seq)).toEqual([2, 1]);
    const missing = await test.call('ilse', readNight, { params: { nightDate }, query: { plan: 'v9' } });
    expect(missing.status).toBe(404);
  });

  it('is the coordinator’s to set', async () => {
    const { body: site } = await test.call('ilse', readObservatory);
    const changed = await test.call('ilse', editObservatory, { body: { version: site.version, cutOffClockMin: 960 } });
    expect(changed.body.cutOffClockMin).toBe(960);
  });
});

async function keyOf(name: string): Promise<string> {
  const { PEOPLE } = await import('../../../demo/people.ts');
  return PEOPLE.find((person) => person.name === name)!.key;
}

describe('goals at once', () => {
  it('are put on several panels, take counts of those that are there, and are undone as one', async () => {
    const { body: all } = await test.call('ilse', listProjects);
    const mosaic = all.projects.reduce((most, one) => (one.panelCount > most.panelCount ? one : most));
    const { body: site } = await test.call('ilse', readObservatory);
    const recipes = site.recipes.filter((recipe) => recipe.rigId === mosaic.rigId).slice(0, 3);
    const before = (await test.call('ilse', readProject, { params: { id: mosaic.id } })).body;
    const items = recipes.map((recipe, i) => ({ recipeId: recipe.id, wanted: 11 + i }));
    const saved = await test.call('ilse', saveGoalSet, { body: { rigId: mosaic.rigId, name: 'Three at once', items } });
    expect(saved.status).toBe(200);
    const { sets } = (await test.call('sam', listGoalSets)).body;
    expect(sets).toMatchObject([{ name: 'Three at once', items }]);
    const put = await test.call('ilse', putGoals, {
      params: { id: mosaic.id },
      body: { panelIds: before.panels.map(({ id }) => id), items: sets[0].items },
    });
    expect(put.body.added + put.body.changed).toBeGreaterThan(0);
    const after = (await test.call('ilse', readProject, { params: { id: mosaic.id } })).body;
    for (const panel of after.panels)
      for (const { recipeId, wanted } of items)
        expect(panel.goals.find((goal) => goal.recipeId === recipeId)?.wanted).toBe(wanted);
    await test.call('ilse', undoLast);
    const undone = (await test.call('ilse', readProject, { params: { id: mosaic.id } })).body;
    expect(undone.panels.map((p) => p.goals.map((g) => [g.recipeId, g.wanted]))).toEqual(
      before.panels.map((p) => p.goals.map((g) => [g.recipeId, g.wanted])),
    );
  });

  it('name a recipe once', async () => {
    const { body: site } = await test.call('ilse', readObservatory);
    const [recipe] = site.recipes;
    const item = { recipeId: recipe.id, wanted: 5 };
    const twice = await test.call('ilse', saveGoalSet, {
      body: { rigId: recipe.rigId, name: 'Twice', items: [item, item] },
    });
    expect(twice).toMatchObject({ status: 422, error: { field: 'items' } });
  });

  it('share a night as their project says', async () => {
    const { body: all } = await test.call('ilse', listProjects);
    const mosaic = all.projects.reduce((most, one) => (one.panelCount > most.panelCount ? one : most));
    const edit = (fields: object, version: number) =>
      test.call('ilse', editProject, { params: { id: mosaic.id }, body: { version, ...fields } });
    await edit({ panelOrder: 'one_per_night', filterGroup: 3 }, mosaic.version);
    const { body } = await test.call('ilse', readProject, { params: { id: mosaic.id } });
    expect(body).toMatchObject({ panelOrder: 'one_per_night', filterGroup: 3, stepGuide: true });
    await test.call('ilse', undoLast);
  });
});

describe('limits and what fits', () => {
  it('tell what a limit costs, and what another value would change, without writing anything', async () => {
    const { body: all } = await test.call('ilse', listProjects);
    const project = all.projects.find((one) => one.filters.some(({ filterClass }) => filterClass === 'broadband'))!;
    const ask = (proposed?: number | null) =>
      test.call('sam', previewLimit, {
        params: { id: project.id },
        body: { class: 'broadband', key: 'minAltitudeDeg', ...(proposed === undefined ? {} : { proposed }) },
      });
    const { body: now } = await ask();
    expect(now.nights).toHaveLength(30);
    for (const night of now.nights) expect(night.hoursWithout).toBeGreaterThanOrEqual(night.hours - 1e-6);
    const { body: strict } = await ask(80);
    const sum = (key: 'hours' | 'hoursProposed'): number =>
      strict.nights.reduce((total, night) => total + night[key], 0);
    expect(sum('hoursProposed')).toBeLessThan(sum('hours'));
    const rows = await test.database.rows(`SELECT 1 FROM limit_values WHERE value = 80`);
    expect(rows).toEqual([]);
  });

  it('say how many exposures fit tonight and in some nights', async () => {
    const plan = await planOf('working');
    const { goalId } = plan.blocks[0].runs[0];
    const { body } = await test.call('sam', readFits, { params: { id: goalId }, query: { nights: 3 } });
    expect(body.tonight).toBeGreaterThan(0);
    expect(body.nights).toBeGreaterThanOrEqual(body.tonight);
    expect(body.tonight * body.cycleSec).toBeLessThanOrEqual(body.usableHours * 3600 + body.cycleSec);
  });
});

describe('steps and rehearsals', () => {
  it('are kept with the rig and told with each stay', async () => {
    const steps = [{ moment: 'arriving' as const, words: 'look at the dew heater' }];
    const { body: site } = await test.call('ilse', setRigSteps, { params: { id: rigId }, body: { steps } });
    expect(site.rigs.find(({ id }) => id === rigId)!.steps).toEqual(steps);
    const [block] = (await planOf('working')).blocks;
    expect(block.arriving).toEqual(
      expect.arrayContaining(['slew and settle', 'centre', 'focus', 'start guiding', 'look at the dew heater']),
    );
  });

  it('a rehearsal runs by day, short, counts for nothing and ends at sunset', async () => {
    const before = (await test.database.one<{ n: number }>('SELECT count(*)::int AS n FROM exposures'))!.n;
    const started = await test.call('petra', rehearseNight, { params: { nightDate }, body: { rigId, speed: 600 } });
    expect(started.body.expiresUtcMs).toBe((await night()).sky.sunsetUtcMs);
    const run = (await test.call('runner', claimRun, { body: { holder: 'tests' } })).body.run!;
    expect(run).toMatchObject({ rehearsal: true });
    expect(Math.max(...run.steps.map(({ exposureSec }) => exposureSec))).toBeLessThanOrEqual(30);
    const [step] = run.steps;
    await test.call('runner', beginStep, { params: { id: run.id }, body: { fence: run.fence, stepId: step.id } });
    const exposure = takenExposure(step);
    await test.call('runner', finishStep, {
      params: { id: run.id },
      body: { fence: run.fence, stepId: step.id, outcome: 'done', words: 'Taken', exposure },
    });
    expect((await test.database.one<{ n: number }>('SELECT count(*)::int AS n FROM exposures'))!.n).toBe(before);
    expect((await planOf()).run).toMatchObject({ kind: 'rehearsal', stepsDone: 1 });
    await test.ownerDatabase.rows(`UPDATE night_runs SET expires = '2026-10-10T00:00Z' WHERE id = $1`, [run.id]);
    const next = { params: { id: run.id }, body: { fence: run.fence, stepId: run.steps[1].id } };
    expect((await test.call('runner', beginStep, next)).body.goOn).toBe(false);
    const ended = await test.call('runner', endRun, { params: { id: run.id }, body: { fence: run.fence } });
    expect(ended.body.state).toBe('stopped');
  });
});

describe('every project', () => {
  it('has its standing on a night: planned, or why not', async () => {
    const { body } = await test.call('ilse', readNightStandings, { params: { nightDate } });
    expect(body.standings.length).toBeGreaterThan(8);
    for (const { planned, taken, reason } of body.standings)
      expect(planned > 0 || taken > 0 || reason !== null).toBe(true);
    const { body: before } = await test.call('ilse', readNightStandings, { params: { nightDate: '2026-10-10' } });
    expect(before.standings.length).toBe(body.standings.length);
  });
});

describe('forecasts', () => {
  const csv = (cloud: number[]) =>
    [
      'source,hour_utc,cloud_percent,wind_m_per_s,humidity_percent',
      ...cloud.flatMap((percent, s) =>
        Array.from(
          { length: 24 },
          (_, i) =>
            `source ${s},${new Date(Date.parse('2026-10-11T03:00Z') + i * 3_600_000).toISOString()},${percent},3,50`,
        ),
      ),
    ].join('\n');
  const read = async () => (await test.call('sam', readForecast, { params: { nightDate } })).body;

  it('say nothing where no source speaks', async () => {
    expect(await read()).toMatchObject({ call: null, sources: [] });
  });

  it('lead to one call with how many sources agree', async () => {
    await test.call('ilse', importForecast, { body: { text: csv([0, 10, 90]) } });
    const go = await read();
    expect(go).toMatchObject({ call: 'go', agreeing: 2 });
    expect(go.hoursClear).toBeCloseTo(go.hoursDark, 1);
    await test.call('ilse', importForecast, { body: { text: csv([95, 80, 90]) } });
    expect(await read()).toMatchObject({ call: 'no_go', agreeing: 3, hoursClear: 0 });
  });

  it('that can’t be read name the hour and what is wrong', async () => {
    const text = `${csv([10]).split('\n').slice(0, 2).join('\n').replace(',10,', ',lots,')}`;
    const refusal = await test.call('ilse', importForecast, { body: { text } });
    expect(refusal).toMatchObject({ status: 422 });
    expect(refusal.error.message).toMatch(/Hour 1: cloud_percent "lots"/);
  });

  it('without a service say so', async () => {
    expect((await test.call('ilse', fetchForecast)).error.message).toMatch(/no forecast service/);
  });
});

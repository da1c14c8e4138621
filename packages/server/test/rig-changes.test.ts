import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import type { RigWish } from '@meridiem/contract';
import {
  editGoal,
  previewRig,
  publishPlan,
  readGoalHistory,
  readNight,
  readObservatory,
  readProject,
  askProjectOutlook,
  reviseRig,
  undoLast,
} from '@meridiem/contract';
import { setTimeout as sleep } from 'node:timers/promises';
import type { TestApp } from './test-app.ts';
import { createTestApp } from './test-app.ts';

let test: TestApp;
beforeAll(async () => {
  test = await createTestApp({ exposures: 400, worker: true });
}, 60_000);
afterAll(() => test.close());

const rigs = async () => (await test.call('ilse', readObservatory)).body.rigs;
const handTurned = async () => (await rigs()).find(({ rotatorKind }) => rotatorKind === 'hand')!;
const effectsOf = async (wish: RigWish) => {
  const { status, body } = await test.call('ilse', previewRig, { params: { id: (await handTurned()).id }, body: wish });
  expect(status).toBe(200);
  return body.effects;
};

describe('a change of a rig', () => {
  it('touches nothing where nothing changes', async () => {
    const { focalLengthMm } = await handTurned();
    expect(await effectsOf({ focalLengthMm })).toEqual([]);
    expect(await effectsOf({ throughput: 0.5 })).toEqual([]);
  });

  it('names each framing it makes larger or smaller, and gaps that open in a mosaic', async () => {
    const { focalLengthMm } = await handTurned();
    const effects = await effectsOf({ focalLengthMm: focalLengthMm * 1.5 });
    const mosaic = effects.find(
      ({ about, projectName }) => about === 'framings' && /six panels/.test(projectName ?? ''),
    );
    expect(mosaic).toMatchObject({
      isLoss: true,
      words: expect.stringMatching(/at least 0 % instead of 2\d %.*Gaps open/),
    });
    expect(effects.find(({ about }) => about === 'exposures')!.words).toMatch(/^\d+ exposures keep the revision/);
    expect(effects.find(({ about }) => about === 'flats')!.words).toMatch(/No flats/);
    expect(effects.filter(({ words }) => /mixed/.test(words))).toEqual([]);
  });

  it('says of another camera that goals will be mixed', async () => {
    const { pixelUm } = await handTurned();
    expect(
      (await effectsOf({ pixelUm: pixelUm + 1 })).filter(({ words }) => /flagged as mixed/.test(words)).length,
    ).toBeGreaterThan(0);
  });

  it('says of a turned camera which panels it loses and wins', async () => {
    const rig = await handTurned();
    const effects = await effectsOf({ skyAngleDeg: (rig.skyAngleDeg! + 45) % 360 });
    expect(
      effects.filter(({ words, isLoss }) => isLoss && /out of the camera’s tolerance/.test(words)).length,
    ).toBeGreaterThan(0);
    expect(
      await effectsOf({ skyAngleDeg: (rig.skyAngleDeg! + 180) % 360 }).then((list) =>
        list.filter(({ about }) => about === 'goals'),
      ),
    ).toEqual([]);
  });

  it('takes a filter out: its goals wait and say why, published plans stay, and fitting it again brings them back', async () => {
    const rig = await handTurned();
    const published = await test.call('ilse', publishPlan, {
      params: { nightDate: '2026-10-11' },
      body: { rigId: rig.id },
    });
    expect(published.error).not.toHaveProperty('code');
    const night = (await test.call('ilse', readNight, { params: { nightDate: 'tonight' } })).body;
    const planned = night.rigs.find(({ rigId }) => rigId === rig.id)!.blocks.flatMap(({ runs }) => runs);
    const { filters } = (await test.call('ilse', readObservatory)).body;
    const filter = filters.find(({ letter }) => letter === planned[0].filterLetter)!;
    const slots = rig.slots.filter(({ filterId }) => filterId !== filter.id);
    const effects = await effectsOf({ slots });
    expect(effects.find(({ about, isLoss }) => about === 'goals' && isLoss)!.words).toMatch(
      new RegExp(`${filter.letter}.*fitted again`),
    );
    expect(effects.find(({ about }) => about === 'plans')!.words).toMatch(/published plan of 2026-10-11 stays/);
    const fit = async (wished: RigWish['slots']) =>
      test.call('ilse', reviseRig, {
        params: { id: rig.id },
        body: { basedOnSeq: (await handTurned()).revisionSeq, slots: wished },
      });
    expect(
      (await fit([...slots, { slot: slots[0].slot, filterId: filter.id, focusOffsetSteps: null }])).error,
    ).toMatchObject({ field: 'slots' });
    expect((await fit(slots)).status).toBe(200);
    const working = (
      await test.call('ilse', readNight, { params: { nightDate: 'tonight' }, query: { plan: 'working' } })
    ).body;
    const without = working.rigs.find(({ rigId }) => rigId === rig.id)!;
    expect(without.blocks.flatMap(({ runs }) => runs).map(({ filterLetter }) => filterLetter)).not.toContain(
      filter.letter,
    );
    expect(without.leftOut.filter(({ filterLetter }) => filterLetter === filter.letter)[0].reason.code).toBe(
      'FILTER_NOT_FITTED',
    );
    expect((await fit(rig.slots)).status).toBe(200);
    expect((await handTurned()).slots).toEqual(rig.slots);
  });
});

describe('what is still needed', () => {
  it('is planned night after night, and nothing where all is done', async () => {
    const projects = await test.ownerDatabase.rows<{ id: string; left: number }>(
      `SELECT p.id, sum(greatest(0, coalesce(g.wanted, 0) - t.accepted - t.undecided))::float8 AS left FROM projects p JOIN panels l ON l.project_id = p.id
       JOIN goals g ON g.panel_id = l.id JOIN goal_totals t ON t.goal_id = g.id WHERE p.state = 'granted' AND g.wanted IS NOT NULL GROUP BY p.id ORDER BY 2`,
    );
    const outlookOf = async (id: string) => {
      for (let tries = 0; tries < 300; tries += 1) {
        const { body } = await test.call('ruan', askProjectOutlook, { params: { id } });
        if (body.outlook) return body.outlook;
        await sleep(100);
      }
      throw new Error('The outlook has not been worked out');
    };
    const most = await outlookOf(projects.at(-1)!.id);
    expect(most.nights.length).toBeGreaterThan(0);
    expect(most.nights.map(({ nightDate }) => nightDate)).toEqual(
      most.nights.map(({ nightDate }) => nightDate).toSorted(),
    );
    const placed = most.nights.reduce((sum, { exposures }) => sum + exposures, 0);
    expect(placed + most.leftExposures).toBeGreaterThanOrEqual(Math.floor(projects.at(-1)!.left));
  }, 60_000);
});

describe('a goal’s wish', () => {
  it('is told from its first value through each change and its undoing', async () => {
    const found = await test.ownerDatabase.one<{ goalId: string; projectId: string }>(
      `SELECT g.id AS "goalId", p.id AS "projectId" FROM goals g JOIN panels l ON l.id = g.panel_id JOIN projects p ON p.id = l.project_id WHERE p.state = 'granted' AND NOT p.private ORDER BY p.created, l.position, g.position LIMIT 1`,
    );
    const goal = (await test.call('ilse', readProject, { params: { id: found!.projectId } })).body.panels
      .flatMap(({ goals }) => goals)
      .find(({ id }) => id === found!.goalId)!;
    await test.call('ilse', editGoal, {
      params: { id: goal.id },
      body: { version: goal.version, wanted: 777, why: 'faint outer shell' },
    });
    await test.call('ilse', undoLast);
    const { wishes } = (await test.call('sam', readGoalHistory, { params: { id: goal.id } })).body;
    expect(wishes.map(({ wanted, before, why, isFirst }) => [wanted, before, why, isFirst])).toEqual([
      [goal.wanted, null, null, true],
      [777, goal.wanted, 'faint outer shell', false],
      [goal.wanted, 777, null, false],
    ]);
  });
});

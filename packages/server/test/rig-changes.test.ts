import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import type { GoalFate, RigWish } from '@meridiem/contract';
import {
  editGoal,
  previewRig,
  publishPlan,
  readGearChanges,
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

describe('other optics', () => {
  const goalsOf = async (projectId: string) =>
    (await test.call('ilse', readProject, { params: { id: projectId } })).body.panels.flatMap(({ goals }) => goals);
  const gathered = ({ tally }: { tally: { accepted: number; undecided: number } }): number => Math.floor(tally.accepted + tally.undecided); // prettier-ignore
  const isRunning = (goal: Awaited<ReturnType<typeof goalsOf>>[number]): boolean =>
    goal.enabled && gathered(goal) > 0 && (goal.wanted === null || gathered(goal) < goal.wanted);
  const revise = async (change: Partial<RigWish>, goalFates: { projectId: string; fate: GoalFate }[]) =>
    test.call('ilse', reviseRig, {
      params: { id: (await handTurned()).id },
      body: { basedOnSeq: (await handTurned()).revisionSeq, ...change, goalFates },
    });

  it('ask what becomes of goals under way: the same, new ones for what is missing, or none; undo takes each back', async () => {
    const { focalLengthMm } = await handTurned();
    const effects = await effectsOf({ focalLengthMm: focalLengthMm - 20 });
    const asking = effects.filter(({ asksForGoals }) => asksForGoals > 0);
    expect(asking.length).toBeGreaterThan(1);
    const [anew, closed, kept] = asking.map(({ projectId }) => projectId!);
    const before = new Map([[anew, await goalsOf(anew)], [closed, await goalsOf(closed)]]); // prettier-ignore
    expect(before.get(anew)!.filter(isRunning)).toHaveLength(asking[0].asksForGoals);
    const fates = [{ projectId: anew, fate: 'new' as const }, { projectId: closed, fate: 'close' as const }]; // prettier-ignore
    if (kept) fates.push({ projectId: kept, fate: 'same' as never });
    expect((await revise({ focalLengthMm: focalLengthMm - 20 }, fates)).status).toBe(200);

    expect((await goalsOf(closed)).filter(isRunning)).toEqual([]);
    const after = await goalsOf(anew);
    for (const old of before.get(anew)!.filter(isRunning)) {
      const now = after.find(({ id }) => id === old.id)!;
      const fresh = after.filter(({ recipeId, panelId, id }) => recipeId === old.recipeId && panelId === old.panelId && id !== old.id); // prettier-ignore
      expect([now.enabled, gathered(now)]).toEqual([false, gathered(old)]);
      expect(fresh.map(({ wanted, enabled, tally }) => [wanted, enabled, tally.accepted])).toEqual([[old.wanted === null ? null : old.wanted - gathered(old), true, 0]]); // prettier-ignore
      expect(fresh[0].ownLimits).toEqual(old.ownLimits);
    }
    for (const id of [closed, anew]) {
      expect((await test.call('ilse', undoLast)).body.words).toMatch(
        id === closed ? /closed, for/ : /go on as new ones/,
      );
      const back = (await goalsOf(id)).map(({ id: goalId, enabled, wanted }) => [goalId, enabled, wanted]);
      expect(back).toEqual(before.get(id)!.map(({ id: goalId, enabled, wanted }) => [goalId, enabled, wanted]));
    }
    await revise({ focalLengthMm }, []);
  });

  it('of projects of another rig or observatory are nobody’s business', async () => {
    const { focalLengthMm } = await handTurned();
    const others = await test.ownerDatabase.rows<{ id: string }>(`SELECT p.id FROM projects p WHERE p.rig_id <> '${(await handTurned()).id}' AND p.state = 'granted'`); // prettier-ignore
    const before = await Promise.all(others.map(({ id }) => goalsOf(id)));
    await revise({ focalLengthMm: focalLengthMm + 1 }, others.map(({ id }) => ({ projectId: id, fate: 'close' as const }))); // prettier-ignore
    const after = await Promise.all(others.map(({ id }) => goalsOf(id)));
    expect(after.map((goals) => goals.map(({ enabled }) => enabled))).toEqual(before.map((goals) => goals.map(({ enabled }) => enabled))); // prettier-ignore
    await revise({ focalLengthMm }, []);
  });

  it('stand beside what exposures were like before and after', async () => {
    const { id, focalLengthMm } = await handTurned();
    const read = async () => (await test.call('sam', readGearChanges, { params: { id } })).body.changes;
    await revise({ focalLengthMm: focalLengthMm + 70 }, []);
    // The newest forty are of the longer telescope: rounder stars, wider apart.
    await test.ownerDatabase.rows(
      `WITH moved AS (SELECT e.id FROM exposures e JOIN rig_revisions v ON v.id = e.rig_revision_id WHERE v.rig_id = '${id}' AND e.kind = 'light' ORDER BY e.start_utc DESC LIMIT 40)
       UPDATE exposures e SET rig_revision_id = (SELECT v.id FROM rig_revisions v WHERE v.rig_id = '${id}' ORDER BY seq DESC LIMIT 1) FROM moved WHERE e.id = moved.id`,
    );
    const [newest] = await read();
    expect(newest.words).toBe(`focal length ${focalLengthMm + 70} mm instead of ${focalLengthMm}`);
    expect(newest.after.exposures).toBe(40);
    expect(newest.before.exposures).toBeGreaterThan(40);
    for (const { halfFluxRadiusArcsec, guidingRmsArcsec, gapSec } of [newest.before, newest.after]) {
      expect(halfFluxRadiusArcsec).toBeGreaterThan(0.5);
      expect(guidingRmsArcsec).toBeGreaterThan(0.2);
      expect(gapSec).toBeGreaterThan(0);
    }
    // What only times or angles change is no other gear.
    const count = (await read()).length;
    await revise({ angleToleranceDeg: 3.5 }, []);
    expect(await read()).toHaveLength(count);
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

// Two members on one object: told, joined, planned once, credited and charged together, and apart again.
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import type { ClaimedRun, ProjectJoins } from '@meridiem/contract';
import {
  addGoal,
  addProject,
  answerJoin,
  beginStep,
  claimRun,
  editProject,
  finishStep,
  judgeExposures,
  listExposures,
  listNotices,
  offerJoin,
  playNight,
  publishPlan,
  readAccountedNight,
  readNight,
  readProject,
  readProjectJoins,
  readTimeAccount,
  undoLast,
} from '@meridiem/contract';
import type { TestApp } from './test-app.ts';
import { takenExposure } from './taken-exposure.ts';
import { createTestApp } from './test-app.ts';

const nightDate = '2026-10-11';
let test: TestApp;
let rigId: string;
let place: { raDeg: number; decDeg: number; positionAngleDeg: number; recipeId: string };

beforeAll(async () => {
  test = await createTestApp({ exposures: 200 });
  const { body } = await test.call('ilse', readNight, { params: { nightDate } });
  const rig = body.rigs.find(({ blocks }) => blocks.length > 0)!;
  rigId = rig.rigId;
  const longest = rig.blocks.flatMap(({ runs }) => runs).reduce((a, b) => (b.count > a.count ? b : a));
  // The field that tonight's plan holds longest, and the recipe it is taken with: two more members want the same.
  place = (await test.database.one<typeof place>(
    `SELECT l.ra_deg AS "raDeg", l.dec_deg AS "decDeg", l.position_angle_deg AS "positionAngleDeg", v.recipe_id AS "recipeId"
     FROM goals g JOIN framed_panels l ON l.id = g.panel_id JOIN recipe_revisions v ON v.id = g.recipe_revision_id WHERE g.id = $1`,
    [longest.goalId],
  ))!;
}, 120_000);
afterAll(() => test.close());

let made = 0;
/** A granted project of somebody over the same field; a little aside in right ascension where asked. */
async function granted(who: string, wanted: number, asideDeg = 0, isPrivate = false): Promise<string> {
  const name = `Shared field ${++made}`;
  const { raDeg, decDeg, positionAngleDeg, recipeId } = place;
  const body = { name, rigId, targetName: 'a field', raText: String((raDeg + asideDeg) / 15), decText: String(decDeg), positionAngleDeg }; // prettier-ignore
  const { id } = (await test.call(who, addProject, { body })).body;
  const { panels } = (await test.call(who, readProject, { params: { id } })).body;
  await test.call(who, addGoal, { body: { panelId: panels[0].id, recipeId, wanted, allPanels: false } });
  const { version } = (await test.call(who, readProject, { params: { id } })).body;
  const edited = await test.call('ilse', editProject, { params: { id }, body: { version, state: 'granted', private: isPrivate } }); // prettier-ignore
  expect(edited.status).toBe(200);
  return id;
}
const joinsOf = async (who: string, id: string): Promise<ProjectJoins> =>
  (await test.call(who, readProjectJoins, { params: { id } })).body;
const offer = (who: string, id: string, otherProjectId: string, ownShare = 0.25) =>
  test.call(who, offerJoin, { params: { id }, body: { otherProjectId, ownShare } });
const answer = (who: string, id: string, word: 'accepted' | 'declined' | 'withdrawn' | 'ended') =>
  test.call(who, answerJoin, { params: { id }, body: { answer: word } });
const goalOf = async (id: string) => (await test.call('ilse', readProject, { params: { id } })).body.panels[0].goals[0];
const planOf = async () =>
  (await test.call('ilse', readNight, { params: { nightDate } })).body.rigs.find((rig) => rig.rigId === rigId)!;

describe('two members on one object', () => {
  it('are told of each other; of a private one only that it is there', async () => {
    const [own, other, hidden] = [await granted('ruan', 20), await granted('petra', 20), await granted('petra', 20, 0, true)]; // prettier-ignore
    const far = await granted('petra', 20, 5);
    const { candidates, mayChange } = await joinsOf('ruan', own);
    expect(mayChange).toBe(true);
    const of = (id: string) => candidates.find(({ projectId }) => projectId === id);
    expect(of(other)).toMatchObject({ name: 'Shared field 2', goals: 1, coverage: expect.closeTo(1, 6) });
    expect(of(hidden)).toMatchObject({ name: null, ownerName: null, goals: 1 });
    expect(of(far)).toBeUndefined();
    expect((await joinsOf('jonah', own)).candidates).toEqual([]);
    expect((await test.call('ruan', readProjectJoins, { params: { id: hidden } })).status).toBe(404);
  });

  it('agree: one offers, the other answers, nobody for both', async () => {
    const [own, other, aside] = [await granted('ruan', 20), await granted('petra', 20), await granted('petra', 20, 5)];
    expect((await offer('petra', own, other)).status).toBe(403);
    expect((await offer('ruan', own, own)).error.field).toBe('otherProjectId');
    expect((await offer('ruan', own, aside)).error).toMatchObject({ field: 'otherProjectId', message: /same exposures/ }); // prettier-ignore
    const both = await Promise.all([offer('ruan', own, other), offer('petra', other, own)]);
    expect(both.map(({ status }) => status).sort()).toEqual([200, 409]);
    const { id } = both.find(({ status }) => status === 200)!.body;
    const [offering, asked] = (await joinsOf('ruan', own)).joins[0].isOffered ? ['ruan', 'petra'] : ['petra', 'ruan'];
    expect((await test.call(asked, listNotices, {})).body.notices[0].words).toMatch(/offers to share exposures/);
    expect((await answer(offering, id, 'accepted')).status).toBe(403);
    expect((await answer(asked, id, 'withdrawn')).status).toBe(403);
    expect((await answer('jonah', id, 'accepted')).status).toBe(403);
    expect((await answer(asked, id, 'ended')).status).toBe(409);
    expect((await answer(asked, id, 'accepted')).status).toBe(200);
    expect((await answer(asked, id, 'accepted')).status).toBe(409);
    const third = await granted('petra', 20);
    const second = (await offer('petra', third, own)).body.id;
    expect((await answer('ruan', second, 'accepted')).error.message).toMatch(/already; end that first/);
    expect((await answer('petra', second, 'withdrawn')).status).toBe(200);
    expect((await answer(offering, id, 'ended')).status).toBe(200);
    expect((await test.call(offering, undoLast, {})).status).toBe(200);
    expect((await joinsOf('ruan', own)).joins.map(({ state }) => state)).toEqual(['withdrawn', 'accepted']);
    expect((await answer(asked, id, 'ended')).status).toBe(200);
  });
});

describe('joined projects', () => {
  let own: string;
  let other: string;
  let join: string;
  let run: ClaimedRun;
  const taken = async (index: number) => {
    const step = run.steps[index];
    const exposure = takenExposure(step);
    await test.call('runner', beginStep, { params: { id: run.id }, body: { fence: run.fence, stepId: step.id } });
    const outcome = { fence: run.fence, stepId: step.id, outcome: 'done' as const, words: 'Taken', exposure };
    expect((await test.call('runner', finishStep, { params: { id: run.id }, body: outcome })).status).toBe(200);
  };
  const held = async (id: string): Promise<number> =>
    (await test.database.one<{ n: number }>(`SELECT accepted + undecided AS n FROM goal_totals WHERE goal_id = $1`, [(await goalOf(id)).id]))!.n; // prettier-ignore

  it('are planned once: as the one that wants fewer, the other with what it wants beyond that', async () => {
    // Nothing else is planned: what the two get is theirs alone.
    await test.ownerDatabase.rows('UPDATE projects SET resting = true');
    [own, other] = [await granted('ruan', 3), await granted('petra', 5)];
    const apart = (await planOf()).blocks.flatMap(({ runs }) => runs).reduce((sum, { count }) => sum + count, 0);
    join = (await offer('ruan', own, other)).body.id;
    expect((await answer('petra', join, 'accepted')).status).toBe(200);
    const runs = (await planOf()).blocks.flatMap((block) => block.runs);
    const countOf = async (id: string) => {
      const { id: goalId } = await goalOf(id);
      return runs.filter((one) => one.goalId === goalId).reduce((sum, { count }) => sum + count, 0);
    };
    expect(apart).toBe(8);
    expect([await countOf(own), await countOf(other)]).toEqual([3, 2]);
  });

  it('are credited both with what both wanted, each with what it alone wanted', async () => {
    await test.call('ilse', publishPlan, { params: { nightDate }, body: { rigId } });
    await test.call('ilse', playNight, { params: { nightDate }, body: { rigId, speed: 600 } });
    run = (await test.call('runner', claimRun, { body: { holder: 'tests' } })).body.run!;
    expect(run.steps).toHaveLength(5);
    // The clock of the test stands before the night: sharing began before its first exposure.
    for (let index = 0; index < run.steps.length; index++) await taken(index);
    expect(new Set(run.steps.map(({ panelId }) => panelId)).size).toBe(2);
    expect([await held(own), await held(other)]).toEqual([3, 5]);
    expect((await joinsOf('petra', other)).joins[0]).toMatchObject({ exposures: 3, goals: 1, ownShare: 0.75 });
    // One exposure is one row and counts once, but in each project’s own list.
    const listed = async (project?: string) => (await test.call('ilse', listExposures, { query: { night: nightDate, ...(project ? { project } : {}) } })).body; // prettier-ignore
    const all = await listed();
    expect([all.rows.length, all.totals.undecided]).toEqual([5, 5]);
    expect(all.rows.filter(({ sharedWithName }) => sharedWithName !== null)).toHaveLength(3);
    expect([(await listed(own)).totals.undecided, (await listed(other)).totals.undecided]).toEqual([3, 5]);
    const counted = await test.database.one<{ n: number }>(`SELECT count(*)::int AS n FROM exposures WHERE run_step_id IS NOT NULL`); // prettier-ignore
    expect(counted!.n).toBe(5);
  });

  it('are judged by either owner, for both', async () => {
    const shared = await test.ownerDatabase.rows<{ id: string }>(
      `SELECT exposure_id AS id FROM attributions WHERE project_id = $1 AND charge_share IS NOT NULL`,
      [own],
    );
    const body = {
      exposureIds: shared.map(({ id }) => id),
      verdict: 'accepted' as const,
      reason: 'looked at' as const,
    };
    expect((await test.call('jonah', judgeExposures, { body })).status).toBe(403);
    expect((await test.call('ruan', judgeExposures, { body })).body).toEqual({ changed: 3 });
    const accepted = await test.ownerDatabase.rows<{ n: number }>(
      `SELECT accepted AS n FROM goal_totals WHERE goal_id = ANY ($1)`,
      [[(await goalOf(own)).id, (await goalOf(other)).id]],
    );
    expect(accepted.map(({ n }) => n)).toEqual([3, 3]);
  });

  it('are charged in the shares agreed, and every minute once', async () => {
    const { rigs } = (await test.call('ilse', readTimeAccount, { query: { from: nightDate, to: nightDate } })).body;
    const { spent } = rigs.find((rig) => rig.rigId === rigId)!.nights[0];
    expect(spent.reduce((sum, { hours }) => sum + hours, 0)).toBeCloseTo(24, 6);
    const night = (await test.call('ilse', readAccountedNight, { params: { id: rigId, nightDate } })).body;
    const exposed = (id: string): number =>
      night.stretches
        .filter(({ kind, projectId }) => kind === 'exposing' && projectId === id)
        .reduce((sum, { startUtcMs, endUtcMs }) => sum + (endUtcMs - startUtcMs) / 1000, 0);
    const { exposureSec } = await goalOf(own);
    expect(exposed(own)).toBeCloseTo(3 * 0.25 * exposureSec, 1);
    expect(exposed(other)).toBeCloseTo((3 * 0.75 + 2) * exposureSec, 1);
    const rows = await test.ownerDatabase.rows<{ projectId: string; share: number | null }>(
      `SELECT project_id AS "projectId", charge_share AS share FROM attributions WHERE project_id = ANY ($1) ORDER BY 1, 2`,
      [[own, other]],
    );
    expect(rows.filter(({ projectId }) => projectId === own).map(({ share }) => share)).toEqual([0.25, 0.25, 0.25]);
    expect(rows.filter(({ projectId }) => projectId === other).map(({ share }) => share)).toEqual([0.75, 0.75, 0.75, null, null]); // prettier-ignore
  });

  it('keep their credit when they part, and share nothing from then on', async () => {
    expect((await answer('ruan', join, 'ended')).status).toBe(200);
    expect([await held(own), await held(other)]).toEqual([3, 5]);
    expect((await test.call('petra', listNotices, {})).body.notices[0].words).toMatch(/ended/);
    expect((await joinsOf('petra', other)).joins[0]).toMatchObject({ state: 'ended', exposures: 3 });
  });
});

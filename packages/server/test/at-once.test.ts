// The same thing done by two people, or twice by one, at the same moment: done once or in turn, the rest told in words.
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import type { Project } from '@meridiem/contract';
import {
  addTheme,
  copyProject,
  editGoal,
  editProject,
  invitePerson,
  judgeExposures,
  listExposures,
  listProjects,
  playNight,
  publishPlan,
  putGoals,
  readObservatory,
  readProject,
  setLimit,
  setRigSteps,
  undoLast,
} from '@meridiem/contract';
import type { Answer, TestApp } from './test-app.ts';
import { createTestApp } from './test-app.ts';

const nightDate = '2026-10-11';
let test: TestApp;
beforeAll(async () => {
  test = await createTestApp({ exposures: 200 });
}, 60_000);
afterAll(() => test.close());

const AT_ONCE = 6;
/** The same call several times, all in flight together. */
const together = <T>(call: (i: number) => Promise<Answer<T>>): Promise<Answer<T>[]> =>
  Promise.all(Array.from({ length: AT_ONCE }, (_, i) => call(i)));
const statuses = (answers: readonly Answer<unknown>[]): number[] => answers.map(({ status }) => status).sort();
/** Nobody meets a failure, and who is refused is told why. */
function expectWords(answers: readonly Answer<unknown>[]): void {
  for (const { status, error } of answers) {
    expect(status).toBeLessThan(500);
    if (status !== 200) expect(error.message).toMatch(/\S+ \S+/);
  }
}
const projectsOf = async (): Promise<Project[]> => {
  const rows = (await test.call('ilse', listProjects)).body.projects;
  const granted = rows.filter(({ state, complete }) => state === 'granted' && !complete).slice(0, 3);
  return Promise.all(granted.map(async ({ id }) => (await test.call('ilse', readProject, { params: { id } })).body));
};
const once = (before: number): number[] => [200, ...Array.from({ length: AT_ONCE - 1 }, () => before)];

describe('at the same moment', () => {
  it('a project is edited once, and the others are told that it has changed', async () => {
    const [project] = await projectsOf();
    const answers = await together((i) =>
      test.call('ilse', editProject, {
        params: { id: project.id },
        body: { version: project.version, why: `why ${i}` },
      }),
    );
    expectWords(answers);
    expect(statuses(answers)).toEqual(once(409));
    const after = (await test.call('ilse', readProject, { params: { id: project.id } })).body;
    expect(after.version).toBe(project.version + 1);
    expect(after.why).toBe(`why ${answers.findIndex(({ status }) => status === 200)}`);
  });

  it('a goal takes one count, never two', async () => {
    const [{ panels }] = await projectsOf();
    const [goal] = panels[0].goals;
    const answers = await together((i) =>
      test.call('ilse', editGoal, { params: { id: goal.id }, body: { version: goal.version, wanted: 700 + i } }),
    );
    expectWords(answers);
    expect(statuses(answers)).toEqual(once(409));
    const changes = await test.ownerDatabase.rows(
      `SELECT 1 FROM changes WHERE entity_id = $1 AND after ->> 'wanted' LIKE '70_'`,
      [goal.id],
    );
    expect(changes.length).toBe(1);
  });

  it('a set of goals is put on a panel once, whoever comes first', async () => {
    const [, project] = await projectsOf();
    const { body: observatory } = await test.call('ilse', readObservatory);
    const recipes = observatory.recipes.filter(({ rigId }) => rigId === project.rigId);
    const answers = await together((i) =>
      test.call('ilse', putGoals, {
        params: { id: project.id },
        body: {
          panelIds: project.panels.map(({ id }) => id),
          items: recipes.map(({ id }) => ({ recipeId: id, wanted: 40 + i })),
        },
      }),
    );
    expectWords(answers);
    expect(answers.some(({ status }) => status === 200)).toBe(true);
    const after = (await test.call('ilse', readProject, { params: { id: project.id } })).body;
    for (const { goals } of after.panels) {
      const perRecipe = goals.map(({ recipeId }) => recipeId);
      expect(new Set(perRecipe).size).toBe(perRecipe.length);
      for (const { id } of recipes) expect(perRecipe).toContain(id);
    }
  });

  it('a limit has one value, one of those that were sent', async () => {
    const [project] = await projectsOf();
    const answers = await together((i) =>
      test.call('ilse', setLimit, {
        body: {
          scope: 'project',
          scopeId: project.id,
          class: 'broadband',
          key: 'minAltitudeDeg',
          setting: { value: 31 + i },
        },
      }),
    );
    expectWords(answers);
    const { limits } = (await test.call('ilse', readProject, { params: { id: project.id } })).body;
    const own = limits.filter((limit) => limit.key === 'minAltitudeDeg' && limit.class === 'broadband');
    expect(own).toHaveLength(1);
    expect(own[0].value).toBeGreaterThanOrEqual(31);
    expect(own[0].value).toBeLessThan(31 + AT_ONCE);
  });

  it('a rig’s steps are one list, not a mixture', async () => {
    const [rig] = (await test.call('ilse', readObservatory)).body.rigs;
    const stepsOf = (i: number) =>
      ['arriving', 'leaving'].map((moment) => ({ moment: moment as 'arriving', words: `step ${i}` }));
    expectWords(
      await together((i) => test.call('ilse', setRigSteps, { params: { id: rig.id }, body: { steps: stepsOf(i) } })),
    );
    const after = (await test.call('ilse', readObservatory)).body.rigs.find(({ id }) => id === rig.id)!;
    expect(after.steps).toHaveLength(2);
    expect(new Set(after.steps.map(({ words }) => words)).size).toBe(1);
  });

  it('a plan is published as one version after another, and one stands', async () => {
    const [rig] = (await test.call('ilse', readObservatory)).body.rigs;
    const answers = await together(() =>
      test.call('ilse', publishPlan, { params: { nightDate }, body: { rigId: rig.id, reason: 'all at once' } }),
    );
    expectWords(answers);
    const seqs = answers.flatMap(({ status, body }) => (status === 200 ? [body.seq] : []));
    expect(seqs.length).toBeGreaterThan(0);
    expect(new Set(seqs).size).toBe(seqs.length);
    const standing = await test.ownerDatabase.rows(
      `SELECT seq FROM night_plans WHERE rig_id = $1 AND night_date = $2 AND state = 'published'`,
      [rig.id, nightDate],
    );
    expect(standing).toHaveLength(1);
  });

  it('a night is begun once', async () => {
    const [rig] = (await test.call('ilse', readObservatory)).body.rigs;
    const answers = await together(() =>
      test.call('ilse', playNight, { params: { nightDate }, body: { rigId: rig.id, speed: 600 } }),
    );
    expectWords(answers);
    expect(answers.filter(({ status }) => status === 200)).toHaveLength(1);
    const running = await test.ownerDatabase.rows(
      `SELECT 1 FROM night_runs WHERE rig_id = $1 AND state IN ('requested', 'running')`,
      [rig.id],
    );
    expect(running).toHaveLength(1);
  });

  it('exposures are judged by all, and the last word counts once', async () => {
    const { rows } = (await test.call('ilse', listExposures, { query: { limit: 5 } })).body;
    const exposureIds = [...new Set(rows.map(({ id }) => id))];
    const answers = await together((i) =>
      test.call('ilse', judgeExposures, {
        body: {
          exposureIds,
          verdict: i % 2 === 0 ? 'rejected' : 'accepted',
          reason: i % 2 === 0 ? 'cloud' : 'looked at',
        },
      }),
    );
    expectWords(answers);
    const doubled = await test.ownerDatabase.rows(
      `SELECT exposure_id, project_id FROM ledger_rows WHERE exposure_id = ANY ($1::uuid[]) GROUP BY 1, 2 HAVING count(*) > 1`,
      [exposureIds],
    );
    expect(doubled).toEqual([]);
  });

  it('one’s last change is taken back once, then the one before it', async () => {
    const [project] = await projectsOf();
    const edit = async (grade: number): Promise<void> => {
      const { version } = (await test.call('ilse', readProject, { params: { id: project.id } })).body;
      const { status } = await test.call('ilse', editProject, { params: { id: project.id }, body: { version, grade } });
      expect(status).toBe(200);
    };
    for (const grade of [3, 1, 2, 3, 1, 2]) await edit(grade === project.grade ? (grade % 3) + 1 : grade);
    const answers = await Promise.all([undoLast, undoLast].map((operation) => test.call('ilse', operation)));
    expectWords(answers);
    const undone = await test.ownerDatabase.rows<{ undo_of: string }>(
      'SELECT undo_of FROM changes WHERE undo_of IS NOT NULL',
    );
    expect(new Set(undone.map(({ undo_of }) => undo_of)).size).toBe(undone.length);
    expect(undone.length).toBe(answers.filter(({ status }) => status === 200).length);
  });

  it('a project is copied as often as asked, each copy whole', async () => {
    const [project] = await projectsOf();
    const answers = await together((i) =>
      test.call('ilse', copyProject, {
        params: { id: project.id },
        body: { name: `Copy ${i}`, withGoals: true },
      }),
    );
    expectWords(answers);
    for (const { body } of answers.filter(({ status }) => status === 200)) {
      const copy = (await test.call('ilse', readProject, { params: { id: body.id } })).body;
      expect(copy.panels.map(({ goals }) => goals.length)).toEqual(project.panels.map(({ goals }) => goals.length));
    }
  });

  it('what must have a name of its own has it', async () => {
    const invited = await together(() =>
      test.call('ilse', invitePerson, {
        body: {
          name: 'Bea Long',
          email: 'bea@example.org',
          role: 'member',
          timeZone: 'UTC',
          fitsObserver: null,
        },
      }),
    );
    expectWords(invited);
    expect(invited.some(({ status }) => status === 200)).toBe(true);
    const themes = await together(() => test.call('ruan', addTheme, { body: { name: 'Planetaries', take: 'any' } }));
    expectWords(themes);
  });
});

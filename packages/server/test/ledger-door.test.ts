// What the ledger's one door promises: nothing is recorded twice, figures have a history, hours belong to the owner of the time.
import { randomUUID } from 'node:crypto';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import type { ClaimedRun } from '@meridiem/contract';
import {
  beginStep,
  claimRun,
  closeNights,
  editProject,
  endMembership,
  exportLedger,
  finishStep,
  listProjects,
  playNight,
  publishPlan,
  putGoals,
  readGoalHistory,
  readNight,
  readProject,
  undoLast,
} from '@meridiem/contract';
import { exposureKey, readCsv } from '@meridiem/core';
import { ledgerChanged, recordExposures, recordMeasurements } from '../src/modules/ledger/index.ts';
import { servedDifferences } from './recount.ts';
import type { TestApp } from './test-app.ts';
import { createTestApp } from './test-app.ts';

let test: TestApp;
let observatoryId: string;
beforeAll(async () => {
  test = await createTestApp({ exposures: 400 });
  observatoryId = (await test.database.models.Observatory.findOne())!.id;
}, 60_000);
afterAll(() => test.close());

interface Taken {
  readonly id: string;
  readonly goalId: string;
  readonly projectId: string;
  readonly nightDate: string;
  readonly rigId: string;
  readonly ownerId: string;
}
/** An accepted exposure of the demo, with its goal. */
const someExposure = async (): Promise<Taken> =>
  (await test.ownerDatabase.one<Taken>(
    `SELECT r.exposure_id AS id, r.goal_id AS "goalId", r.project_id AS "projectId", r.night_date::text AS "nightDate", p.rig_id AS "rigId", p.owner_id AS "ownerId"
     FROM ledger_rows r JOIN projects p ON p.id = r.project_id WHERE r.goal_id IS NOT NULL AND r.verdict = 'accepted' ORDER BY r.start_utc DESC LIMIT 1`,
  ))!;
const effectiveOf = async (goalId: string): Promise<number> =>
  (await test.database.models.GoalTotal.findByPk(goalId))!.effectiveS;

describe('measurements', () => {
  const measuredUtcMs = Date.UTC(2026, 9, 12);

  it('keep those before, with their method and time, when a frame is measured again', async () => {
    const { id: exposureId, goalId } = await someExposure();
    const before = (await test.database.models.Measurement.findByPk(exposureId))!;
    const effectiveBefore = await effectiveOf(goalId);
    await recordMeasurements(test.database, [
      { exposureId, method: 'pixels 2', measuredUtcMs, halfFluxRadiusPx: 2.5, starCount: 77, rateMeasured: 5 },
    ]);
    const now = (await test.database.models.Measurement.findByPk(exposureId))!;
    expect(now).toMatchObject({ method: 'pixels 2', starCount: 77, measured: new Date(measuredUtcMs) });
    const earlier = await test.database.models.EarlierMeasurement.findAll({ where: { exposureId } });
    expect(earlier).toHaveLength(1);
    expect(earlier[0]).toMatchObject({ method: 'runner', starCount: before.starCount, measured: before.measured });
    // The totals follow the newest figures, and are what a recount says.
    expect(await effectiveOf(goalId)).toBeGreaterThan(effectiveBefore);
    expect(await servedDifferences(test.ownerDatabase)).toEqual([]);
  });

  it.each([
    `UPDATE measurements SET star_count = 1`,
    `DELETE FROM measurements`,
    `INSERT INTO earlier_measurements (exposure_id, after_move, method, measured) SELECT exposure_id, false, 'x', now() FROM measurements LIMIT 1`,
    `DELETE FROM earlier_measurements`,
    `UPDATE project_owners SET person_id = person_id`,
  ])('can not be rewritten by the application: %s', async (statement) => {
    await expect(test.database.rows(statement)).rejects.toThrow(/permission denied/);
  });
});

describe('an exposure that is in the ledger', () => {
  it('is not recorded again by the night that took it', async () => {
    const nightDate = '2026-10-11';
    const { body: night } = await test.call('ilse', readNight, { params: { nightDate } });
    const { rigId } = night.rigs.find(({ blocks }) => blocks.length > 0)!;
    await test.call('ilse', publishPlan, { params: { nightDate }, body: { rigId } });
    await test.call('ilse', playNight, { params: { nightDate }, body: { rigId, speed: 60 } });
    const run = (await test.call('runner', claimRun, { body: { holder: 'tests' } })).body.run as ClaimedRun;
    const [step] = run.steps;
    // Its file has been imported while the night ran: the start is the header's, three tenths of a second off.
    const revision = (await test.database.models.RigRevision.findOne({ where: { rigId }, order: [['seq', 'DESC']] }))!;
    const { filterId } = (await test.database.models.Exposure.findOne())!;
    const at = { startUtcMs: step.plannedStartUtcMs + 300, exposureSec: step.exposureSec };
    const common = { gain: step.gain, offset: 30, binning: 1, sensorC: -10, filterId };
    await recordExposures(test.database, observatoryId, [
      {
        exposure: {
          id: randomUUID(),
          rigRevisionId: revision.id,
          nightDate,
          kind: 'light',
          ...at,
          ...common,
          headerKey: exposureKey(rigId, at),
        },
        measurement: null,
      },
    ]);
    const count = () => test.database.models.Exposure.count({ where: { observatoryId } });
    const before = await count();
    const [{ fence }, stepId] = [run, step.id];
    await test.call('runner', beginStep, { params: { id: run.id }, body: { fence, stepId } });
    const exposure = {
      startUtcMs: step.plannedStartUtcMs,
      exposureSec: step.exposureSec,
      gain: step.gain,
      sensorC: -10,
      halfFluxRadiusPx: 2,
      starCount: 600,
      guidingRmsArcsec: 0.6,
      backgroundE: 300,
      temperatureC: 9,
      afterMove: false,
      rateMeasured: 0.9,
    };
    const outcome = { fence, stepId, outcome: 'done' as const, words: 'Taken', exposure };
    expect((await test.call('runner', finishStep, { params: { id: run.id }, body: outcome })).status).toBe(200);
    expect(await count()).toBe(before);
  });
});

describe('hours', () => {
  it('are charged to whoever owned the project at the time of the exposure', async () => {
    const { nightDate, rigId, projectId, ownerId } = await someExposure();
    const members = await test.database.models.Membership.findAll({ where: { role: 'member' } });
    const heirId = members.find(({ personId }) => personId !== ownerId)!.personId;
    const left = await test.call('ilse', endMembership, {
      params: { id: ownerId },
      body: { handOnTo: heirId },
    });
    expect(left.status).toBe(200);
    expect((await test.database.models.Project.findByPk(projectId))!.ownerId).toBe(heirId);
    await test.call('ilse', closeNights, { params: { id: rigId }, body: { from: nightDate, to: nightDate } });
    const charged = await test.ownerDatabase.rows<{ memberId: string }>(
      `SELECT DISTINCT member_id AS "memberId" FROM time_account WHERE project_id = $1`,
      [projectId],
    );
    expect(charged).toEqual([{ memberId: ownerId }]);
  });
});

describe('"count after rules"', () => {
  /** A project of the viewer's with one goal, and exposures of it without figures. */
  async function unmeasured(): Promise<{ projectId: string; goalId: string }> {
    const { goalId, projectId } = (await test.ownerDatabase.one<{ goalId: string; projectId: string }>(
      `SELECT t.goal_id AS "goalId", l.project_id AS "projectId" FROM goal_totals t JOIN goals g ON g.id = t.goal_id JOIN panels l ON l.id = g.panel_id
       WHERE t.undecided > 0 ORDER BY t.undecided DESC LIMIT 1`,
    ))!;
    return { goalId, projectId };
  }
  const goalIn = async (projectId: string, goalId: string) =>
    (await test.call('ilse', readProject, { params: { id: projectId } })).body.panels
      .flatMap(({ goals }) => goals)
      .find(({ id }) => id === goalId)!;
  const setProject = async (projectId: string, fields: { judging?: boolean; counting?: 'all' | 'after_rules' }) => {
    const { version } = (await test.call('ilse', readProject, { params: { id: projectId } })).body;
    expect(
      (await test.call('ilse', editProject, { params: { id: projectId }, body: { version, ...fields } })).status,
    ).toBe(200);
  };

  it('counts all but rejected where rules are switched off', async () => {
    const { goalId, projectId } = await unmeasured();
    await setProject(projectId, { counting: 'all', judging: false });
    const all = (await goalIn(projectId, goalId)).tally.done;
    await setProject(projectId, { counting: 'after_rules', judging: false });
    expect((await goalIn(projectId, goalId)).tally.done).toBe(all);
  });

  it('lets an exposure without figures count: rules have nothing to hold against it', async () => {
    const { goalId, projectId } = await unmeasured();
    const id = randomUUID();
    const goal = (await test.ownerDatabase.one<{ rigRevisionId: string; filterId: string; panelId: string }>(
      `SELECT e.rig_revision_id AS "rigRevisionId", e.filter_id AS "filterId", r.panel_id AS "panelId" FROM ledger_rows r JOIN exposures e ON e.id = r.exposure_id WHERE r.goal_id = $1 LIMIT 1`,
      [goalId],
    ))!;
    const startUtcMs = Date.UTC(2026, 8, 1);
    const exposure = { id, nightDate: '2026-09-01', kind: 'light' as const, startUtcMs, exposureSec: 60 };
    const settings = { gain: 1, offset: 1, binning: 1, sensorC: -10, filterId: goal.filterId };
    await recordExposures(test.database, observatoryId, [
      {
        exposure: { ...exposure, ...settings, rigRevisionId: goal.rigRevisionId, headerKey: `door ${id}` },
        measurement: null,
      },
    ]);
    await test.database.models.Attribution.create({
      observatoryId,
      exposureId: id,
      projectId,
      panelId: goal.panelId,
      goalId,
      creditShare: 1,
      reason: 'test',
    });
    await setProject(projectId, { counting: 'after_rules', judging: true });
    await ledgerChanged(test.database, observatoryId, [goalId]);
    const row = await test.database.models.LedgerRow.findOne({ where: { exposureId: id } });
    const verdict = await test.database.models.Verdict.findOne({ where: { exposureId: id } });
    expect([row!.verdict, verdict!.origin, verdict!.reason]).toEqual(['accepted', 'rule', 'nothing measured']);
  });
});

describe('what goes out and what is told', () => {
  it('holds darks and exposures without a panel beside the lights', async () => {
    const revision = (await test.database.models.RigRevision.findOne())!;
    const startUtcMs = Date.UTC(2026, 7, 2, 12);
    const common = {
      rigRevisionId: revision.id,
      nightDate: '2026-08-02',
      gain: 1,
      offset: 1,
      binning: 1,
      sensorC: -10,
    };
    const { filterId } = (await test.database.models.Exposure.findOne({ where: { kind: 'light' } }))!;
    await recordExposures(test.database, observatoryId, [
      {
        exposure: {
          ...common,
          id: randomUUID(),
          kind: 'dark',
          startUtcMs,
          exposureSec: 600,
          filterId: null,
          headerKey: 'door dark',
        },
        measurement: null,
      },
      {
        exposure: {
          ...common,
          id: randomUUID(),
          kind: 'light',
          startUtcMs: startUtcMs + 3_600_000,
          exposureSec: 60,
          filterId,
          headerKey: 'door light',
        },
        measurement: null,
      },
    ]);
    const { body } = await test.call('ilse', exportLedger, { query: { night: '2026-08-02' } });
    expect(readCsv(body).map(({ kind, filter, panel, verdict }) => [kind, filter !== '', panel, verdict])).toEqual([
      ['dark', false, '', ''],
      ['light', true, '', 'undecided'],
    ]);
  });

  it('tells in a goal’s history of counts set for several goals at once, and of the move taken back', async () => {
    const { body: page } = await test.call('ilse', listProjects);
    const project = (
      await test.call('ilse', readProject, {
        params: { id: page.projects.find(({ panelCount }) => panelCount > 1)!.id },
      })
    ).body;
    const [{ goals }] = project.panels;
    const panelIds = project.panels.map(({ id }) => id);
    const { id, recipeId, wanted } = goals[0];
    const items = [{ recipeId, wanted: 91 }];
    await test.call('ilse', putGoals, { params: { id: project.id }, body: { panelIds, items } });
    const history = async () => (await test.call('ilse', readGoalHistory, { params: { id } })).body.wishes;
    expect((await history()).at(-1)).toMatchObject({ before: wanted, wanted: 91, who: expect.stringMatching(/^Ilse/) });
    await test.call('ilse', undoLast);
    expect((await history()).at(-1)).toMatchObject({ before: 91, wanted });
  });
});

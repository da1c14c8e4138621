// A night by devices looked at afterwards: from what its plan was made of, how it went, and what was rejected since.
import { setTimeout as sleep } from 'node:timers/promises';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import type { ClaimedRun, NightReviewAnswer, RunAction, RunStep } from '@meridiem/contract';
import {
  askNightReview,
  claimRun,
  editRigDevices,
  endRun,
  finishStep,
  listExposures,
  playNight,
  publishPlan,
  readNight,
  readNightReview,
  replanRun,
  reportActions,
  judgeExposures,
} from '@meridiem/contract';
import { INTERRUPTION_WORDS, PLANNED_AGAIN, reviewNight, WAIT_WORDS } from '@meridiem/core';
import { randomUUID } from 'node:crypto';
import type { ReviewJob } from '../src/jobs/plan-job.ts';
import type { TestApp } from './test-app.ts';
import { createTestApp, testWorker } from './test-app.ts';

const nightDate = '2026-10-11';
const HOUR_MS = 3_600_000;
let test: TestApp;
let rigId: string;
let run: ClaimedRun;
let seq = 0;

beforeAll(async () => {
  test = await createTestApp({ exposures: 20, settings: { simulatorUrl: 'http://127.0.0.1:9' } });
  const { body } = await test.call('ilse', readNight, { params: { nightDate } });
  rigId = body.rigs.find((rig) => rig.blocks.length > 0)!.rigId;
  await test.call('ilse', editRigDevices, { params: { id: rigId }, body: { kind: 'simulated', url: null } });
  await test.call('ilse', publishPlan, { params: { nightDate }, body: { rigId } });
  await test.call('ilse', playNight, { params: { nightDate }, body: { rigId, speed: 60 } });
  run = (await test.call('runner', claimRun, { body: { holder: 'tests' } })).body.run!;
}, 60_000);
afterAll(() => test.close());

const report = (actions: readonly (Partial<RunAction> & Pick<RunAction, 'kind' | 'startUtcMs'>)[]) =>
  test.call('runner', reportActions, {
    params: { id: run.id },
    body: {
      fence: run.fence,
      actions: actions.map((action) => ({ id: randomUUID(), seq: ++seq, words: '', attempt: 1, endUtcMs: action.startUtcMs, outcome: 'done' as const, remark: null, ...action })), // prettier-ignore
    },
  });

async function take(step: RunStep): Promise<void> {
  const startUtcMs = step.plannedStartUtcMs;
  await report([{ kind: 'expose', startUtcMs, endUtcMs: startUtcMs + 1000 * step.exposureSec }]);
  const exposure = {
    startUtcMs, exposureSec: step.exposureSec, gain: step.gain, sensorC: -10, halfFluxRadiusPx: 1.9, starCount: 300, guidingRmsArcsec: 0.7,
    backgroundE: 120, temperatureC: 9, afterMove: false, rateMeasured: null,
  }; // prettier-ignore
  const body = { fence: run.fence, stepId: step.id, outcome: 'done' as const, words: 'Taken', exposure };
  expect((await test.call('runner', finishStep, { params: { id: run.id }, body })).status).toBe(200);
}

const read = (who = 'sam') => test.call(who, readNightReview, { params: { id: run.id } });
const ask = (who = 'sam') => test.call(who, askNightReview, { params: { id: run.id } });

async function workedOut(): Promise<NonNullable<NightReviewAnswer['review']>> {
  await ask();
  const worker = await testWorker(test.database, test.appUrl, async (task) => ({
    review: reviewNight((task as unknown as ReviewJob).reviewed, { seeds: [1], iterations: 500 }),
  }));
  while (!(await read()).body.isWorkedOut) await sleep(100);
  await worker.close();
  return (await read()).body.review!;
}

describe('the review of a night', () => {
  it('waits until the night is over', async () => {
    expect((await read()).body).toMatchObject({ isWorkedOut: false, whyNot: expect.stringMatching(/over/) });
    expect((await ask()).error).toMatchObject({ code: 'NOT_POSSIBLE' });
    expect((await test.call('sam', readNightReview, { params: { id: randomUUID() } })).status).toBe(404);
  });

  it('finds the hours that the weather took, and the plan made again after it', async () => {
    const [first] = run.steps;
    const early = run.steps.filter(({ plannedStartUtcMs }) => plannedStartUtcMs < first.plannedStartUtcMs + HOUR_MS);
    for (const step of early) await take(step);
    const badUtcMs = first.plannedStartUtcMs + HOUR_MS;
    const goodUtcMs = badUtcMs + 2 * HOUR_MS;
    await report([
      { kind: 'expose', startUtcMs: badUtcMs, outcome: 'interrupted', remark: INTERRUPTION_WORDS.unsafe },
      { kind: 'wait', words: `${WAIT_WORDS.safety} for 20 minutes`, startUtcMs: badUtcMs, endUtcMs: goodUtcMs },
    ]);
    const body = { fence: run.fence, fromUtcMs: goodUtcMs, withoutPanelIds: [] };
    const { steps } = (await test.call('runner', replanRun, { params: { id: run.id }, body })).body;
    await report([{ kind: 'note', words: `${PLANNED_AGAIN}: ${steps.length} exposures`, startUtcMs: goodUtcMs }]);
    for (const step of steps.slice(0, 10)) await take(step);
    for (const step of steps.slice(10))
      await test.call('runner', finishStep, { params: { id: run.id }, body: { fence: run.fence, stepId: step.id, outcome: 'lost', words: 'Not begun: the night had ended', exposure: null } }); // prettier-ignore
    await test.call('runner', endRun, { params: { id: run.id }, body: { fence: run.fence, end: 'finished' } });

    expect((await read()).body).toEqual({ review: null, isWorkedOut: false, whyNot: null, job: null });
    const review = await workedOut();
    expect(review.lostHours).toEqual({ weather: 2, fault: 0, hand: 0 });
    expect(review.bestHours).toBeGreaterThan(1);
    expect(review.takenExposureHours).toBeCloseTo(
      [...early, ...steps.slice(0, 10)].reduce((sum, { exposureSec }) => sum + exposureSec / 3600, 0),
      6,
    );
    const gap = Object.values(review.gapHours).reduce((sum, hours) => sum + hours, 0);
    expect(gap).toBeCloseTo(review.bestHours - review.takenHours, 6);
    expect(review.best.reduce((sum, { exposures }) => sum + exposures, 0)).toBeGreaterThan(10);
  }, 120_000);

  it('is another once exposures were rejected', async () => {
    const before = (await read()).body.review!;
    const { rows } = (await test.call('ilse', listExposures, { query: { night: nightDate } })).body;
    const exposureIds = rows.slice(0, 5).map(({ id }) => id);
    await test.call('ilse', judgeExposures, { body: { exposureIds, verdict: 'rejected', reason: 'cloud' } });
    expect((await read()).body.isWorkedOut).toBe(false);
    const after = await workedOut();
    expect(after.gapHours.rejected).toBeGreaterThan(0);
    expect(after.takenHours).toBeLessThan(before.takenHours);
  }, 120_000);

  it('knows nothing of a plan from before its making was kept', async () => {
    await test.ownerDatabase.rows('DELETE FROM plan_requests');
    expect((await read()).body.whyNot).toMatch(/before/);
    expect((await ask()).error).toMatchObject({ code: 'NOT_POSSIBLE' });
  });
});

// A night by devices looked at afterwards: from what its plan was made of, how it went, and what was rejected since.
import { setTimeout as sleep } from 'node:timers/promises';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import type { NightReviewAnswer } from '@meridiem/contract';
import {
  askNightReview,
  endRun,
  finishStep,
  judgeExposures,
  listExposures,
  readNightReview,
  replanRun,
} from '@meridiem/contract';
import { INTERRUPTION_WORDS, PLANNED_AGAIN, reviewNight, WAIT_WORDS } from '@meridiem/core';
import { randomUUID } from 'node:crypto';
import type { ReviewJob } from '../src/jobs/plan-job.ts';
import { claimedNight } from './device-night.ts';
import type { TestApp } from './test-app.ts';
import { createTestApp, testWorker } from './test-app.ts';

const nightDate = '2026-10-11';
const HOUR_MS = 3_600_000;
let test: TestApp;
let night: Awaited<ReturnType<typeof claimedNight>>;

beforeAll(async () => {
  test = await createTestApp({ exposures: 20, settings: { simulatorUrl: 'http://127.0.0.1:9' } });
  night = await claimedNight(test, nightDate);
}, 60_000);
afterAll(() => test.close());

const read = (who = 'sam') => test.call(who, readNightReview, { params: night.params });
const ask = (who = 'sam') => test.call(who, askNightReview, { params: night.params });

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
    const { run, params } = night;
    const [first] = run.steps;
    const early = run.steps.filter(({ plannedStartUtcMs }) => plannedStartUtcMs < first.plannedStartUtcMs + HOUR_MS);
    for (const step of early) await night.take(step);
    const badUtcMs = first.plannedStartUtcMs + HOUR_MS;
    const goodUtcMs = badUtcMs + 2 * HOUR_MS;
    await night.report([
      { kind: 'expose', startUtcMs: badUtcMs, outcome: 'interrupted', remark: INTERRUPTION_WORDS.unsafe },
      { kind: 'wait', words: `${WAIT_WORDS.safety} for 20 minutes`, startUtcMs: badUtcMs, endUtcMs: goodUtcMs },
    ]);
    const body = { fence: run.fence, fromUtcMs: goodUtcMs, withoutPanelIds: [] };
    const { steps } = (await test.call('runner', replanRun, { params, body })).body;
    await night.report([{ kind: 'note', words: `${PLANNED_AGAIN}: ${steps.length} exposures`, startUtcMs: goodUtcMs }]);
    for (const step of steps.slice(0, 10)) await night.take(step);
    for (const step of steps.slice(10))
      await test.call('runner', finishStep, { params, body: { fence: run.fence, stepId: step.id, outcome: 'lost', words: 'Not begun: the night had ended', exposure: null } }); // prettier-ignore
    await test.call('runner', endRun, { params, body: { fence: run.fence, end: 'finished' } });

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

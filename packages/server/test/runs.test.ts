import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import type { ClaimedRun, StepOutcome } from '@meridiem/contract';
import {
  beginStep,
  claimRun,
  endRun,
  finishStep,
  playNight,
  publishPlan,
  readNight,
  stopRun,
} from '@meridiem/contract';
import type { TestApp } from './test-app.ts';
import { takenExposure } from './taken-exposure.ts';
import { createTestApp } from './test-app.ts';

let test: TestApp;
let rigId: string;
const nightDate = '2026-10-11';
beforeAll(async () => {
  test = await createTestApp({ exposures: 200 });
  const { body } = await test.call('ilse', readNight, { params: { nightDate } });
  rigId = body.rigs.find((rig) => rig.blocks.length > 0)!.rigId;
}, 60_000);
afterAll(() => test.close());

const planOf = async () =>
  (await test.call('ilse', readNight, { params: { nightDate } })).body.rigs.find((rig) => rig.rigId === rigId)!;
const claim = async (holder = 'tests') =>
  (await test.call('runner', claimRun, { body: { holder } })).body.run as ClaimedRun;
const exposureCount = async () =>
  (await test.database.one<{ n: number }>(`SELECT count(*)::int AS n FROM exposures WHERE run_step_id IS NOT NULL`))!.n;

function outcomeOf(run: ClaimedRun, index: number): StepOutcome {
  const step = run.steps[index];
  const exposure = takenExposure(step);
  return { fence: run.fence, stepId: step.id, outcome: 'done', words: 'Taken', exposure };
}
const finish = (run: ClaimedRun, outcome: StepOutcome) =>
  test.call('runner', finishStep, { params: { id: run.id }, body: outcome });
const begin = (run: ClaimedRun, index: number) =>
  test.call('runner', beginStep, { params: { id: run.id }, body: { fence: run.fence, stepId: run.steps[index].id } });

describe('publishing', () => {
  it('is needed before playing', async () => {
    expect(await test.call('petra', playNight, { params: { nightDate }, body: { rigId, speed: 60 } })).toMatchObject({
      status: 409,
      error: { code: 'NOT_POSSIBLE' },
    });
  });

  it('freezes the working plan as it was shown', async () => {
    const working = await planOf();
    const { body } = await test.call('ilse', publishPlan, { params: { nightDate }, body: { rigId } });
    expect(body.seq).toBe(1);
    const published = await planOf();
    expect(published).toMatchObject({ state: 'published', seq: 1, stale: false });
    expect(published.blocks.map((block) => block.runs.map((run) => [run.goalId, run.count]))).toEqual(
      working.blocks.map((block) => block.runs.map((run) => [run.goalId, run.count])),
    );
    expect(published.leftOut.length).toBe(working.leftOut.length);
  });

  it('makes a new version and keeps the old', async () => {
    expect((await test.call('ilse', publishPlan, { params: { nightDate }, body: { rigId } })).body.seq).toBe(2);
    const rows = await test.database.rows<{ state: string }>('SELECT state FROM night_plans ORDER BY seq');
    expect(rows.map((row) => row.state)).toEqual(['superseded', 'published']);
  });

  it('of a night that is over is refused', async () => {
    expect(
      (await test.call('ilse', publishPlan, { params: { nightDate: '2026-10-01' }, body: { rigId } })).status,
    ).toBe(409);
  });
});

describe('a played night', () => {
  it('writes each exposure exactly once, however often it is reported', async () => {
    expect((await test.call('petra', playNight, { params: { nightDate }, body: { rigId, speed: 600 } })).status).toBe(
      200,
    );
    const run = await claim();
    expect(run.steps.length).toBeGreaterThan(3);
    await begin(run, 0);
    expect((await planOf()).run).toMatchObject({ state: 'running', stepsDone: 0, now: { words: 'Exposing' } });
    for (let again = 0; again < 3; again++) await finish(run, outcomeOf(run, 0));
    await Promise.all([begin(run, 1), begin(run, 1)]);
    await Promise.all([finish(run, outcomeOf(run, 1)), finish(run, outcomeOf(run, 1)), finish(run, outcomeOf(run, 1))]);
    expect(await exposureCount()).toBe(2);
    expect((await planOf()).run).toMatchObject({ stepsDone: 2 });
  });

  it('can not be played twice at once', async () => {
    expect((await test.call('ilse', playNight, { params: { nightDate }, body: { rigId, speed: 600 } })).status).toBe(
      409,
    );
    expect(await claim('another')).toBeNull();
  });

  it('is taken over when its lease has expired; the first runner is heard out on what it took, and goes on with nothing', async () => {
    const [{ id, fence }] = await test.database.rows<{ id: string; fence: number }>('SELECT id, fence FROM night_runs');
    await test.database.rows(`UPDATE night_runs SET lease_until = now() - interval '1 second', heard = now() - interval '21 seconds' WHERE id = $1`, [id]); // prettier-ignore
    expect((await planOf()).run).toMatchObject({ silent: true });
    const run = await claim('another');
    expect((await planOf()).run).toMatchObject({ silent: false });
    expect(run.fence).toBe(fence + 1);
    const late = await test.call('runner', beginStep, { params: { id }, body: { fence, stepId: run.steps[0].id } });
    expect(late).toMatchObject({ status: 409, error: { code: 'LEASE_LOST' } });
    expect(await finish({ ...run, fence }, { ...outcomeOf(run, 0), fence })).toMatchObject({
      status: 200,
      body: { goOn: false },
    });
    await begin(run, 0);
    await finish(run, outcomeOf(run, 0));
    expect(await exposureCount()).toBe(3);
  });

  it('keeps a lost frame as lost, without an exposure', async () => {
    const [{ id, fence }] = await test.database.rows<{ id: string; fence: number }>('SELECT id, fence FROM night_runs');
    const step = await test.database.one<{ id: string }>(
      'SELECT id FROM run_steps WHERE run_id = $1 AND outcome IS NULL ORDER BY seq LIMIT 1',
      [id],
    );
    await test.call('runner', finishStep, {
      params: { id },
      body: { fence, stepId: step!.id, outcome: 'lost', words: 'no frame', exposure: null },
    });
    expect(await exposureCount()).toBe(3);
    expect((await planOf()).run).toMatchObject({ stepsLost: 1 });
  });

  it('stops when asked, and what is left can be published and played anew', async () => {
    const [{ id, fence }] = await test.database.rows<{ id: string; fence: number }>('SELECT id, fence FROM night_runs');
    expect((await test.call('petra', stopRun, { params: { id } })).status).toBe(200);
    const step = await test.database.one<{ id: string }>(
      'SELECT id FROM run_steps WHERE run_id = $1 AND outcome IS NULL ORDER BY seq LIMIT 1',
      [id],
    );
    expect((await test.call('runner', beginStep, { params: { id }, body: { fence, stepId: step!.id } })).body).toEqual({
      goOn: false,
    });
    expect((await test.call('runner', endRun, { params: { id }, body: { fence } })).body).toEqual({ state: 'stopped' });
    expect((await test.call('petra', stopRun, { params: { id } })).status).toBe(409);
    const lastEnd = await test.database.one<{ endUtcMs: number }>(
      `SELECT (extract(epoch FROM max(start_utc + exposure_s * interval '1 second')) * 1000)::float8 AS "endUtcMs" FROM exposures`,
    );
    await test.call('ilse', publishPlan, { params: { nightDate }, body: { rigId } });
    expect((await planOf()).blocks[0].startUtcMs).toBeGreaterThanOrEqual(lastEnd!.endUtcMs - 1000);
    expect((await test.call('petra', playNight, { params: { nightDate }, body: { rigId, speed: 600 } })).status).toBe(
      200,
    );
  });
});

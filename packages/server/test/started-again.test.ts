// A night that a person has stopped and starts again: it goes on with what was left, also of a plan made again in it.
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import type { RunStep } from '@meridiem/contract';
import { claimRun, endRun, playNight, replanRun } from '@meridiem/contract';
import { claimedNight } from './device-night.ts';
import type { TestApp } from './test-app.ts';
import { createTestApp } from './test-app.ts';

const nightDate = '2026-10-11';
let test: TestApp;
let night: Awaited<ReturnType<typeof claimedNight>>;
beforeAll(async () => {
  test = await createTestApp({ exposures: 20, settings: { simulatorUrl: 'http://127.0.0.1:9' } });
  night = await claimedNight(test, nightDate);
}, 60_000);
afterAll(() => test.close());

const play = () => test.call('ilse', playNight, { params: { nightDate }, body: { rigId: night.rigId, speed: 60 } });
const claim = async () => (await test.call('runner', claimRun, { body: { holder: 'tests' } })).body.run!;
const shown = (steps: readonly RunStep[]) => steps.map(({ panelId, filterLetter, plannedStartUtcMs }) => [panelId, filterLetter, plannedStartUtcMs]); // prettier-ignore
const end = (run: { id: string; fence: number }, as: 'stopped' | 'finished') =>
  test.call('runner', endRun, { params: { id: run.id }, body: { fence: run.fence, end: as } });

describe('a night started again', () => {
  let left: RunStep[];

  it('goes on with what was left of the plan made again', async () => {
    const [first] = night.run.steps;
    await night.take(first);
    const body = { fence: night.run.fence, fromUtcMs: first.plannedStartUtcMs + 3_600_000, withoutPanelIds: [] };
    left = (await test.call('runner', replanRun, { params: night.params, body })).body.steps;
    expect(left.length).toBeGreaterThan(1);
    await end(night.run, 'stopped');
    expect((await play()).status).toBe(200);
    const again = await claim();
    expect(again.id).not.toBe(night.run.id);
    expect(shown(again.steps)).toEqual(shown(left));
    await end(again, 'stopped');
  });

  it('as often as it is stopped, and no more once it is over', async () => {
    await play();
    const third = await claim();
    expect(shown(third.steps)).toEqual(shown(left));
    await end(third, 'finished');
    expect((await play()).error).toMatchObject({ code: 'NOT_POSSIBLE', message: expect.stringContaining('Everything in this plan has been played') }); // prettier-ignore
  });
});

// Work that a page asks for by itself never holds up what a person asked for: each kind of it has a thread of its own.
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { setTimeout as sleep } from 'node:timers/promises';
import { askProjectOutlook, askSeason, listProjects, readProjectOutlook, readSeason } from '@meridiem/contract';
import { outlookOf, seasonOutlook } from '@meridiem/core';
import { JOB_KINDS } from '../src/jobs/kinds.ts';
import type { OutlookJob, SeasonJob } from '../src/jobs/plan-job.ts';
import type { TestApp } from './test-app.ts';
import { createTestApp, testWorker } from './test-app.ts';

let test: TestApp;
let worker: Awaited<ReturnType<typeof testWorker>>;
let release: () => void;
const held = new Promise<void>((resolve) => (release = resolve));
let begun = 0;
beforeAll(async () => {
  test = await createTestApp({ exposures: 60 });
  worker = await testWorker(test.database, test.appUrl, async (task) => {
    const { request, nights, options } = task as OutlookJob;
    if (!nights) {
      const season = task as unknown as SeasonJob;
      return seasonOutlook(season.request, { ...season.options, seconds: 0.1, boundRounds: 0, draws: 5 })!;
    }
    begun += 1;
    await held;
    return outlookOf(request, nights.slice(0, 2), options);
  });
}, 120_000);
afterAll(async () => {
  release();
  await worker.close();
  await test.close();
});

describe('quiet work', () => {
  it('is what pages ask for by themselves, and nothing else', () => {
    expect(Object.entries(JOB_KINDS).flatMap(([name, { isQuiet }]) => (isQuiet ? [name] : []))).toEqual(['outlook']);
  });

  it('goes on while a season that somebody asked for is planned and finished', async () => {
    const { projects } = (await test.call('ilse', listProjects, {})).body;
    const params = { id: projects.find(({ state, resting, filters }) => state === 'granted' && !resting && filters.length > 0)!.id }; // prettier-ignore
    await test.call('ilse', askProjectOutlook, { params });
    for (let i = 0; i < 200 && begun === 0; i++) await sleep(50);
    expect(begun).toBe(1);
    await test.call('ilse', askSeason, {});
    let season = null;
    for (let i = 0; i < 600 && !season; i++, await sleep(100))
      season = (await test.call('ilse', readSeason, {})).body.season;
    expect(season).not.toBeNull();
    expect((await test.call('ilse', readProjectOutlook, { params })).body.outlook).toBeNull();
    release();
    let outlook = null;
    for (let i = 0; i < 300 && !outlook; i++, await sleep(100)) outlook = (await test.call('ilse', readProjectOutlook, { params })).body.outlook; // prettier-ignore
    expect(outlook).not.toBeNull();
  }, 120_000);
});

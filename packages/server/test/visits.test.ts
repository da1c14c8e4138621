// Visits to the site: planned, made, confirmed by a measurement; what they change is a dated fact only then, and the season's before.
import { readFileSync } from 'node:fs';
import { setTimeout as sleep } from 'node:timers/promises';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import type { BodyOf, NewVisitJob, Rig, Season, Visit, VisitAdvice } from '@meridiem/contract';
import {
  addImportFiles,
  addVisit,
  addVisitJob,
  applyImport,
  askSeason,
  askVisitAdvice,
  beginImport,
  editVisit,
  readMeasuredAngles,
  readNightStandings,
  readObservatory,
  readSeason,
  readVisitAdvice,
  readVisitEffects,
  readVisits,
  settleVisitJob,
  undoLast,
} from '@meridiem/contract';
import {
  angleApartDeg,
  frameFacts,
  nightDatePlus,
  proposeVisits,
  readFitsHeaders,
  seasonOutlook,
} from '@meridiem/core';
import type { SeasonJob, VisitsJob } from '../src/jobs/plan-job.ts';
import type { TestApp } from './test-app.ts';
import { createTestApp, testWorker } from './test-app.ts';

let test: TestApp;
let worker: Awaited<ReturnType<typeof testWorker>>;
let tonight: string;
let rigId: string;
beforeAll(async () => {
  test = await createTestApp({ exposures: 200 });
  worker = await testWorker(test.database, test.appUrl, async (task) => {
    const { request, visited, options } = task as unknown as Partial<SeasonJob & VisitsJob>;
    if (visited) {
      const short = { ...visited, nights: visited.nights.slice(0, 20) };
      return {
        visits: proposeVisits(short, { ...(options as VisitsJob['options']), secondsEach: 0.05, costHours: 0.5 })!,
      };
    }
    return seasonOutlook(request!, { ...(options as SeasonJob['options']), seconds: 0.2, boundRounds: 0, draws: 20 })!;
  });
  const observatory = (await test.call('ilse', readObservatory, {})).body;
  tonight = observatory.tonight;
  rigId = observatory.rigs.find(({ rotatorKind }) => rotatorKind === 'hand')!.id;
}, 120_000);
afterAll(async () => {
  await worker.close();
  await test.close();
});

const rig = async (): Promise<Rig> =>
  (await test.call('ilse', readObservatory, {})).body.rigs.find(({ id }) => id === rigId)!;
const nights = (n: number): string => nightDatePlus(tonight, n);
const turn = (skyAngleDeg: number | null, fields: Partial<NewVisitJob> = {}): NewVisitJob => ({
  rigId,
  work: 'angle',
  skyAngleDeg,
  fitsId: null,
  removesId: null,
  words: '',
  ...fields,
});
const plan = (nightDate: string, jobs: readonly NewVisitJob[] = [], who = 'petra', goesId: string | null = null) =>
  test.call(who, addVisit, { body: { nightDate, goesId, words: '', jobs: [...jobs] } });
const visits = async (who = 'petra'): Promise<readonly Visit[]> => (await test.call(who, readVisits, {})).body.visits;
const visitNamed = async (id: string): Promise<Visit> => (await visits()).find((visit) => visit.id === id)!;
const settle = (jobId: string, body: BodyOf<typeof settleVisitJob>, who = 'petra') =>
  test.call(who, settleVisitJob, { params: { id: jobId }, body });
const cancel = async (id: string): Promise<void> => {
  const { version } = await visitNamed(id);
  await test.call('petra', editVisit, { params: { id }, body: { version, cancelled: true } });
};

describe('a visit', () => {
  it('is planned by who has hands on site, seen by all, moved, and cancelled; each undone', async () => {
    expect((await plan(nights(9), [], 'ruan')).status).toBe(403);
    const { id } = (await plan(nights(9), [turn(100, { words: 'mind the cable' })])).body;
    for (const who of ['ruan', 'petra', 'ilse']) expect((await visits(who)).map((visit) => visit.id)).toContain(id);
    expect(await visitNamed(id)).toMatchObject({ nightDate: nights(9), goesName: null, jobs: [{ skyAngleDeg: 100, state: 'open', words: 'mind the cable' }] }); // prettier-ignore
    const { hands } = (await test.call('ruan', readVisits, {})).body;
    expect(hands.map(({ name }) => name)).toContain('Petra Lindholm');
    const goesId = hands.find(({ name }) => name === 'Petra Lindholm')!.personId;
    const { version } = await visitNamed(id);
    await test.call('petra', editVisit, { params: { id }, body: { version, nightDate: nights(11), goesId } });
    expect(await visitNamed(id)).toMatchObject({ nightDate: nights(11), goesName: 'Petra Lindholm' });
    await test.call('petra', undoLast, {});
    expect(await visitNamed(id)).toMatchObject({ nightDate: nights(9), goesName: null });
    await cancel(id);
    expect(await visitNamed(id)).toBeUndefined();
    await test.call('petra', undoLast, {});
    expect(await visitNamed(id)).toBeDefined();
    await cancel(id);
  });

  it('is refused at its field: a day that is over or taken, somebody without hands, work that says too little', async () => {
    expect((await plan(nights(-1))).error).toMatchObject({ field: 'nightDate' });
    const { id } = (await plan(nights(8))).body;
    expect((await plan(nights(8))).error).toMatchObject({ field: 'nightDate' });
    const person = await test.database.one<{ id: string }>(`SELECT id FROM people WHERE name = 'Ruan Aldous'`);
    expect((await plan(nights(20), [], 'petra', person!.id)).error).toMatchObject({ field: 'goesId' });
    const added = (job: NewVisitJob) => test.call('petra', addVisitJob, { params: { id }, body: job });
    expect((await added(turn(null))).error.field).toBe('skyAngleDeg');
    expect((await added(turn(10, { work: 'cleaning' }))).error.field).toBe('skyAngleDeg');
    expect((await added(turn(null, { work: 'filter' }))).error.field).toBe('fitsId');
    expect((await added(turn(null, { work: 'other' }))).error.field).toBe('words');
    const [{ filterId }] = (await rig()).slots;
    const exchange = { work: 'filter' as const, fitsId: filterId, removesId: filterId };
    expect((await added(turn(null, exchange))).error.field).toBe('removesId');
    expect((await added(turn(10, { rigId: id }))).status).toBe(404);
    expect((await visitNamed(id)).jobs).toEqual([]);
    await cancel(id);
  });

  it('is one a day, however many plan it at once', async () => {
    const answers = await Promise.all(Array.from({ length: 4 }, () => plan(nights(30))));
    expect(answers.filter(({ status }) => status === 200)).toHaveLength(1);
    await cancel(answers.find(({ status }) => status === 200)!.body.id);
  });
});

describe('work of a visit', () => {
  it('that is removed is gone from the page and back by undo; what is left undone stays with who said so', async () => {
    const { id } = (await plan(nights(3), [turn(80), turn(null, { work: 'focus' })])).body;
    const [angle, focus] = (await visitNamed(id)).jobs;
    expect((await settle(angle.id, { outcome: 'removed' })).status).toBe(200);
    expect((await visitNamed(id)).jobs.map(({ work }) => work)).toEqual(['focus']);
    expect((await settle(angle.id, { outcome: 'done', measuredDeg: 80 })).status).toBe(404);
    await test.call('petra', undoLast, {});
    expect((await visitNamed(id)).jobs.map(({ work }) => work).sort()).toEqual(['angle', 'focus']);
    expect((await settle(focus.id, { outcome: 'left' }, 'ilse')).status).toBe(200);
    const left = (await visitNamed(id)).jobs.find(({ work }) => work === 'focus');
    expect(left).toMatchObject({ state: 'left', settledByName: 'Ilse Marwick', measuredDeg: null });
    await cancel(id);
  });
});

describe('ten thousand of everything', () => {
  it('a year of visits with work is read in a moment, and only what is planned or recent is told', async () => {
    const observatory = await test.ownerDatabase.one<{ id: string }>('SELECT id FROM observatories');
    const person = await test.ownerDatabase.one<{ id: string }>(`SELECT id FROM people WHERE name = 'Petra Lindholm'`);
    await test.ownerDatabase.rows(
      `INSERT INTO visits (observatory_id, night_date, person_id, words) SELECT $1, $3::date - 4000 + n, $2, 'made long ago' FROM generate_series(1, 3900) n`,
      [observatory!.id, person!.id, tonight],
    );
    await test.ownerDatabase.rows(
      `INSERT INTO visit_jobs (observatory_id, visit_id, rig_id, work, state, settled, settled_by) SELECT v.observatory_id, v.id, $1, 'cleaning', 'done', now(), $2 FROM visits v, generate_series(1, 3) WHERE v.words = 'made long ago'`,
      [rigId, person!.id],
    );
    const started = performance.now();
    const told = await visits();
    expect(performance.now() - started).toBeLessThan(500);
    expect(told.filter(({ words }) => words === 'made long ago').length).toBeLessThanOrEqual(60);
    await test.ownerDatabase.rows(`DELETE FROM visits WHERE words = 'made long ago'`);
  });
});

/** In the night before which the visit is made. */
let FRAME = 0;
beforeAll(() => {
  FRAME = Date.parse(`${tonight}T12:30:00Z`);
});

describe('a camera turned', () => {
  it('stands at its new angle once it was measured, and where it stood before when that is taken back', async () => {
    const before = (await rig()).skyAngleDeg;
    const { id } = (await plan(nights(2), [turn(100)])).body;
    const [job] = (await visitNamed(id)).jobs;
    expect((await rig()).skyAngleDeg).toBe(before);
    expect((await settle(job.id, { outcome: 'done' })).error.field).toBe('measuredDeg');
    expect((await settle(job.id, { outcome: 'done', measuredDeg: 99.4 }, 'ruan')).status).toBe(403);
    expect((await settle(job.id, { outcome: 'done', measuredDeg: 99.4 })).status).toBe(200);
    expect((await rig()).skyAngleDeg).toBe(99.4);
    expect((await visitNamed(id)).jobs[0]).toMatchObject({ state: 'done', measuredDeg: 99.4, settledByName: 'Petra Lindholm', frameUtcMs: null }); // prettier-ignore
    expect((await settle(job.id, { outcome: 'left' })).status).toBe(409);
    await test.call('petra', undoLast, {});
    expect((await rig()).skyAngleDeg).toBe(before);
    expect((await visitNamed(id)).jobs[0]).toMatchObject({ state: 'open', measuredDeg: null });
    await cancel(id);
    expect((await settle(job.id, { outcome: 'done', measuredDeg: 77 })).status).toBe(409);
    expect((await rig()).skyAngleDeg).toBe(before);
  });

  it('is confirmed once, by whoever is first', async () => {
    const before = (await rig()).skyAngleDeg!;
    const { id } = (await plan(nights(2), [turn(100)])).body;
    const [job] = (await visitNamed(id)).jobs;
    const answers = await Promise.all(
      [91, 92, 93, 94].map((measuredDeg) => settle(job.id, { outcome: 'done', measuredDeg })),
    );
    expect(answers.filter(({ status }) => status === 200)).toHaveLength(1);
    expect((await rig()).skyAngleDeg).toBe(91 + answers.findIndex(({ status }) => status === 200));
    await test.call('petra', undoLast, {});
    expect((await rig()).skyAngleDeg).toBe(before);
    await cancel(id);
  });

  it('is measured on an imported frame with world coordinates, of the same rig only', async () => {
    const camera = await test.database.one<{ serial: string }>(
      `SELECT c.serial FROM cameras c JOIN rig_revisions v ON v.camera_id = c.id WHERE v.rig_id = $1 AND upper_inf(v.during)`,
      [rigId],
    );
    const bytes = readFileSync(new URL('../../core/fixtures/frames/w-plain.fits', import.meta.url));
    const facts = frameFacts(readFitsHeaders(bytes), { timeZone: 'Australia/Adelaide' })!;
    const file = {
      name: 'after-the-turn.fits',
      sizeBytes: bytes.length,
      facts: { ...facts, doubts: [], cameraName: camera!.serial, telescopeName: null, positionAngleDeg: 101.25, startUtcMs: FRAME }, // prettier-ignore
      refused: null,
      dataSha256: 'c7'.repeat(32),
      pixelsSha256: null,
      headerKey: null,
      verdict: null,
    };
    const { body } = await test.call('ilse', beginImport, { body: { source: 'the camera' } });
    await test.call('ilse', addImportFiles, { params: { id: body.id }, body: { files: [file] } });
    await test.call('ilse', applyImport, { params: { id: body.id } });
    const { frames } = (await test.call('petra', readMeasuredAngles, { params: { id: rigId } })).body;
    const frame = frames.find(({ skyAngleDeg }) => skyAngleDeg === 101.25)!;
    expect(frame).toMatchObject({ startUtcMs: FRAME });
    const before = (await rig()).skyAngleDeg;
    const later = (await plan(nights(2), [turn(100)])).body.id;
    const early = await settle((await visitNamed(later)).jobs[0].id, { outcome: 'done', exposureId: frame.exposureId });
    expect(early.error).toMatchObject({ field: 'exposureId', message: expect.stringMatching(/before the visit/) });
    await cancel(later);
    const { id } = (await plan(tonight, [turn(100)])).body;
    const [job] = (await visitNamed(id)).jobs;
    expect((await settle(job.id, { outcome: 'done', exposureId: id })).error.field).toBe('exposureId');
    expect((await settle(job.id, { outcome: 'done', exposureId: frame.exposureId })).status).toBe(200);
    expect((await rig()).skyAngleDeg).toBe(101.25);
    expect((await visitNamed(id)).jobs[0]).toMatchObject({ measuredDeg: 101.25, frameUtcMs: FRAME });
    await test.call('petra', undoLast, {});
    expect((await rig()).skyAngleDeg).toBe(before);
    await cancel(id);
  });
});

describe('a filter exchanged', () => {
  it('is in the wheel from its confirmation on, in the other’s place, and out again when taken back', async () => {
    const { slots } = await rig();
    const [gone] = slots;
    const { filters } = (await test.call('ilse', readObservatory, {})).body;
    const outside = filters.find(({ id }) => slots.every(({ filterId }) => filterId !== id));
    // Every filter of the story is in the wheel: one is taken out of it by a visit of its own first.
    const fitsId = outside?.id ?? slots.at(-1)!.filterId;
    if (!outside) await test.database.rows(`UPDATE filter_slots SET during = tstzrange(lower(during), now()) WHERE rig_id = $1 AND filter_id = $2 AND upper_inf(during)`, [rigId, fitsId]); // prettier-ignore
    const { id } = (await plan(nights(2), [turn(null, { work: 'filter', fitsId, removesId: gone.filterId })])).body;
    const [job] = (await visitNamed(id)).jobs;
    const wheel = async () => new Map((await rig()).slots.map(({ slot, filterId }) => [filterId, slot]));
    expect((await wheel()).has(fitsId)).toBe(false);
    expect((await settle(job.id, { outcome: 'done' })).status).toBe(200);
    expect((await wheel()).get(fitsId)).toBe(gone.slot);
    expect((await wheel()).has(gone.filterId)).toBe(false);
    await test.call('petra', undoLast, {});
    expect((await wheel()).get(gone.filterId)).toBe(gone.slot);
    expect((await wheel()).has(fitsId)).toBe(false);
    // What it was to replace has gone meanwhile: nothing happens.
    await test.database.rows(`UPDATE filter_slots SET during = tstzrange(lower(during), now()) WHERE rig_id = $1 AND filter_id = $2 AND upper_inf(during)`, [rigId, gone.filterId]); // prettier-ignore
    expect((await settle(job.id, { outcome: 'done' })).status).toBe(409);
    expect((await visitNamed(id)).jobs[0].state).toBe('open');
    await cancel(id);
  });
});

describe('what hangs on a visit', () => {
  async function season(who = 'ilse'): Promise<Season> {
    await test.call(who, askSeason, {});
    for (let i = 0; i < 600; i++, await sleep(100)) {
      const { season: found, job } = (await test.call(who, readSeason, {})).body;
      if (found) return found;
      if (job?.state === 'failed') throw new Error(job.failure ?? 'failed');
    }
    throw new Error('The season has not come');
  }
  const projectsAt = async (skyAngleDeg: number): Promise<string[]> => {
    const rows = await test.database.rows<{ id: string; angle: number }>(
      `SELECT DISTINCT p.id, l.position_angle_deg AS angle FROM projects p JOIN framed_panels l ON l.project_id = p.id WHERE p.rig_id = $1 AND p.state = 'granted' AND NOT p.resting`,
      [rigId],
    );
    const { angleToleranceDeg } = await rig();
    return rows.filter(({ angle }) => angleApartDeg(angle, skyAngleDeg) <= angleToleranceDeg).map(({ id }) => id);
  };

  it('stands in the season from its night on, and not in tonight’s plan', async () => {
    const { skyAngleDeg } = await rig();
    const elsewhere = (skyAngleDeg! + 90) % 180;
    const served = await projectsAt(skyAngleDeg!);
    expect(served.length).toBeGreaterThan(0);
    const before = await season();
    expect(before.projects.every(({ hangsOnVisit }) => hangsOnVisit === null)).toBe(true);
    const { id } = (await plan(nights(7), [turn(elsewhere)])).body;
    const after = await season();
    const works = (found: Season, from: string): boolean =>
      found.nights.some(({ nightDate, cells }) => nightDate >= from && cells.some(({ projectId }) => projectId !== null && served.includes(projectId))); // prettier-ignore
    expect(works(before, nights(7))).toBe(true);
    expect(works(after, nights(7))).toBe(false);
    expect(works(after, tonight)).toBe(true);
    const standings = (await test.call('ilse', readNightStandings, { params: { nightDate: 'tonight' } })).body
      .standings;
    expect(standings.length).toBeGreaterThan(0);
    expect((await rig()).skyAngleDeg).toBe(skyAngleDeg);
    const [{ hours }] = (await test.call('ilse', readVisitEffects, {})).body.effects;
    for (const { projectId, hours: moved } of hours)
      expect(moved < 0).toBe(projectId !== null && served.includes(projectId));
    // Another kind of work on the same day changes nothing for what is served now.: what is served now waits for nothing.
    await test.call('petra', addVisitJob, { params: { id }, body: turn(null, { work: 'cleaning' }) });
    const turned = await season();
    for (const project of turned.projects.filter(({ projectId }) => served.includes(projectId)))
      expect(project.hangsOnVisit).toBeNull();
    await cancel(id);
  }, 120_000);

  it('is advised from the goals themselves, named to whoever may see the project', async () => {
    const who = 'ilse';
    await test.call(who, askVisitAdvice, {});
    let advice: VisitAdvice | null = null;
    for (let i = 0; i < 900 && !advice; i++, await sleep(100)) {
      const answer = (await test.call(who, readVisitAdvice, {})).body;
      if (answer.job?.state === 'failed') throw new Error(answer.job.failure ?? 'failed');
      advice = answer.advice;
    }
    expect(advice).not.toBeNull();
    for (const { nightDate, jobs } of advice!.visits) {
      expect(nightDate > tonight).toBe(true);
      for (const job of jobs) expect(job.gainHours).toBeGreaterThan(0);
      for (const { projectId, name } of jobs.flatMap(({ hours }) => hours))
        expect(projectId === null).toBe(name === null);
    }
    expect((await test.call('ruan', askVisitAdvice, {})).status).toBe(403);
    expect((await test.call('ruan', readVisitAdvice, {})).body.advice).not.toBeNull();
  }, 120_000);
});

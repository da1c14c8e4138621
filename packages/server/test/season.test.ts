// The season as the application plans it: for all granted projects, around closed nights and deadlines, masked for whoever may not see.
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { setTimeout as sleep } from 'node:timers/promises';
import type { Season, SeasonReason, TriedSwap, WhatIf } from '@meridiem/contract';
import {
  addClosure,
  askConsequences,
  askHelps,
  askSeasonReason,
  askSwapDates,
  askWhatIf,
  askSeason,
  editClimateMonth,
  editProject,
  listPeople,
  readConsequences,
  readHelps,
  readSeasonReason,
  readStanding,
  readSwapDates,
  readWhatIf,
  readNightStandings,
  readObservatory,
  readSeason,
  removeClosure,
  undoLast,
} from '@meridiem/contract';
import type { SeasonRequest } from '@meridiem/core';
import {
  consequencesOf,
  explainSeasonNight,
  nightDatePlus,
  seasonDifference,
  seasonOutlook,
  whatHelps,
} from '@meridiem/core';
import type { ConsequencesJob, HelpsJob, SeasonJob, SeasonReasonJob, SwapDatesJob } from '../src/jobs/plan-job.ts';
import type { TestApp } from './test-app.ts';
import { createTestApp, testWorker } from './test-app.ts';

/** Nine seasons are planned for one answer: fewer nights of each are enough here. */
const fewNights = (request: SeasonRequest): SeasonRequest => ({ ...request, nights: request.nights.slice(0, 10) });

let test: TestApp;
let worker: Awaited<ReturnType<typeof testWorker>>;
beforeAll(async () => {
  test = await createTestApp({ exposures: 200 });
  worker = await testWorker(test.database, test.appUrl, async (task) => {
    const { request, compared, swapped, helped, asked, options } = task as unknown as Partial<
      ConsequencesJob & SwapDatesJob & SeasonJob & HelpsJob & SeasonReasonJob
    >;
    const quick = { ...options!, seconds: 0.2, boundRounds: 0, draws: 20 };
    if (asked) return { reason: explainSeasonNight(asked, { seed: 1, seconds: 0.05 }) };
    if (swapped)
      return seasonDifference({ changed: fewNights(swapped.changed), asIs: fewNights(swapped.asIs) }, quick)!;
    if (helped)
      return whatHelps(
        fewNights(helped.request),
        helped.projectId,
        { ...quick, seconds: 0.05 },
        undefined,
        helped.others,
      )!;
    return compared ? consequencesOf(compared, quick)! : seasonOutlook(request!, quick)!;
  });
}, 120_000);
afterAll(async () => {
  await worker.close();
  await test.close();
});

const observatory = async () => (await test.call('ilse', readObservatory, {})).body;

async function planned(who = 'ilse'): Promise<Season> {
  await test.call(who, askSeason, {});
  for (let i = 0; i < 600; i++, await sleep(100)) {
    const { season, job } = (await test.call(who, readSeason, {})).body;
    if (season) return season;
    if (job?.state === 'failed') throw new Error(job.failure ?? 'failed');
  }
  throw new Error('The season has not come');
}

const nightsOf = (season: Season, projectId: string): string[] =>
  season.nights
    .filter(({ cells }) => cells.some((cell) => cell.projectId === projectId))
    .map(({ nightDate }) => nightDate);

/** A project that works in many nights. */
const busiest = (season: Season) =>
  season.projects.toSorted((a, b) => nightsOf(season, b.projectId).length - nightsOf(season, a.projectId).length)[0];

describe('the season', () => {
  it('plans every granted project that is not resting, for each rig and night', async () => {
    const season = await planned();
    const granted = await test.ownerDatabase.rows<{ id: string }>(
      `SELECT DISTINCT p.id FROM projects p JOIN panels l ON l.project_id = p.id JOIN goals g ON g.panel_id = l.id WHERE p.state = 'granted' AND NOT p.resting AND g.enabled`,
    );
    expect(season.projects.map(({ projectId }) => projectId).sort()).toEqual(granted.map(({ id }) => id).sort());
    const { rigs, tonight, climate } = await observatory();
    expect(season.nights).toHaveLength(60 * rigs.length);
    expect(season.nights[0]).toMatchObject({
      nightDate: tonight,
      odds: climate[Number(tonight.slice(5, 7)) - 1].clearOdds,
    });
    expect(season.value).toBeGreaterThan(0);
  }, 120_000);

  it('leaves closed nights empty, of one rig or all, until they are opened again', async () => {
    const before = await planned();
    const project = busiest(before);
    const [firstNight] = nightsOf(before, project.projectId);
    const body = { rigId: project.rigId, firstNight, lastNight: firstNight, reason: 'the mount is greased' };
    const { closures } = (await test.call('ilse', addClosure, { body })).body;
    const during = await planned();
    const closed = during.nights.filter(({ nightDate }) => nightDate === firstNight);
    expect(closed.find(({ rigId }) => rigId === project.rigId)).toMatchObject({ odds: 0, cells: [] });
    expect(closed.filter(({ odds }) => odds > 0)).toHaveLength(closed.length - 1);
    const { id } = closures.find(({ reason }) => reason === body.reason)!;
    expect((await test.call('ilse', removeClosure, { params: { id } })).status).toBe(200);
    expect((await planned()).nights).toEqual(before.nights);
    await test.call('ilse', undoLast, {});
    expect((await observatory()).closures.map((closure) => closure.id)).toContain(id);
    await test.call('ilse', removeClosure, { params: { id } });
  }, 120_000);

  it('refuses nights that end before they begin, and other observatories’ rigs', async () => {
    const body = { rigId: null, firstNight: '2026-12-05', lastNight: '2026-12-03', reason: 'snow' };
    expect((await test.call('ilse', addClosure, { body })).error).toMatchObject({ field: 'lastNight' });
    const stranger = { ...body, lastNight: '2026-12-06', rigId: '00000000-0000-4000-8000-000000000000' };
    expect((await test.call('ilse', addClosure, { body: stranger })).status).toBe(404);
  });

  it('gives a project nothing after its last night', async () => {
    const before = await planned();
    const project = busiest(before);
    const nights = nightsOf(before, project.projectId);
    const deadline = nights[Math.floor(nights.length / 2)];
    const { version } = (await test.ownerDatabase.one<{ version: number }>('SELECT version FROM projects WHERE id = $1', [project.projectId]))!; // prettier-ignore
    await test.call('ilse', editProject, { params: { id: project.projectId }, body: { version, deadline } });
    const season = await planned();
    expect(nightsOf(season, project.projectId).every((nightDate) => nightDate <= deadline)).toBe(true);
    expect(season.projects.find(({ projectId }) => projectId === project.projectId)).toMatchObject({ deadline });
  }, 120_000);

  it('lets work fade over the nights after the last one where that is wished; tonight’s plan goes by it as well', async () => {
    const { tonight } = await observatory();
    const season = await planned();
    const project = busiest(season);
    const { projectId } = project;
    const edit = async (body: { deadline?: string | null; decayNights?: number | null }) => {
      const { version } = (await test.ownerDatabase.one<{ version: number }>('SELECT version FROM projects WHERE id = $1', [projectId]))!; // prettier-ignore
      return test.call('ilse', editProject, { params: { id: projectId }, body: { version, ...body } });
    };
    const reason = async (): Promise<string | null> => {
      const { standings } = (await test.call('ilse', readNightStandings, { params: { nightDate: tonight } })).body;
      return standings.find((one) => one.projectId === projectId)!.reason?.code ?? null;
    };
    const yesterday = nightDatePlus(tonight, -1);
    await edit({ deadline: yesterday });
    expect(await reason()).toBe('PAST_LAST_NIGHT');
    expect(nightsOf(await planned(), projectId)).toEqual([]);
    expect((await edit({ decayNights: 0 })).status).toBe(400);
    await edit({ decayNights: 30 });
    expect(await reason()).not.toBe('PAST_LAST_NIGHT');
    const fading = nightsOf(await planned(), projectId);
    expect(fading.length).toBeGreaterThan(0);
    expect(fading.every((nightDate) => nightDate < nightDatePlus(yesterday, 30))).toBe(true);
    await test.call('ilse', undoLast, {});
    expect(await reason()).toBe('PAST_LAST_NIGHT');
    await edit({ deadline: null });
  }, 180_000);

  it('is planned anew where the odds of a month change, and kept where nothing does', async () => {
    await planned();
    expect((await test.call('ruan', askSeason, {})).body.season).not.toBeNull();
    const { climate, tonight } = await observatory();
    const month = climate[Number(tonight.slice(5, 7)) - 1];
    await test.call('ilse', editClimateMonth, {
      params: { id: month.id },
      body: { version: month.version, clearOdds: 0.31 },
    });
    expect((await test.call('ruan', readSeason, {})).body.season).toBeNull();
    expect((await planned()).nights[0].odds).toBe(0.31);
  }, 120_000);

  it('is begun with the one that stood, of those asked as things are', async () => {
    const jobs = async () =>
      test.database.rows<{ hash: string; before: string | null; isStanding: boolean | null }>(
        `SELECT request_hash AS hash, request->>'beforeHash' AS before, (request->>'isStanding')::boolean AS "isStanding" FROM jobs WHERE kind = 'season' AND state = 'done' ORDER BY finished`,
      );
    const standing = (await jobs()).filter(({ isStanding }) => isStanding);
    expect(standing.length).toBeGreaterThan(1);
    expect(standing.map(({ before }) => before)).toEqual([null, ...standing.slice(0, -1).map(({ hash }) => hash)]);
  });

  it('is found again though something it plans moves', async () => {
    const [still] = (await planned()).projects;
    const moving = await test.ownerDatabase.rows<{ id: string }>(
      'UPDATE projects SET target_id = (SELECT target_id FROM orbits LIMIT 1) WHERE id = $1 RETURNING id',
      [still.projectId],
    );
    expect(moving.length).toBeGreaterThan(0);
    expect((await planned()).projects.map(({ projectId }) => projectId)).toContain(moving[0].id);
    await sleep(1200);
    expect((await test.call('ilse', readSeason, {})).body.season).not.toBeNull();
  }, 120_000);

  it('shows another member’s private project as reserved, to its owner by name', async () => {
    const season = await planned();
    const { projectId } = busiest(season);
    await test.ownerDatabase.rows('UPDATE projects SET private = true WHERE id = $1', [projectId]);
    const { email } = (await test.ownerDatabase.one<{ email: string }>('SELECT o.email FROM projects p JOIN people o ON o.id = p.owner_id WHERE p.id = $1', [projectId]))!; // prettier-ignore
    const owner = email.split('@')[0];
    const other = ['ruan', 'mirela', 'jonah'].find((key) => key !== owner)!;
    const seen = await planned(other);
    expect(JSON.stringify(seen)).not.toContain(projectId);
    expect(seen.nights.flatMap(({ cells }) => cells).filter((cell) => cell.projectId === null && cell.filters.length > 0)).toEqual([]); // prettier-ignore
    expect(seen.nights.flatMap(({ cells }) => cells).some((cell) => cell.projectId === null)).toBe(true);
    expect(JSON.stringify(await planned(owner))).toContain(projectId);
  }, 120_000);
});

describe('before hours are swapped', () => {
  const idOf = async (name: string): Promise<string> =>
    (await test.call('ilse', listPeople)).body.people.find((person) => person.name.startsWith(name))!.id;
  const tried = async (): Promise<TriedSwap> => ({
    rigId: (await observatory()).rigs[0].id,
    fromId: await idOf('Mirela'),
    toId: await idOf('Jonah'),
    givesSky: 'bright',
    givesHours: 4,
    getsHours: 3,
  });
  async function found(who: string, body: TriedSwap) {
    const asked = await test.call(who, askSwapDates, { body });
    if (asked.status !== 200) return asked;
    for (let i = 0; i < 600; i++, await sleep(100)) {
      const answer = await test.call(who, readSwapDates, { body });
      if (answer.body.dates) return answer;
    }
    throw new Error('The dates have not come');
  }

  it('says when both members’ projects end before it and after it, and moves no hour', async () => {
    const swap = await tried();
    const rowsBefore = (await test.call('mirela', readStanding)).body.rows;
    const { dates } = (await found('mirela', swap)).body;
    const owners = new Set(dates!.ends.map(({ ownerId }) => ownerId));
    expect([...owners].sort()).toEqual([swap.fromId, swap.toId].sort());
    for (const { middleWithout, middleWith, nights } of dates!.ends)
      expect(nights === null).toBe(middleWithout === null || middleWith === null);
    expect((await test.call('mirela', readStanding)).body).toMatchObject({ rows: rowsBefore, gifts: [], swaps: [] });
  }, 120_000);

  it('plans with the hours that each would then have, of that rig alone', async () => {
    const swap = await tried();
    await test.call('jonah', askSwapDates, { body: swap });
    const { request } = (await test.ownerDatabase.one<{ request: SwapDatesJob }>(
      `SELECT request FROM jobs WHERE kind = 'swapDates' ORDER BY created DESC LIMIT 1`,
    ))!;
    const hoursOf = (season: SeasonRequest, memberId: string, skyClass: string, rigId: string): number =>
      season.shares!.standings.find((row) => row.memberId === memberId && row.skyClass === skyClass && row.rigId === rigId)!.entitledHours; // prettier-ignore
    const moved = (memberId: string, skyClass: string, rigId = swap.rigId): number =>
      hoursOf(request.swapped.changed, memberId, skyClass, rigId) - hoursOf(request.swapped.asIs, memberId, skyClass, rigId); // prettier-ignore
    expect(moved(swap.fromId, 'bright')).toBeCloseTo(-4, 9);
    expect(moved(swap.fromId, 'dark')).toBeCloseTo(3, 9);
    expect(moved(swap.toId, 'bright')).toBeCloseTo(4, 9);
    expect(moved(swap.toId, 'dark')).toBeCloseTo(-3, 9);
    const otherRig = (await observatory()).rigs[1].id;
    expect(moved(swap.fromId, 'bright', otherRig)).toBe(0);
  }, 120_000);

  it('is told to its two members and coordinators only, of members and rigs that are here', async () => {
    const swap = await tried();
    expect((await test.call('ruan', askSwapDates, { body: swap })).status).toBe(403);
    expect((await test.call('ruan', readSwapDates, { body: swap })).status).toBe(403);
    expect((await test.call('ilse', readSwapDates, { body: swap })).status).toBe(200);
    const of = async (fields: Partial<TriedSwap>) =>
      (await test.call('ilse', askSwapDates, { body: { ...swap, ...fields } })).status;
    expect(await of({ toId: swap.fromId })).toBe(422);
    expect(await of({ toId: await idOf('Sam') })).toBe(422);
    expect(await of({ rigId: swap.fromId })).toBe(404);
    expect(await of({ givesHours: -1 })).toBe(400);
  }, 120_000);

  it('does not name a private project of the other member', async () => {
    const swap = await tried();
    const [theirs] = await test.ownerDatabase.rows<{ id: string; name: string }>(
      `SELECT p.id, p.name FROM projects p WHERE p.owner_id = $1 AND p.state = 'granted' LIMIT 1`,
      [swap.toId],
    );
    await test.ownerDatabase.rows('UPDATE projects SET private = true WHERE id = $1', [theirs.id]);
    const answer = JSON.stringify((await found('mirela', swap)).body);
    expect(answer).not.toContain(theirs.id);
    expect(answer).not.toContain(theirs.name);
    expect(JSON.stringify((await found('jonah', swap)).body)).toContain(theirs.id);
    await test.ownerDatabase.rows('UPDATE projects SET private = false WHERE id = $1', [theirs.id]);
  }, 120_000);
});

describe('before a project is granted', () => {
  async function found(who: string, id: string) {
    const asked = await test.call(who, askConsequences, { params: { id } });
    if (asked.status !== 200) return asked;
    for (let i = 0; i < 600; i++, await sleep(100)) {
      const answer = await test.call(who, readConsequences, { params: { id } });
      if (answer.body.consequences) return answer;
    }
    throw new Error('The consequences have not come');
  }
  const proposed = async (): Promise<string> =>
    (await test.ownerDatabase.one<{ id: string }>(`SELECT DISTINCT p.id FROM projects p JOIN panels l ON l.project_id = p.id JOIN goals g ON g.panel_id = l.id WHERE p.state IN ('proposed', 'draft') AND NOT p.private`))!.id; // prettier-ignore

  it('says when it would end and what that does to everybody else, without changing anything', async () => {
    const id = await proposed();
    const before = await test.ownerDatabase.rows('SELECT * FROM projects ORDER BY id');
    const { consequences } = (await found('ilse', id)).body;
    const season = await planned();
    expect(consequences!.delays.map(({ projectId }) => projectId).sort()).toEqual(season.projects.map(({ projectId }) => projectId).sort()); // prettier-ignore
    expect(season.projects.some(({ projectId }) => projectId === id)).toBe(false);
    expect(consequences!.own.leftHours).toBeGreaterThan(0);
    expect(await test.ownerDatabase.rows('SELECT * FROM projects ORDER BY id')).toEqual(before);
  }, 120_000);

  it('names no other member’s private project', async () => {
    const id = await proposed();
    const season = await planned();
    const hidden = season.projects.find(({ ownerName }) => ownerName !== 'Ruan Aldous')!;
    await test.ownerDatabase.rows('UPDATE projects SET private = true WHERE id = $1', [hidden.projectId]);
    const answer = JSON.stringify((await found('ruan', id)).body);
    expect(answer).not.toContain(hidden.projectId);
    expect(answer).not.toContain(hidden.name);
  }, 120_000);

  it('has no words for a project that nobody knows', async () => {
    expect((await found('ilse', '00000000-0000-4000-8000-000000000000')).status).toBe(404);
  });
});

describe('a season with changes tried on it', () => {
  async function tried(who: string, body: WhatIf): Promise<Season> {
    await test.call(who, askWhatIf, { body });
    for (let i = 0; i < 600; i++, await sleep(100)) {
      const { season, job } = (await test.call(who, readWhatIf, { body })).body;
      if (season) return season;
      if (job?.state === 'failed') throw new Error(job.failure ?? 'failed');
    }
    throw new Error('The season has not come');
  }

  it('is the real one where nothing is tried', async () => {
    const real = await planned();
    const { season, job } = (await test.call('ilse', readWhatIf, { body: {} })).body;
    expect(job).toBeNull();
    expect(season).toEqual(real);
  }, 120_000);

  it('has a limit that is tried, of one project or of all, and stores none', async () => {
    const real = await planned();
    const project = busiest(real);
    const stored = () => test.ownerDatabase.rows(`SELECT * FROM limit_values ORDER BY id`);
    const before = await stored();
    const high = { class: null, key: 'minAltitudeDeg', value: 89 } as const;
    const one = await tried('ilse', { limits: [{ ...high, projectId: project.projectId }] });
    expect(nightsOf(one, project.projectId)).toEqual([]);
    const others = (season: Season): boolean => season.nights.some(({ cells }) => cells.length > 0);
    expect(others(one)).toBe(true);
    const everywhere = (['broadband', 'narrowband', 'colour'] as const).map((ofClass) => ({ ...high, class: ofClass, projectId: null })); // prettier-ignore
    expect(others(await tried('ilse', { limits: everywhere }))).toBe(false);
    expect(await stored()).toEqual(before);
  }, 240_000);

  it('leaves projects out, puts others in, closes nights, and writes nothing', async () => {
    const real = await planned();
    const project = busiest(real);
    const [night] = nightsOf(real, project.projectId);
    const before = await test.ownerDatabase.rows(`SELECT id, state, resting, grade, version FROM projects ORDER BY id`);
    const without = await tried('ilse', { leftOut: [project.projectId] });
    expect(without.projects.some(({ projectId }) => projectId === project.projectId)).toBe(false);
    const closed = await tried('ilse', { closed: [{ rigId: project.rigId, firstNight: night, lastNight: night }] });
    expect(closed.nights.find(({ nightDate, rigId }) => nightDate === night && rigId === project.rigId)!.cells).toEqual(
      [],
    );
    const [asked] = await test.ownerDatabase.rows<{ id: string }>(
      `SELECT p.id FROM projects p JOIN panels l ON l.project_id = p.id JOIN goals g ON g.panel_id = l.id WHERE p.state = 'proposed' AND NOT p.private LIMIT 1`,
    );
    const granted = await tried('ilse', { granted: [asked.id] });
    expect(granted.projects.map(({ projectId }) => projectId)).toContain(asked.id);
    expect(
      await test.ownerDatabase.rows(`SELECT id, state, resting, grade, version FROM projects ORDER BY id`),
    ).toEqual(before);
  }, 240_000);

  it('counts every hour alike where fairness counts nothing', async () => {
    const { fairness } = await tried('ilse', { fairness: 0 });
    for (const { multiplier } of fairness!.multipliers) expect(multiplier).toBe(1);
  }, 120_000);

  it('cannot be tried with what is not there or not to be seen', async () => {
    const stranger = '00000000-0000-4000-8000-000000000001';
    const [hidden] = await test.ownerDatabase.rows<{ id: string; owner: string }>(
      `SELECT p.id, o.name AS owner FROM projects p JOIN people o ON o.id = p.owner_id WHERE p.private LIMIT 1`,
    );
    expect((await test.call('ilse', askWhatIf, { body: { leftOut: [stranger] } })).status).toBe(404);
    expect((await test.call('sam', askWhatIf, { body: { leftOut: [hidden.id] } })).status).toBe(404);
    expect(
      (await test.call('sam', readWhatIf, { body: { grades: [{ projectId: hidden.id, grade: 3 }] } })).status,
    ).toBe(404);
    const limit = { class: null, key: 'minAltitudeDeg' as const };
    expect((await test.call('sam', askWhatIf, { body: { limits: [{ ...limit, projectId: hidden.id, value: 40 }] } })).status).toBe(404); // prettier-ignore
    expect((await test.call('ilse', askWhatIf, { body: { limits: [{ ...limit, projectId: null, value: 120 }] } })).error!.field).toBe('value'); // prettier-ignore
    const closed = [{ rigId: stranger, firstNight: '2026-12-01', lastNight: '2026-12-02' }];
    expect((await test.call('ilse', askWhatIf, { body: { closed } })).status).toBe(404);
    expect((await test.call('ilse', askWhatIf, { body: { fairness: 2 } })).status).toBe(400);
  });
});

describe('what would help', () => {
  it('is worked out for a project of the season, and kept', async () => {
    const project = busiest(await planned());
    const params = { id: project.projectId };
    await test.call('ilse', askHelps, { params });
    let found = (await test.call('ilse', readHelps, { params })).body;
    for (let i = 0; i < 600 && !found.helps; i++, await sleep(100)) found = (await test.call('ilse', readHelps, { params })).body; // prettier-ignore
    expect(found.helps).not.toBeNull();
    const keys = [...found.helps!.helps.map(({ key }) => key), ...found.helps!.useless];
    expect(keys).toContain('putFirst');
    expect(new Set(keys).size).toBe(keys.length);
  }, 120_000);

  it('is not worked out for what is not granted, and not said of what one may not see', async () => {
    const [draft] = await test.ownerDatabase.rows<{ id: string }>(
      `SELECT p.id FROM projects p JOIN panels l ON l.project_id = p.id JOIN goals g ON g.panel_id = l.id WHERE p.state = 'proposed' LIMIT 1`,
    );
    expect((await test.call('ilse', askHelps, { params: draft })).error.message).toMatch(/not granted/);
    const [hidden] = await test.ownerDatabase.rows<{ id: string }>(
      `SELECT p.id FROM projects p JOIN panels l ON l.project_id = p.id JOIN goals g ON g.panel_id = l.id WHERE p.private LIMIT 1`,
    );
    expect((await test.call('sam', askHelps, { params: hidden })).status).toBe(404);
    expect((await test.call('sam', readHelps, { params: hidden })).status).toBe(404);
  });
});

describe('a night of the season that is asked about', () => {
  const reasonOf = async (who: string, params: { id: string; nightDate: string }): Promise<SeasonReason> => {
    let found = (await test.call(who, askSeasonReason, { params })).body;
    for (let i = 0; i < 600 && !found.reason; i++, await sleep(100))
      found = (await test.call(who, readSeasonReason, { params })).body;
    return found.reason!;
  };

  it('says why a project is there, at which light, and who would have the time', async () => {
    const season = await planned();
    const { projectId: id } = busiest(season);
    const [nightDate] = nightsOf(season, id);
    const reason = await reasonOf('ilse', { id, nightDate });
    expect(reason.code).toBe('HERE');
    expect(reason.rate).toBeGreaterThan(0.1);
    expect(reason.costs).toBeGreaterThanOrEqual(0);
  }, 60_000);

  it('says why it is not: the closed night, or what is planned instead and what forcing would cost', async () => {
    const season = await planned();
    const { projectId: id } = busiest(season);
    const own = new Set(nightsOf(season, id));
    const { rigId } = season.nights.find(({ cells }) => cells.some(({ projectId }) => projectId === id))!;
    const other = season.nights.find((night) => night.rigId === rigId && night.odds > 0 && !own.has(night.nightDate))!;
    expect((await reasonOf('ilse', { id, nightDate: other.nightDate })).code).not.toMatch(/^(HERE|CLOSED)$/);
    const closed = season.nights.find((night) => night.rigId === rigId && night.odds === 0);
    if (closed) expect((await reasonOf('ilse', { id, nightDate: closed.nightDate })).code).toBe('CLOSED');
  }, 60_000);

  it('is refused for nights beyond the season, and for what one may not see', async () => {
    const { projectId: id } = busiest(await planned());
    const beyond = await test.call('ilse', askSeasonReason, { params: { id, nightDate: '2031-01-01' } });
    expect(beyond.error.message).toMatch(/looks at the nights from/);
    const [hidden] = await test.ownerDatabase.rows<{ id: string }>(
      `SELECT p.id FROM projects p JOIN panels l ON l.project_id = p.id JOIN goals g ON g.panel_id = l.id WHERE p.private LIMIT 1`,
    );
    const params = { id: hidden.id, nightDate: nightDatePlus(beyond.error.message.match(/from (\S+) to/)![1], 1) };
    expect((await test.call('sam', askSeasonReason, { params })).status).toBe(404);
    expect((await test.call('sam', readSeasonReason, { params })).status).toBe(404);
  });

  it('names nobody’s private project as the rival', async () => {
    const season = await planned();
    const [hidden] = await test.ownerDatabase.rows<{ name: string }>(`SELECT name FROM projects WHERE private LIMIT 1`);
    for (const project of season.projects.slice(0, 4)) {
      const [nightDate] = nightsOf(season, project.projectId);
      if (!nightDate) continue;
      const { rival } = await reasonOf('sam', { id: project.projectId, nightDate });
      expect(rival).not.toBe(hidden.name);
    }
  }, 60_000);
});

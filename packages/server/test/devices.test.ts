// A rig's devices and a night that they carry out, as the server sees both.
import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import type { NightRuleName } from '@meridiem/core';
import { nightRulesWith } from '@meridiem/core';
import type { BodyOf, ClaimedRun, HandOrder, RunAction } from '@meridiem/contract';
import {
  beginStep,
  claimRun,
  editRigDevices,
  endRun,
  finishStep,
  keepRun,
  endTestShot,
  orderRun,
  orderTestShot,
  listExposures,
  listNotices,
  playNight,
  readAlarms,
  publishPlan,
  readNight,
  readObservatory,
  readRigDevices,
  readRunActions,
  readStepTimes,
  readWatch,
  replanRun,
  reportActions,
  setLearnsTimes,
  testShotPicture,
  setNightRule,
  testRigDevices,
  undoLast,
} from '@meridiem/contract';
import type { TestApp } from './test-app.ts';
import { createTestApp } from './test-app.ts';

let test: TestApp;
let rigId: string;
let host: string;
const nightDate = '2026-10-11';
/** Devices that answer their names, but for the focuser. */
const devices = createServer((request, reply) => {
  if (request.url!.includes('/focuser/')) return void reply.writeHead(400).end('no such device');
  if (request.url!.includes('/health')) return void reply.end('{"ok":true}');
  const kind = /v1\/(\w+)\//.exec(request.url!)![1];
  const error =
    kind === 'dome' ? { ErrorNumber: 1031, ErrorMessage: 'not connected' } : { ErrorNumber: 0, ErrorMessage: '' };
  reply.end(JSON.stringify({ Value: `a ${kind}`, ...error }));
});

beforeAll(async () => {
  await new Promise<void>((ready) => devices.listen(0, '127.0.0.1', ready));
  host = `127.0.0.1:${(devices.address() as AddressInfo).port}`;
  test = await createTestApp({ exposures: 20, settings: { deviceHosts: [host], simulatorUrl: `http://${host}` } });
  const { body } = await test.call('ilse', readNight, { params: { nightDate } });
  rigId = body.rigs.find((rig) => rig.blocks.length > 0)!.rigId;
}, 60_000);
afterAll(async () => {
  await test.close();
  devices.close();
});

const set = (kind: 'none' | 'simulated' | 'address', url: string | null = null) =>
  test.call('ilse', editRigDevices, { params: { id: rigId }, body: { kind, url } });
const kindNow = async () => (await test.call('sam', readObservatory)).body.rigs.find(({ id }) => id === rigId)!.devices;

describe('the devices of a rig', () => {
  it('are none at first, and set by a coordinator on an allowed host alone', async () => {
    expect(await kindNow()).toBe('none');
    for (const [url, words] of [
      ['nowhere', 'no address'],
      ['ftp://127.0.0.1/', 'http'],
      ['http://169.254.169.254/', 'is not allowed here'],
      [`http://user:secret@${host}/`, 'password'],
    ])
      expect(await set('address', url)).toMatchObject({
        status: 422,
        error: { field: 'url', message: expect.stringContaining(words) },
      });
    expect((await set('address', `http://${host}/`)).status).toBe(200);
    expect((await test.call('ilse', readRigDevices, { params: { id: rigId } })).body).toEqual({
      rigId, kind: 'address', url: `http://${host}`, hosts: [host], nightRules: {},
    }); // prettier-ignore
    expect(await kindNow()).toBe('address');
    // The address itself is the coordinators' own.
    expect(JSON.stringify((await test.call('sam', readObservatory)).body)).not.toContain(host);
  });

  it('say each for itself whether they are there', async () => {
    const { body } = await test.call('ilse', testRigDevices, { params: { id: rigId } });
    const of = (device: string) => body.devices.find((one) => one.device === device);
    expect(of('mount')).toEqual({ device: 'mount', answers: true, words: 'a telescope' });
    expect(of('focuser')).toMatchObject({ answers: false, words: 'it answers 400' });
    expect(of('roof')).toMatchObject({ answers: false, words: 'not connected' });
  });

  it('are put back by undo', async () => {
    await set('simulated');
    expect((await test.call('ilse', testRigDevices, { params: { id: rigId } })).body.devices).toEqual([
      { device: 'simulated observatory', answers: true, words: 'its devices are ready for a night' },
    ]);
    await test.call('ilse', undoLast);
    expect(await kindNow()).toBe('address');
    await set('none');
    expect((await test.call('ilse', testRigDevices, { params: { id: rigId } })).status).toBe(409);
  });
});

describe('the numbers of a night', () => {
  const setRule = (name: NightRuleName, value: number | null, who = 'ilse') =>
    test.call(who, setNightRule, { params: { id: rigId }, body: { name, value } });
  const own = async () => (await test.call('ilse', readRigDevices, { params: { id: rigId } })).body.nightRules;

  it('are set one by one within their bounds, refused in words, and put back by undo or by name', async () => {
    expect((await setRule('safeHoldMin', 30)).status).toBe(200);
    expect((await setRule('windResumeMPerSec', 6.5)).status).toBe(200);
    expect(await own()).toEqual({ safeHoldMin: 30, windResumeMPerSec: 6.5 });
    expect((await setRule('windPauseMPerSec', 5)).error).toMatchObject({ message: expect.stringContaining('at least 6.5 m/s') }); // prettier-ignore
    expect((await setRule('closingTries', 0)).error!.message).toContain('from 1 to 50 times');
    await test.call('ilse', undoLast);
    expect(await own()).toEqual({ safeHoldMin: 30 });
    expect((await setRule('safeHoldMin', null)).status).toBe(200);
    expect(await own()).toEqual({});
    await test.call('ilse', undoLast);
    expect(await own()).toEqual({ safeHoldMin: 30 });
    expect((await setRule('safeHoldMin', 25, 'sam')).status).toBe(403);
  });
});

describe('a night by devices', () => {
  let run: ClaimedRun;
  const action = (more: Partial<RunAction>): RunAction => ({
    id: '5b7f6a3e-0000-4000-8000-000000000001',
    seq: 1,
    kind: 'slew',
    words: run.steps[0].panelName,
    attempt: 1,
    startUtcMs: run.steps[0].plannedStartUtcMs,
    endUtcMs: null,
    outcome: null,
    remark: null,
    ...more,
  });
  const report = (more: Partial<RunAction> = {}, fence = run.fence) =>
    test.call('runner', reportActions, { params: { id: run.id }, body: { fence, actions: [action(more)] } });
  const actions = async (who = 'sam') => (await test.call(who, readRunActions, { params: { id: run.id } })).body;

  it('is claimed with everything its devices must know', async () => {
    await set('simulated');
    await test.call('ilse', publishPlan, { params: { nightDate }, body: { rigId } });
    await test.call('ilse', playNight, { params: { nightDate }, body: { rigId, speed: 60 } });
    run = (await test.call('runner', claimRun, { body: { holder: 'tests' } })).body.run!;
    const { deviceRun, steps } = run;
    expect(deviceRun).toMatchObject({ isSimulated: true, baseUrl: `http://${host}/rigs/${rigId}` });
    expect(deviceRun!.endUtcMs).toBeGreaterThan(steps.at(-1)!.plannedStartUtcMs);
    expect(deviceRun!.wheel[0].place).toBe(0);
    expect(deviceRun!.nightRules).toEqual(nightRulesWith({ safeHoldMin: 30 }));
    expect(steps[0]).toMatchObject({ binning: expect.any(Number), guide: true, centre: true });
    expect(new Set(deviceRun!.wheel.map(({ letter }) => letter))).toEqual(
      new Set([...deviceRun!.wheel.map(({ letter }) => letter), ...steps.map(({ filterLetter }) => filterLetter)]),
    );
  });

  it('has each step once, with its outcome as first reported', async () => {
    expect((await report()).body).toEqual({ goOn: true });
    await report();
    const endUtcMs = run.steps[0].plannedStartUtcMs + 20_000;
    await report({ endUtcMs, outcome: 'done', remark: '12″ off' });
    await report({ endUtcMs: endUtcMs + 1, outcome: 'failed', remark: 'another word' });
    expect((await actions()).actions).toEqual([action({ endUtcMs, outcome: 'done', remark: '12″ off' })]);
    const { body: night } = await test.call('sam', readNight, { params: { nightDate } });
    expect(night.rigs.find((rig) => rig.rigId === rigId)!.run).toMatchObject({ state: 'running', endedAs: null });
  });

  it('has steps that are reported together, each once, with the first outcome said', async () => {
    const ids = [4, 5].map((n) => `5b7f6a3e-0000-4000-8000-00000000001${n}`);
    const begun = ids.map((id, i) => action({ id, seq: 10 + i, kind: 'settle' }));
    const endUtcMs = run.steps[0].plannedStartUtcMs + 30_000;
    const ended = (i: number, outcome: 'done' | 'failed') => ({ ...begun[i], endUtcMs, outcome });
    for (const together of [
      [begun[0], ended(0, 'done'), begun[1]],
      [ended(0, 'failed'), ended(1, 'failed'), ended(1, 'done')],
    ])
      await test.call('runner', reportActions, { params: { id: run.id }, body: { fence: run.fence, actions: together } }); // prettier-ignore
    const curve = { points: [{ positionSteps: 20_000, halfFluxRadiusPx: 2.1 }], bestSteps: 20_010 };
    await report({
      id: '5b7f6a3e-0000-4000-8000-000000000016',
      seq: 12,
      kind: 'focus',
      endUtcMs,
      outcome: 'failed',
      curve,
    });
    expect((await actions()).actions.find(({ kind }) => kind === 'focus')!.curve).toEqual(curve);
    const settled = (await actions()).actions.filter(({ kind }) => kind === 'settle');
    expect(settled).toEqual([ended(1, 'failed'), ended(0, 'done')]);
  });

  it('has steps whose runner was lost as not known, until somebody can say', async () => {
    await report({ id: '5b7f6a3e-0000-4000-8000-000000000009', kind: 'filter' });
    await test.database.rows(`UPDATE night_runs SET lease_until = now() - interval '1 second' WHERE id = '${run.id}'`);
    run = (await test.call('runner', claimRun, { body: { holder: 'another' } })).body.run!;
    expect((await actions()).actions.find(({ kind }) => kind === 'filter')).toMatchObject({ outcome: 'unknown' });
    await report({
      id: '5b7f6a3e-0000-4000-8000-000000000009',
      kind: 'filter',
      outcome: 'done',
      endUtcMs: run.steps[0].plannedStartUtcMs + 90_000,
    });
    expect((await actions()).actions.find(({ kind }) => kind === 'filter')).toMatchObject({ outcome: 'done' });
  });

  it('shows no name of a private project to others', async () => {
    const { panelName, panelId } = run.steps[0];
    await test.database.rows(
      `UPDATE projects SET private = true WHERE id = (SELECT project_id FROM panels WHERE id = '${panelId}')`,
    );
    expect(JSON.stringify(await actions('sam'))).not.toContain(panelName);
    expect((await actions('sam')).actions[0].words).toBe('reserved');
    expect((await actions('ilse')).actions[0].words).toBe(panelName);
  });

  it('is watched: each exposure with what came of it, the site as last read, private names hidden', async () => {
    const watch = async (who: string, rig?: string) =>
      (await test.call(who, readWatch, { params: { nightDate }, query: rig ? { rig } : {} })).body.watched!;
    const reading = {
      utcMs: run.steps[0].plannedStartUtcMs, isSafe: true, temperatureC: 4.5, humidityPercent: 60, windMPerSec: 3,
      cloudCoverPercent: null, sensorC: -10, coolerPowerPercent: 55, guidingRmsArcsec: 0.8, altitudeDeg: 61,
      azimuthDeg: 20, isParked: false, roof: 'open' as const,
    }; // prettier-ignore
    for (const at of [0, 60_000, 60_000])
      await test.call('runner', keepRun, { params: { id: run.id }, body: { fence: run.fence, reading: { ...reading, utcMs: reading.utcMs + at } } }); // prettier-ignore
    const seen = await watch('ilse');
    expect(seen).toMatchObject({ rigId, devices: 'simulated', run: { id: run.id, state: 'running' } });
    expect(seen.readings).toEqual([reading, { ...reading, utcMs: reading.utcMs + 60_000 }]);
    expect(seen.steps.map(({ plannedUtcMs }) => plannedUtcMs)).toEqual(run.steps.map(({ plannedStartUtcMs }) => plannedStartUtcMs)); // prettier-ignore
    expect(seen.steps[0]).toMatchObject({
      stay: 0,
      panelName: run.steps[0].panelName,
      outcome: null,
      takenUtcMs: null,
    });
    expect((await watch('sam', rigId)).steps[0].panelName).toBe('reserved');
    const [other] = (await test.call('sam', readObservatory)).body.rigs.filter(({ id }) => id !== rigId);
    expect(await watch('sam', other.id)).toMatchObject({ run: null, steps: [], readings: [] });
  });

  it('calls those who can go to the site, on every page until the roof is closed', async () => {
    const call = {
      id: '5b7f6a3e-0000-4000-8000-000000000002',
      seq: 2,
      kind: 'call' as const,
      words: 'The roof could not be closed.',
    };
    const ended = { endUtcMs: run.steps[0].plannedStartUtcMs, outcome: 'done' as const };
    await report({ ...call, ...ended });
    await report({ ...call, ...ended });
    const alarms = async () => (await test.call('sam', readAlarms)).body.alarms;
    expect(await alarms()).toMatchObject([{ rigId, nightDate, words: call.words }]);
    const told = async (who: string) =>
      (await test.call(who, listNotices)).body.notices.filter(({ words }) => words.includes(call.words));
    expect([(await told('ilse')).length, (await told('petra')).length, (await told('jonah')).length]).toEqual([
      1, 1, 0,
    ]);
    await report({ id: '5b7f6a3e-0000-4000-8000-000000000003', seq: 3, kind: 'close roof', words: '', ...ended });
    expect(await alarms()).toEqual([]);
  });

  it('hears what people with hands say to it, each order once, and shows who said it', async () => {
    const order = (who: string, kind: HandOrder) =>
      test.call(who, orderRun, { params: { id: run.id }, body: { kind } });
    const heard = async (carriedOut?: string[]) =>
      (await test.call('runner', keepRun, { params: { id: run.id }, body: { fence: run.fence, carriedOut } })).body
        .orders;
    expect((await order('sam', 'hold')).status).toBe(403);
    expect(await heard()).toEqual({ holdId: null, leaveId: null, isLast: false, testShot: null });
    await order('petra', 'hold');
    await order('ilse', 'leave');
    const { holdId, leaveId } = await heard();
    expect([holdId, leaveId]).toEqual([expect.any(String), expect.any(String)]);
    expect(await heard([leaveId!])).toEqual({ holdId, leaveId: null, isLast: false, testShot: null });
    await order('ilse', 'resume');
    expect(await heard()).toEqual({ holdId: null, leaveId: null, isLast: false, testShot: null });
    const { orders } = (await test.call('sam', readRunActions, { params: { id: run.id } })).body;
    expect(orders.map(({ kind, by }) => `${by.split(' ')[0]} ${kind}`)).toEqual([
      'Ilse resume',
      'Ilse leave',
      'Petra hold',
    ]);
  });

  it('is pointed and photographed by hand only while it is held, one shot at a time, and shows what came of it', async () => {
    const params = { id: run.id };
    const shot = { exposureSec: 10, filterLetter: 'L', binning: 2, at: { raDeg: 83.6, decDeg: -5.4 } };
    const ask = async (who: string, body: typeof shot | object = shot) =>
      test.call(who, orderTestShot, { params, body: body as typeof shot });
    const say = (kind: HandOrder) => test.call('petra', orderRun, { params, body: { kind } });
    const heard = async () =>
      (await test.call('runner', keepRun, { params, body: { fence: run.fence } })).body.orders.testShot;
    const shown = async () => (await test.call('sam', readRunActions, { params })).body.testShots;
    const end = (shotId: string, more: Partial<BodyOf<typeof endTestShot>> = {}) =>
      test.call('runner', endTestShot, {
        params,
        body: { fence: run.fence, shotId, outcome: 'done', words: '41 stars', picture: null, ...more },
      });
    expect((await ask('petra')).error!.message).toMatch(/Hold the night first/);
    await say('hold');
    expect([(await ask('sam')).status, (await ask('jonah')).status]).toEqual([403, 403]);
    expect((await ask('petra', { ...shot, exposureSec: null, at: null })).error).toMatchObject({ field: 'exposureSec' }); // prettier-ignore
    for (const wrong of [
      { ...shot, exposureSec: 121 },
      { ...shot, at: { raDeg: 360, decDeg: 0 } },
      { ...shot, more: 1 },
    ])
      expect((await ask('petra', wrong)).status).toBe(400);
    const answers = await Promise.all([ask('petra'), ask('ilse')]);
    expect(answers.map(({ status }) => status).sort()).toEqual([200, 409]);
    const asked = await heard();
    expect(asked).toEqual({ id: expect.any(String), ...shot });
    const picture = { widthPx: 3, heightPx: 2, base64: Buffer.from([0, 50, 100, 150, 200, 250]).toString('base64') };
    expect((await end(asked!.id, { picture: { ...picture, widthPx: 4 } })).status).toBe(422);
    expect((await end(asked!.id, { picture })).status).toBe(200);
    await end(asked!.id, { outcome: 'refused', words: 'told again' });
    expect([await heard(), await shown()]).toMatchObject([
      null,
      [{ ...shot, outcome: 'done', words: '41 stars', hasPicture: true }],
    ]);
    const pictureAs = (who: string) => test.call(who, testShotPicture, { params: { id: run.id, shotId: asked!.id } });
    expect([(await pictureAs('petra')).status, (await pictureAs('sam')).status]).toEqual([200, 403]);
    // A shot that nobody takes before the hold is lifted is given up.
    await ask('ilse');
    await say('resume');
    expect(await heard()).toBeNull();
    await say('hold');
    expect(await heard()).toBeNull();
    await ask('ilse', { ...shot, exposureSec: null });
    expect((await shown()).map(({ outcome }) => outcome)).toEqual([null, 'refused', 'done']);
    await say('resume');
  });

  it('is planned anew from a moment on without what can’t be had; what was taken meanwhile still counts', async () => {
    const [first, begun] = run.steps;
    // Its runner was killed in the middle of this one.
    await test.call('runner', beginStep, { params: { id: run.id }, body: { fence: run.fence, stepId: begun.id } });
    const fromUtcMs = first.plannedStartUtcMs + 3_600_000;
    const body = { fence: run.fence, fromUtcMs, withoutPanelIds: [first.panelId] };
    const { steps } = (await test.call('runner', replanRun, { params: { id: run.id }, body })).body;
    expect(steps.length).toBeGreaterThan(0);
    expect(steps.filter(({ plannedStartUtcMs }) => plannedStartUtcMs < fromUtcMs)).toEqual([]);
    expect(steps.some(({ panelId }) => panelId === first.panelId)).toBe(false);
    const [lost] = await test.database.rows(`SELECT outcome, words FROM run_steps WHERE id = '${begun.id}'`);
    expect(lost).toEqual({ outcome: 'lost', words: 'Broken off, and the rest of the night planned again' });
    const plannedBefore = new Set(run.steps.map(({ id }) => id));
    expect(steps.some(({ id }) => plannedBefore.has(id))).toBe(false);
    const { body: night } = await test.call('sam', readNight, { params: { nightDate } });
    expect(night.rigs.find((rig) => rig.rigId === rigId)!.run!.stepsAll).toBe(steps.length + 1);
    const late = { ...body, fence: body.fence + 1 };
    expect((await test.call('runner', replanRun, { params: { id: run.id }, body: late })).error!.code).toBe(
      'LEASE_LOST',
    );
  });

  it('is not claimed twice by the runner that carries it out, however long the line was cut', async () => {
    await test.database.rows(`UPDATE night_runs SET lease_until = now() - interval '1 second' WHERE id = '${run.id}'`);
    const claim = (playing?: string[]) => test.call('runner', claimRun, { body: { holder: 'the same', playing } });
    expect((await claim([run.id])).body.run).toBeNull();
    const { body } = await test.call('runner', keepRun, { params: { id: run.id }, body: { fence: run.fence } });
    expect(body.goOn).toBe(true);
    expect((await claim()).body.run).toBeNull();
  });

  it('is its site’s alone to the end of closing: no other may claim it, the site’s next process may once it is silent', async () => {
    const claim = (body: { holder: string; site?: string }) => test.call('runner', claimRun, { body });
    await test.database.rows(`UPDATE night_runs SET lease_until = now() - interval '1 second' WHERE id = '${run.id}'`);
    const atSite = (await claim({ holder: 'first', site: 'the shed' })).body.run!;
    expect([atSite.id, atSite.leaseSec]).toEqual([run.id, null]);
    const left = await test.database.one<{ hours: number }>(
      `SELECT (extract(epoch FROM lease_until - now()) / 3600)::float8 AS hours FROM night_runs WHERE id = '${run.id}'`,
    );
    expect(left!.hours).toBeGreaterThan(4);
    // Silent behind a cut line for two minutes: another runner, and one at another site, are given nothing.
    await test.database.rows(`UPDATE night_runs SET heard = now() - interval '2 minutes' WHERE id = '${run.id}'`);
    expect((await claim({ holder: 'elsewhere' })).body.run).toBeNull();
    expect((await claim({ holder: 'another', site: 'the barn' })).body.run).toBeNull();
    const { body: night } = await test.call('sam', readNight, { params: { nightDate } });
    expect(night.rigs.find((rig) => rig.rigId === rigId)!.run).toMatchObject({ state: 'running', silent: true });
    const again = (await claim({ holder: 'second', site: 'the shed' })).body.run!;
    expect([again.id, again.fence]).toEqual([run.id, atSite.fence + 1]);
    // Heard a moment ago: a second process of the same name does not take it away.
    expect((await claim({ holder: 'third', site: 'the shed' })).body.run).toBeNull();
    // A word renews it for half an hour, and never shortens what the site holds.
    await test.call('runner', keepRun, { params: { id: run.id }, body: { fence: again.fence } });
    const kept = await test.database.one<{ hours: number }>(
      `SELECT (extract(epoch FROM lease_until - now()) / 3600)::float8 AS hours FROM night_runs WHERE id = '${run.id}'`,
    );
    expect(kept!.hours).toBeGreaterThan(4);
    run = again;
  });

  it('counts an exposure that was really taken, whoever holds the lease by the time it is told', async () => {
    const [, , third] = await test.database.rows<{ id: string; start: Date; sec: number }>(
      `SELECT id, planned_start AS start, exposure_s AS sec FROM run_steps WHERE run_id = '${run.id}' AND outcome IS NULL ORDER BY seq`,
    );
    const exposure = {
      startUtcMs: new Date(third.start).getTime() + 777, exposureSec: third.sec, gain: 100, sensorC: -10, halfFluxRadiusPx: 2,
      starCount: 90, guidingRmsArcsec: null, backgroundE: 20, temperatureC: null, afterMove: false, rateMeasured: null,
    }; // prettier-ignore
    const told = (outcome: 'done' | 'lost', fence = run.fence - 1) =>
      test.call('runner', finishStep, {
        params: { id: run.id },
        body: { fence, stepId: third.id, outcome, words: 'told late', exposure: outcome === 'done' ? exposure : null },
      });
    expect((await told('lost')).error!.code).toBe('LEASE_LOST');
    expect((await told('lost', run.fence)).status).toBe(200);
    expect((await told('done')).body).toEqual({ goOn: false });
    expect((await told('done')).body).toEqual({ goOn: false });
    const [{ count }] = await test.database.rows<{ count: number }>(
      `SELECT count(*)::int AS count FROM exposures WHERE run_step_id = '${third.id}'`,
    );
    expect(count).toBe(1);
  });

  it('keeps its lease by a word, takes exposures without a measured rate, and says how it ended', async () => {
    const keep = (fence: number) => test.call('runner', keepRun, { params: { id: run.id }, body: { fence } });
    expect((await keep(run.fence)).body.goOn).toBe(true);
    expect((await keep(run.fence + 1)).error!.code).toBe('LEASE_LOST');
    expect((await report({}, run.fence + 1)).error!.code).toBe('LEASE_LOST');
    const [step] = run.steps;
    const frame = (name: string) => ({
      name: `Wren/2026-10-11/${name}.fits`,
      sizeBytes: 2880,
      sha256: 'ab'.repeat(32),
    });
    const exposure = {
      startUtcMs: step.plannedStartUtcMs, exposureSec: step.exposureSec, gain: step.gain, sensorC: -10,
      halfFluxRadiusPx: 1.9, starCount: 300, guidingRmsArcsec: 0.7, backgroundE: 120, temperatureC: 9, afterMove: true,
      rateMeasured: null, frame: frame('one'),
    }; // prettier-ignore
    const body = { fence: run.fence, stepId: step.id, outcome: 'done' as const, words: 'Taken: 300 stars', exposure };
    expect((await test.call('runner', finishStep, { params: { id: run.id }, body })).status).toBe(200);
    // Beside a rig with real devices what was made up is kept, marked, and counts for nothing.
    const [real] = (await test.call('sam', readObservatory)).body.rigs.filter(({ id }) => id !== rigId);
    await test.call('ilse', editRigDevices, {
      params: { id: real.id },
      body: { kind: 'address', url: `http://${host}` },
    });
    const [, second] = run.steps;
    const later = {
      ...body,
      stepId: second.id,
      exposure: { ...exposure, startUtcMs: second.plannedStartUtcMs, frame: frame('two') },
    };
    const outside = {
      ...body,
      stepId: second.id,
      exposure: { ...exposure, frame: { ...frame('two'), name: '../../etc/passwd.fits' } },
    };
    expect((await test.call('runner', finishStep, { params: { id: run.id }, body: outside })).status).toBe(400);
    expect((await test.call('runner', finishStep, { params: { id: run.id }, body: later })).status).toBe(200);
    const { rows } = (await test.call('ilse', listExposures, { query: { night: nightDate } })).body;
    const taken = rows.filter(({ startUtcMs }) => [exposure.startUtcMs, second.plannedStartUtcMs].includes(startUtcMs));
    expect(taken.map(({ isSimulated, creditShare }) => [isSimulated, creditShare !== null])).toEqual([
      [true, false],
      [true, true],
    ]);
    await test.call('runner', endRun, { params: { id: run.id }, body: { fence: run.fence, end: 'closed early' } });
    expect(await actions()).toMatchObject({ endedAs: 'closed early' });
    expect((await test.call('sam', readRunActions, { params: { id: rigId } })).status).toBe(404);
  });

  it('leaves the medians of what its steps took, in the terms of plans', async () => {
    const { observatory_id: observatoryId, id: runId } = (await test.database.one<{
      observatory_id: string;
      id: string;
    }>(`SELECT observatory_id, id FROM night_runs ORDER BY requested DESC LIMIT 1`))!;
    await test.database.rows(
      `INSERT INTO run_actions (id, observatory_id, run_id, seq, kind, words, attempt, started, ended, outcome)
       SELECT gen_random_uuid(), '${observatoryId}', '${runId}', 10 + i, 'focus', '', 1, now(), now() + (80 + 10 * i) * interval '1 second', 'done' FROM generate_series(0, 4) i`,
    );
    expect((await test.call('sam', readStepTimes, { params: { id: rigId } })).body).toEqual({
      measured: [{ key: 'autofocusSec', sec: 100, count: 5 }],
    });
    const rig = async () => (await test.call('sam', readObservatory)).body.rigs.find(({ id }) => id === rigId)!;
    const endAgain = async (): Promise<void> => {
      await test.ownerDatabase.rows(`UPDATE night_runs SET state = 'running', ended_as = NULL WHERE id = '${runId}'`);
      const ended = await test.call('runner', endRun, { params: { id: runId }, body: { fence: run.fence, end: 'finished' } }); // prettier-ignore
      expect(ended.status).toBe(200);
    };
    const before = await rig();
    await endAgain();
    expect((await rig()).costs).toEqual(before.costs);
    expect((await test.call('petra', setLearnsTimes, { params: { id: rigId }, body: { learnsTimes: true } })).status).toBe(403); // prettier-ignore
    await test.call('ilse', setLearnsTimes, { params: { id: rigId }, body: { learnsTimes: true } });
    await endAgain();
    const learned = await rig();
    expect(learned.costs).toEqual({ ...before.costs, autofocusSec: 100 });
    expect(learned.revisionSeq).toBe(before.revisionSeq + 1);
    // The same again is worth no revision.
    await endAgain();
    expect((await rig()).revisionSeq).toBe(learned.revisionSeq);
  });
});

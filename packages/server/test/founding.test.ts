import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { randomBytes } from 'node:crypto';
import type { FastifyInstance } from 'fastify';
import { DEFAULT_STEP_COSTS } from '@meridiem/core';
import { createApp } from '../src/app.ts';
import { createClock } from '../src/clock.ts';
import type { Database } from '../src/database/connection.ts';
import { createDatabase } from '../src/database/connection.ts';
import { migrate } from '../src/database/migrate.ts';
import { makeFoundingLink } from '../src/modules/founding/index.ts';
import { APP, runOn, withDatabase } from './test-app.ts';

const maintenance = process.env.MERIDIEM_TEST_DATABASE_URL ?? '';
const name = `meridiem_test_${randomBytes(5).toString('hex')}`;
let database: Database;
let app: FastifyInstance;

beforeAll(async () => {
  await runOn(maintenance, `CREATE DATABASE ${name}`);
  const [ownerUrl, ownUrl] = [withDatabase(maintenance, name), withDatabase(maintenance, name, APP)];
  await migrate(ownerUrl, APP);
  database = createDatabase(ownUrl);
  const config = {
    host: '127.0.0.1',
    port: 0,
    databaseUrl: ownUrl,
    ownerDatabaseUrl: ownerUrl,
    sessionSecret: 'x'.repeat(40),
    runnerKey: 'runner-key-of-the-tests-0123456789',
    logLevel: 'silent',
    webRoot: null,
    simulatorUrl: null,
    cacheFolder: null,
    framesFolder: null,
    deepStarsFile: null,
    solverProgram: null,
    surveyHosts: [],
    smtpUrl: null,
    webhookHosts: [],
    deviceHosts: [],
    // Tests change rows behind the server's back.
    keptAnswerMs: 0,
    searchEffort: 1,
    instance: 'tests',
    portFile: null,
    publicUrl: null,
    trustedProxies: [],
    demo: false,
    clockStartUtcMs: null,
  };
  const never = (): Promise<never> => Promise.reject(new Error('not asked here'));
  app = await createApp({
    config,
    database,
    clock: createClock(null),
    planWorker: { plan: never, earlyEnds: never, limit: never, usable: never },
    frameWorker: { draw: never, measure: never },
  });
}, 60_000);
afterAll(async () => {
  await app.close();
  await database.close();
  await runOn(maintenance, `DROP DATABASE ${name} WITH (FORCE)`);
});

const SITE = {
  name: 'Greywater Flat',
  latitudeDeg: -30.5,
  longitudeDeg: 140.2,
  elevationM: 200,
  timeZone: 'Australia/Adelaide',
  zenithMagV: 21.5,
};
const BODY = { observatory: SITE, name: 'Una Farrow', email: 'Una@greywater.example', password: 'a long enough one' };
const post = (path: string, payload: object, cookie = '') =>
  app.inject({ method: 'POST', url: `/api${path}`, payload, headers: { cookie } });

describe('an empty database', () => {
  it('lets the holder of the newest link, and nobody else, found the observatory once', async () => {
    const first = await makeFoundingLink(database);
    const path = await makeFoundingLink(database);
    expect((await app.inject({ url: `/api${first}` })).statusCode).toBe(404);
    const shown = await app.inject({
      url: `/api${path}`,
      query: { latitudeDeg: '-30.5', longitudeDeg: '140.2', timeZone: SITE.timeZone },
    });
    expect(shown.json()).toMatchObject({ sunset: { sunsetUtcMs: expect.any(Number) } });
    const wrongZone = await post(path!, { ...BODY, observatory: { ...SITE, timeZone: 'Moon/Base' } });
    expect(wrongZone.json()).toMatchObject({ field: 'timeZone' });
    expect((await post(path!, { ...BODY, observatory: { ...SITE, latitudeDeg: 95 } })).statusCode).toBe(400);

    const [one, two] = await Promise.all([
      post(path!, BODY),
      post(path!, { ...BODY, email: 'second@greywater.example' }),
    ]);
    expect([one.statusCode, two.statusCode].toSorted()).toEqual([200, 404]);
    const founded = one.statusCode === 200 ? one : two;
    expect(founded.json()).toMatchObject({ role: 'coordinator', observatoryName: 'Greywater Flat' });
    expect(await makeFoundingLink(database)).toBeNull();
    expect((await post(path!, BODY)).statusCode).toBe(404);

    const cookie = String(founded.headers['set-cookie']).split(';')[0];
    const rig = {
      name: 'Plover',
      cameraName: '',
      cameraSerial: 'PL-1',
      sensor: 'mono',
      darkAtC: -10,
      darkDoublingC: 6,
      coolingBelowC: null,
      filterHolder: 'wheel',
      filterPlaces: 5,
      stow: null,
      roofClears: 'any',
      mode: {
        name: 'Low gain',
        gain: 100,
        gainKind: 'gain',
        readNoiseE: 1.6,
        fullWellE: 40_000,
        ePerAdu: null,
        typicalOffset: 10,
      },
      apertureMm: 100,
      obstructionShare: 0,
      focalLengthMm: 500,
      throughput: 0.5,
      pixelUm: 5,
      widthPx: 1600,
      heightPx: 1200,
      darkCurrentEPerSec: 0.005,
      mountKind: 'german_equatorial',
      flipBeforeSec: 0,
      flipAfterSec: 600,
      mountLimitAfterSec: 900,
      rotatorKind: 'hand',
      skyAngleDeg: 15,
      angleToleranceDeg: 3,
      drawtubeMm: 90,
      correctedCircleMm: null,
      mirrors: 'odd' as const,
      costs: DEFAULT_STEP_COSTS,
    };
    expect((await post('/rigs', { ...rig, flipAfterSec: 1000 }, cookie)).json()).toMatchObject({
      field: 'flipAfterSec',
    });
    const observatory = (await post('/rigs', rig, cookie)).json() as { filters: { letter: string }[]; rigs: object[] };
    expect(observatory.filters.map(({ letter }) => letter)).toEqual(['L', 'R', 'G', 'B', 'Ha', 'OIII', 'SII']);
    expect(observatory.rigs).toMatchObject([
      { name: 'Plover', revisionSeq: 1, skyAngleDeg: 15, cameraModes: [{ gain: 100 }] },
    ]);
    expect((observatory.rigs[0] as { slots: object[] }).slots).toHaveLength(5);
    expect((await post('/rigs', rig, cookie)).json()).toMatchObject({ field: 'name' });
  });
});

// The simulated observatory's own process ended and begun again: its devices stand where they stood.
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterEach, beforeEach, describe, expect, it } from '@jest/globals';
import type { FastifyInstance } from 'fastify';
import Fastify from 'fastify';
import { rigMemory } from './rig-memory.ts';
import { observatoryRoutes } from './routes.ts';

const START = Date.parse('2026-12-08T20:30Z');
const FACTS = {
  site: { latitudeDeg: -30, longitudeDeg: 20, elevationM: 1000 },
  ...{ apertureMm: 106, focalLengthMm: 530, pixelUm: 9, widthPx: 100, heightPx: 80, readNoiseE: 3, ePerAdu: 1 },
  ...{ coolingBelowC: 40, slewDegPerSec: 3, mountLimitAfterSec: 1800, park: { altitudeDeg: 10, azimuthDeg: 180 } },
  ...{
    roofClears: false,
    filters: [{ name: 'L', widthNm: 260, focusOffsetSteps: 0 }],
    hasRotator: true,
    skyAngleDeg: 0,
  },
};
const MOUNT = '/rigs/wren/api/v1/telescope/0';
const ROOF = '/rigs/wren/api/v1/dome/0';

let folder: string;
let app: FastifyInstance;
const start = async (): Promise<void> => {
  app = Fastify();
  const parts = { realNowMs: () => performance.now(), startUtcMs: () => START, stars: () => [] };
  await app.register(observatoryRoutes, { ...parts, memory: rigMemory(folder) });
};
const put = async (url: string, body: object = {}): Promise<void> => {
  const fields = { 'content-type': 'application/x-www-form-urlencoded' };
  const isDevice = url.includes('/api/v1/');
  const sent = await app.inject({
    method: 'PUT',
    url,
    ...(isDevice
      ? { headers: fields, payload: new URLSearchParams(body as Record<string, string>).toString() }
      : { payload: body }),
  });
  expect([sent.statusCode, sent.json().ErrorNumber ?? 0]).toEqual([200, 0]);
};
const get = async (url: string): Promise<unknown> => {
  const answer = (await app.inject({ url })).json() as { Value?: unknown };
  return answer.Value ?? answer;
};
const run = (sec: number): Promise<unknown> =>
  app.inject({ method: 'POST', url: '/rigs/wren/clock/run', payload: { sec } });

beforeEach(async () => {
  folder = await mkdtemp(join(tmpdir(), 'rigs-'));
  await start();
});
afterEach(async () => {
  await app.close();
  await rm(folder, { recursive: true });
});

describe('a simulated rig', () => {
  it('outlasts its process: roof, mount, time and what happened stay as they were', async () => {
    await put('/rigs/wren', FACTS);
    await put('/rigs/wren/clock', { utcMs: START, speed: 600 });
    await put(`${ROOF}/openshutter`);
    await run(60);
    await put(`${MOUNT}/unpark`);
    await new Promise((resolve) => setTimeout(resolve, 400));
    const [utcMs, truth] = [
      ((await get('/rigs/wren/clock')) as { utcMs: number }).utcMs,
      (await get('/rigs/wren/truth')) as { entries: unknown[]; roof: string; isParked: boolean },
    ];
    expect([truth.roof, truth.isParked]).toEqual(['open', false]);
    await app.close();
    await start();
    const after = (await get('/rigs/wren/truth')) as typeof truth;
    expect([after.roof, after.isParked, await get(`${MOUNT}/tracking`)]).toEqual(['open', false, false]);
    expect(after.entries.slice(0, truth.entries.length)).toEqual(truth.entries);
    expect(((await get('/rigs/wren/clock')) as { utcMs: number }).utcMs).toBeGreaterThanOrEqual(utcMs - 300_000);
  });

  it('of a process that keeps nothing is gone with it', async () => {
    expect(rigMemory(null).all()).toEqual([]);
    expect((await app.inject({ url: '/rigs/wren/clock' })).statusCode).toBe(404);
  });
});

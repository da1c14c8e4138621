// Asking the forecast service: when it is asked, and what becomes of what it says.
import { afterAll, beforeAll, beforeEach, describe, expect, it } from '@jest/globals';
import { fetchForecast as fetchByHand, readForecast } from '@meridiem/contract';
import type { Server } from 'node:http';
import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import { forecastOf } from '../../simulator/src/forecast.ts';
import { fetchForecast } from '../src/modules/forecast/source.ts';
import type { TestApp } from './test-app.ts';
import { createTestApp, NOW } from './test-app.ts';

const nightDate = '2026-10-11';
const HOUR = 3_600_000;
let service: Server;
let address: string;
let test: TestApp;
const asked: URL[] = [];
/** What the service says, and how. */
let say: { status: number; body: string; location?: string };
const sayHours = (hours: unknown): void => void (say = { status: 200, body: JSON.stringify({ hours }) });

beforeAll(async () => {
  service = createServer(({ url }, reply) => {
    asked.push(new URL(url!, 'http://service'));
    reply.writeHead(say.status, {
      'content-type': 'application/json',
      ...(say.location ? { location: say.location } : {}),
    });
    reply.end(say.body);
  });
  await new Promise<void>((listening) => service.listen(0, '127.0.0.1', listening));
  address = `http://127.0.0.1:${(service.address() as AddressInfo).port}`;
  test = await createTestApp({ exposures: 0, settings: { simulatorUrl: address } });
}, 60_000);
afterAll(async () => {
  await test.close();
  service.close();
});
beforeEach(async () => {
  asked.length = 0;
  await test.ownerDatabase.rows('DELETE FROM forecasts');
});
const read = async (who = 'sam') => (await test.call(who, readForecast, { params: { nightDate } })).body;
const hour = { source: 'north', utcMs: NOW + HOUR, cloudShare: 0.1, windMPerSec: 3, humidityShare: 0.5 };

describe('the forecast service', () => {
  it('is asked when a page wants what is old, and not again while it is fresh', async () => {
    sayHours(forecastOf('station', NOW - 6 * HOUR, 96));
    const first = await read();
    expect(first.sources.length).toBeGreaterThan(1);
    expect(first.hours.length).toBeGreaterThan(0);
    expect(await read('ilse')).toEqual(first);
    expect(asked).toHaveLength(1);
    expect(Number(asked[0].searchParams.get('from'))).toBe(NOW - 6 * HOUR);
    expect(asked[0].searchParams.get('hours')).toBe('96');
    await test.ownerDatabase.rows(`UPDATE forecasts SET issued = issued - interval '4 hours'`);
    await read();
    expect(asked).toHaveLength(2);
  });

  it('replaces what a source said before of the same hours, and leaves other sources alone', async () => {
    sayHours([hour, { ...hour, source: 'south', cloudShare: 0.9 }]);
    await test.call('ilse', fetchByHand);
    sayHours([{ ...hour, cloudShare: 0.7 }]);
    await test.call('ilse', fetchByHand);
    const [{ bySource }] = (await read()).hours;
    expect(bySource.map(({ source, cloudShare }) => [source, cloudShare])).toEqual([
      ['north', 0.7],
      ['south', 0.9],
    ]);
  });

  it('that is silent, redirects or talks nonsense leaves what is known, and a coordinator who asks is told', async () => {
    sayHours([hour]);
    await test.call('ilse', fetchByHand);
    const known = await read();
    await test.ownerDatabase.rows(`UPDATE forecasts SET issued = issued - interval '4 hours'`);
    const nonsense: (typeof say)[] = [
      { status: 500, body: '{}' },
      { status: 302, body: '', location: 'http://127.0.0.1:1/' },
      { status: 200, body: '<html>' },
      { status: 200, body: '{}' },
      { status: 200, body: '{"hours":[]}' },
      { status: 200, body: '{"hours":[null]}' },
      { status: 200, body: JSON.stringify({ hours: [{ ...hour, cloudShare: 40 }] }) },
      { status: 200, body: JSON.stringify({ hours: [{ ...hour, utcMs: NOW + 1 }] }) },
      { status: 200, body: JSON.stringify({ hours: [{ ...hour, source: '' }] }) },
    ];
    for (const one of nonsense) {
      say = one;
      expect([one.body, (await read()).hours]).toEqual([one.body, known.hours]);
      const answer = await test.call('ilse', fetchByHand);
      expect([one.body, answer.status, answer.error.code]).toEqual([one.body, 503, 'NOT_READY']);
      expect(answer.error.message).toMatch(/^The forecast service /);
    }
  });

  it('is not needed: without one the page says nothing, and asking says why', async () => {
    await expect(fetchForecast(null, NOW)).rejects.toMatchObject({ code: 'NOT_READY' });
    await expect(fetchForecast('http://127.0.0.1:1', NOW)).rejects.toMatchObject({
      message: 'The forecast service does not answer just now',
    });
  });
});

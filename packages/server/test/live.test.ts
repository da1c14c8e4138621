// What changed reaches every page that follows, however transactions overlap and connections break.
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { once } from 'node:events';
import { connect } from 'node:net';
import { setTimeout as sleep } from 'node:timers/promises';
import { Client } from 'pg';
import { DEMO_PASSWORD, emailOf } from '../../../demo/people.ts';
import { MOST_STREAMS } from '../src/plugins/live.ts';
import type { TestApp } from './test-app.ts';
import { createTestApp } from './test-app.ts';

let test: TestApp;
let address: string;
let observatoryId: string;
beforeAll(async () => {
  test = await createTestApp({ exposures: 0 });
  address = await test.app.listen({ host: '127.0.0.1', port: 0 });
  [{ id: observatoryId }] = await test.ownerDatabase.rows<{ id: string }>('SELECT id FROM observatories');
}, 60_000);
afterAll(() => test.close());

interface Told {
  readonly seq: number;
  readonly topic: string;
  readonly ids: readonly string[];
}

/** A page that follows: what it has been told so far. */
async function following(who: string) {
  const signedIn = await test.app.inject({
    method: 'POST',
    url: '/api/session',
    payload: { email: emailOf({ key: who }), password: DEMO_PASSWORD },
  });
  const cookie = String(signedIn.headers['set-cookie']).split(';')[0];
  const stop = new AbortController();
  const answer = await fetch(`${address}/api/events`, {
    headers: { cookie, accept: 'text/event-stream' },
    signal: stop.signal,
  });
  expect(answer.headers.get('content-type')).toMatch(/event-stream/);
  const told: Told[] = [];
  let greeted = false;
  const read = async (): Promise<void> => {
    let text = '';
    for await (const part of answer.body!.pipeThrough(new TextDecoderStream())) {
      const messages = `${text}${part}`.split('\n\n');
      text = messages.pop()!;
      for (const message of messages) {
        const field = (name: string) => new RegExp(`^${name}: ?(.*)$`, 'm').exec(message)?.[1];
        if (field('event') === 'hello') greeted = true;
        if (field('event') === 'changed') told.push({ seq: Number(field('id')), ...JSON.parse(field('data')!) });
      }
    }
  };
  const done = read().catch(() => undefined);
  await until(() => greeted);
  return { told, close: () => (stop.abort(), done) };
}

async function until(holds: () => boolean, mostMs = 8000): Promise<void> {
  for (let waitedMs = 0; !holds(); waitedMs += 20) {
    if (waitedMs > mostMs) throw new Error('What was waited for has not come');
    await sleep(20);
  }
}

const INSERT = `INSERT INTO events (observatory_id, topic, ids) VALUES ($1, 'plan', jsonb_build_array($2::text))`;
const connected = async (): Promise<Client> => {
  const client = new Client({ connectionString: test.ownerUrl });
  client.on('error', () => undefined);
  await client.connect();
  return client;
};

describe('pages that follow', () => {
  it('are told what changed, once each, and nothing of another observatory', async () => {
    const [other] = await test.ownerDatabase.rows<{ id: string }>(
      `INSERT INTO observatories SELECT (jsonb_populate_record(o, jsonb_build_object('id', gen_random_uuid(), 'name', 'Elsewhere'))).* FROM observatories o RETURNING id`,
    );
    const pages = [await following('ilse'), await following('ruan')];
    await test.ownerDatabase.rows(INSERT, [other.id, 'theirs']);
    await test.ownerDatabase.rows(INSERT, [observatoryId, 'ours']);
    for (const { told, close } of pages) {
      await until(() => told.length > 0);
      expect(told.map(({ topic, ids }) => [topic, ids])).toEqual([['plan', ['ours']]]);
      await close();
    }
  });

  it('are told of what commits late, though a younger change came before it', async () => {
    const [slow, quick, page] = [await connected(), await connected(), await following('ilse')];
    await slow.query('BEGIN');
    await slow.query(INSERT, [observatoryId, 'slow']);
    await quick.query(INSERT, [observatoryId, 'quick']);
    await until(() => page.told.some(({ ids }) => ids.includes('quick')));
    await slow.query('COMMIT');
    await until(() => page.told.some(({ ids }) => ids.includes('slow')));
    expect(page.told).toHaveLength(2);
    await Promise.all([slow.end(), quick.end(), page.close()]);
  });

  it('are told of all that one change brings, however much', async () => {
    const page = await following('ilse');
    await test.ownerDatabase.rows(
      `INSERT INTO events (observatory_id, topic, ids) SELECT $1, 'ledger', jsonb_build_array(i::text) FROM generate_series(1, 1300) i`,
      [observatoryId],
    );
    await until(() => page.told.length >= 1300);
    expect(new Set(page.told.map(({ ids }) => ids[0])).size).toBe(1300);
    await page.close();
  });

  it('are told what they missed while the listening connection was lost, and nothing twice', async () => {
    const page = await following('ilse');
    await test.ownerDatabase.rows(INSERT, [observatoryId, 'before']);
    await until(() => page.told.length === 1);
    const [slow, other] = [await connected(), await connected()];
    await slow.query('BEGIN');
    await slow.query(INSERT, [observatoryId, 'begun before']);
    await test.ownerDatabase.rows(INSERT, [observatoryId, 'between']);
    await until(() => page.told.length === 2);
    await test.ownerDatabase.rows(
      `SELECT pg_terminate_backend(pid) FROM pg_stat_activity WHERE datname = current_database() AND query LIKE 'LISTEN%'`,
    );
    await slow.query('COMMIT');
    await other.query(INSERT, [observatoryId, 'meanwhile']);
    await until(() => page.told.length >= 4);
    await test.ownerDatabase.rows(INSERT, [observatoryId, 'after']);
    await until(() => page.told.length >= 5);
    expect(page.told.map(({ ids }) => ids[0]).sort()).toEqual([
      'after',
      'before',
      'begun before',
      'between',
      'meanwhile',
    ]);
    await Promise.all([slow.end(), other.end(), page.close()]);
  });

  it('are not counted for good where they leave before their stream stands', async () => {
    const headers = { cookie: await test.cookieOf('ilse'), accept: 'text/event-stream' };
    const holder = await connected();
    // Who asks is looked up in this table first: all of them wait there, and leave.
    await holder.query('BEGIN; LOCK TABLE sessions IN ACCESS EXCLUSIVE MODE');
    const stop = new AbortController();
    const asked = Array.from({ length: MOST_STREAMS + 2 }, () =>
      fetch(`${address}/api/events`, { headers, signal: stop.signal }).catch(() => undefined),
    );
    await sleep(200);
    stop.abort();
    await Promise.all(asked);
    await sleep(50);
    await holder.query('COMMIT');
    await holder.end();
    await sleep(200);
    const page = await following('ilse');
    await page.close();
  });

  it('are ended when the server closes, which waits for none of them, nor for a connection that asks nothing', async () => {
    const page = await following('ilse');
    const silent = connect(Number(new URL(address).port), '127.0.0.1').on('error', () => undefined);
    await once(silent, 'connect');
    const started = performance.now();
    await test.app.close();
    await page.close();
    expect(performance.now() - started).toBeLessThan(5000);
  });
});

it('nobody follows without signing in', async () => {
  const closed = await createTestApp({ exposures: 0 });
  const answer = await closed.app.inject({ method: 'GET', url: '/api/events' });
  expect(answer.statusCode).toBe(401);
  await closed.close();
}, 60_000);

it('who does not ask for a stream is refused', async () => {
  const asked = await createTestApp({ exposures: 0 });
  const headers = { cookie: await asked.cookieOf('ilse'), accept: 'application/json' };
  const answer = await asked.app.inject({ method: 'GET', url: '/api/events', headers });
  await asked.close();
  expect(answer.statusCode).toBe(406);
}, 60_000);

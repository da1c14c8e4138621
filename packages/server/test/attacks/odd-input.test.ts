// Calls as no page makes them: under other names, from elsewhere, odd to the core. Each gets an answer in words.
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { connect } from 'node:net';
import { setTimeout as sleep } from 'node:timers/promises';
import { addTheme, importForecast, listExposures, replaceHorizon } from '@meridiem/contract';
import { DEMO_PASSWORD } from '../../../../demo/people.ts';
import { configFrom } from '../../src/config.ts';
import { allowedHosts } from '../../src/plugins/hosts.ts';
import { loggedUrl } from '../../src/plugins/request-log.ts';
import type { TestApp } from '../test-app.ts';
import { createTestApp } from '../test-app.ts';

let test: TestApp;
let port: number;
beforeAll(async () => {
  test = await createTestApp({ exposures: 60 });
  port = Number(new URL(await test.app.listen({ host: '127.0.0.1', port: 0 })).port);
}, 60_000);
afterAll(() => test.close());

const post = async (payload: string, headers: Record<string, string> = {}) =>
  test.app.inject({
    method: 'POST',
    url: '/api/themes',
    headers: { 'content-type': 'application/json', cookie: await test.cookieOf('ilse'), ...headers },
    payload,
  });

describe('a body', () => {
  it.each([
    ['nested without end', `${'[{"a":'.repeat(30_000)}1${'}]'.repeat(30_000)}`],
    ['nested in brackets alone', '['.repeat(400_000)],
    ['with half a character in a name', '{"name":"a\\ud800b","take":"all"}'],
    ['with half a character in a key', '{"\\udc00":1}'],
    ['with a zero character', '{"name":"a\\u0000b","take":"all"}'],
    ['with a line break in a name', '{"name":"first\\nsecond","take":"all"}'],
    ['with a control character in a name', '{"name":"a\\u001bb","take":"all"}'],
    ['that is no JSON', '{"name":'],
    ['that is a number', '7'],
    ['with a number beyond all numbers', '{"name":"x","take":1e999}'],
  ])('%s is refused in words', async (_, payload) => {
    const answer = await post(payload);
    expect([answer.statusCode, Object.keys(answer.json())]).toEqual([400, expect.arrayContaining(['code', 'message'])]);
  });
});

describe('a caller', () => {
  it.each(['null', 'not an address', 'https://elsewhere.example', 'http://localhost:1', 'file://'])(
    'from the origin "%s" changes nothing',
    async (origin) => {
      const answer = await post('{"name":"x","take":"all"}', { origin });
      expect([answer.statusCode, answer.json().code]).toEqual([403, 'CROSS_SITE']);
    },
  );
  it.each(['elsewhere.example', 'elsewhere.example:80', '127.0.0.1.elsewhere.example'])(
    'under the name "%s" is refused',
    async (host) => {
      const answer = await test.app.inject({ method: 'GET', url: '/api/health', headers: { host } });
      expect([answer.statusCode, answer.json().code]).toEqual([421, 'WRONG_HOST']);
    },
  );
  it('that never finishes its headers is let go', async () => {
    const socket = connect(port, '127.0.0.1');
    socket.write('GET /api/health HTTP/1.1\r\nHost: localhost\r\nX-Slow: ');
    const ended = new Promise((resolve) => socket.on('close', resolve).resume());
    expect(await Promise.race([ended.then(() => 'let go'), sleep(20_000).then(() => 'kept')])).toBe('let go');
    socket.destroy();
  }, 30_000);
});

describe('an address', () => {
  const secret = 'Zx9_'.repeat(10);
  it.each([
    [`/api/join/${secret}`, '/api/join/…'],
    [`/join/${secret}`, '/join/…'],
    [`/api/calendar/${secret}.ics?x=${secret}`, '/api/calendar/…?x'],
    ['/api/projects/3b1f0b1e-0000-4000-8000-000000000001', '/api/projects/3b1f0b1e-0000-4000-8000-000000000001'],
  ])('%s is logged without its secret', (url, logged) => expect(loggedUrl(url)).toBe(logged));
});

describe('behind a proxy', () => {
  const SETTINGS = {
    MERIDIEM_DATABASE_URL: 'postgres://a',
    MERIDIEM_OWNER_DATABASE_URL: 'postgres://b',
    MERIDIEM_SESSION_SECRET: 's'.repeat(32),
    MERIDIEM_RUNNER_KEY: 'k',
  };
  it('the public name is accepted, and only it beside loopback', () => {
    const config = configFrom({ ...SETTINGS, MERIDIEM_PUBLIC_URL: 'https://rigs.example:8443/' });
    expect([...allowedHosts(config)].sort()).toEqual(['127.0.0.1', '[::1]', 'localhost', 'rigs.example'].sort());
  });
  it('a public address that is none is refused at start', () =>
    expect(() => configFrom({ ...SETTINGS, MERIDIEM_PUBLIC_URL: 'rigs.example' })).toThrow('MERIDIEM_PUBLIC_URL'));
  it('cookies are secure and tries are counted by the real caller', async () => {
    const proxied = await createTestApp({
      exposures: 0,
      settings: { publicUrl: new URL('https://rigs.example'), trustedProxies: ['127.0.0.1'] },
    });
    const signIn = (password: string, caller: string) =>
      proxied.app.inject({
        method: 'POST',
        url: '/api/session',
        headers: { host: 'rigs.example', origin: 'https://rigs.example', 'x-forwarded-for': caller },
        payload: { email: 'mirela@saltbush.example', password },
      });
    for (let i = 0; i < 10; i += 1) await signIn('wrong', '203.0.113.7');
    expect((await signIn('wrong', '203.0.113.7')).statusCode).toBe(429);
    expect((await signIn('wrong', '203.0.113.8')).statusCode).toBe(401);
    const rows = await proxied.ownerDatabase.rows('SELECT address FROM sign_in_failures ORDER BY address');
    expect(rows).toEqual([{ address: '203.0.113.7' }, { address: '203.0.113.8' }]);
    const right = await signIn(DEMO_PASSWORD, '203.0.113.9');
    expect([right.statusCode, String(right.headers['set-cookie'])]).toEqual([200, expect.stringMatching(/; Secure/)]);
    await proxied.close();
  }, 60_000);
});

describe('private answers', () => {
  it('are kept by nothing between', async () => {
    const answer = await test.app.inject({
      method: 'GET',
      url: '/api/projects',
      headers: { cookie: await test.cookieOf('ilse') },
    });
    expect(answer.headers['cache-control']).toBe('no-store');
  });
});

describe('odd values', () => {
  it.each(['x', '%00', '2026', '{}', '9'.repeat(200), '1e309|x', '|', '2026-13-45T00:00:00Z|1'])(
    'a page key "%s" is refused or empty, never a fault',
    async (after) => {
      const { status } = await test.call('ilse', listExposures, { query: { after } as never });
      expect([200, 400, 422]).toContain(status);
    },
  );
  it.each(['', '\n\n', '# nothing but a remark', 'azimuth,altitude'])(
    'a horizon file without points (%j) changes nothing',
    async (text) => {
      const before = await test.ownerDatabase.rows('SELECT * FROM horizons ORDER BY id');
      const { status, error } = await test.call('ilse', replaceHorizon, { body: { text, asSeen: false } });
      expect([400, 422]).toContain(status);
      expect(error.message).toMatch(/\S+ \S+/);
      expect(await test.ownerDatabase.rows('SELECT * FROM horizons ORDER BY id')).toEqual(before);
    },
  );
  it.each(['[]', '{}', 'null', 'a,b,c\n1,2,3', '[{"hour":"never"}]', '[{"utcMs":1e400}]', '\u{1F319}'])(
    'a forecast of %j is refused in words',
    async (text) => {
      const { status, error } = await test.call('ilse', importForecast, { body: { text } as never });
      expect([400, 422]).toContain(status);
      expect(error.message).toMatch(/\S+ \S+/);
    },
  );
  it('a theme named like code is a name', async () => {
    const { status } = await test.call('ilse', addTheme, {
      body: { name: "'; DROP TABLE themes; --", take: 'any' } as never,
    });
    expect([200, 201, 400]).toContain(status);
    expect(await test.ownerDatabase.rows('SELECT 1 FROM themes')).not.toHaveLength(0);
  });
});

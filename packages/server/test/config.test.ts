import { describe, expect, it } from '@jest/globals';
import { readFileSync, readdirSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { servicesFor } from '../../../scripts/supervise.ts';
import { configFrom } from '../src/config.ts';
import { createClock } from '../src/clock.ts';

const SOUND = {
  MERIDIEM_DATABASE_URL: 'postgres://a',
  MERIDIEM_OWNER_DATABASE_URL: 'postgres://b',
  MERIDIEM_SESSION_SECRET: 's'.repeat(32),
  MERIDIEM_RUNNER_KEY: 'k',
};

const ROOT = fileURLToPath(new URL('../../..', import.meta.url));
/** A setting where it is read from the environment. */
const SETTING = /(?:env(?:ironment)?\.|needed\(')MERIDIEM_\w+/g;

describe('settings', () => {
  it('have defaults that stay on loopback', () =>
    expect(configFrom(SOUND)).toMatchObject({ host: '127.0.0.1', port: 4310, demo: false, clockStartUtcMs: null }));
  it.each(Object.keys(SOUND))('name %s when it is missing', (name) =>
    expect(() => configFrom({ ...SOUND, [name]: undefined })).toThrow(name),
  );
  it.each([
    ['a port that is none', { MERIDIEM_PORT: 'http' }, /MERIDIEM_PORT/],
    ['a short secret', { MERIDIEM_SESSION_SECRET: 'short' }, /32 characters/],
    [
      'an effort that is none',
      { MERIDIEM_SEARCH_EFFORT: '0' },
      /MERIDIEM_SEARCH_EFFORT "0" is no number from 0.01 to 100/,
    ],
    ['a clock that is none', { MERIDIEM_CLOCK: 'yesterday' }, /MERIDIEM_CLOCK/],
    ['demo accounts beyond loopback', { MERIDIEM_DEMO: '1', MERIDIEM_HOST: '0.0.0.0' }, /loopback/],
  ])('refuse %s', (_, changes, words) => expect(() => configFrom({ ...SOUND, ...changes })).toThrow(words));
  it('can not be changed afterwards', () => expect(Object.isFrozen(configFrom(SOUND))).toBe(true));
});

describe('the clock', () => {
  it('runs at the real pace from where it was started', () => {
    const start = Date.parse('2026-10-11T04:00:00Z');
    const now = createClock(start).nowUtcMs();
    expect(now - start).toBeGreaterThanOrEqual(0);
    expect(now - start).toBeLessThan(5000);
  });
});

describe('the services of the start command', () => {
  // Workers read a part of the server's settings.
  const services = servicesFor(0).map(({ name, main, settings }) => ({
    name,
    folder: join(ROOT, main, '..'),
    settings,
  }));
  it.each(services)('$name is handed each setting that its code reads', ({ folder, settings }) => {
    const read = new Set(sourcesOf(folder).flatMap((path) => readFileSync(path, 'utf8').match(SETTING) ?? []));
    const names = [...read].map((found) => found.replace(/.*MERIDIEM/, 'MERIDIEM'));
    expect(names.length).toBeGreaterThan(3);
    expect(names.filter((name) => !settings.includes(name))).toEqual([]);
  });
});

function sourcesOf(folder: string): string[] {
  const files = readdirSync(folder, { recursive: true, encoding: 'utf8' });
  return files.filter((name) => /(?<!\.test)\.ts$/.test(name)).map((name) => join(folder, name));
}

import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import {
  editMembership,
  exportNightCalendar,
  listPeople,
  makeCalendarFeed,
  publishPlan,
  readCalendarFeed,
  readNight,
  revokeCalendarFeed,
  search,
} from '@meridiem/contract';
import ICAL from 'ical.js';
import type { TestApp } from './test-app.ts';
import { createTestApp } from './test-app.ts';

const NIGHT = '2026-10-11';
let test: TestApp;
beforeAll(async () => {
  test = await createTestApp({ exposures: 200 });
}, 60_000);
afterAll(() => test.close());

/** Events as an independent parser of RFC 5545 reads them. */
const eventsOf = (text: string) =>
  new ICAL.Component(ICAL.parse(text) as unknown[] as never).getAllSubcomponents('vevent').map((component) => {
    const event = new ICAL.Event(component);
    return {
      summary: event.summary,
      startUtcMs: event.startDate.toJSDate().getTime(),
      endUtcMs: event.endDate.toJSDate().getTime(),
      uid: event.uid,
    };
  });

describe('the calendar of a night', () => {
  it('is not there before a plan is published, and holds its blocks after', async () => {
    expect((await test.call('sam', exportNightCalendar, { params: { nightDate: NIGHT } })).status).toBe(404);
    const { rigs } = (await test.call('ilse', readNight, { params: { nightDate: NIGHT } })).body;
    for (const { rigId } of rigs)
      await test.call('ilse', publishPlan, { params: { nightDate: NIGHT }, body: { rigId } });
    const { body } = await test.call('ilse', exportNightCalendar, { params: { nightDate: NIGHT } });
    const planned = (await test.call('ilse', readNight, { params: { nightDate: NIGHT } })).body.rigs.flatMap(
      ({ blocks }) => blocks,
    );
    const events = eventsOf(body as string);
    expect(events.length).toBe(planned.length);
    expect(new Set(events.map(({ uid }) => uid)).size).toBe(events.length);
    for (const block of planned) {
      const event = events.find(
        ({ startUtcMs, summary }) =>
          Math.abs(startUtcMs - block.startUtcMs) < 1000 && summary.startsWith(block.projectName),
      );
      expect(event && Math.abs(event.endUtcMs - block.endUtcMs)).toBeLessThan(1000);
    }
    expect((await test.call('ilse', exportNightCalendar, { params: { nightDate: NIGHT } })).body).toBe(body);
  });
});

describe('a member’s calendar address', () => {
  const follow = (path: string) => test.app.inject({ url: path });

  it('serves without signing in, is replaced by a new one, and ends when asked', async () => {
    expect((await test.call('ruan', readCalendarFeed)).body.madeUtcMs).toBeNull();
    const first = (await test.call('ruan', makeCalendarFeed)).body.path;
    const answer = await follow(first);
    expect(answer.headers['content-type']).toMatch(/text\/calendar/);
    expect(eventsOf(answer.body).length).toBeGreaterThan(0);
    const second = (await test.call('ruan', makeCalendarFeed)).body.path;
    expect([(await follow(first)).statusCode, (await follow(second)).statusCode]).toEqual([404, 200]);
    await test.call('ruan', revokeCalendarFeed);
    expect((await follow(second)).statusCode).toBe(404);
    const stored = await test.ownerDatabase.rows<{ token: Buffer }>('SELECT token_sha256 AS token FROM calendar_feeds');
    expect(stored.every(({ token }) => token.length === 32)).toBe(true);
  });

  it('ends with the membership', async () => {
    const { path } = (await test.call('mirela', makeCalendarFeed)).body;
    const { people } = (await test.call('ilse', listPeople)).body;
    const mirela = people.find(({ name }) => name.startsWith('Mirela'))!;
    await test.call('ilse', editMembership, { params: { id: mirela.id }, body: { suspended: true } });
    expect((await follow(path)).statusCode).toBe(404);
    await test.call('ilse', editMembership, { params: { id: mirela.id }, body: { suspended: false } });
  });
});

describe('search', () => {
  it('finds what has a name, by any part of it, and takes signs as they are', async () => {
    const hits = async (text: string) => (await test.call('sam', search, { query: { text } })).body.hits;
    expect((await hits('six pan')).map(({ kind }) => kind)).toContain('project');
    expect((await hits('aldous'))[0]).toMatchObject({ kind: 'member', words: 'Ruan Aldous', path: '/members' });
    expect((await hits('2026-10-1')).map(({ kind }) => kind)).toContain('night');
    expect(await hits('%%')).toEqual([]);
    expect(await hits('a')).toEqual([]);
  });
});

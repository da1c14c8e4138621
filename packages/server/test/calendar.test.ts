import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { randomUUID } from 'node:crypto';
import {
  changeByHand,
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
      status: String(component.getFirstPropertyValue('status')),
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
    expect(String(body).endsWith('END:VCALENDAR\r\n')).toBe(true);
  });

  it('keeps each stay’s identity through a new version, and cancels what goes', async () => {
    const read = async () =>
      eventsOf((await test.call('ilse', exportNightCalendar, { params: { nightDate: NIGHT } })).body as string);
    const before = await read();
    const { rigs } = (await test.call('ilse', readNight, { params: { nightDate: NIGHT } })).body;
    const rig = rigs.find(({ blocks }) => blocks.length > 1)!;
    const [gone] = rig.blocks;
    const changes = [{ id: randomUUID(), kind: 'ban' as const, panelId: gone.panelId }];
    await test.call('ilse', changeByHand, {
      params: { id: rig.rigId, nightDate: NIGHT },
      body: { changes, replaces: [] },
    });
    await test.call('ilse', publishPlan, {
      params: { nightDate: NIGHT },
      body: { rigId: rig.rigId, reason: 'left out by hand' },
    });
    const after = await read();
    const statusOf = new Map(after.map(({ uid, status }) => [uid, status]));
    expect(before.every(({ uid }) => statusOf.has(uid))).toBe(true);
    const cancelled = after.filter(({ status }) => status === 'CANCELLED');
    expect(cancelled.length).toBeGreaterThan(0);
    expect(cancelled.some(({ summary }) => summary.startsWith(gone.projectName))).toBe(true);
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

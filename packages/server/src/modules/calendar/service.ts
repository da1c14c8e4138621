// Published plans as calendars: a night's file, and each member's own address that calendar programs may follow.
import { nightDateAt, nightDatePlus } from '@meridiem/core';
import ical, { ICalEventStatus } from 'ical-generator';
import type { Clock } from '../../clock.ts';
import type { Database, Queries } from '../../database/connection.ts';
import { notFound } from '../../errors.ts';
import type { Viewer } from '../../plugins/sessions.ts';
import { RESERVED } from '../../privacy.ts';
import { hashOfToken, newToken } from '../people/index.ts';
import type { Onlooker, PublishedBlock } from './repository.ts';
import { feedOwner, insertFeed, publishedBlocks, revokeFeeds } from './repository.ts';

/** Nights back that a followed calendar keeps. */
const NIGHTS_BACK = 7;

export type CalendarService = ReturnType<typeof createCalendarService>;

export function createCalendarService({ database, clock }: { database: Database; clock: Clock }) {
  return {
    async ofNight(viewer: Onlooker, nightDate: string): Promise<string> {
      const blocks = await publishedBlocks(database, viewer, { of: nightDate });
      if (blocks.length === 0) throw notFound('published plan of this night');
      return written(database, viewer.observatoryId, blocks);
    },

    async feed(token: string): Promise<string> {
      const owner = await feedOwner(database, hashOfToken(token));
      if (!owner) throw notFound('calendar');
      const blocks = await publishedBlocks(database, owner, {
        since: nightDatePlus(nightDateAt(clock.nowUtcMs(), 'utc'), -NIGHTS_BACK),
      });
      return written(database, owner.observatoryId, blocks);
    },

    async madeAt({ observatoryId, personId }: Viewer): Promise<number | null> {
      const feed = await database.models.CalendarFeed.findOne({ where: { observatoryId, personId, revoked: null } });
      return feed?.made.getTime() ?? null;
    },

    make: (viewer: Viewer): Promise<{ path: string }> =>
      database.transaction(async (queries) => {
        await queries.models.Person.findByPk(viewer.personId, { lock: true });
        await revokeFeeds(queries, viewer);
        const { token, sha256 } = newToken();
        await insertFeed(queries, viewer, sha256);
        return { path: `/api/calendar/${token}` };
      }),

    async revoke(viewer: Viewer): Promise<{ ok: true }> {
      await revokeFeeds(database, viewer);
      return { ok: true };
    },
  };
}

/** Equal plans give equal text: events are stamped with the moment of publishing. */
async function written(queries: Queries, observatoryId: string, blocks: readonly PublishedBlock[]): Promise<string> {
  const observatory = await queries.models.Observatory.findByPk(observatoryId);
  const calendar = ical({
    name: `${observatory!.name}: published nights`,
    prodId: { company: 'Meridiem', product: 'nights' },
  });
  for (const { block, uid, isCancelled } of eventsOf(blocks)) {
    const runs = block.runs.map(({ letter, count, exposureSec }) => `${letter} ${count} × ${exposureSec} s`).join(', ');
    const title =
      block.panelName === block.projectName ? block.projectName : `${block.projectName}, ${block.panelName}`;
    calendar.createEvent({
      id: uid,
      sequence: block.seq,
      status: isCancelled ? ICalEventStatus.CANCELLED : ICalEventStatus.CONFIRMED,
      stamp: new Date(block.publishedUtcMs),
      start: new Date(block.startUtcMs),
      end: new Date(block.endUtcMs),
      summary: block.seen ? title : RESERVED,
      location: block.rigName,
      description: block.seen ? `${block.ownerName}. ${runs}. Night of ${block.nightDate}, version ${block.seq}.` : '',
    });
  }
  return `${calendar.toString().trimEnd()}\r\n`;
}

interface CalendarEvent {
  readonly block: PublishedBlock;
  /** The same for a stay through every version of its night. */
  readonly uid: string;
  readonly isCancelled: boolean;
}

/** Stays of the plans in force, and those of earlier versions that have gone, cancelled with the version that dropped them. */
function eventsOf(blocks: readonly PublishedBlock[]): CalendarEvent[] {
  const events = new Map<string, CalendarEvent>();
  const newest = new Map<string, PublishedBlock>();
  const byPlan = new Map<string, PublishedBlock[]>();
  for (const block of blocks) {
    newest.set(`${block.rigId} ${block.nightDate}`, block);
    byPlan.set(block.planId, [...(byPlan.get(block.planId) ?? []), block]);
  }
  for (const [planId, own] of byPlan) {
    const stays = new Map<string, number>();
    for (const block of own) {
      const stay = (stays.get(block.panelId) ?? 0) + 1;
      stays.set(block.panelId, stay);
      const uid = `${block.rigId}-${block.nightDate}-${block.panelId}-${stay}`;
      const last = newest.get(`${block.rigId} ${block.nightDate}`)!;
      const isCancelled = last.planId !== planId || !block.isInForce;
      events.set(uid, {
        uid,
        isCancelled,
        block: isCancelled ? { ...block, seq: last.seq, publishedUtcMs: last.publishedUtcMs } : block,
      });
    }
  }
  return [...events.values()];
}

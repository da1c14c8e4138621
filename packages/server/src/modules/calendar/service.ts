// Published plans as calendars: a night's file, and each member's own address that calendar programs may follow.
import { nightDateAt, nightDatePlus } from '@meridiem/core';
import ical, { ICalEventStatus } from 'ical-generator';
import type { Clock } from '../../clock.ts';
import type { Database, Queries } from '../../database/connection.ts';
import { notFound } from '../../errors.ts';
import type { Viewer } from '../../plugins/sessions.ts';
import { maySee, RESERVED } from '../../privacy.ts';
import { hashOfToken, newToken } from '../people/index.ts';

/** Nights back that a followed calendar keeps. */
const NIGHTS_BACK = 7;

interface BlockRow {
  readonly planId: string;
  readonly nightDate: string;
  readonly seq: number;
  readonly position: number;
  readonly publishedUtcMs: number;
  readonly startUtcMs: number;
  readonly endUtcMs: number;
  readonly rigId: string;
  readonly panelId: string;
  readonly isInForce: boolean;
  readonly rigName: string;
  readonly projectId: string;
  readonly projectName: string;
  readonly panelName: string;
  readonly ownerName: string;
  readonly seen: boolean;
  readonly runs: readonly { letter: string; count: number; exposureSec: number }[];
}

export type CalendarService = ReturnType<typeof createCalendarService>;

type Onlooker = Pick<Viewer, 'observatoryId' | 'personId' | 'role'>;

export function createCalendarService({ database, clock }: { database: Database; clock: Clock }) {
  return {
    async ofNight(viewer: Onlooker, nightDate: string): Promise<string> {
      const blocks = await blocksOf(database, viewer, 'n.night_date = $3', nightDate);
      if (blocks.length === 0) throw notFound('published plan of this night');
      return written(database, viewer.observatoryId, blocks);
    },

    async feed(token: string): Promise<string> {
      const owner = await database.one<Onlooker>(
        `SELECT f.observatory_id AS "observatoryId", f.person_id AS "personId", m.role FROM calendar_feeds f
         JOIN memberships m ON m.person_id = f.person_id AND m.observatory_id = f.observatory_id AND m.during @> now() AND NOT m.suspended
         WHERE f.token_sha256 = decode($1, 'hex') AND f.revoked IS NULL`,
        [hashOfToken(token)],
      );
      if (!owner) throw notFound('calendar');
      const blocks = await blocksOf(
        database,
        owner,
        'n.night_date >= $3::date',
        nightDatePlus(nightDateAt(clock.nowUtcMs(), 'utc'), -NIGHTS_BACK),
      );
      return written(database, owner.observatoryId, blocks);
    },

    async madeAt({ observatoryId, personId }: Viewer): Promise<number | null> {
      const feed = await database.one<{ made: number }>(
        'SELECT (extract(epoch FROM made) * 1000)::float8 AS made FROM calendar_feeds WHERE observatory_id = $1 AND person_id = $2 AND revoked IS NULL',
        [observatoryId, personId],
      );
      return feed?.made ?? null;
    },

    make: (viewer: Viewer): Promise<{ path: string }> =>
      database.transaction(async (queries) => {
        await queries.rows('SELECT 1 FROM people WHERE id = $1 FOR UPDATE', [viewer.personId]);
        await end(queries, viewer);
        const { token, sha256 } = newToken();
        await queries.rows(
          `INSERT INTO calendar_feeds (observatory_id, person_id, token_sha256) VALUES ($1, $2, decode($3, 'hex'))`,
          [viewer.observatoryId, viewer.personId, sha256],
        );
        return { path: `/api/calendar/${token}` };
      }),

    async revoke(viewer: Viewer): Promise<{ ok: true }> {
      await end(database, viewer);
      return { ok: true };
    },
  };
}

const end = (queries: Queries, { observatoryId, personId }: Viewer) =>
  queries.rows(
    'UPDATE calendar_feeds SET revoked = now() WHERE observatory_id = $1 AND person_id = $2 AND revoked IS NULL',
    [observatoryId, personId],
  );

/** Blocks of published plans, those in force and those before, private projects of others without names. */
const blocksOf = (queries: Queries, viewer: Onlooker, nights: string, bound: string): Promise<BlockRow[]> =>
  queries.rows(
    `SELECT n.id AS "planId", n.night_date::text AS "nightDate", n.seq, b.position, (extract(epoch FROM n.published) * 1000)::float8 AS "publishedUtcMs",
       (extract(epoch FROM lower(b.during)) * 1000)::float8 AS "startUtcMs", (extract(epoch FROM upper(b.during)) * 1000)::float8 AS "endUtcMs",
       n.rig_id AS "rigId", b.panel_id AS "panelId", n.state = 'published' AS "isInForce", r.name AS "rigName", p.id AS "projectId", p.name AS "projectName", l.name AS "panelName", o.name AS "ownerName", ${maySee('p', '$2', viewer.role)} AS seen,
       (SELECT jsonb_agg(jsonb_build_object('letter', f.letter, 'count', cardinality(x.exposure_starts), 'exposureSec', x.exposure_s) ORDER BY x.position)
        FROM plan_runs x JOIN goals g ON g.id = x.goal_id JOIN recipe_revisions v ON v.id = g.recipe_revision_id JOIN recipes c ON c.id = v.recipe_id JOIN filters f ON f.id = c.filter_id WHERE x.block_id = b.id) AS runs
     FROM night_plans n JOIN plan_blocks b ON b.plan_id = n.id JOIN rigs r ON r.id = n.rig_id JOIN panels l ON l.id = b.panel_id
     JOIN projects p ON p.id = l.project_id JOIN people o ON o.id = p.owner_id
     WHERE n.observatory_id = $1 AND n.state IN ('published', 'superseded') AND ${nights} ORDER BY n.seq, lower(b.during), r.name`,
    [viewer.observatoryId, viewer.personId, bound],
  );

/** Equal plans give equal text: events are stamped with the moment of publishing. */
async function written(queries: Queries, observatoryId: string, blocks: readonly BlockRow[]): Promise<string> {
  const observatory = await queries.one<{ name: string }>('SELECT name FROM observatories WHERE id = $1', [
    observatoryId,
  ]);
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
  readonly block: BlockRow;
  /** The same for a stay through every version of its night. */
  readonly uid: string;
  readonly isCancelled: boolean;
}

/** Stays of the plans in force, and those of earlier versions that have gone, cancelled with the version that dropped them. */
function eventsOf(blocks: readonly BlockRow[]): CalendarEvent[] {
  const events = new Map<string, CalendarEvent>();
  const newest = new Map<string, BlockRow>();
  const byPlan = new Map<string, BlockRow[]>();
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

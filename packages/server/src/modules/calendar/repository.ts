// Calendars as rows: who may follow which, and the blocks of published plans.
import type { Queries } from '../../database/connection.ts';
import { NOW } from '../../database/now.ts';
import type { Viewer } from '../../plugins/sessions.ts';
import { maySee } from '../../privacy.ts';

export type Onlooker = Pick<Viewer, 'observatoryId' | 'personId' | 'role'>;

export interface PublishedBlock {
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

/** Whose calendar an address is, as long as they are members. */
export const feedOwner = (queries: Queries, tokenSha256: string): Promise<Onlooker | null> =>
  queries.one(
    `SELECT f.observatory_id AS "observatoryId", f.person_id AS "personId", m.role FROM calendar_feeds f
         JOIN memberships m ON m.person_id = f.person_id AND m.observatory_id = f.observatory_id AND m.during @> now() AND NOT m.suspended
         WHERE f.token_sha256 = decode($1, 'hex') AND f.revoked IS NULL`,
    [tokenSha256],
  );

export const insertFeed = (
  { models }: Queries,
  { observatoryId, personId }: Viewer,
  tokenSha256: string,
): Promise<unknown> =>
  models.CalendarFeed.create({ observatoryId, personId, tokenSha256: Buffer.from(tokenSha256, 'hex') });

export const revokeFeeds = ({ models }: Queries, { observatoryId, personId }: Viewer): Promise<unknown> =>
  models.CalendarFeed.update({ revoked: NOW }, { where: { observatoryId, personId, revoked: null } });

/** Blocks of published plans, those in force and those before, private projects of others without names. */
export const publishedBlocks = (
  queries: Queries,
  viewer: Onlooker,
  nights: { of: string } | { since: string },
): Promise<PublishedBlock[]> =>
  queries.rows(
    `SELECT n.id AS "planId", n.night_date::text AS "nightDate", n.seq, b.position, (extract(epoch FROM n.published) * 1000)::float8 AS "publishedUtcMs",
       (extract(epoch FROM lower(b.during)) * 1000)::float8 AS "startUtcMs", (extract(epoch FROM upper(b.during)) * 1000)::float8 AS "endUtcMs",
       n.rig_id AS "rigId", b.panel_id AS "panelId", n.state = 'published' AS "isInForce", r.name AS "rigName", p.id AS "projectId", p.name AS "projectName", l.name AS "panelName", o.name AS "ownerName", ${maySee('p', '$2', viewer.role)} AS seen,
       (SELECT jsonb_agg(jsonb_build_object('letter', f.letter, 'count', cardinality(x.exposure_starts), 'exposureSec', x.exposure_s) ORDER BY x.position)
        FROM plan_runs x JOIN goals g ON g.id = x.goal_id JOIN recipe_revisions v ON v.id = g.recipe_revision_id JOIN recipes c ON c.id = v.recipe_id JOIN filters f ON f.id = c.filter_id WHERE x.block_id = b.id) AS runs
     FROM night_plans n JOIN plan_blocks b ON b.plan_id = n.id JOIN rigs r ON r.id = n.rig_id JOIN panels l ON l.id = b.panel_id
     JOIN projects p ON p.id = l.project_id JOIN people o ON o.id = p.owner_id
     WHERE n.observatory_id = $1 AND n.state IN ('published', 'superseded') AND n.night_date ${'of' in nights ? '=' : '>='} $3::date ORDER BY n.seq, lower(b.during), r.name`,
    [viewer.observatoryId, viewer.personId, 'of' in nights ? nights.of : nights.since],
  );

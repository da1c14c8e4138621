// What nights brought, from the tallies that triggers keep, and how a goal's count came to be what it is.
import type { LedgerFilter } from './list-repository.ts';
import { conditionsOf } from './list-repository.ts';
import { maySee } from '../../privacy.ts';
import type { Viewer } from '../../plugins/sessions.ts';
import type { ProjectNight, ResponseOf, ReviewRow, readGoalHistory } from '@meridiem/contract';
import type { Queries } from '../../database/connection.ts';

const BY_VERDICT = `
  coalesce(sum(t.exposures) FILTER (WHERE t.verdict = 'accepted'), 0)::int AS accepted,
  coalesce(sum(t.exposures) FILTER (WHERE t.verdict = 'undecided'), 0)::int AS undecided,
  coalesce(sum(t.exposures) FILTER (WHERE t.verdict = 'rejected'), 0)::int AS rejected,
  coalesce(sum(t.exposure_s) FILTER (WHERE t.verdict = 'accepted'), 0) / 3600 AS "acceptedHours"`;

export const seenProject = (queries: Queries, viewer: Viewer, projectId: string) =>
  queries.one(
    `SELECT 1 FROM projects p WHERE p.id = $1 AND p.observatory_id = $2 AND ${maySee('p', '$3', viewer.role)}`,
    [projectId, viewer.observatoryId, viewer.personId],
  );

export const tallyByNight = (queries: Queries, projectId: string) =>
  queries.rows<ProjectNight['filters'][number] & { nightDate: string }>(
    `SELECT t.night_date::text AS "nightDate", f.letter AS "filterLetter", f.class AS "filterClass", ${BY_VERDICT}
         FROM ledger_tallies t JOIN filters f ON f.id = t.filter_id WHERE t.project_id = $1
         GROUP BY t.night_date, f.id HAVING sum(t.exposures) > 0 ORDER BY t.night_date, f.position, f.letter`,
    [projectId],
  );

export const goalBeginning = (queries: Queries, viewer: Viewer, goalId: string) =>
  queries.one<{ wanted: number | null; createdUtcMs: number; who: string }>(
    `SELECT g.wanted, (extract(epoch FROM coalesce(c.at, p.created)) * 1000)::float8 AS "createdUtcMs", coalesce(w.name, o.name) AS who
         FROM goals g JOIN panels l ON l.id = g.panel_id JOIN projects p ON p.id = l.project_id JOIN people o ON o.id = p.owner_id
         LEFT JOIN LATERAL (SELECT * FROM changes x WHERE x.entity IN ('goal_added', 'goals_put') AND x.undo_of IS NULL AND x.project_id = p.id AND coalesce(x.after -> 'ids', x.after -> 'added') ? g.id::text ORDER BY x.id LIMIT 1) c ON true
         LEFT JOIN people w ON w.id = c.person_id
         WHERE g.id = $1 AND g.observatory_id = $2 AND ${maySee('p', '$3', viewer.role)}`,
    [goalId, viewer.observatoryId, viewer.personId],
  );

export interface WantedChange {
  readonly at: number;
  readonly who: string;
  readonly before: number | null;
  readonly wanted: number | null;
  readonly why: string | null;
}

/** Changes of a goal's count, its own and those of several goals at once; a move taken back counts the other way round. */
export const wantedChanges = (queries: Queries, goalId: string): Promise<WantedChange[]> =>
  queries.rows(
    `SELECT at, who, before, wanted, why FROM (
       SELECT c.id, (extract(epoch FROM c.at) * 1000)::float8 AS at, p.name AS who, (c.before ->> 'wanted')::float8 AS before, (c.after ->> 'wanted')::float8 AS wanted, c.after ->> 'why' AS why
       FROM changes c JOIN people p ON p.id = c.person_id WHERE c.entity = 'goals' AND c.entity_id = $1 AND c.after ? 'wanted'
       UNION ALL
       SELECT c.id, (extract(epoch FROM c.at) * 1000)::float8, p.name, (x ->> CASE WHEN c.undo_of IS NULL THEN 'was' ELSE 'wanted' END)::float8,
         (x ->> CASE WHEN c.undo_of IS NULL THEN 'wanted' ELSE 'was' END)::float8, NULL
       FROM goals g JOIN panels l ON l.id = g.panel_id JOIN changes c ON c.entity = 'goals_put' AND c.entity_id = l.project_id JOIN people p ON p.id = c.person_id,
         jsonb_array_elements(coalesce(c.after -> 'changed', c.before -> 'changed', '[]')) x WHERE g.id = $1 AND x ->> 'id' = $1::text) all_changes ORDER BY id`,
    [goalId],
  );

export const lightOfGoal = (queries: Queries, goalId: string) =>
  queries.one<ResponseOf<typeof readGoalHistory>['light']>(
    `SELECT count(*)::int AS exposures, avg(m.rate_predicted) AS predicted, avg(m.rate_measured) AS measured FROM ledger_rows r
         JOIN measurements m ON m.exposure_id = r.exposure_id WHERE r.goal_id = $1 AND r.verdict = 'accepted' AND m.rate_predicted IS NOT NULL AND m.rate_measured IS NOT NULL`,
    [goalId],
  );

export const tallyByProject = (queries: Queries, viewer: Viewer, from: string, to: string): Promise<ReviewRow[]> =>
  queries.rows(
    `SELECT p.id AS "projectId", p.name AS "projectName", o.name AS "ownerName", count(DISTINCT t.night_date)::int AS nights, ${BY_VERDICT}
         FROM ledger_tallies t JOIN projects p ON p.id = t.project_id JOIN people o ON o.id = p.owner_id
         WHERE t.observatory_id = $1 AND t.night_date BETWEEN $2 AND $3 AND t.exposures > 0 AND ${maySee('p', '$4', viewer.role)}
         GROUP BY p.id, o.id ORDER BY "acceptedHours" DESC, p.name`,
    [viewer.observatoryId, from, to, viewer.personId],
  );

export const rejectedByReason = (
  queries: Queries,
  viewer: Viewer,
  filter: LedgerFilter,
): Promise<{ reason: string; count: number }[]> => {
  const { sql, bind } = conditionsOf(viewer, { ...filter, verdict: 'rejected' });
  return queries.rows(
    `SELECT j.reason, count(*)::int AS count FROM ledger_rows r JOIN verdicts j ON j.seq = r.verdict_seq WHERE ${sql} GROUP BY j.reason ORDER BY 2 DESC, 1 LIMIT 20`,
    bind,
  );
};

// What nights brought: by project, over a period, and why exposures were lost. Read from the tallies; nothing is stored beside them.
import type { ProjectNight, QueryOf, ReviewRow, readReasons, readReview } from '@meridiem/contract';
import type { Database } from '../../database/connection.ts';
import { notFound, refused } from '../../errors.ts';
import type { Viewer } from '../../plugins/sessions.ts';
import { maySee } from '../../privacy.ts';
import { conditionsOf } from './list.ts';

const BY_VERDICT = `
  coalesce(sum(t.exposures) FILTER (WHERE t.verdict = 'accepted'), 0)::int AS accepted,
  coalesce(sum(t.exposures) FILTER (WHERE t.verdict = 'undecided'), 0)::int AS undecided,
  coalesce(sum(t.exposures) FILTER (WHERE t.verdict = 'rejected'), 0)::int AS rejected,
  coalesce(sum(t.exposure_s) FILTER (WHERE t.verdict = 'accepted'), 0) / 3600 AS "acceptedHours"`;

export type ProgressService = ReturnType<typeof createProgressService>;

export function createProgressService({ database }: { database: Database }) {
  return {
    async nightsOf(viewer: Viewer, projectId: string): Promise<ProjectNight[]> {
      const project = await database.one(
        `SELECT 1 FROM projects p WHERE p.id = $1 AND p.observatory_id = $2 AND ${maySee('p', '$3', viewer.role)}`,
        [projectId, viewer.observatoryId, viewer.personId],
      );
      if (!project) throw notFound('project');
      const rows = await database.rows<ProjectNight['filters'][number] & { nightDate: string }>(
        `SELECT t.night_date::text AS "nightDate", f.letter AS "filterLetter", f.class AS "filterClass", ${BY_VERDICT}
         FROM ledger_tallies t JOIN filters f ON f.id = t.filter_id WHERE t.project_id = $1
         GROUP BY t.night_date, f.id HAVING sum(t.exposures) > 0 ORDER BY t.night_date, f.position, f.letter`,
        [projectId],
      );
      const dates = [...new Set(rows.map(({ nightDate }) => nightDate))];
      return dates.map((nightDate, i) => ({
        number: i + 1,
        nightDate,
        filters: rows.filter((row) => row.nightDate === nightDate).map(({ nightDate: _date, ...filter }) => filter),
      }));
    },

    async review(viewer: Viewer, { from, to }: QueryOf<typeof readReview>): Promise<ReviewRow[]> {
      if (from > to) throw refused('to', 'The last night lies before the first');
      return database.rows(
        `SELECT p.id AS "projectId", p.name AS "projectName", o.name AS "ownerName", count(DISTINCT t.night_date)::int AS nights, ${BY_VERDICT}
         FROM ledger_tallies t JOIN projects p ON p.id = t.project_id JOIN people o ON o.id = p.owner_id
         WHERE t.observatory_id = $1 AND t.night_date BETWEEN $2 AND $3 AND t.exposures > 0 AND ${maySee('p', '$4', viewer.role)}
         GROUP BY p.id, o.id ORDER BY "acceptedHours" DESC, p.name`,
        [viewer.observatoryId, from, to, viewer.personId],
      );
    },

    reasons: (viewer: Viewer, query: QueryOf<typeof readReasons>): Promise<{ reason: string; count: number }[]> => {
      const { sql, bind } = conditionsOf(viewer, { ...query, verdict: 'rejected' });
      return database.rows(
        `SELECT j.reason, count(*)::int AS count FROM ledger_rows r JOIN verdicts j ON j.seq = r.verdict_seq WHERE ${sql} GROUP BY j.reason ORDER BY 2 DESC, 1 LIMIT 20`,
        bind,
      );
    },
  };
}

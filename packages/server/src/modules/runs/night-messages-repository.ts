// What a night has brought, and who is to know.
import type { Queries } from '../../database/connection.ts';

export interface Gathered {
  readonly projectId: string;
  readonly projectName: string;
  readonly ownerId: string;
  readonly own: number;
  /** Of these, those that a joined project was given first: they are one exposure. */
  readonly shared: number;
  readonly hours: number;
  /** Of its own, by whoever judged first. */
  readonly rejected: number;
}

export const gatheredIn = (queries: Queries, runId: string): Promise<Gathered[]> =>
  queries.rows(
    `SELECT p.id AS "projectId", p.name AS "projectName", p.owner_id AS "ownerId", count(*)::int AS own, (sum(e.exposure_s) / 3600)::float8 AS hours,
       (count(*) FILTER (WHERE r.verdict = 'rejected'))::int AS rejected,
       (count(*) FILTER (WHERE EXISTS (SELECT 1 FROM attributions b WHERE b.exposure_id = a.exposure_id AND b.withdrawn IS NULL AND b.id < a.id)))::int AS shared
     FROM run_steps s JOIN exposures e ON e.run_step_id = s.id JOIN attributions a ON a.exposure_id = e.id AND a.withdrawn IS NULL JOIN projects p ON p.id = a.project_id
       LEFT JOIN ledger_rows r ON r.exposure_id = e.id AND r.project_id = p.id
     WHERE s.run_id = $1 GROUP BY p.id ORDER BY p.name, p.id`,
    [runId],
  );

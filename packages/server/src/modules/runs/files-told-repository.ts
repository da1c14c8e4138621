// Whose files of an ended night are all on the server, and that they know.
import type { Queries } from '../../database/connection.ts';

export interface CompleteFiles {
  readonly observatoryId: string;
  readonly projectId: string;
  readonly projectName: string;
  readonly ownerId: string;
  readonly nightDate: string;
  readonly files: number;
  readonly sizeBytes: number;
}

/** Writes down each project whose files of an ended night have all come, and returns those that were not yet. */
export const markComplete = (queries: Queries, runId: string): Promise<CompleteFiles[]> =>
  queries.rows(
    `WITH complete AS (
       INSERT INTO night_deliveries (run_id, project_id, observatory_id, files, size_bytes)
       SELECT s.run_id, a.project_id, n.observatory_id, count(*), sum(f.size_bytes)
       FROM night_runs n JOIN run_steps s ON s.run_id = n.id JOIN exposures e ON e.run_step_id = s.id
         JOIN frames f ON f.exposure_id = e.id JOIN attributions a ON a.exposure_id = e.id AND a.withdrawn IS NULL
       WHERE n.id = $1 AND n.kind = 'night' AND n.state IN ('finished', 'stopped')
       GROUP BY s.run_id, a.project_id, n.observatory_id HAVING bool_and(f.copied IS NOT NULL)
       ON CONFLICT DO NOTHING RETURNING *)
     SELECT c.observatory_id AS "observatoryId", p.id AS "projectId", p.name AS "projectName", p.owner_id AS "ownerId", d.night_date::text AS "nightDate",
       c.files, c.size_bytes::float8 AS "sizeBytes"
     FROM complete c JOIN projects p ON p.id = c.project_id JOIN night_runs n ON n.id = c.run_id JOIN night_plans d ON d.id = n.plan_id ORDER BY p.name, p.id`,
    [runId],
  );

/** The night by devices that an exposure belongs to; null for others. */
export async function runOfExposure({ models }: Queries, exposureId: string): Promise<string | null> {
  const exposure = await models.Exposure.findByPk(exposureId, { attributes: ['runStepId'] });
  const step = exposure?.runStepId
    ? await models.RunStep.findByPk(exposure.runStepId, { attributes: ['runId'] })
    : null;
  return step?.runId ?? null;
}

// Exposures of one goal that should not be added up: taken with several gains or cameras.
import type { Queries } from '../../database/connection.ts';

/** In words, by goal; goals whose exposures are alike are left out. */
export async function mixesOf(queries: Queries, projectId: string): Promise<ReadonlyMap<string, string>> {
  const rows = await queries.rows<{ goalId: string; gains: (number | null)[]; cameras: string[] }>(
    `SELECT r.goal_id AS "goalId", array_agg(DISTINCT e.gain) AS gains, array_agg(DISTINCT c.serial) AS cameras
     FROM ledger_rows r JOIN exposures e ON e.id = r.exposure_id JOIN rig_revisions v ON v.id = e.rig_revision_id JOIN cameras c ON c.id = v.camera_id
     WHERE r.project_id = $1 AND r.goal_id IS NOT NULL AND r.verdict <> 'rejected'
     GROUP BY r.goal_id HAVING count(DISTINCT e.gain) > 1 OR count(DISTINCT c.id) > 1`,
    [projectId],
  );
  return new Map(
    rows.map(({ goalId, gains, cameras }) => {
      const known = gains.filter((gain) => gain !== null);
      const parts = [
        ...(known.length > 1 ? [`gains ${known.join(' and ')}`] : []),
        ...(cameras.length > 1 ? [`cameras ${cameras.join(' and ')}`] : []),
      ];
      return [goalId, parts.join(', ')];
    }),
  );
}

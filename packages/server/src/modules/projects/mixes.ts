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

interface Settings {
  readonly exposureSec: number;
  readonly gain: number | null;
  readonly binning: number;
  readonly sensorC: number | null;
}

/** By goal, how its settings differ from the project's newest exposures through the same filter; goals that are alike are left out. */
export async function differencesOf(queries: Queries, projectId: string): Promise<ReadonlyMap<string, string>> {
  const rows = await queries.rows<{ goalId: string; own: Settings; earlier: Settings }>(
    `SELECT g.id AS "goalId",
       jsonb_build_object('exposureSec', v.exposure_s, 'gain', m.gain, 'binning', v.binning, 'sensorC', v.sensor_c) AS own,
       jsonb_build_object('exposureSec', e.exposure_s, 'gain', e.gain, 'binning', e.binning, 'sensorC', e.sensor_c) AS earlier
     FROM goals g JOIN panels l ON l.id = g.panel_id JOIN recipe_revisions v ON v.id = g.recipe_revision_id JOIN recipes r ON r.id = v.recipe_id
     JOIN camera_modes m ON m.id = v.camera_mode_id
     JOIN LATERAL (
       SELECT x.exposure_s, x.gain, x.binning, x.sensor_c FROM ledger_rows w JOIN exposures x ON x.id = w.exposure_id
       WHERE w.project_id = l.project_id AND x.filter_id = r.filter_id AND w.verdict <> 'rejected' ORDER BY x.start_utc DESC LIMIT 1) e ON true
     WHERE l.project_id = $1`,
    [projectId],
  );
  return new Map(
    rows.flatMap(({ goalId, own, earlier }): [string, string][] => {
      const parts = [
        ...(Math.abs(own.exposureSec - earlier.exposureSec) > 0.01 * own.exposureSec
          ? [`${earlier.exposureSec} s`]
          : []),
        ...(earlier.gain !== null && own.gain !== earlier.gain ? [`gain ${earlier.gain}`] : []),
        ...(own.binning !== earlier.binning ? [`binning ${earlier.binning}`] : []),
        ...(earlier.sensorC !== null && own.sensorC !== null && Math.abs(own.sensorC - earlier.sensorC) > 2
          ? [`${earlier.sensorC} °C`]
          : []),
      ];
      return parts.length > 0 ? [[goalId, parts.join(', ')]] : [];
    }),
  );
}

// Where the exposures of a project looked: as their headers say, else as their panel was framed when they were taken.
import { fieldOf } from '@meridiem/core';
import type { SkyField } from '@meridiem/core';
import type { Queries } from '../../database/connection.ts';

export interface CreditedExposure {
  readonly attributionId: string;
  readonly exposureId: string;
  readonly panelId: string;
  readonly goalId: string | null;
  readonly recipeId: string | null;
  readonly creditShare: number;
  readonly exposureSec: number;
  /** null where nobody knows where it looked. */
  readonly field: SkyField | null;
}

interface Row extends Omit<CreditedExposure, 'field'> {
  readonly raDeg: number | null;
  readonly decDeg: number | null;
  readonly positionAngleDeg: number;
  readonly focalLengthMm: number;
  readonly apertureMm: number;
  readonly pixelUm: number;
  readonly widthPx: number;
  readonly heightPx: number;
}

export async function creditedExposures(queries: Queries, projectId: string): Promise<CreditedExposure[]> {
  const rows = await queries.rows<Row>(
    `SELECT a.id AS "attributionId", a.exposure_id AS "exposureId", a.panel_id AS "panelId", a.goal_id AS "goalId", v.recipe_id AS "recipeId",
       a.credit_share AS "creditShare", e.exposure_s AS "exposureSec",
       coalesce((f.facts #>> '{centre,raDeg}')::float8, w.ra_deg) AS "raDeg", coalesce((f.facts #>> '{centre,decDeg}')::float8, w.dec_deg) AS "decDeg",
       coalesce((f.facts ->> 'positionAngleDeg')::float8, w.position_angle_deg) AS "positionAngleDeg",
       c.focal_length_mm AS "focalLengthMm", c.aperture_mm AS "apertureMm", k.pixel_um AS "pixelUm", k.width_px AS "widthPx", k.height_px AS "heightPx"
     FROM attributions a JOIN exposures e ON e.id = a.exposure_id JOIN rig_revisions c ON c.id = e.rig_revision_id JOIN cameras k ON k.id = c.camera_id
     LEFT JOIN goals g ON g.id = a.goal_id LEFT JOIN recipe_revisions v ON v.id = g.recipe_revision_id
     LEFT JOIN LATERAL (SELECT facts FROM import_files x WHERE x.exposure_id = e.id AND x.outcome = 'added' LIMIT 1) f ON true
     JOIN LATERAL (SELECT * FROM panel_pointings x WHERE x.panel_id = a.panel_id ORDER BY (x.created <= e.start_utc) DESC,
       CASE WHEN x.created <= e.start_utc THEN -x.seq ELSE x.seq END LIMIT 1) w ON true
     WHERE a.project_id = $1 AND a.withdrawn IS NULL`,
    [projectId],
  );
  return rows.map(
    ({ raDeg, decDeg, positionAngleDeg, focalLengthMm, apertureMm, pixelUm, widthPx, heightPx, ...row }) => {
      const { widthDeg, heightDeg } = fieldOf({ focalLengthMm, apertureMm, pixelUm, widthPx, heightPx });
      const field =
        raDeg === null || decDeg === null ? null : { centre: { raDeg, decDeg }, positionAngleDeg, widthDeg, heightDeg };
      return { ...row, field };
    },
  );
}

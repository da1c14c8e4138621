// Revisions of a rig as its optics and camera go, and the exposures taken by them, as rows.
import type { GearFigures, Rig } from '@meridiem/contract';
import type { Queries } from '../../database/connection.ts';

export interface GearRevision extends Pick<
  Rig,
  'cameraName' | 'cameraSerial' | 'focalLengthMm' | 'apertureMm' | 'pixelUm' | 'mountKind' | 'rotatorKind'
> {
  readonly id: string;
  readonly sinceUtcMs: number;
}

/** Those that exposures were taken by, and the one in force, the oldest first: a number typed wrong and mended is no change. */
export const gearRevisions = (
  queries: Queries,
  { observatoryId, rigId }: { readonly observatoryId: string; readonly rigId: string },
): Promise<GearRevision[]> =>
  queries.rows(
    `SELECT v.id, (extract(epoch FROM lower(v.during)) * 1000)::float8 AS "sinceUtcMs", c.name AS "cameraName", c.serial AS "cameraSerial", c.pixel_um AS "pixelUm",
       v.focal_length_mm AS "focalLengthMm", v.aperture_mm AS "apertureMm", v.mount_kind AS "mountKind", v.rotator_kind AS "rotatorKind"
     FROM rig_revisions v JOIN cameras c ON c.id = v.camera_id WHERE v.rig_id = $2 AND v.observatory_id = $1 AND (upper_inf(v.during) OR EXISTS (SELECT 1 FROM exposures e WHERE e.rig_revision_id = v.id AND e.kind = 'light')) ORDER BY v.seq`,
    [observatoryId, rigId],
  );

/** So many exposures next to the change tell what it did. */
const COMPARED = 300;
const LONGEST_GAP_SEC = 600;
const FEWEST = 8;

/** @param newest those before a change rather than those after one */
export async function figuresOfRevisions(
  queries: Queries,
  revisionIds: readonly string[],
  newest: boolean,
): Promise<GearFigures> {
  const row = await queries.one<GearFigures & { sizes: number; guided: number; gaps: number }>(
    `WITH taken AS (
       SELECT e.*, m.half_flux_radius_px * 206.2648 * c.pixel_um * e.binning / v.focal_length_mm AS size, m.guiding_rms_arcsec AS guiding
       FROM exposures e JOIN rig_revisions v ON v.id = e.rig_revision_id JOIN cameras c ON c.id = v.camera_id LEFT JOIN measurements m ON m.exposure_id = e.id
       WHERE e.rig_revision_id = ANY($1) AND e.kind = 'light' ORDER BY e.start_utc ${newest ? 'DESC' : 'ASC'} LIMIT ${COMPARED}),
     stepped AS (
       SELECT size, guiding, extract(epoch FROM start_utc - lag(start_utc) OVER w) - lag(exposure_s) OVER w AS gap FROM taken
       WINDOW w AS (PARTITION BY night_date, filter_id ORDER BY start_utc))
     SELECT count(*)::int AS exposures, count(size)::int AS sizes, count(guiding)::int AS guided, (count(*) FILTER (WHERE gap BETWEEN 0 AND ${LONGEST_GAP_SEC}))::int AS gaps,
       percentile_cont(0.5) WITHIN GROUP (ORDER BY size) AS "halfFluxRadiusArcsec", percentile_cont(0.5) WITHIN GROUP (ORDER BY guiding) AS "guidingRmsArcsec",
       (percentile_cont(0.5) WITHIN GROUP (ORDER BY gap) FILTER (WHERE gap BETWEEN 0 AND ${LONGEST_GAP_SEC}))::float8 AS "gapSec" FROM stepped`,
    [revisionIds],
  );
  const { exposures, sizes, guided, gaps, halfFluxRadiusArcsec, guidingRmsArcsec, gapSec } = row!;
  const known = (count: number, value: number | null): number | null => (count >= FEWEST ? value : null);
  return {
    exposures,
    halfFluxRadiusArcsec: known(sizes, halfFluxRadiusArcsec),
    guidingRmsArcsec: known(guided, guidingRmsArcsec),
    gapSec: known(gaps, gapSec),
  };
}

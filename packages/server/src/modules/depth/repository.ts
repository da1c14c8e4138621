// What a project has by filter, and what its files' pixels say of it.
import type { FilterDepth } from '@meridiem/contract';
import type { DeepExposure } from '@meridiem/core';
import { MEASURING_METHOD } from '@meridiem/core';
import type { Queries } from '../../database/connection.ts';

type FilterOf = Pick<FilterDepth, 'filterId' | 'letter' | 'filterClass' | 'exposures'>;

/** Exposures that are not rejected, filter by filter. */
export const countedByFilter = (queries: Queries, projectId: string): Promise<FilterOf[]> =>
  queries.rows(
    `SELECT f.id AS "filterId", f.letter, f.class AS "filterClass", count(*)::int AS exposures FROM ledger_rows r JOIN filters f ON f.id = r.filter_id
     WHERE r.project_id = $1 AND r.verdict <> 'rejected' GROUP BY f.id ORDER BY count(*) DESC, f.letter`,
    [projectId],
  );

interface DeepRow extends Omit<DeepExposure, 'field'> {
  readonly filterId: string;
  readonly raDeg: number;
  readonly decDeg: number;
  readonly positionAngleDeg: number;
  readonly scaleArcsecPerPx: number;
  readonly widthPx: number;
  readonly heightPx: number;
}

/** Those of them that tell how deep they are. */
export async function deepExposures(
  queries: Queries,
  projectId: string,
): Promise<(DeepExposure & { filterId: string })[]> {
  const rows = await queries.rows<DeepRow>(
    `SELECT r.filter_id AS "filterId", e.exposure_s AS "exposureSec", m.noise, m.zero_point_mag AS "zeroPointMag", m.ra_deg AS "raDeg", m.dec_deg AS "decDeg",
       m.position_angle_deg AS "positionAngleDeg", m.scale_arcsec AS "scaleArcsecPerPx", m.width_px AS "widthPx", m.height_px AS "heightPx"
     FROM ledger_rows r JOIN exposures e ON e.id = r.exposure_id JOIN frame_measures m ON m.exposure_id = r.exposure_id
     WHERE r.project_id = $1 AND r.verdict <> 'rejected' AND m.method = ${MEASURING_METHOD} AND m.zero_point_mag IS NOT NULL AND m.ra_deg IS NOT NULL AND m.noise > 0`,
    [projectId],
  );
  return rows.map(({ filterId, exposureSec, noise, zeroPointMag, raDeg, decDeg, ...field }) => ({
    ...{ filterId, exposureSec, noise, zeroPointMag },
    field: { centre: { raDeg, decDeg }, ...field },
  }));
}

// The sky over exposures of the ledger, from where they point, when they began and what they were taken with.
import type { ExposureConditions, FilterSky, Orbit, SkyPosition, TakenExposure } from '@meridiem/core';
import { exposureConditions } from '@meridiem/core';
import type { Queries } from '../../database/connection.ts';
import { orbitOf, placeOf } from '../../moving-target.ts';

type TakenRow = Omit<TakenExposure, 'target' | 'filter'> & {
  readonly id: string;
  readonly raDeg: number | null;
  readonly decDeg: number | null;
  readonly orbit: Orbit | null;
  readonly filter: FilterSky;
};

/** What the sky is worked out from, of an observatory `o`, a filter `f`, a rig revision `v`, its camera `c`, a binning and a gain. */
const skyParts = (binning: string, gain: string): string => `o.sky_zenith_mag_v AS "zenithMagV",
  jsonb_build_object('latitudeDeg', o.latitude_deg, 'longitudeDeg', o.longitude_deg, 'elevationM', o.elevation_m) AS site,
  jsonb_build_object('class', f.class, 'centreNm', f.centre_nm, 'widthNm', f.width_nm, 'extinctionMagPerAirmass', f.extinction_mag, 'zenithMag', f.sky_zenith_mag, 'moonFactor', f.moon_factor) AS filter,
  jsonb_build_object('apertureMm', v.aperture_mm, 'obstructionShare', v.obstruction_share, 'focalLengthMm', v.focal_length_mm, 'throughput', v.throughput, 'pixelUm', c.pixel_um,
    'darkCurrentEPerSec', c.dark_current_e_per_s, 'binning', ${binning}, 'readNoiseE', (SELECT m.read_noise_e FROM camera_modes m WHERE m.camera_id = c.id ORDER BY (m.gain = ${gain}) DESC, m.gain LIMIT 1)) AS detector`;

/** @param elsewhere places of exposures that no panel claims
 * @returns by exposure id; exposures without a place, or below the horizon, are left out */
export async function skiesOf(
  queries: Queries,
  exposureIds: readonly string[],
  elsewhere: ReadonlyMap<string, SkyPosition> = new Map(),
): Promise<Map<string, ExposureConditions>> {
  const rows = await queries.rows<TakenRow>(
    `SELECT e.id, (extract(epoch FROM e.start_utc) * 1000)::float8 AS "startUtcMs", e.exposure_s AS "exposureSec", w.ra_deg AS "raDeg", w.dec_deg AS "decDeg", ${orbitOf('w')} AS orbit, ${skyParts('e.binning', 'e.gain')}
     FROM exposures e JOIN observatories o ON o.id = e.observatory_id JOIN filters f ON f.id = e.filter_id
     JOIN rig_revisions v ON v.id = e.rig_revision_id JOIN cameras c ON c.id = v.camera_id
     LEFT JOIN LATERAL (SELECT panel_id FROM attributions x WHERE x.exposure_id = e.id AND x.withdrawn IS NULL LIMIT 1) a ON true
     LEFT JOIN LATERAL (SELECT p.ra_deg, p.dec_deg, j.target_id FROM panel_pointings p JOIN panels l ON l.id = p.panel_id JOIN projects j ON j.id = l.project_id
       WHERE p.panel_id = a.panel_id ORDER BY p.seq DESC LIMIT 1) w ON true
     WHERE e.id = ANY ($1) AND e.kind = 'light' AND e.exposure_s > 0`,
    [exposureIds],
  );
  return conditionsById(rows, elsewhere);
}

/** The sky that the open steps of a run are planned under, by step id. */
export async function plannedSkiesOf(queries: Queries, runId: string): Promise<Map<string, ExposureConditions>> {
  const rows = await queries.rows<TakenRow>(
    `SELECT s.id, (extract(epoch FROM s.planned_start) * 1000)::float8 AS "startUtcMs", s.exposure_s AS "exposureSec", w.ra_deg AS "raDeg", w.dec_deg AS "decDeg", ${orbitOf('w')} AS orbit, ${skyParts('r.binning', 'y.gain')}
     FROM run_steps s JOIN night_runs n ON n.id = s.run_id JOIN observatories o ON o.id = s.observatory_id
     JOIN goals g ON g.id = s.goal_id JOIN recipe_revisions r ON r.id = g.recipe_revision_id JOIN camera_modes y ON y.id = r.camera_mode_id
     JOIN recipes q ON q.id = r.recipe_id JOIN filters f ON f.id = q.filter_id
     JOIN rig_revisions v ON v.rig_id = n.rig_id AND v.during @> now() JOIN cameras c ON c.id = v.camera_id
     JOIN LATERAL (SELECT p.ra_deg, p.dec_deg, j.target_id FROM panel_pointings p JOIN panels l ON l.id = p.panel_id JOIN projects j ON j.id = l.project_id
       WHERE p.panel_id = g.panel_id ORDER BY p.seq DESC LIMIT 1) w ON true
     WHERE s.run_id = $1 AND s.outcome IS NULL`,
    [runId],
  );
  return conditionsById(rows);
}

const conditionsById = (
  rows: readonly TakenRow[],
  elsewhere: ReadonlyMap<string, SkyPosition> = new Map(),
): Map<string, ExposureConditions> =>
  new Map(
    rows.flatMap(({ id, raDeg, decDeg, orbit, ...taken }) => {
      const middleUtcMs = taken.startUtcMs + 500 * taken.exposureSec;
      const target = placeOf({ raDeg, decDeg, orbit }, taken.site, middleUtcMs) ?? elsewhere.get(id);
      const conditions = target && exposureConditions({ ...taken, target });
      return conditions ? [[id, conditions] as const] : [];
    }),
  );

// The observatory's rows, current revisions only.
import type { ClimateMonth, Closure, Filter, LimitRow, Observatory, Recipe, Rig } from '@meridiem/contract';
import type { HorizonPoint, StepCosts } from '@meridiem/core';
import { Op } from 'sequelize';
import { modeNow } from '../../database/camera-mode-repository.ts';
import type { Queries } from '../../database/connection.ts';
import { inForce, momentOfChange, since, thisMoment, until } from '../../database/validity.ts';
import { notFound } from '../../errors.ts';

export interface SiteRecord {
  readonly id: string;
  readonly name: string;
  readonly latitudeDeg: number;
  readonly longitudeDeg: number;
  readonly elevationM: number;
  readonly timeZone: string;
  readonly zenithMagV: number;
  readonly bounds: { sunAltitudeMaxDeg: number; mountAltitudeMinDeg: number; mountZenithHoleDeg: number };
  readonly cutOffClockMin: number;
  readonly preparationMin: number;
  readonly weatherPersistence: number;
  readonly climateSource: string;
  readonly version: number;
}

export async function siteOf(queries: Queries, observatoryId: string): Promise<SiteRecord> {
  const site = await queries.one<SiteRecord>(
    `SELECT id, name, latitude_deg AS "latitudeDeg", longitude_deg AS "longitudeDeg", elevation_m AS "elevationM", time_zone AS "timeZone",
       sky_zenith_mag_v AS "zenithMagV", cut_off_clock_min AS "cutOffClockMin", preparation_min AS "preparationMin",
       weather_persistence AS "weatherPersistence", climate_source AS "climateSource", version,
       jsonb_build_object('sunAltitudeMaxDeg', bound_sun_altitude_max_deg, 'mountAltitudeMinDeg', bound_mount_altitude_min_deg, 'mountZenithHoleDeg', bound_zenith_hole_deg) AS bounds
     FROM observatories WHERE id = $1`,
    [observatoryId],
  );
  if (!site) throw notFound('observatory');
  return site;
}

export async function horizonOf(
  { models }: Queries,
  observatoryId: string,
  at = thisMoment(),
): Promise<HorizonPoint[]> {
  const row = await models.Horizon.findOne({ where: { observatoryId, during: inForce(at) } });
  return (row?.points as HorizonPoint[] | undefined) ?? [];
}

/** The horizon from now on. */
export async function storeHorizon({ models }: Queries, observatoryId: string, points: HorizonPoint[]): Promise<void> {
  const at = momentOfChange();
  await models.Horizon.update({ during: until(at) }, { where: { observatoryId, during: inForce(at) } });
  await models.Horizon.create({ observatoryId, points, during: since(at) });
}

export async function climateOf({ models }: Queries, observatoryId: string): Promise<ClimateMonth[]> {
  const rows = await models.ClimateMonth.findAll({ where: { observatoryId }, order: ['month'] });
  return rows.map(({ id, month, clearOdds, version }) => ({ id, month, clearOdds, version }));
}

/** @param from a night's date; closures over by then are left out */
export async function closuresOf({ models }: Queries, observatoryId: string, from: string): Promise<Closure[]> {
  const rows = await models.Closure.findAll({
    where: { observatoryId, withdrawn: null, lastNight: { [Op.gte]: from } },
    order: ['firstNight', 'created'],
  });
  return rows.map(({ id, rigId, firstNight, lastNight, reason }) => ({ id, rigId, firstNight, lastNight, reason }));
}

export const observatoryLimitsOf = (queries: Queries, observatoryId: string): Promise<LimitRow[]> =>
  queries.rows(
    'SELECT class, key, value FROM limit_values WHERE observatory_id = $1 AND project_id IS NULL AND goal_id IS NULL',
    [observatoryId],
  );

export interface RigRecord extends Omit<Rig, 'costs'> {
  readonly cameraId: string;
  readonly costs: StepCosts;
}

/** Rigs in service as they are at a moment: numbers, camera modes, wheel, angle. */
export const rigsOf = (queries: Queries, observatoryId: string, at = thisMoment()): Promise<RigRecord[]> =>
  queries.rows(
    `SELECT r.id, r.name, v.id AS "revisionId", v.seq AS "revisionSeq", (extract(epoch FROM lower(v.during)) * 1000)::float8 AS since,
       v.aperture_mm AS "apertureMm", v.obstruction_share AS "obstructionShare", v.focal_length_mm AS "focalLengthMm", v.throughput,
       c.id AS "cameraId", c.name AS "cameraName", c.serial AS "cameraSerial", c.sensor, c.pixel_um AS "pixelUm", c.width_px AS "widthPx", c.height_px AS "heightPx",
       c.dark_current_e_per_s AS "darkCurrentEPerSec", c.dark_at_c AS "darkAtC", c.dark_doubling_c AS "darkDoublingC", c.cooling_below_c AS "coolingBelowC",
       v.mount_kind AS "mountKind", v.flip_before_s AS "flipBeforeSec", v.flip_after_s AS "flipAfterSec", v.mount_limit_after_s AS "mountLimitAfterSec",
       v.rotator_kind AS "rotatorKind", v.angle_tolerance_deg AS "angleToleranceDeg", v.drawtube_mm AS "drawtubeMm", v.corrected_circle_mm AS "correctedCircleMm", v.mirrors, v.costs,
       v.filter_holder AS "filterHolder", v.filter_places AS "filterPlaces", v.roof_clears AS "roofClears", r.devices, r.learns_times AS "learnsTimes",
       CASE WHEN v.stow_altitude_deg IS NOT NULL THEN jsonb_build_object('altitudeDeg', v.stow_altitude_deg, 'azimuthDeg', v.stow_azimuth_deg) END AS stow,
       (SELECT a.sky_angle_deg FROM rig_angles a WHERE a.rig_id = r.id AND a.during @> $2::timestamptz) AS "skyAngleDeg",
       coalesce((SELECT jsonb_agg(jsonb_build_object('id', m.id, 'name', m.name, 'revisionSeq', n.seq, 'since', (extract(epoch FROM lower(n.during)) * 1000)::float8, 'gain', n.gain, 'gainKind', n.gain_kind,
           'readNoiseE', n.read_noise_e, 'fullWellE', n.full_well_e, 'ePerAdu', n.e_per_adu, 'typicalOffset', n.typical_offset) ORDER BY n.gain, m.name)
         FROM camera_modes m JOIN camera_mode_revisions n ON n.camera_mode_id = m.id AND n.during @> $2::timestamptz
         WHERE m.rig_id = r.id AND (m.retired IS NULL OR m.retired > $2)), '[]') AS "cameraModes",
       coalesce((SELECT jsonb_agg(jsonb_build_object('slot', s.slot, 'filterId', s.filter_id, 'focusOffsetSteps', s.focus_offset_steps) ORDER BY s.slot)
         FROM filter_slots s WHERE s.rig_id = r.id AND s.during @> $2::timestamptz), '[]') AS slots,
       coalesce((SELECT jsonb_agg(jsonb_build_object('moment', s.moment, 'words', s.words) ORDER BY s.position) FROM rig_steps s WHERE s.rig_id = r.id), '[]') AS steps
     FROM rigs r JOIN rig_revisions v ON v.rig_id = r.id AND v.during @> $2::timestamptz JOIN cameras c ON c.id = v.camera_id
     WHERE r.observatory_id = $1 AND (r.retired IS NULL OR r.retired > $2) ORDER BY r.position, r.name`,
    [observatoryId, at],
  );

/** Filters that are in use, in the observatory's order. */
export const filtersOf = (queries: Queries, observatoryId: string): Promise<Filter[]> =>
  queries.rows(
    `SELECT id, letter, name, class, centre_nm AS "centreNm", width_nm AS "widthNm", extinction_mag AS "extinctionMagPerAirmass",
       sky_zenith_mag AS "zenithMag", moon_factor AS "moonFactor", version
     FROM filters WHERE observatory_id = $1 AND retired IS NULL ORDER BY position, letter`,
    [observatoryId],
  );

/** Recipes that are offered, of rigs in service, each in its newest revision. */
export const recipesOf = (queries: Queries, observatoryId: string): Promise<Recipe[]> =>
  queries.rows(
    `SELECT r.id, v.id AS "revisionId", v.seq AS "revisionSeq", r.rig_id AS "rigId", r.name, r.kind, r.filter_id AS "filterId", r.owner_id AS "ownerId", o.name AS "ownerName",
       v.camera_mode_id AS "cameraModeId", m.gain, v.exposure_s AS "exposureSec", v."offset", v.binning, v.sensor_c AS "sensorC", v.pause_s AS "pauseSec",
       v.dither_every AS "ditherEvery", v.dither_px AS "ditherPx",
       CASE WHEN v.region_width_px IS NOT NULL THEN jsonb_build_object('widthPx', v.region_width_px, 'heightPx', v.region_height_px) END AS region
     FROM recipes r JOIN rigs g ON g.id = r.rig_id AND g.retired IS NULL
     JOIN LATERAL (SELECT * FROM recipe_revisions x WHERE x.recipe_id = r.id ORDER BY seq DESC LIMIT 1) v ON true
     ${modeNow('v', 'm')} LEFT JOIN filters f ON f.id = r.filter_id LEFT JOIN people o ON o.id = r.owner_id
     WHERE r.observatory_id = $1 AND r.retired IS NULL ORDER BY r.rig_id, f.position NULLS LAST, r.name`,
    [observatoryId],
  );

/** What is offered no longer, newest first. */
export const retiredOf = (queries: Queries, observatoryId: string): Promise<Observatory['retired']> =>
  queries.rows(
    `SELECT id, what, name, "rigName", (extract(epoch FROM retired) * 1000)::float8 AS "retiredUtcMs" FROM (
       SELECT id, 'rig' AS what, name, NULL AS "rigName", retired FROM rigs WHERE observatory_id = $1
       UNION ALL SELECT id, 'filter', letter, NULL, retired FROM filters WHERE observatory_id = $1
       UNION ALL SELECT m.id, 'camera mode', m.name, r.name, m.retired FROM camera_modes m JOIN rigs r ON r.id = m.rig_id WHERE m.observatory_id = $1
       UNION ALL SELECT c.id, 'recipe', c.name, r.name, c.retired FROM recipes c JOIN rigs r ON r.id = c.rig_id WHERE c.observatory_id = $1
     ) all_retired WHERE retired IS NOT NULL ORDER BY retired DESC, name LIMIT 200`,
    [observatoryId],
  );

/** Names of the projects that have goals through a filter; a retired one may come back. */
export const projectsThrough = async (queries: Queries, filterId: string): Promise<string[]> =>
  (
    await queries.rows<{ name: string }>(
      `SELECT DISTINCT p.name FROM goals g JOIN recipe_revisions v ON v.id = g.recipe_revision_id JOIN recipes r ON r.id = v.recipe_id
         JOIN panels l ON l.id = g.panel_id JOIN projects p ON p.id = l.project_id
       WHERE r.filter_id = $1 ORDER BY p.name`,
      [filterId],
    )
  ).map(({ name }) => name);

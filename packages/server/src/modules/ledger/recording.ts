// The one door into the ledger: exposures that a night took, an import brought, or a history tells of. Nothing else writes them.
import { randomUUID } from 'node:crypto';
import type { SensorSides } from '@meridiem/core';
import type { Queries } from '../../database/connection.ts';
import { insertRows } from '../../database/insert-rows-repository.ts';
import { uncountedOf } from './real-rigs.ts';

/** Whose credit an exposure is, with how much of it. */
export interface NewAttribution {
  readonly projectId: string;
  readonly panelId: string;
  /** null: it lies with its panel, without credit. */
  readonly goalId: string | null;
  readonly creditShare: number;
  readonly coverage?: number | null;
  /** Of an exposure that two joined projects wanted: what this one is charged; whole to one where left out. */
  readonly chargeShare?: number | null;
  readonly reason: string;
}

/** What was found in a frame, or predicted for it; null where nobody has. */
export interface NewMeasurement {
  /** What found it, with its version where it has one. */
  readonly method: string;
  readonly halfFluxRadiusPx?: number | null;
  readonly starCount?: number | null;
  readonly guidingRmsArcsec?: number | null;
  readonly backgroundE?: number | null;
  readonly elongation?: number | null;
  readonly temperatureC?: number | null;
  readonly ratePredicted?: number | null;
  readonly rateMeasured?: number | null;
  readonly afterMove?: boolean;
  readonly airmass?: number | null;
  readonly transparency?: number | null;
  readonly skyRatio?: number | null;
}

export interface NewVerdict {
  readonly origin: 'hand' | 'rule';
  readonly personId: string | null;
  readonly byCoordinator: boolean;
  readonly verdict: 'accepted' | 'rejected' | 'undecided';
  readonly reason: string;
  readonly utcMs?: number;
}

export interface NewExposure {
  readonly id: string;
  readonly rigRevisionId: string;
  readonly nightDate: string;
  readonly kind: 'light' | 'dark' | 'flat' | 'bias';
  readonly startUtcMs: number;
  readonly exposureSec: number;
  readonly filterId: string | null;
  readonly gain: number | null;
  readonly offset: number | null;
  readonly binning: number | null;
  readonly sensorC: number | null;
  /** Where a motor turns the camera. */
  readonly mechanicalAngleDeg?: number;
  /** Where only the middle of the sensor was read, in unbinned pixels. */
  readonly region?: SensorSides | null;
  /** The step of a night that took it. */
  readonly runStepId?: string;
  readonly dataSha256?: string | null;
  readonly pixelsSha256?: string | null;
  /** What it is known by: rig, start and length, made by the core. */
  readonly headerKey: string;
  readonly cameraName?: string | null;
  readonly observerName?: string | null;
  readonly isTruncated?: boolean;
  /** Taken by the simulated observatory. */
  readonly isSimulated?: boolean;
  /** When the ledger learned of it; now where left out. */
  readonly recordedUtcMs?: number;
}

export interface Recorded {
  readonly exposure: NewExposure;
  readonly measurement: NewMeasurement | null;
}

/** A hash as PostgreSQL reads bytes. */
const bytesOf = (hex: string | null | undefined): string | null => (hex ? `\\x${hex}` : null);
const isoOf = (utcMs: number): string => new Date(utcMs).toISOString();

/** Writes exposures that the ledger does not know yet, with what was measured in them. Whoever calls has asked `identify`. */
export async function recordExposures(
  queries: Queries,
  observatoryId: string,
  recorded: readonly Recorded[],
): Promise<void> {
  if (recorded.length === 0) return;
  const now = Date.now();
  await insertRows(
    queries,
    'exposures',
    recorded.map(({ exposure }) => ({
      id: exposure.id,
      observatory_id: observatoryId,
      rig_revision_id: exposure.rigRevisionId,
      night_date: exposure.nightDate,
      kind: exposure.kind,
      start_utc: isoOf(exposure.startUtcMs),
      exposure_s: exposure.exposureSec,
      filter_id: exposure.filterId,
      gain: exposure.gain,
      offset: exposure.offset,
      binning: exposure.binning,
      sensor_c: exposure.sensorC,
      mechanical_angle_deg: exposure.mechanicalAngleDeg ?? null,
      region_width_px: exposure.region?.widthPx ?? null,
      region_height_px: exposure.region?.heightPx ?? null,
      run_step_id: exposure.runStepId ?? null,
      data_sha256: bytesOf(exposure.dataSha256),
      pixels_sha256: bytesOf(exposure.pixelsSha256),
      header_key: exposure.headerKey,
      recorded: isoOf(exposure.recordedUtcMs ?? now),
      camera_name: exposure.cameraName ?? null,
      observer_name: exposure.observerName ?? null,
      is_truncated: exposure.isTruncated ?? false,
      simulated: exposure.isSimulated ?? false,
    })),
  );
  await recordMeasurements(
    queries,
    recorded.flatMap(({ exposure, measurement }) =>
      measurement ? [{ exposureId: exposure.id, measuredUtcMs: exposure.recordedUtcMs ?? now, ...measurement }] : [],
    ),
  );
}

/** Figures of frames, measured for the first time or again: those before stay beside the newest, with their method and time. */
export const recordMeasurements = (
  queries: Queries,
  measurements: readonly (NewMeasurement & { readonly exposureId: string; readonly measuredUtcMs: number })[],
): Promise<void> =>
  insertRows(
    queries,
    'measurements',
    measurements.map((one) => ({
      exposure_id: one.exposureId,
      method: one.method,
      measured: isoOf(one.measuredUtcMs),
      half_flux_radius_px: one.halfFluxRadiusPx ?? null,
      star_count: one.starCount ?? null,
      guiding_rms_arcsec: one.guidingRmsArcsec ?? null,
      background_e: one.backgroundE ?? null,
      elongation: one.elongation ?? null,
      temperature_c: one.temperatureC ?? null,
      rate_predicted: one.ratePredicted ?? null,
      rate_measured: one.rateMeasured ?? null,
      after_move: one.afterMove ?? false,
      airmass: one.airmass ?? null,
      transparency: one.transparency ?? null,
      sky_ratio: one.skyRatio ?? null,
    })),
  );

/** Gives exposures to projects; what is made up has a place there beside real devices, and no credit.
 * @returns the attributions' ids in the order given */
export async function attribute(
  queries: Queries,
  observatoryId: string,
  attributions: readonly (NewAttribution & { readonly exposureId: string })[],
): Promise<string[]> {
  const uncounted = await uncountedOf(
    queries,
    observatoryId,
    attributions.map(({ exposureId }) => exposureId),
  );
  const rows = attributions.map(
    ({ exposureId, projectId, panelId, goalId, creditShare, coverage, chargeShare, reason }) => ({
      id: randomUUID(),
      observatory_id: observatoryId,
      exposure_id: exposureId,
      project_id: projectId,
      panel_id: panelId,
      goal_id: uncounted.has(exposureId) ? null : goalId,
      credit_share: uncounted.has(exposureId) ? 0 : creditShare,
      coverage: coverage ?? null,
      charge_share: chargeShare ?? null,
      reason,
    }),
  );
  await insertRows(queries, 'attributions', rows);
  return rows.map(({ id }) => id);
}

/** Adds verdicts to the history. */
export const recordVerdicts = (
  queries: Queries,
  observatoryId: string,
  verdicts: readonly (NewVerdict & { readonly exposureId: string })[],
): Promise<void> =>
  insertRows(
    queries,
    'verdicts',
    verdicts.map(({ exposureId, origin, byCoordinator, personId, verdict, reason, utcMs }) => ({
      observatory_id: observatoryId,
      exposure_id: exposureId,
      origin,
      by_coordinator: byCoordinator,
      person_id: personId,
      verdict,
      reason,
      at: isoOf(utcMs ?? Date.now()),
    })),
  );

/** The file of an exposure, as it was written. */
export const recordFrame = (
  { models }: Queries,
  observatoryId: string,
  exposureId: string,
  { name, sizeBytes, sha256 }: { readonly name: string; readonly sizeBytes: number; readonly sha256: string },
): Promise<unknown> =>
  models.Frame.create({ exposureId, observatoryId, name, sizeBytes, sha256: Buffer.from(sha256, 'hex') });

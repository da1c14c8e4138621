// What a project has by filter, and what its files' pixels say of it.
import type { FilterDepth } from '@meridiem/contract';
import type { DeepExposure, SensorOnSky, SkyPosition } from '@meridiem/core';
import { imageScaleArcsec, MEASURING_METHOD } from '@meridiem/core';
import type { Queries } from '../../database/connection.ts';
import type { Viewer } from '../../plugins/sessions.ts';
import { maySee } from '../../privacy.ts';

type FilterOf = Pick<FilterDepth, 'filterId' | 'letter' | 'filterClass' | 'exposures'>;

/** Exposures that are not rejected, filter by filter. */
export const countedByFilter = (queries: Queries, projectId: string): Promise<FilterOf[]> =>
  queries.rows(
    `SELECT f.id AS "filterId", f.letter, f.class AS "filterClass", count(*)::int AS exposures FROM ledger_rows r JOIN filters f ON f.id = r.filter_id
     WHERE r.project_id = $1 AND r.verdict <> 'rejected' GROUP BY f.id ORDER BY count(*) DESC, f.letter`,
    [projectId],
  );

/** Depths that a project wants, with their filters. */
export const depthsWanted = (
  queries: Queries,
  projectId: string,
): Promise<(Omit<FilterOf, 'exposures'> & { readonly mag: number; readonly share: number })[]> =>
  queries.rows(
    `SELECT f.id AS "filterId", f.letter, f.class AS "filterClass", w.mag, w.share FROM depth_wishes w JOIN filters f ON f.id = w.filter_id
     WHERE w.project_id = $1 ORDER BY f.letter`,
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

const DEEP = `e.exposure_s AS "exposureSec", m.noise, m.zero_point_mag AS "zeroPointMag", m.ra_deg AS "raDeg", m.dec_deg AS "decDeg",
       m.position_angle_deg AS "positionAngleDeg", m.scale_arcsec AS "scaleArcsecPerPx", m.width_px AS "widthPx", m.height_px AS "heightPx"`;
const IS_DEEP = `m.method = ${MEASURING_METHOD} AND m.zero_point_mag IS NOT NULL AND m.ra_deg IS NOT NULL AND m.noise > 0`;

function deep<T extends DeepRow>({ filterId, exposureSec, noise, zeroPointMag, raDeg, decDeg, ...rest }: T) {
  const { positionAngleDeg, scaleArcsecPerPx, widthPx, heightPx } = rest;
  const field = { centre: { raDeg, decDeg }, positionAngleDeg, scaleArcsecPerPx, widthPx, heightPx };
  return { filterId, exposureSec, noise, zeroPointMag, field };
}

/** Those of them that tell how deep they are. */
export async function deepExposures(
  queries: Queries,
  projectId: string,
): Promise<(DeepExposure & { filterId: string })[]> {
  const rows = await queries.rows<DeepRow>(
    `SELECT r.filter_id AS "filterId", ${DEEP}
     FROM ledger_rows r JOIN exposures e ON e.id = r.exposure_id JOIN frame_measures m ON m.exposure_id = r.exposure_id
     WHERE r.project_id = $1 AND r.verdict <> 'rejected' AND ${IS_DEEP}`,
    [projectId],
  );
  return rows.map(deep);
}

/** An exposure of the archive, with whose it is. */
export type ArchiveExposure = DeepExposure &
  Pick<FilterDepth, 'filterId' | 'letter' | 'filterClass'> & {
    readonly projectId: string;
    readonly projectName: string;
    readonly ownerName: string;
  };
type ArchiveRow = DeepRow & Omit<ArchiveExposure, keyof DeepExposure>;

/** A circle on the sky. */
export interface SkyCircle {
  readonly centre: SkyPosition;
  readonly radiusDeg: number;
}

/** Exposures of all projects that the viewer may see whose frames may reach into a circle; one of two joined projects once. */
export async function archiveExposures(
  queries: Queries,
  { observatoryId, personId, role }: Pick<Viewer, 'observatoryId' | 'personId' | 'role'>,
  { centre, radiusDeg }: SkyCircle,
): Promise<ArchiveExposure[]> {
  const rows = await queries.rows<ArchiveRow>(
    `SELECT DISTINCT ON (r.exposure_id) r.filter_id AS "filterId", f.letter, f.class AS "filterClass", p.id AS "projectId", p.name AS "projectName", o.name AS "ownerName", ${DEEP}
     FROM ledger_rows r JOIN exposures e ON e.id = r.exposure_id JOIN frame_measures m ON m.exposure_id = r.exposure_id
       JOIN projects p ON p.id = r.project_id JOIN people o ON o.id = p.owner_id JOIN filters f ON f.id = r.filter_id
     WHERE r.observatory_id = $1 AND r.verdict <> 'rejected' AND ${IS_DEEP} AND ${maySee('p', '$2', role)}
       AND sin(radians(m.dec_deg)) * sin(radians($4)) + cos(radians(m.dec_deg)) * cos(radians($4)) * cos(radians(m.ra_deg - $3))
         >= cos(radians(LEAST(90, $5 + m.scale_arcsec * sqrt(m.width_px ^ 2 + m.height_px ^ 2) / 7200)))
     ORDER BY r.exposure_id, p.name, p.id`,
    [observatoryId, personId, centre.raDeg, centre.decDeg, radiusDeg],
  );
  return rows.map(({ letter, filterClass, projectId, projectName, ownerName, ...row }) => ({
    ...deep(row),
    ...{ letter, filterClass, projectId, projectName, ownerName },
  }));
}

/** What the panels of a project frame, by the rig's newest revision. */
export async function framedFields(queries: Queries, projectId: string): Promise<SensorOnSky[]> {
  const rows = await queries.rows<Framed>(
    `SELECT g.ra_deg AS "raDeg", g.dec_deg AS "decDeg", g.position_angle_deg AS "positionAngleDeg", c.width_px AS "widthPx", c.height_px AS "heightPx",
       c.pixel_um AS "pixelUm", v.focal_length_mm AS "focalLengthMm"
     FROM panels l JOIN projects p ON p.id = l.project_id JOIN rig_revisions v ON v.rig_id = p.rig_id AND upper_inf(v.during) JOIN cameras c ON c.id = v.camera_id
       JOIN LATERAL (SELECT * FROM panel_pointings x WHERE x.panel_id = l.id ORDER BY x.seq DESC LIMIT 1) g ON g.ra_deg IS NOT NULL
     WHERE l.project_id = $1 AND NOT l.dropped`,
    [projectId],
  );
  return rows.map(({ raDeg, decDeg, pixelUm, focalLengthMm, ...sensor }) => ({
    ...sensor,
    centre: { raDeg, decDeg },
    scaleArcsecPerPx: imageScaleArcsec({ pixelUm, focalLengthMm, binning: 1 }),
  }));
}

type Framed = Omit<SensorOnSky, 'centre' | 'scaleArcsecPerPx'> &
  SkyPosition & { readonly pixelUm: number; readonly focalLengthMm: number };

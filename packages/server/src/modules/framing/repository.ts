// Framings as rows: where panels and exposures look, and whose credit an exposure is.
import type { ResponseOf, framedAngles } from '@meridiem/contract';
import { Op } from 'sequelize';
import { modeNow } from '../../database/camera-mode-repository.ts';
import type { Queries } from '../../database/connection.ts';
import { NOW } from '../../database/now.ts';
import { thisMoment } from '../../database/validity.ts';
import type { Viewer } from '../../plugins/sessions.ts';
import { maySee, RESERVED } from '../../privacy.ts';

export interface PanelPointing {
  readonly panelId: string;
  readonly raDeg: number | null;
  readonly decDeg: number | null;
  readonly positionAngleDeg: number;
}

export interface Optics {
  readonly focalLengthMm: number;
  readonly apertureMm: number;
  readonly pixelUm: number;
  readonly widthPx: number;
  readonly heightPx: number;
}

/** An exposure with credit to a project, where it looked, and through what. */
export interface TakenRow extends Optics {
  readonly attributionId: string;
  readonly exposureId: string;
  readonly panelId: string;
  readonly goalId: string | null;
  readonly recipeId: string | null;
  readonly creditShare: number;
  readonly chargeShare: number | null;
  readonly exposureSec: number;
  readonly raDeg: number | null;
  readonly decDeg: number | null;
  readonly positionAngleDeg: number;
}

export interface TryOut {
  readonly id: string;
  readonly rigId: string;
  readonly isTaken: boolean;
  /** Who imported it; null for one that the rig took. */
  readonly importerId: string | null;
  readonly raDeg: number | null;
  readonly decDeg: number | null;
  readonly positionAngleDeg: number;
  /** Newest revision of the recipe it was taken by: same filter, length, gain, binning. */
  readonly recipeRevisionId: string | null;
}

/** Framings of one project come one after the other. */
export const lockProject = ({ models }: Queries, id: string): Promise<unknown> =>
  models.Project.findByPk(id, { lock: true });

export async function projectOfPanel({ models }: Queries, observatoryId: string, id: string): Promise<string | null> {
  const panel = await models.Panel.findOne({ where: { id, observatoryId, dropped: false } });
  return panel?.projectId ?? null;
}

/** How the target of a project was framed, as the framing page writes it into its address. */
export async function storeComposition({ models }: Queries, projectId: string, composition: string): Promise<void> {
  const project = await models.Project.findByPk(projectId);
  await models.Target.update({ composition }, { where: { id: project!.targetId } });
}

export const anglesOfProjects = (
  queries: Queries,
  viewer: Viewer,
  rigId: string,
): Promise<ResponseOf<typeof framedAngles>['angles']> =>
  queries.rows(
    `SELECT l.position_angle_deg AS "positionAngleDeg", count(*)::int AS panels,
           CASE WHEN ${maySee('p', '$3', viewer.role)} THEN p.id END AS "projectId", CASE WHEN ${maySee('p', '$3', viewer.role)} THEN p.name ELSE '${RESERVED}' END AS "projectName"
         FROM framed_panels l JOIN projects p ON p.id = l.project_id
         WHERE l.observatory_id = $1 AND p.rig_id = $2 AND p.state = 'granted' GROUP BY p.id, l.position_angle_deg ORDER BY p.name, 1`,
    [viewer.observatoryId, rigId, viewer.personId],
  );

export const lockPromotions = (queries: Queries, observatoryId: string): Promise<unknown> =>
  queries.rows('SELECT pg_advisory_xact_lock(hashtext($1))', [`promotion ${observatoryId}`]);

export const exposuresToPromote = (
  queries: Queries,
  observatoryId: string,
  ids: readonly string[],
): Promise<TryOut[]> =>
  queries.rows(
    `SELECT e.id, c.rig_id AS "rigId", EXISTS (SELECT 1 FROM attributions a WHERE a.exposure_id = e.id AND a.withdrawn IS NULL) AS "isTaken",
       (SELECT i.person_id FROM import_files x JOIN imports i ON i.id = x.import_id WHERE x.exposure_id = e.id AND x.outcome = 'added' ORDER BY i.applied LIMIT 1) AS "importerId",
       (f.facts #>> '{centre,raDeg}')::float8 AS "raDeg", (f.facts #>> '{centre,decDeg}')::float8 AS "decDeg",
       coalesce((f.facts ->> 'positionAngleDeg')::float8, 0) AS "positionAngleDeg",
       (SELECT v.id FROM recipes r JOIN LATERAL (SELECT * FROM recipe_revisions x WHERE x.recipe_id = r.id ORDER BY seq DESC LIMIT 1) v ON true
          ${modeNow('v', 'm')}
        WHERE r.rig_id = c.rig_id AND r.kind = 'light' AND r.filter_id = e.filter_id AND v.exposure_s = e.exposure_s AND m.gain IS NOT DISTINCT FROM e.gain
          AND v.binning IS NOT DISTINCT FROM e.binning ORDER BY r.name LIMIT 1) AS "recipeRevisionId"
     FROM exposures e JOIN rig_revisions c ON c.id = e.rig_revision_id
     LEFT JOIN LATERAL (SELECT facts FROM import_files x WHERE x.exposure_id = e.id AND x.outcome = 'added' LIMIT 1) f ON true
     WHERE e.id = ANY ($1) AND e.observatory_id = $2 AND e.kind = 'light' ORDER BY e.start_utc`,
    [ids, observatoryId],
  );

export const opticsOfRig = (queries: Queries, rigId: string): Promise<Optics | null> =>
  queries.one(
    `SELECT v.focal_length_mm AS "focalLengthMm", v.aperture_mm AS "apertureMm", c.pixel_um AS "pixelUm", c.width_px AS "widthPx", c.height_px AS "heightPx"
     FROM rig_revisions v JOIN cameras c ON c.id = v.camera_id WHERE v.rig_id = $1 AND v.during @> $2::timestamptz`,
    [rigId, thisMoment()],
  );

export const goalsOfPanels = (
  queries: Queries,
  panelIds: readonly string[],
): Promise<{ id: string; panelId: string; recipeId: string }[]> =>
  queries.rows(
    `SELECT g.id, g.panel_id AS "panelId", v.recipe_id AS "recipeId" FROM goals g JOIN recipe_revisions v ON v.id = g.recipe_revision_id WHERE g.panel_id = ANY ($1)`,
    [panelIds],
  );

export const takenRows = (queries: Queries, projectId: string): Promise<TakenRow[]> =>
  queries.rows(
    `SELECT a.id AS "attributionId", a.exposure_id AS "exposureId", a.panel_id AS "panelId", a.goal_id AS "goalId", v.recipe_id AS "recipeId",
       a.credit_share AS "creditShare", a.charge_share AS "chargeShare", e.exposure_s AS "exposureSec",
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

export const dropPanels = ({ models }: Queries, ids: readonly string[], dropped: boolean): Promise<unknown> =>
  models.Panel.update({ dropped }, { where: { id: { [Op.in]: [...ids] } } });

export const withdrawAttributions = ({ models }: Queries, ids: readonly string[]): Promise<unknown> =>
  models.Attribution.update({ withdrawn: NOW }, { where: { id: { [Op.in]: [...ids] }, withdrawn: null } });

export const restoreAttributions = ({ models }: Queries, ids: readonly string[]): Promise<unknown> =>
  models.Attribution.update({ withdrawn: null }, { where: { id: { [Op.in]: [...ids] } } });

/** Credit of a project, or of panels, beside what is listed. */
export const countOtherCredit = (
  { models }: Queries,
  of: { projectId: string } | { panelIds: readonly string[] },
  listed: readonly string[],
): Promise<number> =>
  models.Attribution.count({
    where: {
      ...('projectId' in of ? of : { panelId: { [Op.in]: [...of.panelIds] } }),
      withdrawn: null,
      id: { [Op.notIn]: [...listed] },
    },
  });

/** Exposures whose withdrawn credit has been given to the project again by others than those listed. */
export const countMovedCredit = async (
  queries: Queries,
  withdrawn: readonly string[],
  listed: readonly string[],
): Promise<number> => {
  const row = await queries.one<{ n: number }>(
    `SELECT count(*)::int AS n FROM attributions o JOIN attributions a ON a.exposure_id = o.exposure_id AND a.project_id = o.project_id
     WHERE o.id = ANY ($1) AND a.withdrawn IS NULL AND a.id <> ALL ($2)`,
    [withdrawn, listed],
  );
  return row!.n;
};

/** The next pointing of a panel, where it differs from its newest. */
export const restorePointing = (
  queries: Queries,
  { panelId, raDeg, decDeg, positionAngleDeg }: PanelPointing,
): Promise<unknown> =>
  queries.rows(
    `INSERT INTO panel_pointings (observatory_id, panel_id, seq, ra_deg, dec_deg, position_angle_deg)
       SELECT w.observatory_id, w.panel_id, w.seq + 1, $2, $3, $4 FROM (SELECT * FROM panel_pointings WHERE panel_id = $1 ORDER BY seq DESC LIMIT 1) w
       WHERE (w.ra_deg, w.dec_deg, w.position_angle_deg) IS DISTINCT FROM ($2::float8, $3::float8, $4::float8)`,
    [panelId, raDeg, decDeg, positionAngleDeg],
  );

// Project rows with everything their pages show, totals from the ledger's own table.
import type { EarlierSettings, Recipe } from '@meridiem/contract';
import type { CountingPolicy, FilterClass, LimitKey, Orbit, PanelOrder } from '@meridiem/core';
import { modeNow } from '../../database/camera-mode-repository.ts';
import type { Queries } from '../../database/connection.ts';
import { HAS_RULES } from '../../database/rules-repository.ts';
import { orbitOf } from '../../database/orbit-repository.ts';
import type { Viewer } from '../../plugins/sessions.ts';
import type { ScopedLimitRow } from './present.ts';

export interface ProjectRecord {
  readonly id: string;
  readonly name: string;
  readonly targetName: string;
  readonly ownerId: string;
  readonly ownerName: string;
  readonly rigId: string;
  readonly rigName: string;
  readonly state: 'draft' | 'proposed' | 'returned' | 'queued' | 'granted' | 'retired';
  readonly resting: boolean;
  readonly counting: CountingPolicy;
  readonly grade: number;
  readonly deadline: string | null;
  readonly decayNights: number | null;
  readonly panelOrder: PanelOrder;
  readonly filterGroup: number;
  readonly stepGuide: boolean;
  readonly stepCentre: boolean;
  readonly stepFocus: boolean;
  readonly ownRank: number;
  readonly why: string | null;
  readonly private: boolean;
  readonly judging: boolean;
  /** Whether the rig has any judging rule switched on. */
  readonly hasRules: boolean;
  /** Of a target that moves. */
  readonly orbit: Orbit | null;
  /** How its target was last framed. */
  readonly composition: string | null;
  readonly version: number;
}

export const projectsOf = (
  queries: Queries,
  observatoryId: string,
  projectId: string | null = null,
): Promise<ProjectRecord[]> =>
  queries.rows(
    `SELECT p.id, p.name, t.name AS "targetName", p.owner_id AS "ownerId", o.name AS "ownerName", p.rig_id AS "rigId", r.name AS "rigName",
       p.state, p.resting, p.counting, ${HAS_RULES} AS "hasRules", p.grade, p.deadline::text, p.decay_nights AS "decayNights",
       p.panel_order AS "panelOrder", p.filter_group AS "filterGroup", p.step_guide AS "stepGuide", p.step_centre AS "stepCentre", p.step_focus AS "stepFocus", p.own_rank AS "ownRank", p.why, p.private, p.judging, ${orbitOf('p')} AS orbit, t.composition, p.version
     FROM projects p JOIN targets t ON t.id = p.target_id JOIN people o ON o.id = p.owner_id JOIN rigs r ON r.id = p.rig_id
     WHERE p.observatory_id = $1 AND ($2::uuid IS NULL OR p.id = $2)
     ORDER BY (p.state = 'retired'), (p.state <> 'granted'), p.created, p.name`,
    [observatoryId, projectId],
  );

export interface PanelRecord {
  readonly id: string;
  readonly projectId: string;
  readonly name: string;
  readonly raDeg: number | null;
  readonly decDeg: number | null;
  readonly positionAngleDeg: number;
}

export const panelsOf = (
  queries: Queries,
  observatoryId: string,
  projectId: string | null = null,
): Promise<PanelRecord[]> =>
  queries.rows(
    `SELECT l.id, l.project_id AS "projectId", l.name, l.ra_deg AS "raDeg", l.dec_deg AS "decDeg", l.position_angle_deg AS "positionAngleDeg"
     FROM framed_panels l
     WHERE l.observatory_id = $1 AND ($2::uuid IS NULL OR l.project_id = $2) ORDER BY l.project_id, l.position`,
    [observatoryId, projectId],
  );

export interface GoalRecord {
  readonly id: string;
  readonly panelId: string;
  readonly projectId: string;
  readonly recipeId: string;
  readonly recipeName: string;
  readonly recipeRevisionSeq: number;
  readonly newestRevisionSeq: number;
  readonly filterId: string;
  readonly filterLetter: string;
  readonly filterClass: FilterClass;
  readonly exposureSec: number;
  readonly pauseSec: number;
  readonly gain: number;
  readonly offset: number;
  readonly binning: number;
  readonly sensorC: number;
  readonly ditherEvery: number;
  readonly ditherPx: number;
  readonly region: Recipe['region'];
  readonly wanted: number | null;
  readonly enabled: boolean;
  readonly why: string | null;
  readonly version: number;
  readonly accepted: number;
  readonly undecided: number;
  readonly rejected: number;
  readonly acceptedSec: number;
  readonly undecidedSec: number;
  readonly rejectedSec: number;
  readonly effectiveSec: number;
}

export const goalsOf = (
  queries: Queries,
  observatoryId: string,
  projectId: string | null = null,
): Promise<GoalRecord[]> =>
  queries.rows(
    `SELECT g.id, g.panel_id AS "panelId", l.project_id AS "projectId", r.id AS "recipeId", r.name AS "recipeName", v.seq AS "recipeRevisionSeq",
       (SELECT max(seq) FROM recipe_revisions x WHERE x.recipe_id = r.id) AS "newestRevisionSeq",
       f.id AS "filterId", f.letter AS "filterLetter", f.class AS "filterClass", v.exposure_s AS "exposureSec", v.pause_s AS "pauseSec", m.gain, v."offset",
       v.binning, v.sensor_c AS "sensorC", v.dither_every AS "ditherEvery", v.dither_px AS "ditherPx",
       CASE WHEN v.region_width_px IS NOT NULL THEN jsonb_build_object('widthPx', v.region_width_px, 'heightPx', v.region_height_px) END AS region, g.wanted, g.enabled, g.why, g.version, t.accepted, t.undecided, t.rejected,
       t.accepted_s AS "acceptedSec", t.undecided_s AS "undecidedSec", t.rejected_s AS "rejectedSec", t.effective_s AS "effectiveSec"
     FROM goals g JOIN framed_panels l ON l.id = g.panel_id JOIN recipe_revisions v ON v.id = g.recipe_revision_id JOIN recipes r ON r.id = v.recipe_id
     JOIN filters f ON f.id = r.filter_id ${modeNow('v', 'm')} JOIN goal_totals t ON t.goal_id = g.id
     WHERE g.observatory_id = $1 AND ($2::uuid IS NULL OR l.project_id = $2) ORDER BY g.panel_id, g.position, g.id`,
    [observatoryId, projectId],
  );

/** The next name for a panel of a project: the project's name, numbered when it has several. */
export async function insertPanel(
  queries: Queries,
  panel: {
    observatoryId: string;
    projectId: string;
    name: string;
    raDeg: number | null;
    decDeg: number | null;
    positionAngleDeg: number;
  },
): Promise<string> {
  const { observatoryId, projectId, name, raDeg, decDeg, positionAngleDeg } = panel;
  const stored = await queries.one<{ id: string }>(
    'INSERT INTO panels (observatory_id, project_id, position, name) SELECT $1, $2, coalesce(max(position), 0) + 1, $3 FROM panels WHERE project_id = $2 RETURNING id',
    [observatoryId, projectId, name],
  );
  await insertPointing(queries, { observatoryId, panelId: stored!.id, raDeg, decDeg, positionAngleDeg });
  return stored!.id;
}

export const insertPointing = (
  queries: Queries,
  pointing: {
    observatoryId: string;
    panelId: string;
    raDeg: number | null;
    decDeg: number | null;
    positionAngleDeg: number;
  },
) =>
  queries.rows(
    `INSERT INTO panel_pointings (observatory_id, panel_id, seq, ra_deg, dec_deg, position_angle_deg)
     SELECT $1, $2, coalesce(max(seq), 0) + 1, $3, $4, $5 FROM panel_pointings WHERE panel_id = $2`,
    [pointing.observatoryId, pointing.panelId, pointing.raDeg, pointing.decDeg, pointing.positionAngleDeg],
  );

export type NewestRevision = Pick<Recipe, 'rigId' | 'name'> & {
  readonly revisionId: string;
  readonly filterLetter: string;
  /** Whether a new goal may have it: not where it is retired. */
  readonly isOffered: boolean;
};

/** The newest revision of a recipe for light frames: goals have no others. */
export const newestRevision = (queries: Queries, recipeId: string): Promise<NewestRevision | null> =>
  queries.one(
    `SELECT v.id AS "revisionId", r.rig_id AS "rigId", r.name, f.letter AS "filterLetter", r.retired IS NULL AS "isOffered"
     FROM recipe_revisions v JOIN recipes r ON r.id = v.recipe_id JOIN filters f ON f.id = r.filter_id
     WHERE r.id = $1 AND r.kind = 'light' ORDER BY v.seq DESC LIMIT 1`,
    [recipeId],
  );

export interface NewProject {
  readonly rigId: string;
  readonly name: string;
  readonly target:
    { readonly id: string } | { readonly name: string; readonly raDeg: number | null; readonly decDeg: number | null };
}

/** A draft of the viewer's, for a target that is there or a new one. */
export async function insertProject(
  { models }: Queries,
  { observatoryId, personId }: Viewer,
  { rigId, name, target }: NewProject,
): Promise<{ id: string; targetId: string }> {
  const { id: targetId } = 'id' in target ? target : await models.Target.create({ observatoryId, ...target });
  const { id } = await models.Project.create({ observatoryId, ownerId: personId, rigId, targetId, name });
  return { id, targetId };
}

export const panelWithRig = (
  queries: Queries,
  observatoryId: string,
  panelId: string,
): Promise<{ projectId: string; rigId: string } | null> =>
  queries.one(
    'SELECT l.project_id AS "projectId", p.rig_id AS "rigId" FROM panels l JOIN projects p ON p.id = l.project_id WHERE l.id = $1 AND l.observatory_id = $2',
    [panelId, observatoryId],
  );

/** Names of panels without a position, where the target does not move. */
export async function panelsWithoutPlace(queries: Queries, projectId: string): Promise<string[]> {
  const rows = await queries.rows<{ name: string }>(
    `SELECT l.name FROM framed_panels l JOIN projects p ON p.id = l.project_id
     WHERE l.project_id = $1 AND l.ra_deg IS NULL AND NOT EXISTS (SELECT 1 FROM orbits o WHERE o.target_id = p.target_id)`,
    [projectId],
  );
  return rows.map(({ name }) => name);
}

export async function limitRowsOf({ models }: Queries, observatoryId: string): Promise<ScopedLimitRow[]> {
  const rows = await models.LimitValue.findAll({ where: { observatoryId }, order: ['id'] });
  return rows.map(({ projectId, goalId, class: ofClass, key, value }) => ({
    projectId,
    goalId,
    class: ofClass,
    key: key as LimitKey,
    value,
  }));
}

export type EarlierRow = Omit<EarlierSettings, 'recipeId'>;

/** Of the newest exposure through each filter that was not rejected. */
export const earlierOf = (queries: Queries, projectId: string): Promise<EarlierRow[]> =>
  queries.rows<EarlierRow>(
    `SELECT DISTINCT ON (f.letter, f.id) f.id AS "filterId", f.letter AS "filterLetter", e.exposure_s AS "exposureSec", e.gain, e.binning,
       e.sensor_c AS "sensorC"
     FROM ledger_rows r JOIN exposures e ON e.id = r.exposure_id JOIN filters f ON f.id = e.filter_id
     WHERE r.project_id = $1 AND r.verdict <> 'rejected' ORDER BY f.letter, f.id, e.start_utc DESC`,
    [projectId],
  );

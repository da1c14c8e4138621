// What a rig's revision may touch, as rows.
import { Op } from 'sequelize';
import type { Queries } from '../../database/connection.ts';

export interface OpenProject {
  readonly id: string;
  readonly name: string;
  readonly panels: readonly { raDeg: number; decDeg: number; positionAngleDeg: number }[];
  readonly exposedGoals: number;
  /** Goals that have exposures and want more. */
  readonly runningGoals: number;
  readonly goals: readonly { letter: string; filterId: string }[];
}

/** Whether a goal `g` is under way: it has exposures and wants more. */
const IS_RUNNING = `g.enabled AND EXISTS (SELECT 1 FROM goal_totals t WHERE t.goal_id = g.id AND t.exposure_count > 0 AND (g.wanted IS NULL OR t.accepted + t.undecided < g.wanted))`;

/** Projects of a rig that are not retired, as they are framed and what they want. */
export const openProjects = (queries: Queries, rigId: string): Promise<OpenProject[]> =>
  queries.rows(
    `SELECT p.id, p.name,
       coalesce((SELECT jsonb_agg(jsonb_build_object('raDeg', l.ra_deg, 'decDeg', l.dec_deg, 'positionAngleDeg', l.position_angle_deg) ORDER BY l.position)
         FROM framed_panels l WHERE l.project_id = p.id AND l.ra_deg IS NOT NULL), '[]') AS panels,
       (SELECT count(*)::int FROM goal_totals t JOIN goals g ON g.id = t.goal_id JOIN framed_panels l ON l.id = g.panel_id WHERE l.project_id = p.id AND t.exposure_count > 0) AS "exposedGoals",
       (SELECT count(*)::int FROM goals g JOIN framed_panels l ON l.id = g.panel_id WHERE l.project_id = p.id AND ${IS_RUNNING}) AS "runningGoals",
       coalesce((SELECT jsonb_agg(jsonb_build_object('letter', f.letter, 'filterId', f.id)) FROM goals g JOIN framed_panels l ON l.id = g.panel_id
         JOIN recipe_revisions v ON v.id = g.recipe_revision_id JOIN recipes r ON r.id = v.recipe_id JOIN filters f ON f.id = r.filter_id WHERE l.project_id = p.id AND g.enabled), '[]') AS goals
     FROM projects p WHERE p.rig_id = $1 AND p.state <> 'retired' ORDER BY p.name`,
    [rigId],
  );

export async function lettersOf(
  { models }: Queries,
  filterIds: readonly string[],
): Promise<ReadonlyMap<string, string>> {
  const filters = await models.Filter.findAll({ where: { id: { [Op.in]: [...filterIds] } } });
  return new Map(filters.map(({ id, letter }) => [id, letter]));
}

/** Nights of a rig from one on that a published plan is in force for. */
export async function publishedNights({ models }: Queries, rigId: string, from: string): Promise<string[]> {
  const plans = await models.NightPlan.findAll({
    where: { rigId, state: 'published', nightDate: { [Op.gte]: from } },
    order: ['nightDate'],
  });
  return plans.map(({ nightDate }) => nightDate);
}

/** Exposures ever taken with a rig; of one kind where that is asked. */
export async function countExposures({ models }: Queries, rigId: string, kind?: 'flat'): Promise<number> {
  const revisions = await models.RigRevision.findAll({ where: { rigId }, attributes: ['id'] });
  const rigRevisionId = { [Op.in]: revisions.map(({ id }) => id) };
  return models.Exposure.count({ where: { rigRevisionId, ...(kind ? { kind } : {}) } });
}

export interface RunningGoal {
  readonly id: string;
  readonly panelId: string;
  readonly recipeRevisionId: string;
  readonly why: string | null;
  /** null: without end. */
  readonly missing: number | null;
  readonly position: number;
}

/** Goals of a project of a rig that are under way, held until the transaction ends. */
export const runningGoals = (
  queries: Queries,
  observatoryId: string,
  { rigId, projectId }: { readonly rigId: string; readonly projectId: string },
): Promise<RunningGoal[]> =>
  queries.rows(
    `SELECT g.id, g.panel_id AS "panelId", g.recipe_revision_id AS "recipeRevisionId", g.why, g.position,
       (g.wanted - floor((SELECT t.accepted + t.undecided FROM goal_totals t WHERE t.goal_id = g.id)))::int AS missing
     FROM goals g JOIN framed_panels l ON l.id = g.panel_id JOIN projects p ON p.id = l.project_id
     WHERE p.id = $1 AND p.rig_id = $2 AND p.observatory_id = $3 AND ${IS_RUNNING} ORDER BY g.position FOR UPDATE OF g`,
    [projectId, rigId, observatoryId],
  );

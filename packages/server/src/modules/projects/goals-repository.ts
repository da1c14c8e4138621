// Goals as rows: put on panels, counted, taken off again.
import { literal, Op } from 'sequelize';
import type { Queries } from '../../database/connection.ts';

export interface NewGoal {
  readonly panelId: string;
  readonly recipeId: string;
  readonly revisionId: string;
  readonly wanted: number | null;
}

/** A goal at the end of each panel of a project, or of one, that has none by this recipe.
 * @returns the new goals' ids */
export async function appendGoals(
  queries: Queries,
  { panelId, recipeId, revisionId, wanted }: NewGoal,
  ofAll: { projectId: string } | null = null,
): Promise<string[]> {
  const rows = await queries.rows<{ id: string }>(
    `INSERT INTO goals (observatory_id, panel_id, recipe_revision_id, wanted, position)
     SELECT l.observatory_id, l.id, $2, $3, 1 + (SELECT coalesce(max(position), 0) FROM goals g WHERE g.panel_id = l.id)
     FROM framed_panels l WHERE (l.id = $1 OR l.project_id = $5)
       AND NOT EXISTS (SELECT 1 FROM goals g JOIN recipe_revisions v ON v.id = g.recipe_revision_id WHERE g.panel_id = l.id AND v.recipe_id = $4)
     RETURNING id`,
    [panelId, revisionId, wanted, recipeId, ofAll?.projectId ?? null],
  );
  return rows.map(({ id }) => id);
}

/** The first goal of a panel by a recipe, held until the transaction ends. */
export const goalOfRecipe = (
  queries: Queries,
  panelId: string,
  recipeId: string,
): Promise<{ id: string; was: number | null } | null> =>
  queries.one(
    `SELECT g.id, g.wanted AS was FROM goals g JOIN recipe_revisions v ON v.id = g.recipe_revision_id
     WHERE g.panel_id = $1 AND v.recipe_id = $2 ORDER BY g.position LIMIT 1 FOR UPDATE OF g`,
    [panelId, recipeId],
  );

/** @returns whether it still stood as expected, where that is asked */
export async function setWanted(
  { models }: Queries,
  id: string,
  wanted: number | null,
  expected?: number | null,
): Promise<boolean> {
  const where = expected === undefined ? { id } : { id, wanted: expected };
  const [count] = await models.Goal.update({ wanted, version: literal('version + 1') }, { where });
  return count > 0;
}

export const isAnyExposed = async ({ models }: Queries, goalIds: readonly string[]): Promise<boolean> =>
  (await models.GoalTotal.count({ where: { goalId: { [Op.in]: [...goalIds] }, exposureCount: { [Op.gt]: 0 } } })) > 0;

/** Whether the ledger, a plan or a night names it. */
export async function isGoalInUse({ models }: Queries, goalId: string): Promise<boolean> {
  const counts = await Promise.all([
    models.Attribution.count({ where: { goalId } }),
    models.PlanRun.count({ where: { goalId } }),
    models.PlanOmission.count({ where: { [Op.or]: [{ goalId }, { rivalGoalId: goalId }] } }),
    models.RunStep.count({ where: { goalId } }),
  ]);
  return counts.some((count) => count > 0);
}

export const deleteGoals = ({ models }: Queries, ids: readonly string[]): Promise<unknown> =>
  models.Goal.destroy({ where: { id: { [Op.in]: [...ids] } } });

export const goalWithProject = (
  queries: Queries,
  goalId: string,
): Promise<{ projectId: string; panelId: string; recipeId: string; filterLetter: string } | null> =>
  queries.one(
    `SELECT l.project_id AS "projectId", l.id AS "panelId", r.id AS "recipeId", f.letter AS "filterLetter" FROM goals g JOIN panels l ON l.id = g.panel_id
     JOIN recipe_revisions v ON v.id = g.recipe_revision_id JOIN recipes r ON r.id = v.recipe_id JOIN filters f ON f.id = r.filter_id WHERE g.id = $1`,
    [goalId],
  );

export interface GoalSettings {
  readonly goalId: string;
  readonly gains: readonly (number | null)[];
  readonly cameras: readonly string[];
}

/** Goals whose exposures were taken with several gains or cameras. */
export const mixedGoals = (queries: Queries, projectId: string): Promise<GoalSettings[]> =>
  queries.rows(
    `SELECT r.goal_id AS "goalId", array_agg(DISTINCT e.gain) AS gains, array_agg(DISTINCT c.serial) AS cameras
     FROM ledger_rows r JOIN exposures e ON e.id = r.exposure_id JOIN rig_revisions v ON v.id = e.rig_revision_id JOIN cameras c ON c.id = v.camera_id
     WHERE r.project_id = $1 AND r.goal_id IS NOT NULL AND r.verdict <> 'rejected'
     GROUP BY r.goal_id HAVING count(DISTINCT e.gain) > 1 OR count(DISTINCT c.id) > 1`,
    [projectId],
  );

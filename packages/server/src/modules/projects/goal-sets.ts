// Named sets of recipes with counts, and putting several goals on several panels as one step.
import type { BodyOf, GoalSet, putGoals, ResponseOf, saveGoalSet } from '@meridiem/contract';
import type { Database, Queries } from '../../database/connection.ts';
import { insertRows } from '../../database/insert-rows.ts';
import { notAllowed, notFound, refused } from '../../errors.ts';
import { announce } from '../../plugins/live.ts';
import type { Viewer } from '../../plugins/sessions.ts';
import type { ChangeService } from '../changes/index.ts';
import { editableProject } from './editable.ts';
import { newestRevision } from './repository.ts';
import { takeBackPutGoals } from './take-back-goals.ts';

export type GoalSetService = ReturnType<typeof createGoalSetService>;

export function createGoalSetService({ database, changes }: { database: Database; changes: ChangeService }) {
  changes.register('goals_put', {
    by: 'owner',
    takeBack: (queries, _viewer, change) => takeBackPutGoals(queries, change),
  });
  return {
    list: (viewer: Viewer): Promise<GoalSet[]> =>
      database.rows(
        `SELECT s.id, s.rig_id AS "rigId", s.name,
           (SELECT jsonb_agg(jsonb_build_object('recipeId', i.recipe_id, 'wanted', i.wanted) ORDER BY i.position) FROM goal_set_items i WHERE i.set_id = s.id) AS items
         FROM goal_sets s WHERE s.observatory_id = $1 ORDER BY s.name`,
        [viewer.observatoryId],
      ),

    save: (viewer: Viewer, { rigId, name, items }: BodyOf<typeof saveGoalSet>): Promise<{ id: string }> =>
      database.transaction(async (queries) => {
        for (const { recipeId } of items) await recipeOfRig(queries, recipeId, rigId);
        refuseTwice(items);
        await refuseOthersSet(queries, viewer, { rigId, name });
        const set = await queries.one<{ id: string }>(
          `INSERT INTO goal_sets (observatory_id, rig_id, name, created_by) VALUES ($1, $2, $3, $4)
           ON CONFLICT (rig_id, name) DO UPDATE SET created_by = excluded.created_by RETURNING id`,
          [viewer.observatoryId, rigId, name, viewer.personId],
        );
        await queries.rows('DELETE FROM goal_set_items WHERE set_id = $1', [set!.id]);
        await insertRows(
          queries,
          'goal_set_items',
          items.map(({ recipeId, wanted }, position) => ({
            set_id: set!.id,
            observatory_id: viewer.observatoryId,
            position,
            recipe_id: recipeId,
            wanted,
          })),
        );
        await announce(queries, viewer.observatoryId, 'projects');
        return set!;
      }),

    remove: (viewer: Viewer, id: string): Promise<{ ok: true }> =>
      database.transaction(async (queries) => {
        const set = await queries.models.GoalSet.findOne({ where: { id, observatoryId: viewer.observatoryId } });
        if (!set) throw notFound('set of goals');
        refuseStranger(viewer, set.createdBy);
        await set.destroy();
        await announce(queries, viewer.observatoryId, 'projects');
        return { ok: true };
      }),

    put: (
      viewer: Viewer,
      projectId: string,
      { panelIds, items }: BodyOf<typeof putGoals>,
    ): Promise<ResponseOf<typeof putGoals>> =>
      database.transaction(async (queries) => {
        const project = await editableProject(queries, viewer, projectId);
        refuseTwice(items);
        const known = await queries.rows<{ id: string }>(
          'SELECT id FROM framed_panels WHERE project_id = $1 AND id = ANY ($2::uuid[])',
          [projectId, panelIds],
        );
        if (known.length !== new Set(panelIds).size) throw notFound('panel of this project');
        const rig = await queries.one<{ rigId: string }>('SELECT rig_id AS "rigId" FROM projects WHERE id = $1', [
          projectId,
        ]);
        const added: string[] = [];
        const changed: { id: string; was: number | null; wanted: number | null }[] = [];
        for (const { recipeId, wanted } of items) {
          const { revisionId } = await recipeOfRig(queries, recipeId, rig!.rigId);
          for (const { id: panelId } of known) {
            const outcome = await putOne(queries, { panelId, recipeId, revisionId, wanted });
            if ('added' in outcome) added.push(outcome.added);
            else if (outcome.was !== wanted) changed.push({ ...outcome, wanted });
          }
        }
        await changes.record(queries, viewer, {
          entity: 'goals_put',
          entityId: projectId,
          projectId,
          words: `goals put on ${panelIds.length} ${panelIds.length === 1 ? 'panel' : 'panels'} of ${project.name}`,
          before: {},
          after: { added, changed },
        });
        for (const topic of ['projects', 'plan'] as const) await announce(queries, viewer.observatoryId, topic);
        return { added: added.length, changed: changed.length };
      }),
  };
}

/** A set is changed and deleted by whoever made it, or a coordinator. */
function refuseStranger(viewer: Viewer, makerId: string): void {
  if (viewer.role !== 'coordinator' && viewer.personId !== makerId)
    throw notAllowed('This set was made by another member');
}

async function refuseOthersSet(
  queries: Queries,
  viewer: Viewer,
  named: { rigId: string; name: string },
): Promise<void> {
  const there = await queries.models.GoalSet.findOne({ where: named, lock: true });
  if (there) refuseStranger(viewer, there.createdBy);
}

/** A new goal at the end of its panel, or the count of the one that is there. */
async function putOne(
  queries: Queries,
  goal: { panelId: string; recipeId: string; revisionId: string; wanted: number | null },
): Promise<{ added: string } | { id: string; was: number | null }> {
  const there = await queries.one<{ id: string; was: number | null }>(
    `SELECT g.id, g.wanted AS was FROM goals g JOIN recipe_revisions v ON v.id = g.recipe_revision_id
     WHERE g.panel_id = $1 AND v.recipe_id = $2 ORDER BY g.position LIMIT 1 FOR UPDATE OF g`,
    [goal.panelId, goal.recipeId],
  );
  if (there) {
    if (there.was !== goal.wanted)
      await queries.rows('UPDATE goals SET wanted = $2, version = version + 1 WHERE id = $1', [there.id, goal.wanted]);
    return there;
  }
  const added = await queries.one<{ id: string }>(
    `INSERT INTO goals (observatory_id, panel_id, recipe_revision_id, wanted, position)
     SELECT l.observatory_id, l.id, $2, $3, 1 + (SELECT coalesce(max(position), 0) FROM goals g WHERE g.panel_id = l.id) FROM panels l WHERE l.id = $1 RETURNING id`,
    [goal.panelId, goal.revisionId, goal.wanted],
  );
  return { added: added!.id };
}

async function recipeOfRig(queries: Queries, recipeId: string, rigId: string) {
  const recipe = await newestRevision(queries, recipeId);
  if (recipe?.rigId !== rigId) throw refused('recipeId', 'Choose recipes of this rig; a goal needs a definite filter');
  return recipe;
}

function refuseTwice(items: readonly { readonly recipeId: string }[]): void {
  if (new Set(items.map(({ recipeId }) => recipeId)).size < items.length)
    throw refused('items', 'A recipe stands in a set once; put its counts together');
}

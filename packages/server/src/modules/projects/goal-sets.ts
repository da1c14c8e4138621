// Named sets of recipes with counts, and putting several goals on several panels as one step.
import type { BodyOf, GoalSet, putGoals, ResponseOf, saveGoalSet } from '@meridiem/contract';
import type { Database, Queries } from '../../database/connection.ts';
import { notAllowed, notFound, refused } from '../../errors.ts';
import { announce } from '../../plugins/live.ts';
import type { Viewer } from '../../plugins/sessions.ts';
import type { ChangeService } from '../changes/index.ts';
import { editableProject } from './editable.ts';
import type { NewGoal } from './goals-repository.ts';
import { newestRevision, panelsOf } from './repository.ts';
import { takeBackPutGoals } from './take-back-goals.ts';
import { goalSetsOf, putGoalSet } from './goal-sets-repository.ts';
import { appendGoals, goalOfRecipe, setWanted } from './goals-repository.ts';

export type GoalSetService = ReturnType<typeof createGoalSetService>;

export function createGoalSetService({ database, changes }: { database: Database; changes: ChangeService }) {
  changes.register('goals_put', {
    by: 'owner',
    takeBack: (queries, _viewer, change) => takeBackPutGoals(queries, change),
  });
  return {
    list: (viewer: Viewer): Promise<GoalSet[]> => goalSetsOf(database, viewer.observatoryId),

    save: (viewer: Viewer, { rigId, name, items }: BodyOf<typeof saveGoalSet>): Promise<{ id: string }> =>
      database.transaction(async (queries) => {
        for (const { recipeId } of items) await recipeOfRig(queries, recipeId, rigId);
        refuseTwice(items);
        await refuseOthersSet(queries, viewer, { rigId, name });
        const id = await putGoalSet(queries, viewer, { rigId, name, items });
        await announce(queries, viewer.observatoryId, 'projects');
        return { id };
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
        const panels = await panelsOf(queries, viewer.observatoryId, projectId);
        const known = panels.filter(({ id }) => panelIds.includes(id));
        if (known.length !== new Set(panelIds).size) throw notFound('panel of this project');
        const added: string[] = [];
        const changed: { id: string; was: number | null; wanted: number | null }[] = [];
        for (const { recipeId, wanted } of items) {
          const { revisionId } = await recipeOfRig(queries, recipeId, project.rigId);
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
  goal: NewGoal,
): Promise<{ added: string } | { id: string; was: number | null }> {
  const there = await goalOfRecipe(queries, goal.panelId, goal.recipeId);
  if (there) {
    if (there.was !== goal.wanted) await setWanted(queries, there.id, goal.wanted);
    return there;
  }
  const [added] = await appendGoals(queries, goal);
  return { added };
}

async function recipeOfRig(queries: Queries, recipeId: string, rigId: string) {
  const recipe = await newestRevision(queries, recipeId);
  if (!recipe?.isOffered || recipe.rigId !== rigId)
    throw refused('recipeId', 'Choose recipes of this rig; a goal needs a definite filter');
  return recipe;
}

function refuseTwice(items: readonly { readonly recipeId: string }[]): void {
  if (new Set(items.map(({ recipeId }) => recipeId)).size < items.length)
    throw refused('items', 'A recipe appears once in a set; put its counts together');
}

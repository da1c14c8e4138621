// Goals put on panels, changed and taken off.
import type { BodyOf, addGoal, editGoal } from '@meridiem/contract';
import type { Queries } from '../../database/connection.ts';
import { notFound, refused, ServiceError } from '../../errors.ts';
import { GOAL_FIELDS } from '../../goal-fields.ts';
import type { Viewer } from '../../plugins/sessions.ts';
import { editFields } from '../changes/index.ts';
import { changing } from './changing.ts';
import { editableProject } from './editable.ts';
import { appendGoals, deleteGoals, goalOfRecipe, goalWithProject, isGoalInUse } from './goals-repository.ts';
import { newestRevision, panelWithRig } from './repository.ts';
import type { ProjectServiceParts } from './service.ts';
import { putGoalBack, takeBackGoals } from './take-back-goals.ts';

export function createGoals({ database, changes }: Pick<ProjectServiceParts, 'database' | 'changes'>) {
  changes.registerFields(GOAL_FIELDS, 'owner');
  changes.register('goal_added', {
    by: 'owner',
    takeBack: (queries, _viewer, change) => takeBackGoals(queries, change),
  });
  changes.register('goal_removed', {
    by: 'owner',
    takeBack: (queries, viewer, change) => putGoalBack(queries, viewer.observatoryId, change),
  });
  return {
    addGoal: (viewer: Viewer, body: BodyOf<typeof addGoal>): Promise<{ ids: string[] }> =>
      changing(database, viewer, async (queries) => {
        const panel = await panelWithRig(queries, viewer.observatoryId, body.panelId);
        if (!panel) throw notFound('panel');
        await editableProject(queries, viewer, panel.projectId);
        const recipe = await newestRevision(queries, body.recipeId);
        if (!recipe?.isOffered || recipe.rigId !== panel.rigId)
          throw refused('recipeId', 'Choose a recipe of this project’s rig; a goal needs a definite filter');
        const goal = {
          panelId: body.panelId,
          recipeId: body.recipeId,
          revisionId: recipe.revisionId,
          wanted: body.wanted,
        };
        const ids = await appendGoals(queries, goal, body.allPanels ? { projectId: panel.projectId } : null);
        if (ids.length === 0)
          throw refused('recipeId', `This panel has a goal with "${recipe.name}" already; change that one`);
        await changes.record(queries, viewer, {
          entity: 'goal_added',
          entityId: ids[0],
          projectId: panel.projectId,
          words: `new goal ${recipe.filterLetter}`,
          before: {},
          after: { ids },
        });
        return { ids };
      }),

    editGoal: (
      viewer: Viewer,
      goalId: string,
      { version, takeNewestRevision, recipeId, ...fields }: BodyOf<typeof editGoal>,
    ): Promise<{ ok: true }> =>
      changing(database, viewer, async (queries) => {
        const goal = await editableGoal(queries, viewer, goalId);
        const { project, filterLetter } = goal;
        const newest = await revisionWanted(queries, goal, { takeNewestRevision, recipeId });
        const edited = await editFields(queries, {
          table: GOAL_FIELDS,
          id: goalId,
          observatoryId: viewer.observatoryId,
          baseVersion: version,
          fields: newest ? { ...fields, recipeRevisionId: newest.revisionId } : fields,
        });
        if (edited)
          await changes.record(queries, viewer, {
            entity: 'goals',
            entityId: goalId,
            projectId: project.id,
            words: `${Object.keys(fields).join(', ') || 'recipe'} of ${filterLetter}, ${project.name}`,
            ...edited,
          });
        return { ok: true };
      }),

    removeGoal: (viewer: Viewer, goalId: string): Promise<{ ok: true }> =>
      changing(database, viewer, async (queries) => {
        const { project, filterLetter } = await editableGoal(queries, viewer, goalId);
        if (await isGoalInUse(queries, goalId))
          throw new ServiceError(
            'NOT_POSSIBLE',
            'This goal is in the ledger or in a published plan and stays there; switch it off instead',
          );
        const goal = (await queries.models.Goal.findByPk(goalId))!;
        const { id, panelId, recipeRevisionId, wanted, why, enabled, position } = goal;
        await deleteGoals(queries, [goalId]);
        await changes.record(queries, viewer, {
          entity: 'goal_removed',
          entityId: goalId,
          projectId: project.id,
          words: `removed goal ${filterLetter}`,
          before: { id, panelId, recipeRevisionId, wanted, why, enabled, position },
          after: {},
        });
        return { ok: true };
      }),
  };
}

interface RevisionWish {
  readonly takeNewestRevision: true | undefined;
  readonly recipeId: string | undefined;
}

/** The revision that a goal is to have: of its own recipe, or of another one of its rig and filter; null where it keeps its own. */
async function revisionWanted(
  queries: Queries,
  goal: Awaited<ReturnType<typeof editableGoal>>,
  { takeNewestRevision, recipeId }: RevisionWish,
): Promise<{ revisionId: string } | null> {
  if (recipeId === undefined || recipeId === goal.recipeId)
    return takeNewestRevision ? newestRevision(queries, goal.recipeId) : null;
  const recipe = await newestRevision(queries, recipeId);
  if (!recipe?.isOffered || recipe.rigId !== goal.project.rigId)
    throw refused('recipeId', 'Choose a recipe of this project’s rig');
  if (recipe.filterLetter !== goal.filterLetter)
    throw refused('recipeId', `This goal goes through ${goal.filterLetter}; add a goal for another filter instead`);
  if (await goalOfRecipe(queries, goal.panelId, recipeId))
    throw refused('recipeId', `This panel has a goal with "${recipe.name}" already`);
  return recipe;
}

async function editableGoal(queries: Queries, viewer: Viewer, goalId: string) {
  const goal = await goalWithProject(queries, goalId);
  if (!goal) throw notFound('goal');
  return { ...goal, project: await editableProject(queries, viewer, goal.projectId) };
}

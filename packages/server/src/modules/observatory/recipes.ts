// Recipes: what an exposure is taken with, changed by revisions. A member's recipe is the member's own; a coordinator's is everybody's.
import type { BodyOf, Observatory, Recipe, addRecipe, reviseRecipe } from '@meridiem/contract';
import type { Queries } from '../../database/connection.ts';
import { momentOfChange } from '../../database/validity.ts';
import { notAllowed, notFound, refused } from '../../errors.ts';
import type { Viewer } from '../../plugins/sessions.ts';
import type { RecipeSettings } from './recipes-repository.ts';
import { insertRecipe, insertRecipeRevision } from './recipes-repository.ts';
import type { RigRecord } from './repository.ts';
import { recipesOf, rigsOf } from './repository.ts';
import { refuseOldBase } from './revision.ts';
import type { ObservatoryUse } from './service.ts';

/** Kinds that need no filter: no light comes in. */
const DARK_KINDS: readonly Recipe['kind'][] = ['dark', 'bias'];

export const createRecipes = ({ changing }: ObservatoryUse) => ({
  addRecipe: (viewer: Viewer, body: BodyOf<typeof addRecipe>): Promise<Observatory> =>
    changing(viewer, async (queries) => {
      const { observatoryId, personId, role } = viewer;
      const rig = (await rigsOf(queries, observatoryId)).find(({ id }) => id === body.rigId);
      if (!rig) throw notFound('rig');
      await refuseSameName(queries, rig.id, body.name);
      const filterId = await filterOf(queries, observatoryId, body);
      refuseUnknownSettings(rig, body);
      const ownerId = role === 'coordinator' ? null : personId;
      await insertRecipe(queries, { observatoryId, ownerId }, { ...body, filterId });
    }),

  reviseRecipe: (
    viewer: Viewer,
    recipeId: string,
    { basedOnSeq, ...fields }: BodyOf<typeof reviseRecipe>,
  ): Promise<Observatory> =>
    changing(viewer, async (queries) => {
      const { observatoryId } = viewer;
      const recipe = await ownRecipe(queries, viewer, recipeId);
      refuseOldBase(recipe.revisionSeq, basedOnSeq);
      const settings = { ...recipe, ...fields };
      const rig = (await rigsOf(queries, observatoryId)).find(({ id }) => id === recipe.rigId)!;
      refuseUnknownSettings(rig, settings);
      await insertRecipeRevision(queries, { observatoryId, recipeId, seq: recipe.revisionSeq + 1 }, settings);
    }),

  renameRecipe: (viewer: Viewer, recipeId: string, name: string): Promise<Observatory> =>
    changing(viewer, async (queries) => {
      const recipe = await ownRecipe(queries, viewer, recipeId);
      if (recipe.name !== name) await refuseSameName(queries, recipe.rigId, name);
      await queries.models.Recipe.update({ name }, { where: { id: recipeId } });
    }),

  retireRecipe: (viewer: Viewer, recipeId: string): Promise<Observatory> =>
    changing(viewer, async (queries) => {
      await ownRecipe(queries, viewer, recipeId);
      await queries.models.Recipe.update({ retired: momentOfChange() }, { where: { id: recipeId } });
    }),
});

/** A recipe that the viewer may change: an own one, or any for a coordinator. */
async function ownRecipe(queries: Queries, viewer: Viewer, recipeId: string): Promise<Recipe> {
  const recipe = (await recipesOf(queries, viewer.observatoryId)).find(({ id }) => id === recipeId);
  if (!recipe) throw notFound('recipe');
  if (viewer.role !== 'coordinator' && recipe.ownerId !== viewer.personId)
    throw notAllowed('This recipe is everybody’s; a coordinator changes it. Add one of your own instead');
  return recipe;
}

/** Null for darks and bias; a filter in use for everything that light reaches, fitted now or not. */
async function filterOf(
  { models }: Queries,
  observatoryId: string,
  { kind, filterId }: BodyOf<typeof addRecipe>,
): Promise<string | null> {
  if (DARK_KINDS.includes(kind)) return null;
  if (filterId === null) throw refused('filterId', 'Choose the filter: only darks and bias frames go without one');
  if ((await models.Filter.count({ where: { id: filterId, observatoryId, retired: null } })) === 0)
    throw refused('filterId', 'There is no such filter');
  return filterId;
}

function refuseUnknownSettings(rig: RigRecord, { cameraModeId, region }: RecipeSettings): void {
  if (!rig.cameraModes.some(({ id }) => id === cameraModeId))
    throw refused('cameraModeId', `Choose a mode of ${rig.name}’s camera`);
  if (region && (region.widthPx > rig.widthPx || region.heightPx > rig.heightPx))
    throw refused(
      'region',
      `The sensor has ${rig.widthPx} × ${rig.heightPx} pixels; the part that is read is no larger`,
    );
}

async function refuseSameName({ models }: Queries, rigId: string, name: string): Promise<void> {
  const same = await models.Recipe.findOne({ where: { rigId, name } });
  if (!same) return;
  throw refused(
    'name',
    same.retired
      ? `A retired recipe of this rig is named "${name}"; bring it back or choose another name`
      : `This rig has a recipe named "${name}" already`,
  );
}

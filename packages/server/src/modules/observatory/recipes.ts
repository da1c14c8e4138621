// Recipes: what an exposure for a goal is taken with, changed by revisions.
import type { BodyOf, Observatory, addRecipe, reviseRecipe } from '@meridiem/contract';
import { notFound, refused } from '../../errors.ts';
import type { Viewer } from '../../plugins/sessions.ts';
import { insertRecipe, insertRecipeRevision, isFitted, isRecipeNamed } from './recipes-repository.ts';
import { recipesOf } from './repository.ts';
import { refuseOldBase } from './revision.ts';
import type { ObservatoryUse } from './service.ts';

export const createRecipes = ({ changing }: ObservatoryUse) => ({
  addRecipe: (viewer: Viewer, body: BodyOf<typeof addRecipe>): Promise<Observatory> =>
    changing(viewer, async (queries) => {
      if (await isRecipeNamed(queries, body.rigId, body.name))
        throw refused('name', `This rig has a recipe named "${body.name}" already`);
      if (!(await isFitted(queries, body.rigId, body.filterId)))
        throw refused('filterId', 'This filter is not fitted to the rig');
      await insertRecipe(queries, viewer.observatoryId, body);
    }),

  reviseRecipe: (
    viewer: Viewer,
    recipeId: string,
    { basedOnSeq, ...fields }: BodyOf<typeof reviseRecipe>,
  ): Promise<Observatory> =>
    changing(viewer, async (queries) => {
      const recipe = (await recipesOf(queries, viewer.observatoryId)).find((candidate) => candidate.id === recipeId);
      if (!recipe) throw notFound('recipe');
      refuseOldBase(recipe.revisionSeq, basedOnSeq);
      const of = { observatoryId: viewer.observatoryId, recipeId, seq: recipe.revisionSeq + 1 };
      await insertRecipeRevision(queries, of, { ...recipe, ...fields });
    }),
});

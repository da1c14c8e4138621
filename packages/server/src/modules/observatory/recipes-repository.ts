// Recipes as rows: each changed setting begins a revision.
import type { BodyOf, addRecipe } from '@meridiem/contract';
import type { Queries } from '../../database/connection.ts';
import { inForce } from '../../database/validity.ts';

export type RecipeSettings = Omit<BodyOf<typeof addRecipe>, 'rigId' | 'filterId' | 'name'>;

export const isRecipeNamed = async ({ models }: Queries, rigId: string, name: string): Promise<boolean> =>
  (await models.Recipe.count({ where: { rigId, name } })) > 0;

export const isFitted = async ({ models }: Queries, rigId: string, filterId: string): Promise<boolean> =>
  (await models.FilterSlot.count({ where: { rigId, filterId, during: inForce() } })) > 0;

export async function insertRecipe(
  queries: Queries,
  observatoryId: string,
  { rigId, filterId, name, ...settings }: BodyOf<typeof addRecipe>,
): Promise<string> {
  const { id } = await queries.models.Recipe.create({ observatoryId, rigId, filterId, name });
  await insertRecipeRevision(queries, { observatoryId, recipeId: id, seq: 1 }, settings);
  return id;
}

export const insertRecipeRevision = (
  { models }: Queries,
  of: { observatoryId: string; recipeId: string; seq: number },
  { cameraModeId, exposureSec, offset, binning, sensorC, pauseSec, ditherEvery }: RecipeSettings,
): Promise<unknown> =>
  models.RecipeRevision.create({
    ...of,
    cameraModeId,
    exposureS: exposureSec,
    offset,
    binning,
    sensorC,
    pauseS: pauseSec,
    ditherEvery,
  });

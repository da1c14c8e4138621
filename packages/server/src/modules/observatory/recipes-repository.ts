// Recipes as rows: each changed setting begins a revision.
import type { BodyOf, addRecipe } from '@meridiem/contract';
import type { Queries } from '../../database/connection.ts';

type RecipeBody = BodyOf<typeof addRecipe>;
export type RecipeSettings = Omit<RecipeBody, 'rigId' | 'filterId' | 'name' | 'kind'>;

export async function insertRecipe(
  queries: Queries,
  of: { observatoryId: string; ownerId: string | null },
  { rigId, filterId, name, kind, ...settings }: RecipeBody,
): Promise<string> {
  const { id } = await queries.models.Recipe.create({ ...of, rigId, filterId, name, kind });
  await insertRecipeRevision(queries, { observatoryId: of.observatoryId, recipeId: id, seq: 1 }, settings);
  return id;
}

export const insertRecipeRevision = (
  { models }: Queries,
  of: { observatoryId: string; recipeId: string; seq: number },
  settings: RecipeSettings,
): Promise<unknown> =>
  models.RecipeRevision.create({
    ...of,
    cameraModeId: settings.cameraModeId,
    exposureS: settings.exposureSec,
    offset: settings.offset,
    binning: settings.binning,
    sensorC: settings.sensorC,
    pauseS: settings.pauseSec,
    ditherEvery: settings.ditherEvery,
    ditherPx: settings.ditherPx,
    regionWidthPx: settings.region?.widthPx ?? null,
    regionHeightPx: settings.region?.heightPx ?? null,
  });

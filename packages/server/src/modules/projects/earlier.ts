// The settings of a project's earlier exposures: what a new goal may take over, and how a goal differs from them.
import type { EarlierSettings, Recipe } from '@meridiem/contract';
import type { EarlierRow } from './repository.ts';

/** Settings of a recipe or a goal that exposures have, too. */
type Settings = Pick<Recipe, 'exposureSec' | 'gain' | 'binning' | 'sensorC'>;

/** Sensor temperatures this near are one setting: a sensor is never quite where it was told to be. */
const SAME_SENSOR_C = 2;
const SAME_EXPOSURE_SHARE = 0.01;

/** What exposures have otherwise than a recipe or goal, in words; none where they are alike. What a header didn't tell differs from nothing. */
const differencesFrom = (earlier: EarlierRow, own: Settings): string[] => [
  ...(Math.abs(own.exposureSec - earlier.exposureSec) > SAME_EXPOSURE_SHARE * own.exposureSec
    ? [`${earlier.exposureSec} s`]
    : []),
  ...(earlier.gain !== null && own.gain !== earlier.gain ? [`gain ${earlier.gain}`] : []),
  ...(own.binning !== earlier.binning ? [`binning ${earlier.binning}`] : []),
  ...(earlier.sensorC !== null && Math.abs(own.sensorC - earlier.sensorC) > SAME_SENSOR_C
    ? [`${earlier.sensorC} °C`]
    : []),
];

/** How a goal differs from the newest exposure through its filter; null where they are alike or there is none. */
export function differenceWords(earlier: readonly EarlierRow[], goal: Settings & { filterId: string }): string | null {
  const row = earlier.find(({ filterId }) => filterId === goal.filterId);
  return (row && differencesFrom(row, goal).join(', ')) || null;
}

/** Each with the recipe of the rig that has the same settings, so that goals can be put as before. */
export const withRecipes = (
  earlier: readonly EarlierRow[],
  recipes: readonly Recipe[],
  rigId: string,
): EarlierSettings[] =>
  earlier.map((row) => {
    const like = recipes.find(
      (recipe) =>
        recipe.rigId === rigId && recipe.filterId === row.filterId && differencesFrom(row, recipe).length === 0,
    );
    return { ...row, recipeId: like?.id ?? null };
  });

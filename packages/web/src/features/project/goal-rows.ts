// Rows of goals as they are typed: read into counts, and how many of each fit tonight.
import type { Filter, Goal, Project, Recipe, Rig } from '@meridiem/contract';
import { shareRead, exposureCycleSec, exposuresThatFit, parseWish } from '@meridiem/core';

export interface WishRow {
  readonly recipeId: string;
  readonly text: string;
}

/** What can't be read, with its row. */
class RowError extends Error {
  readonly row: number;
  constructor(row: number, words: string) {
    super(words);
    this.row = row;
  }
}

/** @throws an error with the row's index where a row has no recipe or can't be read */
export const readRows = (
  rows: readonly WishRow[],
  recipes: readonly Recipe[],
): { recipeId: string; wanted: number | null }[] =>
  rows.map(({ recipeId, text }, i) => {
    const recipe = recipes.find(({ id }) => id === recipeId);
    if (!recipe) throw new RowError(i, `Row ${i + 1}: choose a recipe; a goal needs a definite filter`);
    try {
      return { recipeId, wanted: parseWish(text, recipe.exposureSec).count };
    } catch (error) {
      throw new RowError(i, `Row ${i + 1}: ${error instanceof Error ? error.message : 'it can’t be read'}`);
    }
  });

/** Rows with the settings of the project's earlier exposures in the recipes' order, each as many as its filter is wanted now;
 * and what no recipe has, in words. */
export function rowsAsBefore(
  { earlier, panels }: Project,
  recipes: readonly Recipe[],
): { rows: WishRow[]; missing: string[] } {
  const goals = panels.flatMap((panel) => panel.goals);
  const rows = recipes.flatMap(({ id: recipeId, filterId }): WishRow[] => {
    if (!earlier.some((before) => before.recipeId === recipeId)) return [];
    const like = goals.find((goal) => goal.recipeId === recipeId) ?? goals.find((goal) => goal.filterId === filterId);
    return [{ recipeId, text: !like ? '' : like.wanted === null ? 'open' : String(like.wanted) }];
  });
  return { rows, missing: earlier.filter(({ recipeId }) => !recipeId).map(settingsWords) };
}

const settingsWords = ({ filterLetter, exposureSec, gain, binning, sensorC }: Project['earlier'][number]): string =>
  [
    `${filterLetter} ${exposureSec} s`,
    ...(gain === null ? [] : [`gain ${gain}`]),
    `binning ${binning}`,
    ...(sensorC === null ? [] : [`${sensorC} °C`]),
  ].join(', ');

/** Time of arriving that is paid before the first exposure; a usual one, for the place does not matter to a minute. */
const USUAL_CHANGE_SEC = 120;

/** Exposures of a recipe that fit tonight, by the windows of a goal of the same class; null where no goal tells them. */
export function fitsTonight(project: Project, filter: Filter, rig: Rig, recipe: Recipe): number | null {
  const goals = project.panels.flatMap((panel) => panel.goals);
  const like = goals.filter((goal) => goal.filterClass === filter.class && goal.tonight);
  const same = like.find((goal) => goal.filterId === filter.id) ?? like[0];
  if (!same) return null;
  const usableSec = same.tonight!.usableHours * 3600;
  const cycleSec = exposureCycleSec(rig.costs, { ...recipe, shareRead: shareRead(rig, recipe.region) });
  return exposuresThatFit([usableSec], { cycleSec, exposureSec: recipe.exposureSec, changeSec: USUAL_CHANGE_SEC });
}

/** "dither every 3 by 5 px" */
export const ditherWords = ({ ditherEvery, ditherPx }: Pick<Recipe, 'ditherEvery' | 'ditherPx'>): string =>
  ditherEvery === 0 ? 'dither off' : `dither every ${ditherEvery} by ${ditherPx} px`;

/** What the newest revision of a goal's recipe would change: "300 s instead of 180 s". */
export function revisionWords(goal: Goal, newest: Recipe | undefined): string {
  if (!newest) return '';
  const parts = [
    ...(newest.exposureSec !== goal.exposureSec ? [`${newest.exposureSec} s instead of ${goal.exposureSec} s`] : []),
    ...(newest.gain !== goal.gain ? [`gain ${newest.gain} instead of ${goal.gain}`] : []),
    ...(newest.offset !== goal.offset ? [`offset ${newest.offset} instead of ${goal.offset}`] : []),
    ...(newest.binning !== goal.binning ? [`binning ${newest.binning} instead of ${goal.binning}`] : []),
    ...(ditherWords(newest) !== ditherWords(goal) ? [`${ditherWords(newest)} instead of ${ditherWords(goal)}`] : []),
  ];
  return parts.length === 0 ? 'the same settings' : parts.join(', ');
}

/** Minutes that refocusing costs where filters alternate and focus offsets are not measured; null where it costs none. */
export function refocusWords(project: Project, rig: Rig): string | null {
  if (project.filterGroup === 0) return null;
  const goals = project.panels[0]?.goals.filter((goal) => goal.enabled) ?? [];
  const unmeasured = goals.filter(
    (goal) => rig.slots.find((slot) => slot.filterId === goal.filterId)?.focusOffsetSteps == null,
  );
  if (goals.length < 2 || unmeasured.length === 0) return null;
  const roundSec = goals.reduce((sum, goal) => sum + project.filterGroup * goal.exposureSec, 0);
  const minutes = (goals.length * rig.costs.autofocusSec * 3600) / roundSec / 60;
  return `Each change of filter refocuses, because the focus offset of ${unmeasured.map((goal) => goal.filterLetter).join(', ')} is not measured: about ${Math.round(minutes)} min lost an hour.`;
}

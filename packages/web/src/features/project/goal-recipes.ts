// Recipes that a project's goals may be taken with: light frames of its rig, everybody's and one's own.
import type { Account, Observatory, Recipe, Rig } from '@meridiem/contract';

/** What is fitted comes first, in the order of the filters. A coordinator sees every member's own recipes. */
export function goalRecipes({ recipes }: Pick<Observatory, 'recipes'>, rig: Rig, account: Account): Recipe[] {
  const offered = recipes.filter(
    ({ rigId, kind, ownerId }) =>
      rigId === rig.id &&
      kind === 'light' &&
      (ownerId === null || ownerId === account.personId || account.role === 'coordinator'),
  );
  return [...offered.filter((recipe) => isFitted(rig, recipe)), ...offered.filter((recipe) => !isFitted(rig, recipe))];
}

const isFitted = ({ slots }: Pick<Rig, 'slots'>, { filterId }: Pick<Recipe, 'filterId'>): boolean =>
  slots.some((slot) => slot.filterId === filterId);

/** "Ha standard, 300 s", and what it would need. */
export function recipeWords(rig: Rig | undefined, recipe: Recipe): string {
  const words = `${recipe.name}, ${recipe.exposureSec} s`;
  if (!rig || isFitted(rig, recipe)) return words;
  return `${words} (${rig.filterHolder === 'drawer' ? 'needs the drawer changed' : 'filter not fitted'})`;
}

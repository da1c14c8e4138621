import { expect, it } from '@jest/globals';
import type { Account, Recipe, Rig } from '@meridiem/contract';
import { goalRecipes, recipeWords } from './goal-recipes.ts';

const rig = { id: 'rig', filterHolder: 'wheel', slots: [{ slot: 1, filterId: 'ha', focusOffsetSteps: 0 }] } as unknown as Rig; // prettier-ignore
const recipe = (name: string, changes: Partial<Recipe> = {}): Recipe =>
  ({ name, rigId: 'rig', kind: 'light', filterId: 'ha', ownerId: null, exposureSec: 300, ...changes }) as Recipe;
const account = (role: Account['role'], personId: string) => ({ role, personId }) as Account;

it('goals are offered light recipes of the rig, everybody’s and one’s own, fitted ones first', () => {
  const recipes = [
    recipe('L', { filterId: 'l' }),
    recipe('Ha'),
    recipe('Dark', { kind: 'dark', filterId: null }),
    recipe('Elsewhere', { rigId: 'other' }),
    recipe('Own', { ownerId: 'me' }),
    recipe('Hers', { ownerId: 'her' }),
  ];
  const names = (of: Account) => goalRecipes({ recipes }, rig, of).map(({ name }) => name);
  expect(names(account('member', 'me'))).toEqual(['Ha', 'Own', 'L']);
  expect(names(account('coordinator', 'c'))).toEqual(['Ha', 'Own', 'Hers', 'L']);
});

it('a recipe says what it would need', () => {
  const l = recipe('L', { filterId: 'l', exposureSec: 120 });
  expect(recipeWords(rig, recipe('Ha'))).toBe('Ha, 300 s');
  expect(recipeWords(rig, l)).toBe('L, 120 s (filter not fitted)');
  expect(recipeWords({ ...rig, filterHolder: 'drawer' }, l)).toBe('L, 120 s (needs the drawer changed)');
});

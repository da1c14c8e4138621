import type { Filter, Panel, Recipe, Rig } from '@meridiem/contract';
import { parseWish } from '@meridiem/core';
import { useState } from 'react';
import { wordsOf } from '../../../app/api.ts';
import type { ProjectChanges } from '../queries.ts';
import { recipeWords } from '../goal-recipes.ts';

interface AddGoalProps {
  readonly panel: Panel;
  readonly panelCount: number;
  readonly rig: Rig | undefined;
  readonly recipes: readonly Recipe[];
  readonly filters: readonly Filter[];
  readonly changes: ProjectChanges;
}

/** A new goal: a recipe, which has a definite filter, and a count or a time. */
export function AddGoal({ panel, panelCount, rig, recipes, filters, changes }: AddGoalProps) {
  const [recipeId, setRecipeId] = useState('');
  const [wish, setWish] = useState('');
  const [allPanels, setAllPanels] = useState(panelCount > 1);
  const [problem, setProblem] = useState<{ field: 'recipe' | 'wish'; words: string } | null>(null);
  const recipe = recipes.find((candidate) => candidate.id === recipeId);
  const add = async (): Promise<void> => {
    if (!recipe) return setProblem({ field: 'recipe', words: 'Choose a recipe: a goal needs a definite filter' });
    try {
      const { count } = parseWish(wish, recipe.exposureSec);
      await changes.addGoal({ panelId: panel.id, recipeId: recipe.id, wanted: count, allPanels });
      setRecipeId('');
      setWish('');
      setProblem(null);
    } catch (error) {
      setProblem({ field: 'wish', words: wordsOf(error) });
    }
  };
  return (
    <form
      aria-label={`New goal for ${panel.name}`}
      className="mt-2 flex flex-wrap items-baseline gap-3"
      onSubmit={(event) => {
        event.preventDefault();
        void add();
      }}
    >
      <label>
        <span className="sr-only">Recipe</span>
        <select
          value={recipeId}
          onChange={(event) => {
            setRecipeId(event.target.value);
            setProblem(null);
          }}
          aria-invalid={problem?.field === 'recipe'}
        >
          <option value="">recipe…</option>
          {recipes.map((option) => (
            <option key={option.id} value={option.id}>
              {filters.find((filter) => filter.id === option.filterId)?.letter}: {recipeWords(rig, option)}
            </option>
          ))}
        </select>
      </label>
      <label>
        <span className="sr-only">Wanted</span>
        <input
          className="w-[110px]"
          placeholder="60, 3h, open"
          value={wish}
          onChange={(event) => {
            setWish(event.target.value);
            setProblem(null);
          }}
          aria-invalid={problem?.field === 'wish'}
        />
      </label>
      {panelCount > 1 && (
        <label className="text-soft">
          <input type="checkbox" checked={allPanels} onChange={(event) => setAllPanels(event.target.checked)} /> on all{' '}
          {panelCount} panels
        </label>
      )}
      <button type="submit" className="act">
        Add goal
      </button>
      {problem ? (
        <span role="alert" className="text-signal">
          {problem.words}
        </span>
      ) : (
        recipe && wish && <span className="text-xs text-soft">{reading(wish, recipe.exposureSec)}</span>
      )}
    </form>
  );
}

function reading(wish: string, exposureSec: number): string {
  try {
    return parseWish(wish, exposureSec).words;
  } catch {
    return '';
  }
}

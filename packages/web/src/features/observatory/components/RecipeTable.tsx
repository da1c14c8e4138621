import type { Observatory, Recipe } from '@meridiem/contract';
import { FilterTab } from '../../../filters/FilterTab.tsx';
import { EditableText } from '../../../ui/EditableText.tsx';
import type { ObservatoryChanges } from '../queries.ts';
import { typedNumber } from '../../../words/typed.ts';
import { AddRecipe } from './AddRecipe.tsx';

type NumberKey = 'exposureSec' | 'offset' | 'binning' | 'sensorC' | 'pauseSec' | 'ditherEvery';
const COLUMNS: readonly { key: NumberKey; name: string; unit: string }[] = [
  { key: 'exposureSec', name: 'exposure', unit: 's' },
  { key: 'offset', name: 'offset', unit: '' },
  { key: 'binning', name: 'binning', unit: '' },
  { key: 'sensorC', name: 'sensor', unit: '°C' },
  { key: 'pauseSec', name: 'pause', unit: 's' },
  { key: 'ditherEvery', name: 'dither every', unit: '' },
];

interface RecipeTableProps {
  readonly observatory: Observatory;
  readonly mayEdit: boolean;
  readonly changes: ObservatoryChanges;
}

/** Recipes by rig. A change is a new revision; goals keep the one they pin and are offered the new one. */
export function RecipeTable({ observatory, mayEdit, changes }: RecipeTableProps) {
  const { rigs, recipes, filters } = observatory;
  return (
    <section aria-label="Recipes" className="mt-10">
      <h2 className="text-xl">Recipes</h2>
      <table className="mt-1 w-full">
        <thead>
          <tr className="rule">
            <th scope="col">rig</th>
            <th scope="col">filter</th>
            <th scope="col">recipe</th>
            <th scope="col">camera mode</th>
            {COLUMNS.map(({ key, name, unit }) => (
              <th key={key} scope="col" className="text-right">
                {name} <span className="unit">{unit}</span>
              </th>
            ))}
            <th scope="col" className="text-right">
              revision
            </th>
          </tr>
        </thead>
        <tbody>
          {recipes.map((recipe) => {
            const filter = filters.find((candidate) => candidate.id === recipe.filterId)!;
            const rig = rigs.find((candidate) => candidate.id === recipe.rigId);
            return (
              <tr key={recipe.id} className="rule">
                <td className="text-soft">{rig?.name.split(',')[0]}</td>
                <td>
                  <FilterTab letter={filter.letter} filterClass={filter.class} />
                </td>
                <td>{recipe.name}</td>
                <td>
                  {rig?.cameraModes.find((mode) => mode.id === recipe.cameraModeId)?.name}, gain {recipe.gain}
                </td>
                {COLUMNS.map(({ key, name }) => (
                  <td key={key} className="text-right">
                    <EditableText
                      label={`${recipe.name} ${name}, ${rig?.name}`}
                      width={64}
                      disabled={!mayEdit}
                      shown={shown(recipe, key)}
                      text={String(recipe[key])}
                      onSave={(text) =>
                        changes.recipe(recipe, { [key]: typedNumber(text === 'off' ? '0' : text, name) })
                      }
                    />
                  </td>
                ))}
                <td className="text-right">{recipe.revisionSeq}</td>
              </tr>
            );
          })}
        </tbody>
      </table>
      {mayEdit && <AddRecipe observatory={observatory} changes={changes} />}
    </section>
  );
}

/** Off is a value, and said so. */
const shown = (recipe: Recipe, key: NumberKey): string =>
  (key === 'ditherEvery' || key === 'pauseSec') && recipe[key] === 0 ? 'off' : String(recipe[key]).replace('-', '−');

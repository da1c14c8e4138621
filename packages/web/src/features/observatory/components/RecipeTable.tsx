import type { Account, Observatory, Recipe, Rig } from '@meridiem/contract';
import { wordsOf } from '../../../app/api.ts';
import { useNotice } from '../../../app/notices.tsx';
import { FilterTab } from '../../../filters/FilterTab.tsx';
import { Choice } from '../../../ui/Choice.tsx';
import { EditableText } from '../../../ui/EditableText.tsx';
import { typedNumber } from '../../../words/typed.ts';
import type { ObservatoryChanges } from '../queries.ts';
import { coolingDoubt, KIND_WORDS, mayChange, readsWords, regionFrom, regionText } from '../recipe-words.ts';
import { AddRecipe } from './AddRecipe.tsx';

type NumberKey = 'exposureSec' | 'offset' | 'binning' | 'sensorC' | 'pauseSec' | 'ditherEvery' | 'ditherPx';
const COLUMNS: readonly { key: NumberKey; name: string; unit: string }[] = [
  { key: 'exposureSec', name: 'exposure', unit: 's' },
  { key: 'offset', name: 'offset', unit: '' },
  { key: 'binning', name: 'binning', unit: '' },
  { key: 'sensorC', name: 'sensor', unit: '°C' },
  { key: 'pauseSec', name: 'pause', unit: 's' },
  { key: 'ditherEvery', name: 'dither every', unit: '' },
  { key: 'ditherPx', name: 'dither by', unit: 'px' },
];

/** What every recipe reads that says nothing else. */
const WHOLE = { binning: 1, region: null };

interface RecipeTableProps {
  readonly observatory: Observatory;
  readonly account: Account;
  readonly changes: ObservatoryChanges;
}

/** Recipes by rig. A change is a new revision; goals keep the one they pin and are offered the new one. */
export function RecipeTable({ observatory, account, changes }: RecipeTableProps) {
  return (
    <section aria-label="Recipes" className="mt-10">
      <h2 className="text-xl">Recipes</h2>
      <p className="text-soft">
        What frames are taken with. A change makes a new revision; goals keep theirs until it is taken over.
      </p>
      {observatory.rigs.map((rig) => (
        <RigRecipes key={rig.id} rig={rig} observatory={observatory} account={account} changes={changes} />
      ))}
      {account.role !== 'guest' && observatory.rigs.length > 0 && (
        <AddRecipe observatory={observatory} changes={changes} />
      )}
    </section>
  );
}

function RigRecipes({ rig, observatory, account, changes }: RecipeTableProps & { rig: Rig }) {
  const own = observatory.recipes.filter(({ rigId }) => rigId === rig.id);
  if (own.length === 0) return null;
  return (
    <div className="overflow-x-auto">
      <table className="mt-4 w-full" aria-label={`Recipes of ${rig.name}`}>
        <caption className="text-left">
          <span className="font-serif text-lg">{rig.name}</span>{' '}
          <span className="text-soft">{readsWords(rig, WHOLE)}</span>
        </caption>
        <thead>
          <tr className="rule">
            <th scope="col">filter</th>
            <th scope="col">recipe</th>
            <th scope="col">camera mode</th>
            {COLUMNS.map(({ key, name, unit }) => (
              <th key={key} scope="col" className="text-right">
                {name} <span className="unit">{unit}</span>
              </th>
            ))}
            <th scope="col" className="text-right">
              part read <span className="unit">px</span>
            </th>
            <th scope="col">
              <span className="sr-only">retire</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {own.map((recipe) => (
            <RecipeRow
              key={recipe.id}
              recipe={recipe}
              rig={rig}
              observatory={observatory}
              mayEdit={mayChange(account, recipe)}
              changes={changes}
            />
          ))}
        </tbody>
      </table>
    </div>
  );
}

interface RecipeRowProps {
  readonly recipe: Recipe;
  readonly rig: Rig;
  readonly observatory: Observatory;
  readonly mayEdit: boolean;
  readonly changes: ObservatoryChanges;
}

function RecipeRow({ recipe, rig, observatory, mayEdit, changes }: RecipeRowProps) {
  const notice = useNotice();
  const filter = observatory.filters.find(({ id }) => id === recipe.filterId);
  const doubt = coolingDoubt(rig, recipe.sensorC);
  const failed = (error: unknown): void => notice(wordsOf(error), true);
  return (
    <tr className="rule">
      <td>
        {filter ? (
          <FilterTab letter={filter.letter} filterClass={filter.class} />
        ) : (
          <span className="text-soft">none</span>
        )}
      </td>
      <td>
        <EditableText
          label={`Name of ${recipe.name}, ${rig.name}`}
          width={130}
          disabled={!mayEdit}
          shown={recipe.name}
          text={recipe.name}
          onSave={(name) => changes.renameRecipe(recipe, name.trim())}
        />
        {recipe.kind !== 'light' && <span className="ml-1 text-soft">({KIND_WORDS[recipe.kind]})</span>}
        {recipe.ownerName && <span className="ml-1 text-soft">{recipe.ownerName}’s own</span>}
        {(recipe.binning > 1 || recipe.region) && (
          <span className="block text-xs text-soft">{readsWords(rig, recipe)}</span>
        )}
        {doubt && <span className="block text-xs text-signal">{doubt}</span>}
      </td>
      <td className="whitespace-nowrap">
        <Choice
          label={`Camera mode of ${recipe.name}, ${rig.name}`}
          value={recipe.cameraModeId}
          options={rig.cameraModes.map(({ id, name, gain }) => ({ value: id, words: `${name}, gain ${gain}` }))}
          disabled={!mayEdit}
          onChoose={(cameraModeId) => void changes.recipe(recipe, { cameraModeId }).catch(failed)}
        />
      </td>
      {COLUMNS.map(({ key, name }) => (
        <td key={key} className="text-right">
          <EditableText
            label={`${recipe.name} ${name}, ${rig.name}`}
            width={64}
            disabled={!mayEdit}
            shown={shown(recipe, key)}
            text={String(recipe[key])}
            onSave={async (text) => changes.recipe(recipe, { [key]: typedNumber(text === 'off' ? '0' : text, name) })}
          />
        </td>
      ))}
      <td className="whitespace-nowrap text-right">
        <EditableText
          label={`${recipe.name} part read, ${rig.name}`}
          width={100}
          disabled={!mayEdit}
          shown={regionText(recipe)}
          text={regionText(recipe)}
          onSave={async (text) => changes.recipe(recipe, { region: regionFrom(text) })}
        />
      </td>
      <td className="text-right">
        {mayEdit && (
          <button
            type="button"
            className="word-link cursor-pointer text-soft"
            aria-label={`Retire ${recipe.name}, ${rig.name}`}
            onClick={() =>
              void changes
                .retireRecipe(recipe)
                .then(() => notice(`${recipe.name} is retired; goals that have it keep it`))
                .catch(failed)
            }
          >
            retire
          </button>
        )}
      </td>
    </tr>
  );
}

/** Off is a value, and said so. */
const shown = (recipe: Recipe, key: NumberKey): string =>
  (key === 'ditherEvery' || key === 'pauseSec') && recipe[key] === 0 ? 'off' : String(recipe[key]).replace('-', '−');

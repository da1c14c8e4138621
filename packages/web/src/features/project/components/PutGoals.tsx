import type { Filter, Observatory, Project, Recipe, Rig } from '@meridiem/contract';
import { panelWithin } from '@meridiem/contract';
import { shareRead, exposureCycleSec, parseWish } from '@meridiem/core';
import { useState } from 'react';
import { wordsOf } from '../../../app/api.ts';
import { useNotice } from '../../../app/notices.tsx';
import { FilterTab } from '../../../filters/FilterTab.tsx';
import { duration } from '../../../words/format.ts';
import { FitRows } from './FitRows.tsx';
import { useGoalSets } from '../queries.ts';
import { fitsTonight, readRows, rowsAsBefore } from '../goal-rows.ts';
import { recipeWords } from '../goal-recipes.ts';
import type { WishRow } from '../goal-rows.ts';

interface PutGoalsProps {
  readonly project: Project;
  readonly rig: Rig;
  readonly recipes: readonly Recipe[];
  readonly filters: readonly Filter[];
  readonly observatory: Observatory;
}

/** Several goals on several panels at once, from a named set or row by row; a new row copies the one before. */
export function PutGoals({ project, rig, recipes, filters, observatory }: PutGoalsProps) {
  const { sets, put, save, remove } = useGoalSets(project.id);
  const notice = useNotice();
  const [isOpen, setIsOpen] = useState(false);
  const [rows, setRows] = useState<readonly WishRow[]>([{ recipeId: '', text: '' }]);
  const [left, setLeft] = useState<readonly string[]>([]);
  const [name, setName] = useState('');
  const [problem, setProblem] = useState<{ row: number | null; words: string } | null>(null);
  const own = sets.filter((set) => set.rigId === rig.id);
  const before = rowsAsBefore(project, recipes);
  const panelIds = project.panels.map(({ id }) => id).filter((id) => !left.includes(id));
  const edit = (at: number, change: Partial<WishRow>): void => {
    setProblem(null);
    setRows(rows.map((row, i) => (i === at ? { ...row, ...change } : row)));
  };
  /** Filters come in the order of the wheel: the next row is the one before with the next recipe. */
  const addRow = (): void => {
    const last = rows[rows.length - 1];
    const used = rows.map(({ recipeId }) => recipeId);
    const after = recipes.findIndex(({ id }) => id === last?.recipeId);
    const next = [...recipes.slice(after + 1), ...recipes].find(({ id }) => !used.includes(id));
    setRows([...rows, { recipeId: next?.id ?? '', text: last?.text ?? '' }]);
  };
  const attempt = async (work: (items: ReturnType<typeof readRows>) => Promise<unknown>): Promise<void> => {
    try {
      await work(readRows(rows, recipes));
      setProblem(null);
    } catch (error) {
      setProblem({ row: (error as { row?: number }).row ?? null, words: wordsOf(error) });
    }
  };
  const totals = rows.map((row) => costOf(row, rig, recipes));
  const sum = totals.reduce<number>((all, one) => all + (one ?? 0), 0);
  return (
    <section aria-label="Goals on all panels" className="mt-6">
      <h2 className="text-xl">
        <button type="button" className="cursor-pointer" aria-expanded={isOpen} onClick={() => setIsOpen(!isOpen)}>
          Set goals on {project.panels.length === 1 ? 'this panel' : `${project.panels.length} panels`} at once{' '}
          {isOpen ? '−' : '+'}
        </button>
      </h2>
      {isOpen && (
        <form
          aria-label="Goals on all panels"
          className="mt-2"
          onSubmit={(event) => {
            event.preventDefault();
            void attempt(async (items) => {
              const { added, changed } = await put({ panelIds, items });
              notice(`${added} goals added, ${changed} counts changed`);
            });
          }}
        >
          <label>
            <span className="text-soft">from the set</span>{' '}
            <select
              aria-label="Set of goals"
              value=""
              onChange={(event) => {
                const set = own.find(({ id }) => id === event.target.value);
                if (!set) return;
                setName(set.name);
                setRows(
                  set.items.map(({ recipeId, wanted }) => ({
                    recipeId,
                    text: wanted === null ? 'open' : String(wanted),
                  })),
                );
              }}
            >
              <option value="">{own.length === 0 ? 'none kept yet' : 'choose…'}</option>
              {own.map((set) => (
                <option key={set.id} value={set.id}>
                  {set.name}, {set.items.length} recipes
                </option>
              ))}
            </select>
          </label>
          {before.rows.length > 0 && (
            <button
              type="button"
              className="word-link ml-4 cursor-pointer"
              onClick={() => {
                setProblem(null);
                setRows(before.rows);
              }}
            >
              as in its earlier exposures
            </button>
          )}
          {before.missing.length > 0 && (
            <p className="text-soft">Exposed before, but no recipe of this rig has it: {before.missing.join('; ')}</p>
          )}
          <table className="mt-1">
            <thead>
              <tr className="rule">
                <th scope="col">recipe</th>
                <th scope="col">wanted on each panel</th>
                <th scope="col">read as</th>
                <th scope="col">fits tonight</th>
                <th scope="col">with overhead, a panel</th>
                <th scope="col">
                  <span className="sr-only">remove</span>
                </th>
              </tr>
            </thead>
            <tbody>
              {rows.map((row, i) => {
                const recipe = recipes.find(({ id }) => id === row.recipeId);
                const filter = filters.find(({ id }) => id === recipe?.filterId);
                const fits = recipe && filter ? fitsTonight(project, filter, rig, recipe) : null;
                return (
                  <tr key={i} className="rule">
                    <td className="whitespace-nowrap">
                      {filter && <FilterTab letter={filter.letter} filterClass={filter.class} />}{' '}
                      <select
                        aria-label={`Recipe ${i + 1}`}
                        value={row.recipeId}
                        aria-invalid={problem?.row === i}
                        onChange={(event) => edit(i, { recipeId: event.target.value })}
                      >
                        <option value="">recipe…</option>
                        {recipes.map((option) => (
                          <option key={option.id} value={option.id}>
                            {recipeWords(rig, option)}
                          </option>
                        ))}
                      </select>
                    </td>
                    <td>
                      <input
                        aria-label={`Wanted ${i + 1}`}
                        className="w-[100px]"
                        placeholder="60, 3h, open"
                        value={row.text}
                        aria-invalid={problem?.row === i}
                        onChange={(event) => edit(i, { text: event.target.value })}
                      />
                    </td>
                    <td className="text-soft">{recipe && readingOf(row.text, recipe.exposureSec)}</td>
                    <td>
                      {fits === null ? (
                        <span className="text-soft">—</span>
                      ) : (
                        <button
                          type="button"
                          className="word-link cursor-pointer"
                          title="Take this count"
                          onClick={() => edit(i, { text: String(fits) })}
                        >
                          {fits}
                        </button>
                      )}
                    </td>
                    <td className="whitespace-nowrap">{totals[i] !== null && duration(totals[i])}</td>
                    <td>
                      {rows.length > 1 && (
                        <button
                          type="button"
                          className="text-soft hover:text-ink"
                          aria-label={`Remove row ${i + 1}`}
                          onClick={() => setRows(rows.filter((_, at) => at !== i))}
                        >
                          ×
                        </button>
                      )}
                    </td>
                  </tr>
                );
              })}
            </tbody>
          </table>
          <button type="button" className="word-link mt-1 cursor-pointer" onClick={addRow}>
            Add row
          </button>
          <FitRows {...{ rows, project, panelIds, rig, recipes, observatory }} onTake={setRows} />
          {project.panels.length > 1 && (
            <fieldset className="mt-2 flex flex-wrap gap-x-4">
              <legend className="text-soft">on</legend>
              {project.panels.map(({ id, name: words }) => (
                <label key={id}>
                  <input
                    type="checkbox"
                    checked={!left.includes(id)}
                    onChange={(event) =>
                      setLeft(event.target.checked ? left.filter((one) => one !== id) : [...left, id])
                    }
                  />{' '}
                  {panelWithin(project.name, words)}
                </label>
              ))}
            </fieldset>
          )}
          <div className="mt-2 flex flex-wrap items-baseline gap-3">
            <button type="submit" className="act act-strong" disabled={panelIds.length === 0}>
              Set on {panelIds.length} {panelIds.length === 1 ? 'panel' : 'panels'}
            </button>
            {sum > 0 && (
              <span>
                {project.panels.length > 1 && `${duration(sum)} a panel, `}
                {duration(sum * panelIds.length)} in all
              </span>
            )}
            <span className="text-soft">A goal that is there already takes the new count.</span>
            <span className="ml-auto flex items-baseline gap-2">
              <input
                aria-label="Name of the set"
                placeholder="save as a set named"
                value={name}
                onChange={(event) => setName(event.target.value)}
              />
              <button
                type="button"
                className="act"
                disabled={name.trim() === ''}
                onClick={() =>
                  void attempt(async (items) => {
                    await save({ rigId: rig.id, name: name.trim(), items });
                    notice(`Saved as “${name.trim()}”`);
                  })
                }
              >
                Save set
              </button>
              {own.some((set) => set.name === name) && (
                <button
                  type="button"
                  className="word-link cursor-pointer"
                  onClick={() => void remove(own.find((set) => set.name === name)!.id).then(() => setName(''))}
                >
                  delete set
                </button>
              )}
            </span>
          </div>
          {problem && (
            <p role="alert" className="text-signal">
              {problem.words}
            </p>
          )}
        </form>
      )}
    </section>
  );
}

function readingOf(text: string, exposureSec: number): string {
  try {
    return text.trim() === '' ? '' : parseWish(text, exposureSec).words;
  } catch {
    return '';
  }
}

/** Seconds of a row on one panel, overheads included; null where it can't be read or has no end. */
function costOf({ recipeId, text }: WishRow, rig: Rig, recipes: readonly Recipe[]): number | null {
  const recipe = recipes.find(({ id }) => id === recipeId);
  if (!recipe) return null;
  try {
    const { count } = parseWish(text, recipe.exposureSec);
    return count === null
      ? null
      : count * exposureCycleSec(rig.costs, { ...recipe, shareRead: shareRead(rig, recipe.region) });
  } catch {
    return null;
  }
}

import type { Observatory, Recipe } from '@meridiem/contract';
import { useState } from 'react';
import { wordsOf } from '../../../app/api.ts';
import { Choice } from '../../../ui/Choice.tsx';
import { typedNumber } from '../../../words/typed.ts';
import type { ObservatoryChanges } from '../queries.ts';
import { RecipeAdvice } from './RecipeAdvice.tsx';
import { filterOptions, KIND_OPTIONS, likeLastRecipe, needsFilter } from '../recipe-words.ts';

interface Typed {
  readonly rigId: string;
  readonly kind: Recipe['kind'];
  readonly filterId: string;
  readonly cameraModeId: string;
  readonly ditherEvery: number | null;
  readonly name: string;
  readonly exposure: string;
}

const emptyOf = (rigId: string): Typed => ({
  rigId,
  kind: 'light',
  filterId: '',
  cameraModeId: '',
  ditherEvery: null,
  name: '',
  exposure: '',
});

/** A new recipe begins with the settings of the last like it; what differs is then changed in its row. */
export function AddRecipe({ observatory, changes }: { observatory: Observatory; changes: ObservatoryChanges }) {
  const [typed, setTyped] = useState(() => emptyOf(observatory.rigs[0].id));
  const [problem, setProblem] = useState<string | null>(null);
  const rig = observatory.rigs.find(({ id }) => id === typed.rigId) ?? observatory.rigs[0];
  const edit = (fields: Partial<Typed>): void => {
    setProblem(null);
    setTyped({ ...typed, ...fields });
  };
  const filterId = needsFilter(typed.kind) ? typed.filterId || null : null;
  const like = likeLastRecipe(observatory, rig, {
    kind: typed.kind,
    filterId,
    ...(typed.cameraModeId ? { cameraModeId: typed.cameraModeId } : {}),
  });
  const add = async (): Promise<void> => {
    try {
      if (needsFilter(typed.kind) && !filterId) throw new Error('Choose the filter: a recipe has a definite one');
      if (typed.name.trim() === '') throw new Error('Give the recipe a name');
      const ditherEvery = typed.ditherEvery ?? like.ditherEvery;
      const exposureSec = typedNumber(typed.exposure, 'exposure');
      const { kind, name } = typed;
      await changes.addRecipe({ ...like, ditherEvery, exposureSec, kind, filterId, rigId: rig.id, name: name.trim() });
      setTyped(emptyOf(rig.id));
      setProblem(null);
    } catch (error) {
      setProblem(wordsOf(error));
    }
  };
  return (
    <form
      aria-label="New recipe"
      className="mt-4 flex flex-wrap items-baseline gap-4"
      onSubmit={(event) => {
        event.preventDefault();
        void add();
      }}
    >
      <span className="text-soft">New recipe</span>
      <Choice
        label="Rig"
        value={rig.id}
        options={observatory.rigs.map(({ id, name }) => ({ value: id, words: name }))}
        onChoose={(rigId) => setTyped(emptyOf(rigId))}
      />
      <Choice
        label="Kind of frame"
        value={typed.kind}
        options={KIND_OPTIONS}
        onChoose={(kind) => edit({ kind: kind as Recipe['kind'] })}
      />
      {needsFilter(typed.kind) && (
        <Choice
          label="Filter"
          nothing="filter…"
          value={typed.filterId}
          options={filterOptions(rig, observatory.filters)}
          onChoose={(chosen) => edit({ filterId: chosen, ditherEvery: null })}
        />
      )}
      <Choice
        label="Camera mode"
        value={like.cameraModeId}
        options={rig.cameraModes.map(({ id, name, gain }) => ({ value: id, words: `${name}, gain ${gain}` }))}
        onChoose={(cameraModeId) => edit({ cameraModeId })}
      />
      <input
        aria-label="Name of the recipe"
        placeholder="name"
        value={typed.name}
        onChange={(event) => edit({ name: event.target.value })}
        className="w-[150px]"
      />
      <label>
        <input
          aria-label="Exposure in seconds"
          placeholder="exposure"
          value={typed.exposure}
          onChange={(event) => edit({ exposure: event.target.value })}
          className="w-[90px]"
        />
        <span className="unit">s</span>
      </label>
      <button type="submit" className="act">
        Add recipe
      </button>
      {typed.kind === 'light' && (
        <RecipeAdvice
          observatory={observatory}
          rigId={typed.rigId}
          filterId={typed.filterId}
          binning={like.binning}
          onTake={edit}
        />
      )}
      {problem && (
        <span role="alert" className="text-signal">
          {problem}
        </span>
      )}
    </form>
  );
}

import type { Observatory } from '@meridiem/contract';
import { exposureAdvice } from '@meridiem/core';
import { useState } from 'react';
import { wordsOf } from '../../../app/api.ts';
import type { ObservatoryChanges } from '../queries.ts';
import { adviceWords } from '../view-model.ts';
import { typedNumber } from '../../../words/typed.ts';

/** A new recipe starts as a copy of the last of its rig; rig, filter and mode must be definite. */
export function AddRecipe({ observatory, changes }: { observatory: Observatory; changes: ObservatoryChanges }) {
  const [rigId, setRigId] = useState(observatory.rigs[0]?.id ?? '');
  const [filterId, setFilterId] = useState('');
  const [name, setName] = useState('');
  const [exposure, setExposure] = useState('');
  const [problem, setProblem] = useState<string | null>(null);
  const rig = observatory.rigs.find((candidate) => candidate.id === rigId);
  const fitted = observatory.filters.filter((filter) => rig?.slots.some((slot) => slot.filterId === filter.id));
  const last =
    observatory.recipes
      .filter((recipe) => recipe.rigId === rigId && (!filterId || recipe.filterId === filterId))
      .at(-1) ?? observatory.recipes.at(-1);
  const filter = fitted.find(({ id }) => id === filterId);
  const advice =
    rig && filter ? exposureAdvice(filter, { ...rig, binning: last?.binning ?? 1 }, rig.cameraModes) : null;
  const [advised, setAdvised] = useState<{ cameraModeId: string; ditherEvery: number } | null>(null);
  const add = async (): Promise<void> => {
    if (!rig || !filterId) return setProblem('Choose the filter: a recipe has a definite one');
    if (name.trim() === '') return setProblem('Give the recipe a name');
    try {
      const { offset, binning, sensorC, pauseSec, ditherEvery } = last ?? {
        offset: 30,
        binning: 1,
        sensorC: -10,
        pauseSec: 0,
        ditherEvery: 3,
      };
      const cameraModeId = rig.cameraModes.find((mode) => mode.id === last?.cameraModeId)?.id ?? rig.cameraModes[0].id;
      await changes.addRecipe({
        name: name.trim(),
        rigId,
        filterId,
        cameraModeId: advised?.cameraModeId ?? cameraModeId,
        exposureSec: typedNumber(exposure, 'exposure'),
        offset,
        binning,
        sensorC,
        pauseSec,
        ditherEvery: advised?.ditherEvery ?? ditherEvery,
      });
      setAdvised(null);
      setName('');
      setProblem(null);
    } catch (error) {
      setProblem(wordsOf(error));
    }
  };
  return (
    <form
      aria-label="New recipe"
      className="mt-2 flex flex-wrap items-baseline gap-3"
      onSubmit={(event) => {
        event.preventDefault();
        void add();
      }}
    >
      <select aria-label="Rig" value={rigId} onChange={(event) => setRigId(event.target.value)}>
        {observatory.rigs.map((option) => (
          <option key={option.id} value={option.id}>
            {option.name}
          </option>
        ))}
      </select>
      <select
        aria-label="Filter"
        value={filterId}
        onChange={(event) => {
          setFilterId(event.target.value);
          setAdvised(null);
        }}
      >
        <option value="">filter…</option>
        {fitted.map((filter) => (
          <option key={filter.id} value={filter.id}>
            {filter.letter}
          </option>
        ))}
      </select>
      <input
        aria-label="Name of the recipe"
        placeholder="name"
        value={name}
        onChange={(event) => setName(event.target.value)}
        className="w-[150px]"
      />
      <label>
        <input
          aria-label="Exposure in seconds"
          placeholder="exposure"
          value={exposure}
          onChange={(event) => setExposure(event.target.value)}
          className="w-[90px]"
        />
        <span className="unit">s</span>
      </label>
      <button type="submit" className="act">
        Add recipe
      </button>
      {advice && (
        <p className="basis-full text-soft">
          Suggested: {advice.exposureSec} s, {advice.mode.name} (gain {advice.mode.gain}), dither every{' '}
          {advice.ditherEvery}. {adviceWords(advice)}{' '}
          <button
            type="button"
            className="word-link cursor-pointer"
            onClick={() => {
              setExposure(String(advice.exposureSec));
              setAdvised({ cameraModeId: advice.mode.id, ditherEvery: advice.ditherEvery });
            }}
          >
            take it
          </button>
        </p>
      )}
      {problem && (
        <span role="alert" className="text-signal">
          {problem}
        </span>
      )}
    </form>
  );
}

import type { Filter, Rig, RigWish } from '@meridiem/contract';
import { useState } from 'react';
import { wordsOf } from '../../../app/api.ts';
import { useNotice } from '../../../app/notices.tsx';
import { FilterTab } from '../../../filters/FilterTab.tsx';
import { wheelAsTyped, wheelFrom } from '../view-model.ts';

interface FilterWheelProps {
  readonly rig: Rig;
  readonly filters: readonly Filter[];
  readonly mayEdit: boolean;
  readonly onFit: (wish: RigWish) => Promise<void>;
}

/** What is in the wheel or drawer, and changing it. */
export function FilterWheel({ rig, filters, mayEdit, onFit }: FilterWheelProps) {
  const notice = useNotice();
  const [typed, setTyped] = useState<ReturnType<typeof wheelAsTyped> | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  if (typed === null)
    return (
      <span className="flex flex-wrap justify-end gap-3">
        {rig.slots.map((slot) => {
          const filter = filters.find((candidate) => candidate.id === slot.filterId);
          return (
            filter && (
              <span
                key={slot.slot}
                title={
                  slot.focusOffsetSteps === null
                    ? 'focus offset not measured: changing to it refocuses'
                    : `focus offset ${slot.focusOffsetSteps} steps`
                }
              >
                <span className="text-xs text-soft">{slot.slot}</span>{' '}
                <FilterTab letter={filter.letter} filterClass={filter.class} dim={slot.focusOffsetSteps === null} />
              </span>
            )
          );
        })}
        {mayEdit && (
          <button
            type="button"
            className="word-link"
            aria-label={`Change the filters of ${rig.name}`}
            onClick={() => setTyped(wheelAsTyped(rig))}
          >
            change
          </button>
        )}
      </span>
    );
  const edit = (i: number, fields: Partial<(typeof typed)[number]>): void => {
    setProblem(null);
    setTyped(typed.map((row, at) => (at === i ? { ...row, ...fields } : row)));
  };
  const fit = async (): Promise<void> => {
    try {
      await onFit({ slots: wheelFrom(typed) });
      setTyped(null);
      notice('Filters saved; plans use them from now on');
    } catch (error) {
      setProblem(wordsOf(error));
    }
  };
  return (
    <form
      aria-label={`Filters of ${rig.name}`}
      onSubmit={(event) => {
        event.preventDefault();
        void fit();
      }}
    >
      {typed.map((row, i) => (
        <span key={row.slot} className="flex items-baseline justify-end gap-2 py-0.5">
          <span className="text-soft">{row.slot}</span>
          <select
            aria-label={`Filter in place ${row.slot}`}
            value={row.filterId}
            onChange={(event) => edit(i, { filterId: event.target.value })}
          >
            <option value="">empty</option>
            {filters.map((filter) => (
              <option key={filter.id} value={filter.id}>
                {filter.letter} {filter.name}
              </option>
            ))}
          </select>
          <input
            aria-label={`Focus offset of place ${row.slot}`}
            className="w-28 text-right"
            placeholder="not measured"
            value={row.offset}
            onChange={(event) => edit(i, { offset: event.target.value })}
          />
          <span className="unit">steps</span>
        </span>
      ))}
      {problem && (
        <p role="alert" className="text-right text-sm text-signal">
          {problem}
        </p>
      )}
      <span className="mt-1 flex justify-end gap-2">
        <button type="submit" className="act">
          Save filters
        </button>
        <button
          type="button"
          className="act"
          onClick={() => {
            setTyped(null);
            setProblem(null);
          }}
        >
          Cancel
        </button>
      </span>
    </form>
  );
}

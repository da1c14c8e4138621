import { CONSTELLATIONS } from '@meridiem/core';
import type { AddressChanges } from '../../../app/address.ts';
import { SIDES } from '../filters.ts';

interface FiltersProps {
  readonly search: URLSearchParams;
  readonly kinds: readonly string[];
  readonly onChange: (changes: AddressChanges) => void;
}

/** Narrows what is ranked by kind, constellation, brightness, size and side of the sky. */
export function Filters({ search, kinds, onChange }: FiltersProps) {
  const choice = (words: string, key: string, options: readonly (readonly [value: string, words: string])[]) => (
    <label>
      <span className="text-soft">{words}</span>{' '}
      <select
        className="max-w-40"
        value={search.get(key) ?? ''}
        onChange={(event) => onChange({ [key]: event.target.value })}
      >
        <option value="">any</option>
        {options.map(([value, shown]) => (
          <option key={value} value={value}>
            {shown}
          </option>
        ))}
      </select>
    </label>
  );
  const number = (words: string, key: string, unit: string, most: number) => (
    <label className="whitespace-nowrap">
      <span className="text-soft">{words}</span>{' '}
      <input
        type="number"
        className="w-16"
        min={0}
        max={most}
        step="any"
        defaultValue={search.get(key) ?? ''}
        onChange={(event) => onChange({ [key]: event.target.value })}
      />
      <span className="unit">{unit}</span>
    </label>
  );
  return (
    <>
      {choice(
        'kind',
        'kind',
        kinds.map((kind) => [kind, kind] as const),
      )}
      {choice('in', 'in', Object.entries(CONSTELLATIONS))}
      {choice(
        'at midnight in the',
        'side',
        Object.keys(SIDES).map((side) => [side, side] as const),
      )}
      {number('down to', 'mag', ' mag', 20)}
      {number('size from', 'from', '′', 5000)}
      {number('to', 'to', '′', 5000)}
      <label>
        <input
          type="checkbox"
          checked={search.get('robust') === '1'}
          onChange={(event) => onChange({ robust: event.target.checked ? '1' : null })}
        />{' '}
        for bright nights
      </label>
    </>
  );
}

import { formatDeclination, formatRightAscension, parsePosition } from '@meridiem/core';
import { useState } from 'react';
import { EditableText } from '../../../ui/EditableText.tsx';
import type { Composition } from '../view-model.ts';
import { MOST_SIDE } from '../view-model.ts';

interface NumbersProps {
  readonly composition: Composition;
  readonly onChange: (changes: Partial<Composition>) => void;
}

/** The composition in numbers: centre, angle, rows, columns, overlap, layout. */
export function Numbers({ composition, onChange }: NumbersProps) {
  const { centre } = composition;
  const shown = `${formatRightAscension(centre.raDeg)}, ${formatDeclination(centre.decDeg)}`;
  const place = (text: string): Composition['centre'] => {
    const [ra, dec = ''] = text.split(/\s*,\s*/);
    const read = parsePosition(ra, dec);
    if (!read) throw new Error('Give right ascension and declination with a comma between them, like 05h 34m, −5° 23′');
    return read;
  };
  return (
    <div className="mt-3 grid gap-1.5">
      <div>
        <span className="text-soft">Centre</span>{' '}
        <EditableText
          label="Centre of the frame, J2000"
          shown={shown}
          text={shown}
          width={270}
          onSave={async (text) => onChange({ centre: place(text) })}
        />
      </div>
      <NumberField
        label="Angle of the upward side"
        unit="°"
        value={composition.positionAngleDeg}
        limits={{ min: 0, max: 359.9, step: 0.1 }}
        onChange={(positionAngleDeg) => onChange({ positionAngleDeg })}
      />
      <NumberField
        label="Rows"
        value={composition.rows}
        limits={{ min: 1, max: MOST_SIDE, step: 1 }}
        onChange={(rows) => onChange({ rows: Math.round(rows) })}
      />
      <NumberField
        label="Columns"
        value={composition.cols}
        limits={{ min: 1, max: MOST_SIDE, step: 1 }}
        onChange={(cols) => onChange({ cols: Math.round(cols) })}
      />
      {composition.rows * composition.cols > 1 && (
        <>
          <NumberField
            label="Overlap"
            unit="%"
            value={composition.overlapPercent}
            limits={{ min: 0, max: 60, step: 1 }}
            onChange={(overlapPercent) => onChange({ overlapPercent })}
          />
          <label className="flex items-baseline justify-between gap-2">
            <span className="text-soft">Panel layout</span>
            <select
              value={composition.layout}
              onChange={(event) => onChange({ layout: event.target.value as Composition['layout'] })}
            >
              <option value="one_angle">one camera angle</option>
              <option value="one_plane">one plane, each panel at its own angle</option>
            </select>
          </label>
        </>
      )}
    </div>
  );
}

interface NumberFieldProps {
  readonly label: string;
  readonly unit?: string;
  readonly value: number;
  readonly limits: { readonly min: number; readonly max: number; readonly step: number };
  readonly onChange: (value: number) => void;
}

/** What is out of range is not taken over; it stays, with what would be accepted, until it is mended or left. */
function NumberField({ label, unit = '', value, limits: { min, max, step }, onChange }: NumberFieldProps) {
  const [typed, setTyped] = useState<string | null>(null);
  const isTaken = (text: string): boolean => text.trim() !== '' && Number(text) >= min && Number(text) <= max;
  return (
    <label className="flex flex-wrap items-baseline justify-between gap-x-2">
      <span className="text-soft">{label}</span>
      <span>
        <input
          type="number"
          className="w-20 text-right"
          value={typed ?? Number(value.toFixed(2))}
          min={min}
          max={max}
          step={step}
          aria-invalid={typed !== null && !isTaken(typed)}
          onChange={(event) => {
            setTyped(event.target.value);
            if (isTaken(event.target.value)) onChange(Number(event.target.value));
          }}
          onBlur={() => setTyped(null)}
        />
        <span className="unit inline-block w-4">{unit}</span>
      </span>
      {typed !== null && !isTaken(typed) && (
        <span role="alert" className="w-full text-right text-sm text-signal">
          from {min} to {max}
          {unit}
        </span>
      )}
    </label>
  );
}

import type { Rig } from '@meridiem/contract';
import { fieldOf } from '@meridiem/core';
import type { AddressChanges } from '../../../app/address.ts';
import type { Composition, Framed } from '../view-model.ts';
import { addressOf, sameArea } from '../view-model.ts';

interface RigChoiceProps {
  readonly rigs: readonly Rig[];
  readonly rig: Rig;
  readonly isFramed: boolean;
  readonly onChange: (changes: AddressChanges) => void;
}

/** The rig comes first; once something is framed, another rig is a question. */
export function RigChoice({ rigs, rig, isFramed, onChange }: RigChoiceProps) {
  return (
    <label>
      <span className="text-soft">rig</span>{' '}
      <select
        value={rig.id}
        onChange={({ target: { value } }) => onChange({ rig: value, before: isFramed ? rig.id : null })}
      >
        {rigs.map(({ id, name }) => (
          <option key={id} value={id}>
            {name}
          </option>
        ))}
      </select>
    </label>
  );
}

interface KeepWhatProps {
  readonly composition: Composition;
  readonly rig: Rig;
  readonly before: Rig;
  readonly framedBefore: Framed;
  readonly onChange: (changes: AddressChanges) => void;
}

/** What is kept of a composition that was framed with another rig: its panels, or its area. */
export function KeepWhat({ composition, rig, before, framedBefore, onChange }: KeepWhatProps) {
  const { rows, cols } = composition;
  const same = sameArea(composition, framedBefore.wholeDeg, rig);
  const side = (of: Rig): string => {
    const { widthDeg, heightDeg } = fieldOf(of);
    return `${widthDeg.toFixed(2)}° × ${heightDeg.toFixed(2)}°`;
  };
  return (
    <div role="alert" className="mt-3 border-l-2 border-brass py-1 pl-3">
      <p>
        This was framed with {before.name}: one panel was {side(before)} (dashed), with {rig.name} it is {side(rig)}.
        What should stay?
      </p>
      <p className="mt-1 flex flex-wrap gap-3">
        <button type="button" className="act act-strong" onClick={() => onChange({ before: null })}>
          {rows} × {cols} panels
        </button>
        {(same.rows !== rows || same.cols !== cols) && (
          <button type="button" className="act" onClick={() => onChange({ before: null, ...addressOf(same) })}>
            The area: {same.rows} × {same.cols} panels
          </button>
        )}
        <button type="button" className="act" onClick={() => onChange({ before: null, rig: before.id })}>
          Back to {before.name}
        </button>
      </p>
    </div>
  );
}

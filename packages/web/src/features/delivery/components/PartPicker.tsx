import { NAME_PARTS } from '@meridiem/core';
import { PART_WORDS, partsOf, toggledPart } from '../view-model.ts';

interface PartPickerProps {
  readonly label: string;
  /** Parts with commas between. */
  readonly value: string;
  readonly onChange: (value: string) => void;
}

/** What names are made of, in the order in which it is chosen. */
export function PartPicker({ label, value, onChange }: PartPickerProps) {
  const chosen = partsOf(value);
  return (
    <div role="group" aria-label={label} className="flex flex-wrap items-baseline gap-1">
      <span className="w-[90px] text-soft">{label}</span>
      {NAME_PARTS.map((part) => {
        const at = chosen.indexOf(part);
        return (
          <button
            key={part}
            type="button"
            aria-pressed={at >= 0}
            className={at >= 0 ? 'act act-strong' : 'act'}
            onClick={() => onChange(toggledPart(value, part))}
          >
            {at >= 0 && `${at + 1}. `}
            {PART_WORDS[part]}
          </button>
        );
      })}
    </div>
  );
}

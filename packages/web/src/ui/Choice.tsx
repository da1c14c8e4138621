import { Listbox, ListboxButton, ListboxOption, ListboxOptions } from '@headlessui/react';

export interface Option {
  readonly value: string;
  readonly words: string;
  /** Why it can't be chosen now. */
  readonly missing?: string;
}

interface ChoiceProps {
  readonly label: string;
  readonly value: string;
  readonly options: readonly Option[];
  readonly onChoose: (value: string) => void;
  readonly disabled?: boolean;
  /** Said while nothing is chosen. */
  readonly nothing?: string;
}

/** One of a few, by mouse or keyboard. */
export function Choice({ label, value, options, onChoose, disabled = false, nothing = 'choose…' }: ChoiceProps) {
  const words = options.find((option) => option.value === value)?.words ?? nothing;
  if (disabled) return <span>{words}</span>;
  return (
    <Listbox value={value} onChange={onChoose}>
      <ListboxButton
        aria-label={`${label}: ${words}`}
        className="inline-flex cursor-pointer items-baseline gap-1 border-b border-dotted border-brass text-left"
      >
        {words}
        <span aria-hidden className="text-xs text-brass">
          ▾
        </span>
      </ListboxButton>
      <ListboxOptions
        anchor="bottom start"
        aria-label={label}
        className="z-50 max-h-[320px] border border-hairline bg-raised py-1 shadow-xl"
      >
        {options.map((option) => (
          <ListboxOption
            key={option.value}
            value={option.value}
            className="cursor-pointer px-3 py-1 data-focus:bg-wash data-selected:font-semibold"
          >
            {option.words}
            {option.missing && <span className="ml-2 text-sm text-soft">{option.missing}</span>}
          </ListboxOption>
        ))}
      </ListboxOptions>
    </Listbox>
  );
}

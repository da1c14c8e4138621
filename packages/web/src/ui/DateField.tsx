import { useState } from 'react';
import { shortDateOf } from '../words/format.ts';
import { typedDate } from '../words/typed.ts';

interface DateFieldProps {
  /** ISO date; empty where none is chosen. */
  readonly value: string;
  /** Told each date that can be read; empty where the field is cleared. */
  readonly onChange: (date: string) => void;
  /** The day that a date without its year is near to. */
  readonly near?: string;
  readonly disabled?: boolean;
  /** Told only once the field is left or Enter is pressed: for what is saved at once. */
  readonly whenLeft?: boolean;
  readonly label?: string;
  /** Said while it is empty. */
  readonly nothing?: string;
}

/** A date as people write it, "3 Dec" or "3 Dec 2026"; what can't be read is said under it. */
export function DateField({
  value,
  onChange,
  near,
  disabled = false,
  whenLeft = false,
  label,
  nothing = 'like 3 Dec',
}: DateFieldProps) {
  const [typed, setTyped] = useState<string | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const shown = value === '' ? '' : shortDateOf(value);
  const around = near ?? (value || new Date().toISOString().slice(0, 10));
  const read = (text: string): string | null => {
    try {
      return typedDate(text, around) ?? '';
    } catch {
      return null;
    }
  };
  const settle = (): void => {
    if (typed === null) return;
    const date = read(typed);
    if (date === null) return setProblem(`"${typed.trim()}" is no date; write one like 3 Dec`);
    if (date !== value) onChange(date);
    setTyped(null);
    setProblem(null);
  };
  return (
    <span className="inline-grid">
      <input
        aria-label={label}
        aria-invalid={problem !== null}
        className="w-[118px]"
        placeholder={nothing}
        disabled={disabled}
        value={typed ?? shown}
        onChange={(event) => {
          setTyped(event.target.value);
          setProblem(null);
          const date = whenLeft ? null : read(event.target.value);
          if (date !== null && date !== value) onChange(date);
        }}
        onBlur={settle}
        onKeyDown={(event) => event.key === 'Enter' && settle()}
      />
      {problem && (
        <span role="alert" className="text-sm text-signal">
          {problem}
        </span>
      )}
    </span>
  );
}

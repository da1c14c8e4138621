import type { ReactNode } from 'react';
import { useRef, useState } from 'react';

export interface EditableTextProps {
  readonly label: string;
  /** What is shown while nobody edits. */
  readonly shown: ReactNode;
  /** What the field starts with. */
  readonly text: string;
  /** How the text is read, said while typing; throws what would be accepted. */
  readonly read?: (text: string) => string;
  /** Saves; a rejection is shown beside the field and what was typed stays. */
  readonly onSave: (text: string) => Promise<unknown>;
  readonly disabled?: boolean;
  readonly width?: number;
}

/** A value edited in place: Enter or leaving saves, Escape gives it back. */
export function EditableText({ label, shown, text, read, onSave, disabled = false, width = 90 }: EditableTextProps) {
  const [typed, setTyped] = useState<string | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const [saved, setSaved] = useState<string | null>(null);
  const saving = useRef(false);

  const reading = (value: string): string | null => {
    try {
      return read ? read(value) : null;
    } catch {
      return null;
    }
  };
  const save = async (): Promise<void> => {
    if (typed === null || saving.current) return;
    if (typed === text) return close();
    saving.current = true;
    try {
      read?.(typed);
      await onSave(typed);
      setSaved(new Date().toTimeString().slice(0, 5));
      close();
    } catch (error) {
      setProblem(error instanceof Error ? error.message : 'This can’t be saved');
    } finally {
      saving.current = false;
    }
  };
  const close = (): void => {
    setTyped(null);
    setProblem(null);
  };

  if (disabled) return <span>{shown}</span>;
  if (typed === null) {
    return (
      <span className="whitespace-nowrap">
        <button type="button" className="editable" aria-label={`${label}: change`} onClick={() => setTyped(text)}>
          {shown}
        </button>
        {saved && <span className="ml-2 text-xs text-soft">saved {saved}</span>}
      </span>
    );
  }
  return (
    <span className="inline-block">
      <input
        autoFocus
        aria-label={label}
        aria-invalid={problem !== null}
        style={{ width }}
        value={typed}
        onFocus={(event) => event.target.select()}
        onChange={(event) => {
          setTyped(event.target.value);
          setProblem(null);
        }}
        onBlur={() => void save()}
        onKeyDown={(event) => {
          if (event.key === 'Enter') void save();
          if (event.key === 'Escape') close();
          event.stopPropagation();
        }}
      />
      {problem ? (
        <span role="alert" className="block max-w-[280px] text-xs text-signal">
          {problem}
        </span>
      ) : (
        reading(typed) && <span className="block text-xs text-soft">{reading(typed)}</span>
      )}
    </span>
  );
}

import type { ReactNode } from 'react';
import { useRef, useState } from 'react';
import { useDraft } from './drafts.ts';

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
  /** Told what is typed, once it has rested a moment. */
  readonly onType?: (text: string) => void;
  readonly disabled?: boolean;
  readonly width?: number;
  /** Tells this field from others of the same label, for what was typed when the page was left. */
  readonly draftKey?: string;
}

/** How long typing rests before it is told. */
const REST_MS = 250;

/** Somebody else has saved another value meanwhile. */
interface Conflict {
  readonly words: string;
  readonly theirs: string;
}

/** A value edited in place: Enter or leaving saves, Escape gives it back. */
export function EditableText({
  label,
  shown,
  text,
  read,
  onSave,
  onType,
  disabled = false,
  width = 90,
  draftKey = label,
}: EditableTextProps) {
  const [draft, setDraft] = useDraft(draftKey);
  const typed = draft?.typed ?? null;
  const [problem, setProblem] = useState<string | null>(null);
  const [conflict, setConflict] = useState<Conflict | null>(null);
  const [saved, setSaved] = useState<string | null>(null);
  const saving = useRef(false);
  const resting = useRef<ReturnType<typeof setTimeout>>(undefined);

  const reading = (value: string): string | null => {
    try {
      return read ? read(value) : null;
    } catch {
      return null;
    }
  };
  const save = async (): Promise<void> => {
    if (draft === null || typed === null || saving.current) return;
    if (typed === text) return close();
    if (text !== draft.base && !conflict)
      return setConflict({ words: `Changed since to ${text}; yours is ${typed}`, theirs: text });
    saving.current = true;
    try {
      read?.(typed);
      await onSave(typed);
      setSaved(new Date().toTimeString().slice(0, 5));
      close();
    } catch (error) {
      setConflict(conflictOf(error));
      setProblem(error instanceof Error ? error.message : 'This can’t be saved');
    } finally {
      saving.current = false;
    }
  };
  const close = (): void => {
    setDraft(null);
    setProblem(null);
    setConflict(null);
  };

  if (disabled) return <span>{shown}</span>;
  if (typed === null) {
    return (
      <span className="sm:whitespace-nowrap">
        <button
          type="button"
          className="editable"
          aria-label={`${label}: change`}
          onClick={() => setDraft({ typed: text, base: text })}
        >
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
        aria-invalid={problem !== null || conflict !== null}
        style={{ width }}
        value={typed}
        onFocus={(event) => event.target.select()}
        onChange={(event) => {
          setDraft({ typed: event.target.value, base: draft?.base ?? text });
          setProblem(null);
          setConflict(null);
          clearTimeout(resting.current);
          if (onType) resting.current = setTimeout(onType, REST_MS, event.target.value);
        }}
        onBlur={() => conflict ?? void save()}
        onKeyDown={(event) => {
          if (event.key === 'Enter' && !conflict) void save();
          if (event.key === 'Escape') close();
          event.stopPropagation();
        }}
      />
      {(conflict ?? problem) ? (
        <span role="alert" className="block max-w-[280px] text-xs text-signal">
          {conflict?.words ?? problem}
          {conflict && (
            <span className="mt-1 flex gap-2">
              <button type="button" className="act" onClick={close}>
                Use theirs, {conflict.theirs}
              </button>
              <button type="button" className="act" onClick={() => void save()}>
                Keep mine, {typed}
              </button>
            </span>
          )}
        </span>
      ) : (
        reading(typed) && <span className="block text-xs text-soft">{reading(typed)}</span>
      )}
    </span>
  );
}

/** The server's refusal carries what is stored now; saving again, over the value just read, is a choice of its own. */
function conflictOf(error: unknown): Conflict | null {
  const { code, details, message } = error as { code?: string; details?: Record<string, unknown>; message: string };
  if (code !== 'CONFLICT' || !details || !('stored' in details)) return null;
  return { words: message, theirs: details.stored === null ? 'theirs' : String(details.stored) };
}

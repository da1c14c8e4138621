import type { ReactNode } from 'react';
import { createContext, useCallback, useContext, useEffect, useMemo, useState } from 'react';

export interface WhyNote {
  readonly title: string;
  readonly paragraphs: readonly string[];
  /** What is fetched only once somebody asks. */
  readonly more?: ReactNode;
}

interface Why {
  readonly note: WhyNote | null;
  readonly show: (note: WhyNote | null) => void;
}

const WhyContext = createContext<Why>({ note: null, show: () => undefined });

/** Holds the one margin note of the application. */
export function WhyProvider({ children }: { children: ReactNode }) {
  const [note, show] = useState<WhyNote | null>(null);
  return <WhyContext.Provider value={useMemo(() => ({ note, show }), [note])}>{children}</WhyContext.Provider>;
}

export const useWhy = (): Why => useContext(WhyContext);

/** The small mark beside everything that can say why; "?" while it or its row has the focus does the same. */
export function WhyMark({ note }: { note: WhyNote }) {
  const { show } = useWhy();
  return (
    <button
      type="button"
      data-why
      className="ml-1 inline-flex h-[18px] w-[18px] items-center justify-center rounded-full border border-hairline align-baseline text-xs text-brass hover:bg-wash"
      aria-label={`Why: ${note.title}`}
      onClick={() => show(note)}
    >
      ?
    </button>
  );
}

/** The note itself, in the right margin. */
export function MarginNote() {
  const { note, show } = useWhy();
  const close = useCallback(() => show(null), [show]);
  useEffect(() => {
    if (!note) return;
    const onKey = (event: KeyboardEvent): void => {
      if (event.key === 'Escape') close();
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, [note, close]);
  if (!note) return null;
  return (
    <aside
      aria-label="Why"
      aria-live="polite"
      className="no-print fixed right-0 top-[92px] z-20 max-h-[calc(100vh-110px)] w-[300px] overflow-y-auto border-l-2 border-brass bg-raised p-4 shadow-lg"
    >
      <div className="flex items-start justify-between gap-2">
        <h2 className="text-lg">{note.title}</h2>
        <button type="button" className="text-soft hover:text-ink" aria-label="Close the note" onClick={close}>
          ×
        </button>
      </div>
      {note.paragraphs.map((paragraph) => (
        <p key={paragraph} className="mt-2 font-serif text-base">
          {paragraph}
        </p>
      ))}
      {note.more}
    </aside>
  );
}

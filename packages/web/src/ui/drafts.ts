// What is being typed outlives a reload: kept for this browser tab until it is saved or given up.
import { useState } from 'react';

export interface Draft {
  readonly typed: string;
  /** What the field held when typing began. */
  readonly base: string;
}

const keyOf = (field: string): string => `typed ${window.location.pathname} ${field}`;

/** The draft of a field, null while nobody types. */
export function useDraft(field: string): [Draft | null, (draft: Draft | null) => void] {
  const [draft, setDraft] = useState<Draft | null>(() => {
    const kept = window.sessionStorage.getItem(keyOf(field));
    return kept === null ? null : (JSON.parse(kept) as Draft);
  });
  return [
    draft,
    (next) => {
      setDraft(next);
      if (next === null) window.sessionStorage.removeItem(keyOf(field));
      else window.sessionStorage.setItem(keyOf(field), JSON.stringify(next));
    },
  ];
}

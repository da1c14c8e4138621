// What is being typed outlives a reload: kept for this browser tab until it is saved or given up.
import { useMemo, useSyncExternalStore } from 'react';

export interface Draft {
  readonly typed: string;
  /** What the field held when typing began. */
  readonly base: string;
}

const keyOf = (field: string): string => `typed ${window.location.pathname} ${field}`;

/** The same field may be drawn anew while what was typed in it is still being saved: whoever shows it follows what is kept. */
const followers = new Set<() => void>();
const follow = (onChange: () => void): (() => void) => {
  followers.add(onChange);
  return () => followers.delete(onChange);
};

/** The draft of a field, null while nobody types. */
export function useDraft(field: string): [Draft | null, (draft: Draft | null) => void] {
  const key = keyOf(field);
  const kept = useSyncExternalStore(follow, () => window.sessionStorage.getItem(key));
  const draft = useMemo(() => (kept === null ? null : (JSON.parse(kept) as Draft)), [kept]);
  return [
    draft,
    (next) => {
      if (next === null) window.sessionStorage.removeItem(key);
      else window.sessionStorage.setItem(key, JSON.stringify(next));
      for (const onChange of followers) onChange();
    },
  ];
}

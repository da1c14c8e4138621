import type { ReactNode } from 'react';
import { useEffect, useState } from 'react';

/** The shape of what comes, shown only when it is slow to come. */
export function Loading({ rows = 6, what }: { rows?: number; what: string }) {
  const [slow, setSlow] = useState(false);
  useEffect(() => {
    const timer = setTimeout(() => setSlow(true), 300);
    return () => clearTimeout(timer);
  }, []);
  return (
    <div role="status" aria-label={`Loading ${what}`} className="mt-6">
      {slow &&
        Array.from({ length: rows }, (_, i) => (
          <div key={i} className="rule flex h-8 items-center gap-6">
            <span className="h-3 bg-hairline" style={{ width: `${22 + ((i * 13) % 20)}%` }} />
            <span className="h-3 bg-hairline opacity-60" style={{ width: `${12 + ((i * 29) % 30)}%` }} />
          </div>
        ))}
      {slow && <p className="mt-2 text-soft">Loading {what}…</p>}
    </div>
  );
}

/** Something failed: what, and what to do. */
export const Failure = ({ words, onRetry }: { words: string; onRetry?: () => void }) => (
  <div role="alert" className="mt-6 border-l-2 border-signal py-1 pl-3">
    <p>{words}</p>
    {onRetry && (
      <button type="button" className="act mt-2" onClick={onRetry}>
        Try again
      </button>
    )}
  </div>
);

/** Nothing here yet, and what would put something here. */
export const Empty = ({ title, children }: { title: string; children?: ReactNode }) => (
  <div className="mt-6 max-w-prose">
    <p className="font-serif text-lg">{title}</p>
    {children && <div className="mt-1 text-soft">{children}</div>}
  </div>
);

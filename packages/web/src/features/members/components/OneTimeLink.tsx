import type { ReactNode } from 'react';

/** An address to hand over; it is shown this once. */
export const OneTimeLink = ({ path, children }: { path: string; children: ReactNode }) => (
  <div role="status" className="mt-4 border-l-2 border-brass py-1 pl-3">
    <p>{children} It is shown here only now:</p>
    <input
      readOnly
      aria-label="One-time link"
      className="mt-1 w-full max-w-[640px] font-mono text-sm"
      value={`${window.location.origin}${path}`}
      onFocus={(event) => event.target.select()}
    />
  </div>
);

import type { ReactNode } from 'react';

/** A field under its label, its error beside it. */
export const Labelled = ({
  label,
  error,
  children,
}: {
  label: string;
  error: string | undefined;
  children: ReactNode;
}) => (
  <div className="grid gap-0.5">
    <label className="grid gap-0.5">
      {label}
      {children}
    </label>
    {error && (
      <span role="alert" className="text-sm text-signal">
        {error}
      </span>
    )}
  </div>
);

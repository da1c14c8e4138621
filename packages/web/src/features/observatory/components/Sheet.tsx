import type { ReactNode } from 'react';

/** A line of a sheet: name, value with unit, and a remark. */
export const Line = ({
  name,
  help,
  unit,
  children,
}: {
  name: string;
  help?: string;
  unit?: string;
  children: ReactNode;
}) => (
  <div className="rule flex items-baseline gap-2 py-1">
    <dt className="text-soft">
      {name}
      {help && <span className="block text-xs">{help}</span>}
    </dt>
    <dd className="ml-auto text-right">
      {children}
      {unit && <span className="unit">{unit}</span>}
    </dd>
  </div>
);

import type { ReactNode } from 'react';
import { useState } from 'react';

/** One concern of a page, folded away and not worked out until it is wanted. */
export function Room({ title, remark, children }: { title: string; remark?: string; children: ReactNode }) {
  const [isOpen, setOpen] = useState(false);
  return (
    <details className="rule py-1.5" onToggle={(event) => setOpen(event.currentTarget.open)}>
      <summary className="cursor-pointer font-serif">
        {title} {remark && <span className="font-sans text-sm text-signal">{remark}</span>}
      </summary>
      {isOpen && <div className="py-2">{children}</div>}
    </details>
  );
}

import type { Standing, WhatIf } from '@meridiem/contract';
import { useState } from 'react';
import { Labelled } from '../../../ui/Labelled.tsx';
import { percent } from '../../../words/format.ts';
import { sharesTyped } from '../what-if.ts';

interface TriedSharesProps {
  readonly standing: Standing;
  readonly tried: WhatIf['shares'];
  readonly onChange: (shares: WhatIf['shares']) => void;
}

/** Shares of every rig and sky as they might be; typed as percentages that make up the whole. */
export function TriedShares({ standing, tried, onChange }: TriedSharesProps) {
  const members = [...new Map(standing.rows.map((row) => [row.memberId, row])).values()];
  const [typed, setTyped] = useState<Readonly<Record<string, string>> | null>(
    tried ? Object.fromEntries(tried.map(({ memberId, share }) => [memberId, String(Math.round(1000 * share) / 10)])) : null, // prettier-ignore
  );
  const shares = typed && sharesTyped(typed);
  if (!typed)
    return (
      <p className="mt-3">
        <button
          type="button"
          className="word-link"
          onClick={() => setTyped(Object.fromEntries(members.map(({ memberId, share }) => [memberId, String(Math.round(100 * share))])))} // prettier-ignore
        >
          Try other shares
        </button>
      </p>
    );
  return (
    <section aria-label="Shares tried" className="mt-4">
      <h2 className="text-lg">Shares of all hours</h2>
      <div className="mt-1 flex flex-wrap items-start gap-4">
        {members.map(({ memberId, memberName }) => (
          <Labelled key={memberId} label={`${memberName}, %`} error={undefined}>
            <input
              inputMode="decimal"
              className="w-20"
              value={typed[memberId] ?? ''}
              onChange={({ target }) => setTyped({ ...typed, [memberId]: target.value })}
            />
          </Labelled>
        ))}
        <button
          type="button"
          className="act mt-6"
          disabled={!shares || !shares.isWhole}
          onClick={() => onChange(shares!.shares)}
        >
          Try shares
        </button>
        <button
          type="button"
          className="word-link mt-6"
          onClick={() => {
            setTyped(null);
            onChange(undefined);
          }}
        >
          leave as they are
        </button>
      </div>
      <p aria-live="polite" className="mt-1 text-soft">
        {!shares
          ? 'Write shares as percentages, as 25.'
          : shares.isWhole
            ? 'They make up the whole.'
            : `Together ${percent(shares.sum)}; they must make up 100 %.`}
      </p>
    </section>
  );
}

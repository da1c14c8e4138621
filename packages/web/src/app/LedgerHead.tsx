import type { ReactNode } from 'react';
import { Link } from 'react-router';
import { Period } from '../ui/Period.tsx';
import { useAddress } from './address.ts';
import type { Nights } from './period.ts';

interface LedgerHeadProps {
  readonly title: string;
  readonly nights: Nights | null;
  /** Beside the nights: what else is chosen. */
  readonly children?: ReactNode;
}

/** The head of a page below the ledger: the way back, its name, its nights. */
export function LedgerHead({ title, nights, children }: LedgerHeadProps) {
  const [, choose] = useAddress();
  return (
    <>
      <p>
        <Link className="word-link" to="/ledger">
          Ledger
        </Link>
      </p>
      <div className="flex flex-wrap items-baseline gap-x-6 gap-y-2">
        <h1 className="text-2xl">{title}</h1>
        {nights && <Period from={nights.from} to={nights.to} onChange={choose} />}
        {children}
      </div>
    </>
  );
}

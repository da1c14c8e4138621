// The period that is reviewed when nobody has chosen one, and sums of what it brought.
import type { ReviewRow } from '@meridiem/contract';
import { nightAfter } from '../../words/format.ts';

export interface Period {
  readonly from: string;
  readonly to: string;
}

/** The last thirty nights up to a night. */
export const lastThirty = (tonight: string): Period => ({ from: nightAfter(tonight, -30), to: tonight });

export interface ReviewSum {
  readonly accepted: number;
  readonly undecided: number;
  readonly rejected: number;
  readonly acceptedHours: number;
  /** Of what was judged; null where nothing was. */
  readonly keptShare: number | null;
}

export function reviewSum(rows: readonly ReviewRow[]): ReviewSum {
  const sum = (key: 'accepted' | 'undecided' | 'rejected' | 'acceptedHours'): number =>
    rows.reduce((total, row) => total + row[key], 0);
  const [accepted, rejected] = [sum('accepted'), sum('rejected')];
  return {
    accepted,
    undecided: sum('undecided'),
    rejected,
    acceptedHours: sum('acceptedHours'),
    keptShare: accepted + rejected > 0 ? accepted / (accepted + rejected) : null,
  };
}

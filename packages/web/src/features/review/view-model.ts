// Sums of what a period brought.
import type { ReviewRow } from '@meridiem/contract';

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

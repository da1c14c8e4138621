// A verdict is shown as soon as it is given; the server's answer then takes its place.
import type { BodyOf, judgeExposures, LedgerRow } from '@meridiem/contract';

export interface Judge {
  readonly name: string;
  readonly role: string;
}

/** Whether the verdict counts for sure: another person's may be a coordinator's, which goes before a member's. */
const takesEffect = (row: LedgerRow, by: Judge): boolean =>
  row.mayJudge && (by.role === 'coordinator' || row.verdictOrigin !== 'hand' || row.verdictBy === by.name);

/** @returns the rows as they will be once the verdict is stored */
export function withVerdict(rows: readonly LedgerRow[], given: BodyOf<typeof judgeExposures>, by: Judge): LedgerRow[] {
  const ids = new Set(given.exposureIds);
  const { verdict, reason: verdictReason } = given;
  const change = { verdict, verdictReason, verdictBy: by.name, verdictOrigin: 'hand' };
  return rows.map((row) => (ids.has(row.id) && takesEffect(row, by) ? { ...row, ...change } : row));
}

// Holds what triggers serve against what the history says, counted from scratch.
import type { Queries, Row } from '../src/database/connection.ts';

/** Rows in which a served table and its defining view differ: none where all is well. */
export async function servedDifferences(queries: Queries): Promise<Row[]> {
  const totals = await queries.rows(
    `SELECT 'goal_totals' AS what, t.goal_id::text AS key FROM goal_totals_true t FULL JOIN goal_totals g USING (goal_id)
     WHERE g.goal_id IS NULL OR t.goal_id IS NULL OR t.exposure_count <> g.exposure_count
        OR abs(t.accepted - g.accepted) > 1e-6 OR abs(t.undecided - g.undecided) > 1e-6 OR abs(t.rejected - g.rejected) > 1e-6
        OR abs(t.accepted_s - g.accepted_s) > 0.001 OR abs(t.effective_s - g.effective_s) > 0.001`,
  );
  const rows = await queries.rows(
    `SELECT 'ledger_rows' AS what, exposure_id::text AS key FROM
       ((SELECT * FROM ledger_rows_true EXCEPT SELECT * FROM ledger_rows) UNION ALL (SELECT * FROM ledger_rows EXCEPT SELECT * FROM ledger_rows_true)) d`,
  );
  const tallies = await queries.rows(
    `SELECT 'ledger_tallies' AS what, coalesce(t.night_date, s.night_date)::text AS key
     FROM ledger_tallies_true t FULL JOIN (SELECT * FROM ledger_tallies WHERE exposures <> 0) s
       ON (s.observatory_id, s.filter_id, s.night_date, s.verdict) = (t.observatory_id, t.filter_id, t.night_date, t.verdict) AND s.project_id IS NOT DISTINCT FROM t.project_id
     WHERE s.exposures IS DISTINCT FROM t.exposures OR abs(s.exposure_s - t.exposure_s) > 0.001`,
  );
  return [...totals, ...rows, ...tallies];
}

interface RawVerdict {
  readonly seq: string;
  readonly exposure: string;
  readonly origin: 'hand' | 'rule';
  readonly coordinator: boolean;
  readonly verdict: 'accepted' | 'rejected' | 'undecided';
  readonly withdraws: string | null;
}

/** Goal totals counted in this program from the bare history, without the database's views or functions.
 * @returns goals whose served totals differ */
export async function recountedDifferences(queries: Queries): Promise<string[]> {
  const verdicts = await queries.rows<RawVerdict>(
    'SELECT seq::text, exposure_id AS exposure, origin, by_coordinator AS coordinator, verdict, withdraws::text FROM verdicts ORDER BY verdicts.seq',
  );
  const withdrawn = new Set(verdicts.map(({ withdraws }) => withdraws));
  const inForce = new Map<string, RawVerdict>();
  for (const one of verdicts) {
    if (one.withdraws !== null || withdrawn.has(one.seq)) continue;
    const held = inForce.get(one.exposure);
    if (!held || rankOf(one) >= rankOf(held)) inForce.set(one.exposure, one);
  }
  const credits = await queries.rows<{ exposure: string; goal: string; share: number }>(
    'SELECT exposure_id AS exposure, goal_id AS goal, credit_share AS share FROM attributions WHERE withdrawn IS NULL AND goal_id IS NOT NULL',
  );
  const sums = new Map<string, Record<RawVerdict['verdict'], number>>();
  for (const { exposure, goal, share } of credits) {
    const sum = sums.get(goal) ?? { accepted: 0, rejected: 0, undecided: 0 };
    sum[inForce.get(exposure)?.verdict ?? 'undecided'] += share;
    sums.set(goal, sum);
  }
  const served = await queries.rows<{ goal: string } & Record<RawVerdict['verdict'], number>>(
    'SELECT goal_id AS goal, accepted, rejected, undecided FROM goal_totals',
  );
  return served.flatMap(({ goal, ...totals }) => {
    const sum = sums.get(goal) ?? { accepted: 0, rejected: 0, undecided: 0 };
    const differs = (['accepted', 'rejected', 'undecided'] as const).some(
      (key) => Math.abs(sum[key] - totals[key]) > 1e-6,
    );
    return differs ? [goal] : [];
  });
}

/** A coordinator's hand over a member's, any hand over a rule; among equals the newer. */
const rankOf = ({ origin, coordinator }: RawVerdict): number => (origin === 'rule' ? 0 : coordinator ? 2 : 1);

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

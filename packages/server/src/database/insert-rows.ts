// Many rows in one statement.
import type { Queries } from './connection.ts';

/** Inserts rows whose keys are column names, the same ones in each; types come from the table itself. */
export async function insertRows(
  queries: Queries,
  table: string,
  rows: readonly Record<string, unknown>[],
): Promise<void> {
  if (rows.length === 0) return;
  const columns = Object.keys(rows[0])
    .map((column) => `"${column}"`)
    .join(', ');
  await queries.rows(
    `INSERT INTO ${table} (${columns}) SELECT ${columns} FROM jsonb_populate_recordset(NULL::${table}, $1::jsonb)`,
    [JSON.stringify(rows)],
  );
}

// Many rows in few statements.
import type { Model, ModelStatic } from 'sequelize';
import type { Queries } from './connection.ts';

/** Rows of one statement: triggers count for each, and no statement may take longer than half a minute. */
const MOST_AT_ONCE = 2_000;

/** Inserts rows whose keys are column names, the same ones in each; which columns there are and their types come from the
 * table's model.
 * @throws Error for a table or a column that no model has */
export async function insertRows(
  queries: Queries,
  table: string,
  rows: readonly Record<string, unknown>[],
): Promise<void> {
  if (rows.length === 0) return;
  const model = (Object.values(queries.models) as unknown as ModelStatic<Model>[]).find(
    ({ tableName }) => tableName === table,
  );
  if (!model) throw new Error(`No model has the table ${table}`);
  const known = new Set(Object.values(model.getAttributes()).map(({ field }) => field));
  const names = Object.keys(rows[0]);
  for (const name of names) if (!known.has(name)) throw new Error(`${table} has no column "${name}"`);
  const columns = names.map((column) => `"${column}"`).join(', ');
  for (let from = 0; from < rows.length; from += MOST_AT_ONCE)
    await queries.rows(
      `INSERT INTO ${table} (${columns}) SELECT ${columns} FROM jsonb_populate_recordset(NULL::${table}, $1::jsonb)`,
      [JSON.stringify(rows.slice(from, from + MOST_AT_ONCE))],
    );
}

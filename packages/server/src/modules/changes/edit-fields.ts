// One edit of named fields of a versioned row: different fields merge, the same field changed by two people is a conflict with both values.
import type { Queries } from '../../database/connection.ts';
import { notFound, ServiceError } from '../../errors.ts';

export interface FieldEdit {
  readonly table: 'goals' | 'projects' | 'observatories' | 'filters';
  readonly id: string;
  readonly baseVersion: number;
  /** Column → new value. */
  readonly fields: Readonly<Record<string, unknown>>;
}

export interface EditedFields {
  readonly before: Record<string, unknown>;
  readonly after: Record<string, unknown>;
}

/** Applies an edit inside a transaction.
 * @returns what changed, or null where every field already had its value
 * @throws CONFLICT with the stored and the offered value of the field that somebody else changed since `baseVersion` */
export async function editFields(
  queries: Queries,
  { table, id, baseVersion, fields }: FieldEdit,
): Promise<EditedFields | null> {
  const row = await queries.one<Record<string, unknown> & { version: number }>(
    `SELECT * FROM ${table} WHERE id = $1 FOR UPDATE`,
    [id],
  );
  if (!row) throw notFound(table.slice(0, -1));
  const changed = Object.entries(fields).filter(([column, value]) => !same(row[column], value));
  if (changed.length === 0) return null;
  if (row.version !== baseVersion) await refuseSameField(queries, { table, id, baseVersion }, changed, row);
  const sets = changed.map(([column], i) => `${column} = $${i + 2}`).join(', ');
  const version = row.version + 1;
  await queries.rows(`UPDATE ${table} SET ${sets}, version = ${version} WHERE id = $1`, [
    id,
    ...changed.map(([, value]) => value),
  ]);
  return {
    before: Object.fromEntries(changed.map(([column]) => [column, row[column]])),
    after: { ...Object.fromEntries(changed), version },
  };
}

const same = (a: unknown, b: unknown): boolean => (a ?? null) === (b ?? null);

async function refuseSameField(
  queries: Queries,
  edit: Pick<FieldEdit, 'table' | 'id' | 'baseVersion'>,
  changed: readonly (readonly [string, unknown])[],
  row: Record<string, unknown>,
): Promise<void> {
  const since = await queries.rows<{ after: Record<string, unknown>; who: string }>(
    `SELECT c.after, p.name AS who FROM changes c JOIN people p ON p.id = c.person_id
     WHERE c.entity = $1 AND c.entity_id = $2 AND (c.after->>'version')::int > $3`,
    [edit.table, edit.id, edit.baseVersion],
  );
  for (const [column, offered] of changed) {
    const other = since.find(({ after }) => column in after);
    if (!other) continue;
    const details = { field: column, stored: row[column], offered, version: row.version };
    throw new ServiceError(
      'CONFLICT',
      `${other.who} changed this meanwhile to ${String(row[column])}; yours is ${String(offered)}`,
      { field: column, details },
    );
  }
}

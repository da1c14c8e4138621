// One edit of named fields of a versioned row: different fields merge, the same field changed by two people is a conflict with both values.
import type { WhereOptions } from 'sequelize';
import type { Queries } from '../../database/connection.ts';
import { notFound, ServiceError } from '../../errors.ts';
import type { EditableTable, VersionedRow } from './editable-table.ts';
import { attributesOf, modelOf } from './editable-table.ts';
import { changesSince } from './repository.ts';

export interface FieldEdit {
  readonly table: EditableTable;
  readonly id: string;
  readonly observatoryId: string;
  readonly baseVersion: number;
  /** Attribute → new value; what is undefined stays. */
  readonly fields: Readonly<Record<string, unknown>>;
}

export interface EditedFields {
  readonly before: Record<string, unknown>;
  readonly after: Record<string, unknown>;
}

/** Applies an edit inside a transaction.
 * @returns what changed, or null where every field already had its value
 * @throws CONFLICT with the stored and the offered value of the field that somebody else changed since `baseVersion` */
export async function editFields(queries: Queries, edit: FieldEdit): Promise<EditedFields | null> {
  const { table, id, observatoryId } = edit;
  const model = modelOf(queries.models, table);
  const where: WhereOptions = 'observatoryId' in model.getAttributes() ? { id, observatoryId } : { id };
  const row = await model.findOne({ where, lock: true });
  if (!row) throw notFound(table.entity.slice(0, -1));
  const offered = Object.entries(attributesOf(queries.models, table, edit.fields));
  const changed = offered.filter(([name, value]) => value !== undefined && !same(valueOf(row, name), value));
  if (changed.length === 0) return null;
  if (row.version !== edit.baseVersion) await refuseSameField(queries, edit, changed, row);
  const before = Object.fromEntries(changed.map(([name]) => [name, valueOf(row, name)]));
  const after = { ...Object.fromEntries(changed), version: row.version + 1 };
  await row.update(after);
  return { before, after };
}

const valueOf = (row: VersionedRow, attribute: string): unknown => row.get(attribute as 'id');
const same = (a: unknown, b: unknown): boolean => (a ?? null) === (b ?? null);

async function refuseSameField(
  queries: Queries,
  { table, id, baseVersion }: FieldEdit,
  changed: readonly (readonly [string, unknown])[],
  row: VersionedRow,
): Promise<void> {
  const since = (await changesSince(queries, table.entity, id, baseVersion)).map(({ who, after }) => {
    const { version: _version, ...fields } = after;
    return { who, fields: attributesOf(queries.models, table, fields) };
  });
  for (const [name, offered] of changed) {
    const other = since.find(({ fields }) => name in fields);
    if (!other) continue;
    const stored = valueOf(row, name);
    throw new ServiceError(
      'CONFLICT',
      `${other.who} has since changed this to ${String(stored)}; yours is ${String(offered)}`,
      { field: name, details: { field: name, stored, offered, version: row.version } },
    );
  }
}

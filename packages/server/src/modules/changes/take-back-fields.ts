// Edited fields get the values back that they had, unless somebody has changed one of them since.
import type { Queries } from '../../database/connection.ts';
import { ServiceError } from '../../errors.ts';
import type { EditableTable } from './editable-table.ts';
import { attributesOf, modelOf } from './editable-table.ts';
import type { StoredChange } from './repository.ts';

export async function takeBackFields(queries: Queries, table: EditableTable, change: StoredChange): Promise<void> {
  const row = await modelOf(queries.models, table).findOne({ where: { id: change.entityId }, lock: true });
  const before = attributesOf(queries.models, table, change.before);
  const { version: _version, ...fields } = change.after;
  const after = attributesOf(queries.models, table, fields);
  const builtUpon = Object.keys(before).find(
    (name) => String(row?.get(name as 'id') ?? '') !== String(after[name] ?? ''),
  );
  if (!row || builtUpon)
    throw new ServiceError('CONFLICT', 'Another person has changed this since; undo would remove their change', {
      field: builtUpon ?? 'id',
    });
  await row.update({ ...before, version: row.version + 1 });
}

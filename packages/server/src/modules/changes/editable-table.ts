// Tables whose fields people edit: each module says once, by name, which of its columns those are.
import type { Attributes, ModelStatic } from 'sequelize';
import type { Models } from '../../database/models/index.ts';
import type { Row } from '../../database/models/row.ts';

type RowOf<M extends keyof Models> = Models[M] extends ModelStatic<infer R> ? R : never;

export interface EditableTable {
  /** As history names it. */
  readonly entity: string;
  readonly model: keyof Models;
  /** Attributes that may be written; every other key is refused. */
  readonly attributes: readonly string[];
}

export const editableTable = <M extends keyof Models>(
  entity: string,
  model: M,
  attributes: readonly (keyof Attributes<RowOf<M>> & string)[],
): EditableTable => ({ entity, model, attributes });

/** A row with version, whatever its table. */
export interface VersionedRow extends Row<VersionedRow> {
  id: string;
  version: number;
}

export const modelOf = (models: Models, { model }: EditableTable): ModelStatic<VersionedRow> =>
  models[model] as unknown as ModelStatic<VersionedRow>;

/** Values by attribute; history before December 2026 named them by column.
 * @throws Error for a key that nobody may write */
export function attributesOf(
  models: Models,
  table: EditableTable,
  fields: Readonly<Record<string, unknown>>,
): Record<string, unknown> {
  const attributes = modelOf(models, table).getAttributes();
  const byColumn = new Map(Object.entries(attributes).map(([name, { field }]) => [field, name]));
  return Object.fromEntries(
    Object.entries(fields).map(([key, value]) => {
      const attribute = table.attributes.includes(key) ? key : byColumn.get(key);
      if (!attribute || !table.attributes.includes(attribute))
        throw new Error(`${table.entity} has no field "${key}" to edit`);
      return [attribute, value];
    }),
  );
}

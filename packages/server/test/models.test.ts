// Each model against the database's own catalogue: the same tables, columns, types, nullability and references.
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import type { Model, ModelStatic } from 'sequelize';
import { DERIVED_TABLES } from '../src/database/migrate.ts';
import type { TestApp } from './test-app.ts';
import { createTestApp } from './test-app.ts';

interface Column {
  readonly table: string;
  readonly column: string;
  readonly type: string;
  readonly nullable: boolean;
  readonly refers: string | null;
}

let test: TestApp;
let stored: Column[];
let models: ModelStatic<Model>[];
beforeAll(async () => {
  test = await createTestApp({ exposures: 20 });
  models = Object.values(test.database.models) as unknown as ModelStatic<Model>[];
  stored = await test.ownerDatabase.rows<Column>(
    `SELECT c.relname AS "table", a.attname AS "column", format_type(a.atttypid, a.atttypmod) AS type, NOT a.attnotnull AS nullable,
       (SELECT min(r.relname || '.' || ra.attname) FROM pg_constraint k JOIN pg_class r ON r.oid = k.confrelid
          JOIN LATERAL unnest(k.conkey, k.confkey) AS u(own, other) ON u.own = a.attnum JOIN pg_attribute ra ON ra.attrelid = r.oid AND ra.attnum = u.other
        WHERE k.contype = 'f' AND k.conrelid = c.oid AND NOT (a.attname = 'observatory_id' AND array_length(k.conkey, 1) > 1)) AS refers
     FROM pg_attribute a JOIN pg_class c ON c.oid = a.attrelid
     WHERE c.relnamespace = 'public'::regnamespace AND c.relkind = 'r' AND a.attnum > 0 AND NOT a.attisdropped AND c.relname <> 'migrations'`,
  );
}, 60_000);
afterAll(() => test.close());

const TYPES: Readonly<Record<string, string>> = {
  UUID: 'uuid',
  TEXT: 'text',
  'DOUBLE PRECISION': 'double precision',
  INTEGER: 'integer',
  BIGINT: 'bigint',
  BOOLEAN: 'boolean',
  JSONB: 'jsonb',
  'TIMESTAMP WITH TIME ZONE': 'timestamp with time zone',
  DATE: 'date',
  TSTZRANGE: 'tstzrange',
  BYTEA: 'bytea',
};
const typeName = (written: string): string =>
  written.endsWith('[]') ? `${typeName(written.slice(0, -2))}[]` : (TYPES[written] ?? written);

const described = (model: ModelStatic<Model>): Column[] =>
  Object.values(model.getAttributes()).map(({ field, type, allowNull, references }) => {
    const to = references as { model: string; key: string } | undefined;
    return {
      table: model.tableName,
      column: field!,
      type: typeName((type as { toSql(): string }).toSql()),
      nullable: allowNull !== false,
      refers: to ? `${to.model}.${to.key}` : null,
    };
  });
const sorted = (columns: readonly Column[]): Column[] =>
  [...columns].sort((a, b) => `${a.table} ${a.column}`.localeCompare(`${b.table} ${b.column}`));

describe('the models', () => {
  it('are one a table, for every table', () => {
    const tables = [...new Set(stored.map(({ table }) => table))].sort();
    expect(models.map(({ tableName }) => tableName).sort()).toEqual(tables);
  });
  it('have the columns, types, nullability and references that the database has', () => {
    expect(sorted(models.flatMap(described))).toEqual(sorted(stored));
  });
  it('read every table', async () => {
    for (const model of models) {
      const count = await model.count();
      const rows = await model.findAll({ limit: 2 });
      expect(rows.length).toBe(Math.min(2, count));
    }
  });
  it('can’t write what triggers own', async () => {
    for (const table of DERIVED_TABLES) {
      const model = models.find(({ tableName }) => tableName === table)!;
      await expect(model.destroy({ where: {} })).rejects.toThrow(/permission denied/);
    }
  });
});

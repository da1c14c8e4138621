// Keys that the contract does not name, wherever a call may carry some: none reaches a service, let alone a statement.
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { editFilter, editGoal, editObservatory, editProject, OPERATIONS } from '@meridiem/contract';
import { editableTable, editFields } from '../../src/modules/changes/index.ts';
import type { JsonSchema } from '../any-input.ts';
import { anyOf } from '../any-input.ts';
import type { TestApp } from '../test-app.ts';
import { createTestApp } from '../test-app.ts';
import fc from 'fast-check';

let test: TestApp;
beforeAll(async () => {
  test = await createTestApp({ exposures: 20 });
}, 60_000);
afterAll(() => test.close());

const SQL_KEY = `why" = (SELECT string_agg(password_hash, ' ') FROM people), "name`;
const UNKNOWN_KEYS = [
  'owner_id',
  'observatory_id',
  'NAME',
  'Version',
  'password_hash',
  'why = (SELECT string_agg(password_hash, $$ $$) FROM people), name',
  SQL_KEY,
  '; DROP TABLE goals; --',
  'toString',
  'hasOwnProperty',
  '$ref',
  '',
];

/** Every object within a value, the value itself first. */
function objectsIn(value: unknown): Record<string, unknown>[] {
  if (typeof value !== 'object' || value === null) return [];
  const inside = Object.values(value).flatMap(objectsIn);
  return Array.isArray(value) ? inside : [value as Record<string, unknown>, ...inside];
}

const sample = (schema: unknown): unknown =>
  fc.sample(anyOf(schema as JsonSchema, ['00000000-0000-4000-8000-000000000001']), { numRuns: 1, seed: 3 })[0];

describe('a key that the contract does not name', () => {
  const operations = Object.entries(OPERATIONS).filter(([, { path }]) => path !== '/events');
  it.each(operations)('is refused by %s in body, query and deep inside', async (_, operation) => {
    const who = operation.access === 'runner' ? 'runner' : operation.access === 'public' ? null : 'ilse';
    const params = sample(operation.params) as Record<string, unknown>;
    const encoded = Object.fromEntries(Object.entries(params).map(([k, v]) => [k, encodeURIComponent(String(v))]));
    const body = sample(operation.body) as Record<string, unknown>;
    const parts = { params: encoded, query: {} };
    if (operation.method !== 'GET') {
      for (const object of objectsIn(body)) {
        object.owner_id = 1;
        const answer = await test.call(who, operation, { ...parts, body } as never);
        expect(answer.status).toBe(400);
        delete object.owner_id;
      }
      for (const key of UNKNOWN_KEYS) {
        const answer = await test.call(who, operation, { ...parts, body: { ...body, [key]: 'x' } } as never);
        expect([400, key]).toEqual([answer.status, key]);
      }
    }
    for (const key of UNKNOWN_KEYS.filter((key) => key !== '')) {
      const query = { ...texts(sample(operation.query) as object), [key]: 'x' };
      const answer = await test.call(who, operation, { ...parts, query, body } as never);
      expect([400, key]).toEqual([answer.status, key]);
    }
  });

  it('is named in the answer', async () => {
    const [goal] = await test.ownerDatabase.rows<{ id: string }>('SELECT id FROM goals LIMIT 1');
    const { error } = await test.call('ilse', editGoal, {
      params: { id: goal.id },
      body: { version: 1, owner_id: 'x' } as never,
    });
    expect(error).toEqual({ code: 'INPUT_INVALID', field: 'owner_id', message: 'owner_id is not known here' });
  });

  it('does not come in as a prototype', async () => {
    const [project] = await test.ownerDatabase.rows<{ id: string }>('SELECT id FROM projects LIMIT 1');
    for (const payload of [
      '{"version":1,"__proto__":{"owner_id":"x"}}',
      '{"version":1,"constructor":{"prototype":{"owner_id":"x"}}}',
    ]) {
      const answer = await test.app.inject({
        method: 'PATCH',
        url: `/api/projects/${project.id}`,
        headers: { 'content-type': 'application/json', cookie: await test.cookieOf('ilse') },
        payload,
      });
      expect(answer.statusCode).toBe(400);
    }
    expect(({} as Record<string, unknown>).owner_id).toBeUndefined();
  });
});

const texts = (parts: object): object =>
  Object.fromEntries(Object.entries(parts).map(([name, value]) => [name, String(value)]));

describe('the edit path', () => {
  const SECRET_READERS = [
    [editProject, 'projects'],
    [editGoal, 'goals'],
    [editFilter, 'filters'],
    [editObservatory, 'observatories'],
  ] as const;
  it('takes columns from its table’s list, whatever a service hands it', async () => {
    const table = editableTable('projects', 'Project', ['name']);
    const project = await test.database.models.Project.findOne();
    const edit = (fields: Record<string, unknown>) =>
      test.database.transaction((queries) =>
        editFields(queries, {
          table,
          id: project!.id,
          observatoryId: project!.observatoryId,
          baseVersion: project!.version,
          fields,
        }),
      );
    for (const key of [...UNKNOWN_KEYS, 'ownerId', 'why', 'version'])
      await expect(edit({ [key]: 'x' })).rejects.toThrow(/has no field/);
    expect((await edit({ name: 'of the list' }))!.after).toMatchObject({ name: 'of the list' });
  });
  it.each(SECRET_READERS)('%p writes no column but its own', async (operation, table) => {
    const [row] = await test.ownerDatabase.rows<{ id: string; version: number }>(
      `SELECT id, version FROM ${table} LIMIT 1`,
    );
    const before = await test.ownerDatabase.rows(`SELECT * FROM ${table} ORDER BY id`);
    for (const key of UNKNOWN_KEYS) {
      const answer = await test.call(
        'ilse',
        operation as typeof editProject,
        {
          ...(table === 'observatories' ? {} : { params: { id: row.id } }),
          body: { version: row.version, [key]: 'x' },
        } as never,
      );
      expect(answer.status).toBe(400);
    }
    expect(await test.ownerDatabase.rows(`SELECT * FROM ${table} ORDER BY id`)).toEqual(before);
  });
});

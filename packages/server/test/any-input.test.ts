// Whatever is sent that the contract allows is done or refused in words: nothing anybody sends makes the server fail.
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import type { AnyOperation } from '@meridiem/contract';
import { OPERATIONS } from '@meridiem/contract';
import fc from 'fast-check';
import type { JsonSchema } from './any-input.ts';
import { anyOf } from './any-input.ts';
import type { TestApp } from './test-app.ts';
import { createTestApp } from './test-app.ts';

const RUNS = process.env.MERIDIEM_LONG === '1' ? 30 : 3;
/** They end what the others need (the session, the role, the only coordinator), or never end. */
const APART = new Set([
  'followEvents',
  'signOut',
  'editMembership',
  'endMembership',
  'changePassword',
  'resetPassword',
]);
const TABLES = ['projects', 'panels', 'goals', 'rigs', 'recipes', 'filters', 'people', 'exposures', 'targets'];

let test: TestApp;
const ids: Record<string, string[]> = {};
beforeAll(async () => {
  test = await createTestApp({ exposures: 60 });
  // Signed in before tries to sign in are counted.
  await test.call('ilse', OPERATIONS.readSession);
  for (const table of TABLES)
    ids[table] = (await test.ownerDatabase.rows<{ id: string }>(`SELECT id FROM ${table} ORDER BY ctid LIMIT 5`)).map(
      ({ id }) => id,
    );
}, 60_000);
afterAll(() => test.close());

/** Ids that a path most likely means first, and some of all others. */
function idsFor({ path }: AnyOperation): string[] {
  const meant = TABLES.filter((table) => path.includes(`/${table}/`)).flatMap((table) => ids[table]);
  return [...meant, ...meant, ...meant, ...Object.values(ids).map(([first]) => first)].filter(Boolean);
}

const operations = Object.entries(OPERATIONS).filter(([name]) => !APART.has(name));

describe('any input that the contract allows', () => {
  it.each(operations)(
    '%s answers it or refuses it in words',
    async (_, operation) => {
      const whose = operation.access === 'runner' ? 'runner' : operation.access === 'public' ? null : 'ilse';
      const known = idsFor(operation);
      const input = fc.record({
        params: anyOf(operation.params as JsonSchema, known),
        query: anyOf(operation.query as JsonSchema, known),
        body: anyOf(operation.body as JsonSchema, known),
      });
      await fc.assert(
        fc.asyncProperty(input, async (parts) => {
          const { status, error } = await test.call(whose, operation, {
            params: encoded(parts.params as object) as never,
            query: texts(parts.query as object) as never,
            body: parts.body as never,
          });
          expect(status).toBeLessThan(500 + (error?.code === 'NOT_READY' ? 100 : 0));
          if (status >= 400)
            expect(error).toMatchObject({ code: expect.any(String), message: expect.stringMatching(/\S+ \S+/) });
        }),
        { numRuns: RUNS, seed: 7, endOnFailure: true },
      );
    },
    60_000,
  );
});

const encoded = (parts: object): object =>
  Object.fromEntries(Object.entries(parts).map(([name, value]) => [name, encodeURIComponent(String(value))]));
const texts = (parts: object): object =>
  Object.fromEntries(Object.entries(parts).map(([name, value]) => [name, String(value)]));

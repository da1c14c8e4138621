import { describe, expect, it } from '@jest/globals';
import { ERROR_STATUS, OPERATIONS, ROLES } from './index.ts';

const operations = Object.entries(OPERATIONS);

describe('operations', () => {
  it('have a way of their own each', () => {
    const ways = operations.map(([, { method, path }]) => `${method} ${path}`);
    expect(new Set(ways).size).toBe(ways.length);
  });
  it.each(operations)('%s says who may call it and what it does', (_, { access, summary }) => {
    expect(summary).toMatch(/\.$/);
    if (typeof access !== 'string') for (const role of access) expect(ROLES).toContain(role);
  });
  it('name every parameter of their paths', () => {
    for (const [, { path, params }] of operations) {
      const named = [...path.matchAll(/:(\w+)/g)].map((match) => match[1]);
      expect(Object.keys((params as { properties?: object }).properties ?? {}).sort()).toEqual(named.sort());
    }
  });
});

it('every error code has an HTTP status of an error', () => {
  for (const status of Object.values(ERROR_STATUS)) expect(status).toBeGreaterThanOrEqual(400);
});

describe('what is sent', () => {
  const schemas = operations.flatMap(([name, { params, query, body }]) =>
    [params, query, body].map((schema) => ({ name, schema })),
  );
  const openIn = (schema: unknown, path: string): string[] => {
    if (typeof schema !== 'object' || schema === null) return [];
    const { properties, additionalProperties } = schema as { properties?: object; additionalProperties?: unknown };
    const inside = Object.entries(schema).flatMap(([key, value]) => openIn(value, `${path}/${key}`));
    return properties && typeof properties === 'object' && additionalProperties !== false && 'type' in schema
      ? [path, ...inside]
      : inside;
  };
  const unboundedIn = (schema: unknown, path: string): string[] => {
    if (typeof schema !== 'object' || schema === null) return [];
    const { type, enum: words, const: only, maxLength, format, pattern, maxItems } = schema as Record<string, unknown>;
    const isText =
      type === 'string' &&
      !words &&
      only === undefined &&
      maxLength === undefined &&
      format !== 'uuid' &&
      format !== 'date';
    const isBounded = typeof pattern === 'string' && /^\^.*\$$/.test(pattern) && !/[*+]/.test(pattern);
    const isList = type === 'array' && maxItems === undefined;
    const inside = Object.entries(schema).flatMap(([key, value]) => unboundedIn(value, `${path}/${key}`));
    return (isText && !isBounded) || isList ? [path, ...inside] : inside;
  };
  it('bounds every text and every list', () => {
    expect(schemas.flatMap(({ name, schema }) => unboundedIn(schema, name))).toEqual([]);
  });
  it('names every key, at every level', () => {
    expect(schemas.flatMap(({ name, schema }) => openIn(schema, name))).toEqual([]);
  });
});

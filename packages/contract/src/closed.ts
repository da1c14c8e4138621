// What is sent may carry the keys that a schema names and no others, at every level.
import type { TSchema } from 'typebox';

/** The parts of JSON schema in which schemas lie. */
interface Nested {
  readonly properties?: Readonly<Record<string, Nested>>;
  readonly items?: Nested | readonly Nested[];
  readonly anyOf?: readonly Nested[];
  readonly allOf?: readonly Nested[];
  readonly additionalProperties?: unknown;
}

/** The same schema, refusing every key that it does not name; where a record's keys are free they stay free.
 * @throws Error for an intersection, whose parts would refuse each other's keys */
export function closed<T extends TSchema>(schema: T): T {
  return close(schema as Nested) as unknown as T;
}

function close(schema: Nested): Nested {
  if (schema.allOf) throw new Error('An intersection can’t be closed: spread its properties into one object');
  return {
    ...schema,
    ...(schema.properties
      ? { properties: mapValues(schema.properties, close), additionalProperties: schema.additionalProperties ?? false }
      : {}),
    ...(schema.items
      ? { items: Array.isArray(schema.items) ? schema.items.map(close) : close(schema.items as Nested) }
      : {}),
    ...(schema.anyOf ? { anyOf: schema.anyOf.map(close) } : {}),
  };
}

/** A value with what its schema names and nothing else: what a form holds beside it stays in the page. Where a union has
 * several shapes of objects the value is taken as it is. */
export function namedOnly(schema: TSchema, value: unknown): unknown {
  return pick(schema as Nested, value);
}

function pick(schema: Nested, value: unknown): unknown {
  if (typeof value !== 'object' || value === null) return value;
  const shapes = schema.anyOf?.filter(({ properties, items }) => properties || items);
  if (shapes) return shapes.length === 1 ? pick(shapes[0], value) : value;
  if (Array.isArray(value)) {
    const { items } = schema;
    return items && !Array.isArray(items) ? value.map((entry) => pick(items as Nested, entry)) : value;
  }
  const { properties } = schema;
  if (!properties) return value;
  const named = Object.entries(value).filter(([key]) => Object.hasOwn(properties, key));
  return Object.fromEntries(named.map(([key, inside]) => [key, pick(properties[key], inside)]));
}

const mapValues = <V, W>(record: Readonly<Record<string, V>>, map: (value: V) => W): Record<string, W> =>
  Object.fromEntries(Object.entries(record).map(([key, value]) => [key, map(value)]));

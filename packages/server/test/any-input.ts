// Input that a JSON schema allows, likely and unlikely alike: what a page would never send, and anybody may.
import fc from 'fast-check';

/** What of JSON schema the contract uses. */
export interface JsonSchema {
  readonly type?: string;
  readonly const?: unknown;
  readonly enum?: readonly unknown[];
  readonly anyOf?: readonly JsonSchema[];
  readonly properties?: Readonly<Record<string, JsonSchema>>;
  readonly required?: readonly string[];
  readonly patternProperties?: Readonly<Record<string, JsonSchema>>;
  readonly items?: JsonSchema;
  readonly minItems?: number;
  readonly maxItems?: number;
  readonly minimum?: number;
  readonly maximum?: number;
  readonly exclusiveMinimum?: number;
  readonly exclusiveMaximum?: number;
  readonly minLength?: number;
  readonly maxLength?: number;
  readonly pattern?: string;
  readonly format?: string;
}

const ODD_TEXTS = [
  '\u0000',
  ' ',
  '',
  '0',
  '-1',
  'NaN',
  '𝔐',
  '%',
  "'; --",
  '<b>',
  '../..',
  'a'.repeat(3000),
  '12:61',
  '２',
];
const ODD_NUMBERS = [0, -0, 1, -1, 1e15, -1e15, 9e15, 1e300, -1e300, 5e-324, 2 ** 31, -(2 ** 31), 2 ** 53];
const DATES = ['2026-10-11', '2026-10-12', '0000-00-00', '9999-99-99', '2026-02-30', '0001-01-01', '9999-12-31'];

/** @param ids that are known to the database; others are made up */
export function anyOf(schema: JsonSchema, ids: readonly string[]): fc.Arbitrary<unknown> {
  const inside = (one: JsonSchema) => anyOf(one, ids);
  if (schema.const !== undefined) return fc.constant(schema.const);
  if (schema.enum) return fc.constantFrom(...schema.enum);
  if (schema.anyOf) return fc.oneof(...schema.anyOf.map(inside));
  switch (schema.type) {
    case 'string':
      return textOf(schema, ids);
    case 'integer':
    case 'number':
      return numberOf(schema);
    case 'boolean':
      return fc.boolean();
    case 'null':
      return fc.constant(null);
    case 'array':
      return fc.array(inside(schema.items ?? {}), {
        minLength: schema.minItems ?? 0,
        maxLength: Math.min(schema.maxItems ?? 4, (schema.minItems ?? 0) + 3),
      });
    case 'object':
      return objectOf(schema, inside);
    default:
      return fc.jsonValue({ maxDepth: 2 });
  }
}

function objectOf(schema: JsonSchema, inside: (one: JsonSchema) => fc.Arbitrary<unknown>): fc.Arbitrary<unknown> {
  if (schema.patternProperties)
    return fc.dictionary(fc.string({ maxLength: 8 }), inside(Object.values(schema.patternProperties)[0]), {
      maxKeys: 3,
    });
  if (!schema.properties)
    return fc.dictionary(fc.string({ maxLength: 8 }), fc.jsonValue({ maxDepth: 2 }), { maxKeys: 3 });
  const fields = Object.fromEntries(Object.entries(schema.properties).map(([name, one]) => [name, inside(one)]));
  return fc.record(fields, { requiredKeys: [...(schema.required ?? [])], noNullPrototype: true });
}

function textOf(
  { format, pattern, minLength = 0, maxLength = 4000 }: JsonSchema,
  ids: readonly string[],
): fc.Arbitrary<string> {
  if (format === 'uuid') return fc.oneof({ weight: 3, arbitrary: fc.constantFrom(...ids) }, fc.uuid());
  if (pattern?.includes('\\d{4}-\\d{2}-\\d{2}')) return fc.constantFrom(...DATES);
  if (pattern) return fc.stringMatching(new RegExp(pattern)).filter((text) => fits(text, minLength, maxLength));
  const odd = ODD_TEXTS.filter((text) => fits(text, minLength, maxLength));
  const any = fc.string({ unit: 'binary', minLength, maxLength: Math.min(maxLength, minLength + 40) });
  return odd.length > 0 ? fc.oneof(any, fc.constantFrom(...odd)) : any;
}
const fits = (text: string, least: number, most: number): boolean =>
  [...text].length >= least && [...text].length <= most;

function numberOf({ type, ...bounds }: JsonSchema): fc.Arbitrary<number> {
  const isWhole = type === 'integer';
  const least = bounds.minimum ?? bounds.exclusiveMinimum ?? -1e300;
  const most = bounds.maximum ?? bounds.exclusiveMaximum ?? 1e300;
  const isAllowed = (value: number): boolean =>
    value >= least &&
    value <= most &&
    value !== bounds.exclusiveMinimum &&
    value !== bounds.exclusiveMaximum &&
    (!isWhole || Number.isInteger(value));
  const odd = [...ODD_NUMBERS, least, most].filter(isAllowed);
  const plain = isWhole
    ? fc.integer({
        min: Math.max(-1000, Math.ceil(least)),
        max: Math.min(Math.max(1000, Math.ceil(least)), Math.floor(most)),
      })
    : fc.double({ min: Math.max(-1000, least), max: Math.min(Math.max(1000, least), most), noNaN: true });
  return fc.oneof(plain.filter(isAllowed), ...(odd.length > 0 ? [fc.constantFrom(...odd)] : []));
}

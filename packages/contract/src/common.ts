// Shapes that many operations share.
import type { Static, TOptional, TSchema } from 'typebox';
import { Type } from 'typebox';

export const Id = Type.String({ format: 'uuid' });
export const IdParams = Type.Object({ id: Id });
/** A day of the calendar between 1900 and 2199. */
export const NightDateText = Type.String({ format: 'date', pattern: '^(19|20|21)\\d\\d-' });
/** Milliseconds of UTC, between the years 1800 and 2200. */
export const UtcMs = Type.Number({ minimum: -5.4e12, maximum: 7.3e12 });
export const Version = Type.Integer({ minimum: 1, maximum: 2_147_483_647 });
export const Nullable = <T extends TSchema>(schema: T) => Type.Union([schema, Type.Null()]);
export const Ok = Type.Object({ ok: Type.Literal(true) });
/** Something to read, without control characters. */
export const READABLE = '^[^\\u0000-\\u001f\\u007f]*[^\\s\\u0000-\\u001f\\u007f][^\\u0000-\\u001f\\u007f]*$';
/** One line of text with something to read in it. */
export const Words = (maxLength = 200) => Type.String({ minLength: 1, maxLength, pattern: READABLE });
/** One of a list of words. */
export const oneOf = <const T extends readonly string[]>(values: T) =>
  Type.Unsafe<T[number]>({ type: 'string', enum: [...values] });

/** The same fields, each free to be left out. */
export const optional = <T extends Record<string, TSchema>>(fields: T): { [K in keyof T]: TOptional<T[K]> } =>
  Object.fromEntries(Object.entries(fields).map(([name, schema]) => [name, Type.Optional(schema)])) as {
    [K in keyof T]: TOptional<T[K]>;
  };

export const Interval = Type.Object({ startUtcMs: UtcMs, endUtcMs: UtcMs });
export type Interval = Static<typeof Interval>;

export const FilterClass = oneOf(['broadband', 'narrowband', 'colour'] as const);
export type FilterClass = Static<typeof FilterClass>;

/** The one shape of every error. */
export const ErrorBody = Type.Object({
  code: Type.String(),
  message: Type.String(),
  field: Type.Optional(Type.String()),
  details: Type.Optional(Type.Record(Type.String(), Type.Unknown())),
});
export type ErrorBody = Static<typeof ErrorBody>;

// Shapes that many operations share.
import type { Static, TOptional, TSchema } from 'typebox';
import { Type } from 'typebox';

export const Id = Type.String({ format: 'uuid' });
export const IdParams = Type.Object({ id: Id });
export const NightDateText = Type.String({ pattern: '^\\d{4}-\\d{2}-\\d{2}$' });
/** Milliseconds of UTC. */
export const UtcMs = Type.Number();
export const Version = Type.Integer({ minimum: 1 });
export const Nullable = <T extends TSchema>(schema: T) => Type.Union([schema, Type.Null()]);
export const Ok = Type.Object({ ok: Type.Literal(true) });
export const Words = (maxLength = 200) => Type.String({ minLength: 1, maxLength });
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

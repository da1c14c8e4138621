import { describe, expect, it } from '@jest/globals';
import { Type } from 'typebox';
import { closed, namedOnly } from './closed.ts';

const schema = Type.Object({
  name: Type.String(),
  slots: Type.Optional(Type.Array(Type.Object({ slot: Type.Integer() }))),
  place: Type.Union([Type.Object({ raDeg: Type.Number() }), Type.Null()]),
  choice: Type.Union([Type.Object({ value: Type.Number() }), Type.Object({ off: Type.Literal(true) })]),
});

describe('what is sent', () => {
  it('is what the schema names, at every level', () => {
    const form = {
      name: 'x',
      typed: '7',
      slots: [{ slot: 1, letter: 'L' }],
      place: { raDeg: 1, text: 'one' },
      choice: { off: true },
    };
    expect(namedOnly(schema, form)).toEqual({
      name: 'x',
      slots: [{ slot: 1 }],
      place: { raDeg: 1 },
      choice: { off: true },
    });
    expect(namedOnly(schema, { name: 'x', place: null })).toEqual({ name: 'x', place: null });
  });
  it('takes no prototype for a name', () => {
    expect(
      Object.keys(namedOnly(schema, JSON.parse('{"name":"x","__proto__":{"a":1},"toString":1}')) as object),
    ).toEqual(['name']);
  });
});

describe('a closed schema', () => {
  it('closes what lies within', () => {
    const within = closed(schema) as unknown as { properties: { slots: { items: { additionalProperties: boolean } } } };
    expect(within.properties.slots.items.additionalProperties).toBe(false);
  });
  it('can’t be an intersection', () => {
    expect(() => closed(Type.Intersect([Type.Object({}), Type.Object({})]))).toThrow(/intersection/);
  });
});

// The catalogue that ships with the application: objects and stars.
import type { Static } from 'typebox';
import { Type } from 'typebox';
import { Nullable } from './common.ts';
import { EVERYONE, operation } from './operation.ts';

const CatalogueFields = {
  designation: Type.String(),
  name: Nullable(Type.String()),
  kind: Type.String(),
  mag: Nullable(Type.Number()),
  sizeArcmin: Nullable(Type.Number()),
  raDeg: Type.Number(),
  decDeg: Type.Number(),
  /** By its three letters; null for typed coordinates. */
  constellation: Nullable(Type.String()),
};

export const searchCatalogue = operation({
  method: 'GET',
  path: '/catalogue',
  summary: 'Objects by designation, name or typed coordinates.',
  access: EVERYONE,
  query: Type.Object({ q: Type.String({ maxLength: 120 }) }),
  response: Type.Object({
    objects: Type.Array(Type.Object({ ...CatalogueFields, highestDeg: Type.Number() })),
  }),
});

/** One object in a row, to keep the whole table small: designation, name, kind, magnitude, size in arcminutes, right ascension and declination in degrees, constellation by its three letters. */
export const CatalogueRow = Type.Tuple([
  Type.String(),
  Nullable(Type.String()),
  Type.String(),
  Nullable(Type.Number()),
  Nullable(Type.Number()),
  Type.Number(),
  Type.Number(),
  Type.String(),
]);
export type CatalogueRow = Static<typeof CatalogueRow>;

export const catalogueObjects = operation({
  method: 'GET',
  path: '/catalogue/objects',
  summary: 'Every object of the shipped catalogue, for ranking.',
  access: EVERYONE,
  response: Type.Object({ objects: Type.Array(CatalogueRow) }),
});

export const catalogueAround = operation({
  method: 'GET',
  path: '/catalogue/around',
  summary: 'Stars and objects around a place, for drawing: the brightest and the largest first.',
  access: EVERYONE,
  query: Type.Object({
    raDeg: Type.Number({ minimum: 0, exclusiveMaximum: 360 }),
    decDeg: Type.Number({ minimum: -90, maximum: 90 }),
    radiusDeg: Type.Number({ exclusiveMinimum: 0, maximum: 180 }),
  }),
  response: Type.Object({
    /** Right ascension and declination in degrees (J2000), magnitude. */
    stars: Type.Array(Type.Tuple([Type.Number(), Type.Number(), Type.Number()])),
    /** Right ascension, declination, and what the star is called: those of magnitude 6.5 and brighter, within 20°. */
    starNames: Type.Array(Type.Tuple([Type.Number(), Type.Number(), Type.String()])),
    objects: Type.Array(Type.Object(CatalogueFields)),
  }),
});

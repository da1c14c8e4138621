import type { Static } from 'typebox';
import { Type } from 'typebox';
import { Id, IdParams, Nullable, Ok, oneOf, Words } from './common.ts';
import { CompositionText } from './framing.ts';
import { EVERYONE, MEMBERS, operation } from './operation.ts';

/** Two-body elements as read from a one-line orbit. */
export const OrbitElements = Type.Object({
  kind: oneOf(['comet', 'minor_planet'] as const),
  name: Type.String(),
  epochMjdTt: Nullable(Type.Number()),
  perihelionMjdTt: Type.Number(),
  perihelionDistanceAu: Type.Number(),
  eccentricity: Type.Number(),
  inclinationDeg: Type.Number(),
  nodeDeg: Type.Number(),
  perihelionArgumentDeg: Type.Number(),
});

export const ShelvedTarget = Type.Object({
  id: Id,
  name: Type.String(),
  /** Both null for what moves: its place comes from the orbit. */
  raDeg: Nullable(Type.Number()),
  decDeg: Nullable(Type.Number()),
  sizeArcmin: Nullable(Type.Number()),
  composition: Nullable(CompositionText),
  orbit: Nullable(OrbitElements),
  themeIds: Type.Array(Id),
  /** Projects of this target that the viewer may see. */
  projects: Type.Integer(),
});
export type ShelvedTarget = Static<typeof ShelvedTarget>;

/** any: its targets are alternatives; all: they are wanted together. */
export const THEME_TAKES = ['any', 'all'] as const;
export const Theme = Type.Object({ id: Id, name: Type.String(), take: oneOf(THEME_TAKES) });
export type Theme = Static<typeof Theme>;

export const readShelf = operation({
  method: 'GET',
  path: '/shelf',
  summary: 'Targets kept for later, moving ones with their newest orbit, and their themes.',
  access: EVERYONE,
  response: Type.Object({ targets: Type.Array(ShelvedTarget), themes: Type.Array(Theme) }),
});

export const shelve = operation({
  method: 'POST',
  path: '/shelf',
  summary: 'Keep a target for later.',
  access: MEMBERS,
  body: Type.Object({
    name: Words(80),
    raDeg: Type.Number({ minimum: 0, exclusiveMaximum: 360 }),
    decDeg: Type.Number({ minimum: -90, maximum: 90 }),
    sizeArcmin: Nullable(Type.Number({ exclusiveMinimum: 0, maximum: 10_000 })),
    composition: Type.Optional(CompositionText),
  }),
  response: Type.Object({ id: Id }),
});

export const unshelve = operation({
  method: 'DELETE',
  path: '/shelf/:id',
  summary: 'Take a target off the shelf; its projects keep it.',
  access: MEMBERS,
  params: IdParams,
  response: Ok,
});

export const shelveOrbits = operation({
  method: 'POST',
  path: '/shelf/orbits',
  summary:
    'Keep comets and minor planets by their one-line orbits; a known name gets the newer elements, the older stay in its history.',
  access: MEMBERS,
  body: Type.Object({ text: Type.String({ maxLength: 200_000 }) }),
  response: Type.Object({
    names: Type.Array(Type.String()),
    problems: Type.Array(Type.Object({ lineNumber: Type.Integer(), words: Type.String() })),
  }),
});

export const addTheme = operation({
  method: 'POST',
  path: '/themes',
  summary: 'A new theme for targets of the shelf.',
  access: MEMBERS,
  body: Type.Object({ name: Words(60), take: oneOf(THEME_TAKES) }),
  response: Type.Object({ id: Id }),
});

export const editTheme = operation({
  method: 'PATCH',
  path: '/themes/:id',
  summary: 'Rename a theme, say whether any or all of it is wanted, or say which targets belong to it.',
  access: MEMBERS,
  params: IdParams,
  body: Type.Object({
    name: Type.Optional(Words(60)),
    take: Type.Optional(oneOf(THEME_TAKES)),
    targetIds: Type.Optional(Type.Array(Id, { maxItems: 500, uniqueItems: true })),
  }),
  response: Ok,
});

export const removeTheme = operation({
  method: 'DELETE',
  path: '/themes/:id',
  summary: 'Remove a theme; its targets stay on the shelf.',
  access: MEMBERS,
  params: IdParams,
  response: Ok,
});

import type { Static } from 'typebox';
import { Type } from 'typebox';
import { LIMIT_KEYS } from '@meridiem/core';
import { FilterClass, Id, IdParams, Interval, Nullable, Ok, oneOf } from './common.ts';
import { EVERYONE, MEMBERS, operation } from './operation.ts';

export const LimitRow = Type.Object({
  class: Nullable(FilterClass),
  key: oneOf(LIMIT_KEYS),
  /** null = off. */
  value: Nullable(Type.Number()),
});
export type LimitRow = Static<typeof LimitRow>;

/** A limit in force with where it comes from. */
export const LimitShown = Type.Object({
  key: oneOf(LIMIT_KEYS),
  value: Nullable(Type.Number()),
  origin: Type.String(),
});
export type LimitShown = Static<typeof LimitShown>;

export const setLimit = operation({
  method: 'PUT',
  path: '/limits',
  summary: 'Set, switch off or reset one limit of the observatory, a project or a goal.',
  access: MEMBERS,
  body: Type.Object({
    scope: oneOf(['observatory', 'project', 'goal'] as const),
    scopeId: Nullable(Id),
    class: Nullable(FilterClass),
    key: oneOf(LIMIT_KEYS),
    setting: Type.Union([
      Type.Object({ value: Type.Number() }),
      Type.Object({ off: Type.Literal(true) }),
      Type.Object({ inherit: Type.Literal(true) }),
    ]),
  }),
  response: Ok,
});

/** What a limit does tonight and in the coming nights: with it, without it, and as proposed. */
export const LimitEffect = Type.Object({
  /** The goal it was worked out for. */
  goalWords: Type.String(),
  nights: Type.Array(
    Type.Object({
      nightDate: Type.String(),
      hours: Type.Number(),
      hoursWithout: Type.Number(),
      hoursProposed: Type.Number(),
    }),
  ),
  windows: Type.Array(Interval),
  windowsWithout: Type.Array(Interval),
  windowsProposed: Type.Array(Interval),
});
export type LimitEffect = Static<typeof LimitEffect>;

export const previewLimit = operation({
  method: 'POST',
  path: '/projects/:id/limits/preview',
  summary: 'What a limit of a project costs a goal of a class tonight and in the coming 30 nights; nothing is written.',
  access: EVERYONE,
  isDear: true,
  params: IdParams,
  body: Type.Object({
    class: FilterClass,
    key: oneOf(LIMIT_KEYS),
    /** A value to try, null for off; as it is where left out. */
    proposed: Type.Optional(Nullable(Type.Number())),
  }),
  response: LimitEffect,
});

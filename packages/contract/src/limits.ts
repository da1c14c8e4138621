import type { Static } from 'typebox';
import { Type } from 'typebox';
import { LIMIT_KEYS } from '@meridiem/core';
import { FilterClass, Id, Nullable, Ok, oneOf } from './common.ts';
import { MEMBERS, operation } from './operation.ts';

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
  summary: 'Set, switch off or give back one limit of the observatory, a project or a goal.',
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

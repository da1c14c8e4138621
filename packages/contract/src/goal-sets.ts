import type { Static } from 'typebox';
import { Type } from 'typebox';
import { Id, IdParams, Nullable, Ok, Words } from './common.ts';
import { EVERYONE, MEMBERS, operation } from './operation.ts';

const Wanted = Nullable(Type.Integer({ minimum: 0, maximum: 100_000 }));

/** Named recipes with counts, put on panels at once. */
export const GoalSet = Type.Object({
  id: Id,
  rigId: Id,
  name: Type.String(),
  items: Type.Array(Type.Object({ recipeId: Id, wanted: Wanted })),
});
export type GoalSet = Static<typeof GoalSet>;

export const listGoalSets = operation({
  method: 'GET',
  path: '/goal-sets',
  summary: 'Every named set of goals.',
  access: EVERYONE,
  response: Type.Object({ sets: Type.Array(GoalSet) }),
});

export const saveGoalSet = operation({
  method: 'POST',
  path: '/goal-sets',
  summary: 'Keep recipes with counts under a name; a set of the same name on the same rig is replaced.',
  access: MEMBERS,
  body: Type.Object({
    rigId: Id,
    name: Words(60),
    items: Type.Array(Type.Object({ recipeId: Id, wanted: Wanted }), { minItems: 1, maxItems: 20 }),
  }),
  response: Type.Object({ id: Id }),
});

export const removeGoalSet = operation({
  method: 'DELETE',
  path: '/goal-sets/:id',
  summary: 'Forget a set; goals made from it stay.',
  access: MEMBERS,
  params: IdParams,
  response: Ok,
});

export const putGoals = operation({
  method: 'POST',
  path: '/projects/:id/goals',
  summary:
    'Want several recipes with counts on some or all panels, as one step: goals that are there already take the count.',
  access: MEMBERS,
  params: IdParams,
  body: Type.Object({
    panelIds: Type.Array(Id, { minItems: 1, maxItems: 200 }),
    items: Type.Array(Type.Object({ recipeId: Id, wanted: Wanted }), { minItems: 1, maxItems: 20 }),
  }),
  response: Type.Object({ added: Type.Integer(), changed: Type.Integer() }),
});

export const readFits = operation({
  method: 'GET',
  path: '/goals/:id/fits',
  summary:
    'How many exposures of a goal fit tonight and in the coming nights, by the hours in which it meets every limit.',
  access: EVERYONE,
  isDear: true,
  params: IdParams,
  query: Type.Object({ nights: Type.Integer({ minimum: 1, maximum: 60 }) }),
  response: Type.Object({
    tonight: Type.Integer(),
    nights: Type.Integer(),
    usableHours: Type.Number(),
    cycleSec: Type.Number(),
  }),
});

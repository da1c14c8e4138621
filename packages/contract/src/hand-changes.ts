// A night's plan changed by hand, and what a page needs to plan it anew at once.
import type { NightRequest } from '@meridiem/core';
import type { Static } from 'typebox';
import { Type } from 'typebox';
import { FilterClass, Id, IdParams, NightDateText, Nullable, Ok, oneOf, UtcMs } from './common.ts';
import { COORDINATORS, operation } from './operation.ts';

const RigNightParams = Type.Object({ id: Id, nightDate: NightDateText });

/** What a page knows of a goal by its id. */
export const PlanName = Type.Object({
  goalId: Id,
  panelId: Id,
  panelName: Type.String(),
  projectId: Id,
  projectName: Type.String(),
  ownerName: Type.String(),
  filterLetter: Type.String(),
  filterClass: FilterClass,
  /** Exposures of a group where its project wants filters to alternate; 0 for one after the other. */
  groupOf: Type.Integer(),
  raDeg: Nullable(Type.Number()),
  decDeg: Nullable(Type.Number()),
});
export type PlanName = Static<typeof PlanName>;

export const readPlanning = operation({
  method: 'GET',
  path: '/rigs/:id/nights/:nightDate/planning',
  summary: 'The planning problem of a rig’s night as the core takes it, with names: for planning it again in the page.',
  access: COORDINATORS,
  params: RigNightParams,
  response: Type.Object({
    /** The core's NightRequest, hand changes and kept runs included. */
    request: Type.Unsafe<NightRequest>({ type: 'object' }),
    names: Type.Array(PlanName),
  }),
});

const Pin = {
  kind: Type.Literal('pin'),
  goalId: Id,
  utcMs: UtcMs,
  count: Type.Integer({ minimum: 1, maximum: 2000 }),
};
const Ban = { kind: Type.Literal('ban'), panelId: Id };
const Hour = { kind: oneOf(['not_before', 'not_after'] as const), panelId: Id, utcMs: UtcMs };

export const HandChange = Type.Union([Type.Object(Pin), Type.Object(Ban), Type.Object(Hour)]);
export type HandChange = Static<typeof HandChange>;

export const changeByHand = operation({
  method: 'POST',
  path: '/rigs/:id/nights/:nightDate/hand-changes',
  summary: 'Change tonight’s plan by hand, some changes in place of others, as one step that can be undone.',
  access: COORDINATORS,
  params: RigNightParams,
  body: Type.Object({
    /** Ids are the caller's, so that the page can plan with them at once. */
    changes: Type.Array(
      Type.Union([Type.Object({ id: Id, ...Pin }), Type.Object({ id: Id, ...Ban }), Type.Object({ id: Id, ...Hour })]),
      { maxItems: 20 },
    ),
    replaces: Type.Array(Id, { maxItems: 100 }),
  }),
  response: Ok,
});

export const keepHandChange = operation({
  method: 'POST',
  path: '/hand-changes/:id/keep',
  summary: 'Make a hand change last: a panel left out is switched off, hours become a limit of its project.',
  access: COORDINATORS,
  params: IdParams,
  response: Type.Object({ words: Type.String() }),
});

import { SHARED_SKIES } from '@meridiem/core';
import type { Static } from 'typebox';
import { Type } from 'typebox';
import { Id, IdParams, NightDateText, Nullable, Ok, oneOf } from './common.ts';
import { COORDINATORS, EVERYONE, MEMBERS, operation } from './operation.ts';

export const SharedSky = oneOf(SHARED_SKIES);

export const SharedHours = Type.Number({ exclusiveMinimum: 0, maximum: 1000 });

/** A member’s hours of one rig and one sky, over the last open nights. */
export const StandingRow = Type.Object({
  memberId: Id,
  memberName: Type.String(),
  rigId: Id,
  skyClass: SharedSky,
  /** 0 to 1, as agreed for tonight. */
  share: Type.Number(),
  entitledHours: Type.Number(),
  /** Hours got from others, less those given. */
  givenHours: Type.Number(),
  /** Hours behind that are too many to be carried over: they no longer count. */
  lapsedHours: Type.Number(),
  chargedHours: Type.Number(),
  /** What an hour of theirs counts in plans. */
  multiplier: Type.Number(),
});
export type StandingRow = Static<typeof StandingRow>;

const Allotment = Type.Object({
  memberId: Id,
  /** Null for all rigs, and for both skies. */
  rigId: Nullable(Id),
  skyClass: Nullable(SharedSky),
  share: Type.Number({ minimum: 0, maximum: 1 }),
});
export type Allotment = Static<typeof Allotment>;

export const SharePeriod = Type.Object({
  id: Id,
  firstNight: Type.String(),
  lastNight: Nullable(Type.String()),
  allotments: Type.Array(Allotment),
});
export type SharePeriod = Static<typeof SharePeriod>;

export const ShareGift = Type.Object({
  id: Id,
  rigId: Id,
  fromId: Id,
  fromName: Type.String(),
  toId: Id,
  toName: Type.String(),
  skyClass: SharedSky,
  hours: Type.Number(),
  nightDate: Type.String(),
  words: Type.String(),
  isOfSwap: Type.Boolean(),
});
export type ShareGift = Static<typeof ShareGift>;

export const ShareSwap = Type.Object({
  id: Id,
  rigId: Id,
  fromId: Id,
  fromName: Type.String(),
  toId: Id,
  toName: Type.String(),
  givesSky: SharedSky,
  givesHours: Type.Number(),
  getsSky: SharedSky,
  getsHours: Type.Number(),
  words: Type.String(),
});
export type ShareSwap = Static<typeof ShareSwap>;

export const Standing = Type.Object({
  rows: Type.Array(StandingRow),
  /** λ: 0 lets fairness count nothing, 1 fully. */
  fairness: Type.Number(),
  /** Open nights whose share is carried over at most. */
  carryOverNights: Type.Integer(),
  /** By rig: the open nights that are counted. */
  counted: Type.Array(
    Type.Object({
      rigId: Id,
      rigName: Type.String(),
      openNights: Type.Integer(),
      firstNight: Nullable(Type.String()),
      lastNight: Nullable(Type.String()),
      /** Nights with exposures that nobody has closed yet: they don't count so far. */
      nightsToClose: Type.Integer(),
      /** Hours since the first of these nights that weather, faults and visits took: nobody’s. */
      lostHours: Type.Number(),
    }),
  ),
  /** Charged and entitled hours by calendar month, all rigs and skies together. */
  months: Type.Array(
    Type.Object({ month: Type.String(), memberId: Id, entitledHours: Type.Number(), chargedHours: Type.Number() }),
  ),
  /** The period that holds for tonight; null where nothing was agreed: then shares are equal. */
  periodInForceId: Nullable(Id),
  periods: Type.Array(SharePeriod),
  gifts: Type.Array(ShareGift),
  /** Offered to the viewer or by them, not yet answered. */
  swaps: Type.Array(ShareSwap),
});
export type Standing = Static<typeof Standing>;

export const readStanding = operation({
  method: 'GET',
  path: '/standing',
  summary: 'Entitled and charged hours of every member, and what an hour of theirs counts in plans.',
  access: EVERYONE,
  isDear: true,
  response: Standing,
});

const PeriodFields = {
  firstNight: NightDateText,
  lastNight: Nullable(NightDateText),
  allotments: Type.Array(Allotment, { maxItems: 2000 }),
};

export const addSharePeriod = operation({
  method: 'POST',
  path: '/share-periods',
  summary: 'Agree on shares for a stretch of nights.',
  access: COORDINATORS,
  body: Type.Object(PeriodFields),
  response: Type.Object({ id: Id }),
});

export const editSharePeriod = operation({
  method: 'PUT',
  path: '/share-periods/:id',
  summary: 'Change the nights or the shares of a period; nights closed already keep theirs.',
  access: COORDINATORS,
  params: IdParams,
  body: Type.Object(PeriodFields),
  response: Ok,
});

export const removeSharePeriod = operation({
  method: 'DELETE',
  path: '/share-periods/:id',
  summary: 'Take a period away; its nights have equal shares again.',
  access: COORDINATORS,
  params: IdParams,
  response: Ok,
});

export const editFairness = operation({
  method: 'PUT',
  path: '/observatory/fairness',
  summary:
    'How much it counts in plans that a member is behind, and how many open nights’ share of it is carried over.',
  access: COORDINATORS,
  body: Type.Object({
    fairness: Type.Optional(Type.Number({ minimum: 0, maximum: 1 })),
    carryOverNights: Type.Optional(Type.Integer({ minimum: 1, maximum: 60 })),
  }),
  response: Ok,
});

export const giveHours = operation({
  method: 'POST',
  path: '/share-gifts',
  summary: 'Give entitled hours of one’s own to another member.',
  access: MEMBERS,
  body: Type.Object({
    rigId: Id,
    toId: Id,
    skyClass: SharedSky,
    hours: SharedHours,
    words: Type.String({ maxLength: 300 }),
  }),
  response: Ok,
});

export const proposeSwap = operation({
  method: 'POST',
  path: '/share-swaps',
  summary: 'Offer a member hours of one sky for hours of the other.',
  access: MEMBERS,
  body: Type.Object({
    rigId: Id,
    toId: Id,
    givesSky: SharedSky,
    givesHours: SharedHours,
    getsHours: SharedHours,
    words: Type.String({ maxLength: 300 }),
  }),
  response: Type.Object({ id: Id }),
});

export const answerSwap = operation({
  method: 'POST',
  path: '/share-swaps/:id/answer',
  summary: 'Accept or decline a swap offered to oneself; the one who offered it may withdraw it.',
  access: MEMBERS,
  params: IdParams,
  body: Type.Object({ answer: oneOf(['accepted', 'declined', 'withdrawn'] as const) }),
  response: Ok,
});

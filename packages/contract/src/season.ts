import { HELPS, LIMIT_KEYS, SEASON_REASONS, SHARED_SKIES } from '@meridiem/core';
import type { Static } from 'typebox';
import { Type } from 'typebox';
import { FilterClass, Id, IdParams, NightDateText, Nullable, oneOf, UtcMs } from './common.ts';
import { JobShown } from './jobs.ts';
import { EVERYONE, MEMBERS, operation } from './operation.ts';
import { Reason } from './projects.ts';
import { SharedHours, SharedSky } from './shares.ts';

const SeasonCell = Type.Object({
  /** Null where another member's private project is worked on. */
  projectId: Nullable(Id),
  fromUtcMs: UtcMs,
  toUtcMs: UtcMs,
  exposures: Type.Integer(),
  exposingSec: Type.Number(),
  /** Mean rate of the light, over the target's own best. */
  meanRate: Type.Number(),
  filters: Type.Array(Type.Object({ letter: Type.String(), filterClass: FilterClass, exposures: Type.Integer() })),
});
export type SeasonCell = Static<typeof SeasonCell>;

const SeasonNight = Type.Object({
  nightDate: Type.String(),
  rigId: Id,
  /** Odds that it is clear; 0 where it is closed. */
  odds: Type.Number(),
  /** From sunset to sunrise; null where it is closed or the sun doesn't set. */
  startUtcMs: Nullable(UtcMs),
  endUtcMs: Nullable(UtcMs),
  darkHours: Type.Number(),
  moonlessHours: Type.Number(),
  cells: Type.Array(SeasonCell),
});
export type SeasonNight = Static<typeof SeasonNight>;

const ForecastFields = {
  /** Hours of exposure still to be taken, and those of them that the season expects to take. */
  leftHours: Type.Number(),
  expectedHours: Type.Number(),
  /** Share of the seasons played out in which it is finished within the nights looked at. */
  finishedShare: Type.Number(),
  /** The nights from and to which eight in ten of all seasons finish it, and the one by which half of them have; null where that many don't. */
  early: Nullable(Type.String()),
  middle: Nullable(Type.String()),
  late: Nullable(Type.String()),
  isOpenEnded: Type.Boolean(),
};

const SeasonProject = Type.Object({
  projectId: Id,
  name: Type.String(),
  ownerName: Type.String(),
  rigId: Id,
  deadline: Nullable(Type.String()),
  /** The night from which a planned visit, not confirmed yet, lets some of it be exposed; null where it hangs on none. */
  hangsOnVisit: Nullable(Type.String()),
  ...ForecastFields,
});
export type SeasonProject = Static<typeof SeasonProject>;

export const Season = Type.Object({
  nights: Type.Array(SeasonNight),
  projects: Type.Array(SeasonProject),
  /** Weighted hours, and what no season can exceed; the bound is null where nothing was proven. */
  value: Type.Number(),
  bound: Nullable(Type.Number()),
  /** Seasons played out under drawn weather. */
  draws: Type.Integer(),
  /** What fairness costs and does; null where shares make no difference. */
  fairness: Nullable(
    Type.Object({
      /** Share of the value that is lost against hours that go wherever they gain most. */
      price: Type.Number(),
      multipliers: Type.Array(
        Type.Object({
          memberId: Id,
          rigId: Id,
          skyClass: oneOf(SHARED_SKIES),
          multiplier: Type.Number(),
          /** Run to the last night looked at, as expected. */
          entitledHours: Type.Number(),
          chargedHours: Type.Number(),
        }),
      ),
    }),
  ),
});
export type Season = Static<typeof Season>;

/** The season where it has been planned for what is now wished; else the job that plans it, if anybody has asked for it. */
const SeasonAnswer = Type.Object({ season: Nullable(Season), job: Nullable(JobShown) });

export const readSeason = operation({
  method: 'GET',
  path: '/season',
  summary: 'The nights ahead, planned for all granted projects together, and when each should end.',
  access: EVERYONE,
  response: SeasonAnswer,
});

export const askSeason = operation({
  method: 'POST',
  path: '/season',
  summary: 'Plan the nights ahead for all granted projects together, and play them out under drawn weather.',
  access: EVERYONE,
  isDear: true,
  response: SeasonAnswer,
});

const ChangedEndFields = {
  /** Null, with no name, where it is another member's private project. */
  projectId: Nullable(Id),
  name: Nullable(Type.String()),
  middleWithout: Nullable(Type.String()),
  middleWith: Nullable(Type.String()),
  finishedShareWithout: Type.Number(),
  finishedShareWith: Type.Number(),
  /** Nights later; null where one of both doesn't end in the middle of all seasons. */
  nights: Nullable(Type.Number()),
  /** Later by more than three seeds of the same season differ by. */
  isNoticeable: Type.Boolean(),
  /** Sooner by as much. */
  isSooner: Type.Boolean(),
};
/** A project's end with a change and without it. */
export const ChangedEnd = Type.Object(ChangedEndFields);
export type ChangedEnd = Static<typeof ChangedEnd>;

/** What granting a project would do to the season. */
export const Consequences = Type.Object({
  own: Type.Object(ForecastFields),
  /** Projects delayed noticeably come first. */
  delays: Type.Array(ChangedEnd),
  draws: Type.Integer(),
  /** The last night looked at. */
  lastNight: Type.String(),
});
export type Consequences = Static<typeof Consequences>;

const ConsequencesAnswer = Type.Object({ consequences: Nullable(Consequences), job: Nullable(JobShown) });

export const readConsequences = operation({
  method: 'GET',
  path: '/projects/:id/consequences',
  summary: 'When a project would end if it were granted, and whom it would delay, where that has been worked out.',
  access: EVERYONE,
  params: IdParams,
  response: ConsequencesAnswer,
});

export const askConsequences = operation({
  method: 'POST',
  path: '/projects/:id/consequences',
  summary: 'Compare the season with a project and without it: same start, same seed, same drawn weather.',
  access: EVERYONE,
  isDear: true,
  params: IdParams,
  response: ConsequencesAnswer,
});

/** Hours of one sky for hours of the other, as they might be swapped. */
export const TriedSwap = Type.Object({
  rigId: Id,
  fromId: Id,
  toId: Id,
  givesSky: SharedSky,
  givesHours: SharedHours,
  getsHours: SharedHours,
});
export type TriedSwap = Static<typeof TriedSwap>;

/** When the projects of both members would end, before a swap and after it. */
export const SwapDates = Type.Object({
  ends: Type.Array(Type.Object({ ...ChangedEndFields, ownerId: Id })),
  /** Projects of others that would end noticeably later. */
  othersDelayed: Type.Integer(),
  draws: Type.Integer(),
  lastNight: Type.String(),
});
export type SwapDates = Static<typeof SwapDates>;

const SwapDatesAnswer = Type.Object({ dates: Nullable(SwapDates), job: Nullable(JobShown) });
export type SwapDatesAnswer = Static<typeof SwapDatesAnswer>;

export const readSwapDates = operation({
  method: 'POST',
  path: '/season/swap-dates/read',
  summary: 'Finishing dates before and after a swap of hours, where they have been worked out.',
  access: MEMBERS,
  body: TriedSwap,
  response: SwapDatesAnswer,
});

export const askSwapDates = operation({
  method: 'POST',
  path: '/season/swap-dates',
  summary:
    'Compare the season before and after a swap of hours: same start, same seed, same drawn weather. For its two members and coordinators.',
  access: MEMBERS,
  isDear: true,
  body: TriedSwap,
  response: SwapDatesAnswer,
});

/** A limit as it might be; of a project, or of the whole observatory. */
export const TriedLimit = Type.Object({
  projectId: Nullable(Id),
  class: Nullable(FilterClass),
  key: oneOf(LIMIT_KEYS),
  /** null = off. */
  value: Nullable(Type.Number()),
});
export type TriedLimit = Static<typeof TriedLimit>;

/** Changes tried on a season of its own; nothing of them is written anywhere. */
export const WhatIf = Type.Object({
  /** Projects granted that are not, and projects left out. */
  granted: Type.Optional(Type.Array(Id, { maxItems: 200 })),
  leftOut: Type.Optional(Type.Array(Id, { maxItems: 200 })),
  /** Grades, by project. */
  grades: Type.Optional(
    Type.Array(Type.Object({ projectId: Id, grade: Type.Integer({ minimum: 1, maximum: 3 }) }), { maxItems: 200 }),
  ),
  /** Nights closed besides those that are; of one rig or all. */
  closed: Type.Optional(
    Type.Array(Type.Object({ rigId: Nullable(Id), firstNight: NightDateText, lastNight: NightDateText }), {
      maxItems: 20,
    }),
  ),
  fairness: Type.Optional(Type.Number({ minimum: 0, maximum: 1 })),
  limits: Type.Optional(Type.Array(TriedLimit, { maxItems: 100 })),
  /** Shares of every rig and sky; members left out have none. */
  shares: Type.Optional(
    Type.Array(Type.Object({ memberId: Id, share: Type.Number({ minimum: 0, maximum: 1 }) }), { maxItems: 500 }),
  ),
});
export type WhatIf = Static<typeof WhatIf>;

export const readWhatIf = operation({
  method: 'POST',
  path: '/season/what-if/read',
  summary: 'The season as it would be after some changes, where that has been worked out.',
  access: EVERYONE,
  body: WhatIf,
  response: SeasonAnswer,
});

export const askWhatIf = operation({
  method: 'POST',
  path: '/season/what-if',
  summary: 'Plan the season as it would be after some changes; nothing is changed.',
  access: EVERYONE,
  isDear: true,
  body: WhatIf,
  response: SeasonAnswer,
});

/** Why a project has, or has not, a place in a night. Costs are in the season's value; others' private projects have no name. */
const SeasonReason = Type.Object({
  code: oneOf(SEASON_REASONS),
  /** Share of the target's own best light that it has, or would have, in this night. */
  rate: Nullable(Type.Number()),
  /** What the season would lose; null where nothing was compared, or it can't be forced. */
  costs: Nullable(Type.Number()),
  /** Less is no more than the spread of the search. */
  isNoticeable: Type.Boolean(),
  /** Who has the time, or would have it; null for nobody, or where it has no name. */
  rival: Nullable(Type.String()),
  /** Another's private project is meant by the rival. */
  isRivalHidden: Type.Boolean(),
  /** A better night after this one, the nights in which it is planned, its last night, or the first nights after the visits that serve it and took that away, with the rate there. */
  firstNight: Nullable(Type.String()),
  lastNight: Nullable(Type.String()),
  rateThere: Nullable(Type.Number()),
  /** What is missing in the rig: the angle of the camera, or the filter in the wheel. */
  missing: Nullable(oneOf(['angle', 'filter'] as const)),
  skies: Type.Array(oneOf(SHARED_SKIES)),
  /** The goal that a limit keeps out, and the limit. */
  filterLetter: Nullable(Type.String()),
  limit: Nullable(Reason),
});
export type SeasonReason = Static<typeof SeasonReason>;

const SeasonReasonAnswer = Type.Object({ reason: Nullable(SeasonReason), job: Nullable(JobShown) });
export type SeasonReasonAnswer = Static<typeof SeasonReasonAnswer>;

const SeasonNightParams = Type.Object({ id: Id, nightDate: NightDateText });

export const readSeasonReason = operation({
  method: 'GET',
  path: '/projects/:id/season-nights/:nightDate',
  summary: 'Why a project has, or has not, a place in a night of the season, where that has been worked out.',
  access: EVERYONE,
  params: SeasonNightParams,
  response: SeasonReasonAnswer,
});

export const askSeasonReason = operation({
  method: 'POST',
  path: '/projects/:id/season-nights/:nightDate',
  summary:
    'Find why a project has, or has not, a place in a night of the season: what forcing it in, or keeping it out, would cost.',
  access: EVERYONE,
  isDear: true,
  params: SeasonNightParams,
  response: SeasonReasonAnswer,
});

const HelpsAnswer = Type.Object({
  helps: Nullable(
    Type.Object({
      asIs: Type.Object(ForecastFields),
      /** The best first. */
      helps: Type.Array(
        Type.Object({
          key: oneOf(HELPS),
          /** Of the rig that it would be on; null where it stays. */
          rigName: Nullable(Type.String()),
          forecast: Type.Object(ForecastFields),
        }),
      ),
      /** Tried, and no help. */
      useless: Type.Array(oneOf(HELPS)),
      lastNight: Type.String(),
    }),
  ),
  job: Nullable(JobShown),
});
export type HelpsAnswer = Static<typeof HelpsAnswer>;

export const readHelps = operation({
  method: 'GET',
  path: '/projects/:id/helps',
  summary: 'What would help a project to be finished, where that has been worked out.',
  access: EVERYONE,
  params: IdParams,
  response: HelpsAnswer,
});

export const askHelps = operation({
  method: 'POST',
  path: '/projects/:id/helps',
  summary: 'Try what would help a project to be finished, each change in a season of its own.',
  access: EVERYONE,
  isDear: true,
  params: IdParams,
  response: HelpsAnswer,
});

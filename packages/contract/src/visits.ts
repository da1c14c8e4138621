import type { Static } from 'typebox';
import { Type } from 'typebox';
import { Id, IdParams, NightDateText, Nullable, Ok, oneOf, UtcMs, Version } from './common.ts';
import { JobShown } from './jobs.ts';
import { EVERYONE, HANDS, operation } from './operation.ts';

/** Work that needs hands on site. */
export const VISIT_WORK = ['angle', 'filter', 'cleaning', 'mask', 'focus', 'other'] as const;
export type VisitWork = (typeof VISIT_WORK)[number];

const Degrees = Type.Number({ minimum: 0, exclusiveMaximum: 360 });
const VisitWords = Type.String({ maxLength: 500 });

const JobFields = {
  rigId: Id,
  work: oneOf(VISIT_WORK),
  /** Where the camera is to stand; for the work "angle" only. */
  skyAngleDeg: Nullable(Degrees),
  /** The filter to put in, and the one it replaces (null for a free place); for the work "filter" only. */
  fitsId: Nullable(Id),
  removesId: Nullable(Id),
  words: VisitWords,
};

export const VisitJob = Type.Object({
  id: Id,
  ...JobFields,
  /** left: the visit was made without it. */
  state: oneOf(['open', 'done', 'left'] as const),
  settledByName: Nullable(Type.String()),
  settledUtcMs: Nullable(UtcMs),
  /** As measured afterwards; from a frame where one is named. */
  measuredDeg: Nullable(Type.Number()),
  frameUtcMs: Nullable(UtcMs),
});
export type VisitJob = Static<typeof VisitJob>;

export const Visit = Type.Object({
  id: Id,
  version: Type.Integer(),
  /** The night that follows the day of the visit. */
  nightDate: Type.String(),
  goesId: Nullable(Id),
  goesName: Nullable(Type.String()),
  words: Type.String(),
  jobs: Type.Array(VisitJob),
});
export type Visit = Static<typeof Visit>;

export const readVisits = operation({
  method: 'GET',
  path: '/visits',
  summary: 'Visits to the site, planned and made, with their work.',
  access: EVERYONE,
  response: Type.Object({
    /** In time order; of those that are over, the last ones. */
    visits: Type.Array(Visit),
    /** Who has hands on site and may go. */
    hands: Type.Array(Type.Object({ personId: Id, name: Type.String() })),
  }),
});

const NewVisitJob = Type.Object(JobFields);
export type NewVisitJob = Static<typeof NewVisitJob>;

export const addVisit = operation({
  method: 'POST',
  path: '/visits',
  summary: 'Plan a visit: what it will change is reckoned with in the season, never in a night before it is confirmed.',
  access: HANDS,
  body: Type.Object({
    nightDate: NightDateText,
    goesId: Nullable(Id),
    words: VisitWords,
    jobs: Type.Array(NewVisitJob, { maxItems: 30 }),
  }),
  response: Type.Object({ id: Id }),
});

export const editVisit = operation({
  method: 'PATCH',
  path: '/visits/:id',
  summary: 'Move a visit, say who goes, or cancel it.',
  access: HANDS,
  params: IdParams,
  body: Type.Object({
    version: Version,
    nightDate: Type.Optional(NightDateText),
    goesId: Type.Optional(Nullable(Id)),
    words: Type.Optional(VisitWords),
    cancelled: Type.Optional(Type.Boolean()),
  }),
  response: Ok,
});

export const addVisitJob = operation({
  method: 'POST',
  path: '/visits/:id/jobs',
  summary: 'Add work to a planned visit.',
  access: HANDS,
  params: IdParams,
  body: NewVisitJob,
  response: Type.Object({ id: Id }),
});

export const settleVisitJob = operation({
  method: 'POST',
  path: '/visit-jobs/:id/outcome',
  summary: 'Confirm work as done, with the angle measured afterwards, or say that it was left; or remove it.',
  access: HANDS,
  params: IdParams,
  body: Type.Object({
    outcome: oneOf(['done', 'left', 'removed'] as const),
    /** Typed by whoever measured it. */
    measuredDeg: Type.Optional(Degrees),
    /** Or taken from a frame with world coordinates. */
    exposureId: Type.Optional(Id),
  }),
  response: Ok,
});

export const readMeasuredAngles = operation({
  method: 'GET',
  path: '/rigs/:id/measured-angles',
  summary: 'Angles of the camera as the latest imported frames of a rig have them in their world coordinates.',
  access: HANDS,
  params: IdParams,
  response: Type.Object({
    frames: Type.Array(
      Type.Object({ exposureId: Id, startUtcMs: UtcMs, skyAngleDeg: Type.Number(), nightDate: Type.String() }),
    ),
  }),
});

/** Exposing time, by project: more is unlocked, less is blocked. Others’ private projects are summed up without a name. */
const MovedHours = Type.Array(
  Type.Object({ projectId: Nullable(Id), name: Nullable(Type.String()), hours: Type.Number() }),
);
export type MovedHours = Static<typeof MovedHours>;

export const readVisitEffects = operation({
  method: 'GET',
  path: '/visits/effects',
  summary: 'What the work of planned visits opens and closes: exposing time still wanted, by project.',
  access: EVERYONE,
  response: Type.Object({ effects: Type.Array(Type.Object({ jobId: Id, hours: MovedHours })) }),
});

const AdvisedJob = Type.Object({
  rigId: Id,
  skyAngleDeg: Nullable(Type.Number()),
  fitsId: Nullable(Id),
  removesId: Nullable(Id),
  /** Weighted hours that the season gains, the cost of the visit not taken off. */
  gainHours: Type.Number(),
  /** As the season expects it. */
  hours: MovedHours,
});

export const VisitAdvice = Type.Object({
  visits: Type.Array(
    Type.Object({
      nightDate: Type.String(),
      /** It joins a visit that is planned already. */
      isPlanned: Type.Boolean(),
      jobs: Type.Array(AdvisedJob),
    }),
  ),
  /** What a visit must be worth in weighted hours, and nights between two. */
  costHours: Type.Number(),
  apartNights: Type.Integer(),
});
export type VisitAdvice = Static<typeof VisitAdvice>;

const AdviceAnswer = Type.Object({ advice: Nullable(VisitAdvice), job: Nullable(JobShown) });
export type VisitAdviceAnswer = Static<typeof AdviceAnswer>;

export const readVisitAdvice = operation({
  method: 'GET',
  path: '/visits/advice',
  summary: 'Proposed visits, where they have been worked out for the present goals.',
  access: EVERYONE,
  response: AdviceAnswer,
});

export const askVisitAdvice = operation({
  method: 'POST',
  path: '/visits/advice',
  summary: 'Try turns of the camera and exchanges of filters on the nights ahead: which visits would gain enough.',
  access: HANDS,
  isDear: true,
  response: AdviceAnswer,
});

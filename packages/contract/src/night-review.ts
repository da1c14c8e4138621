// A night looked at afterwards: the best it could have been, and where the difference went.
import { GAP_CAUSES } from '@meridiem/core';
import type { Static } from 'typebox';
import { Type } from 'typebox';
import { FilterClass, IdParams, Nullable } from './common.ts';
import { JobShown } from './jobs.ts';
import { EVERYONE, operation } from './operation.ts';

const Hours = Type.Number();
const NightReview = Type.Object({
  /** Hours exposed in the best night. */
  bestHours: Hours,
  /** What the night brought, in the worth of an hour of the best night. */
  takenHours: Hours,
  /** Where the difference went; negative where a cause was a gain. */
  gapHours: Type.Object(Object.fromEntries(GAP_CAUSES.map((cause) => [cause, Hours])) as Record<(typeof GAP_CAUSES)[number], typeof Hours>), // prettier-ignore
  takenExposureHours: Hours,
  /** Everything but exposing took so many times as long as the rig's own times say. */
  overheadFactor: Type.Number(),
  lostHours: Type.Object({ weather: Hours, fault: Hours, hand: Hours }),
  /** Exposures of the best night, by filter. */
  best: Type.Array(Type.Object({ filterLetter: Type.String(), filterClass: FilterClass, exposures: Type.Integer() })),
});
export type ShownNightReview = Static<typeof NightReview>;

const NightReviewAnswer = Type.Object({
  review: Nullable(NightReview),
  /** Whether it has been worked out; without a review the sky of that night left nothing to plan. */
  isWorkedOut: Type.Boolean(),
  /** Why there can be none; null where there can. */
  whyNot: Nullable(Type.String()),
  job: Nullable(JobShown),
});
export type NightReviewAnswer = Static<typeof NightReviewAnswer>;

export const readNightReview = operation({
  method: 'GET',
  path: '/runs/:id/review',
  summary: 'The best a night by devices could have been and where the difference went, where that has been worked out.',
  access: EVERYONE,
  params: IdParams,
  response: NightReviewAnswer,
});

export const askNightReview = operation({
  method: 'POST',
  path: '/runs/:id/review',
  summary: 'Work out the best a night by devices could have been and where the difference went.',
  access: EVERYONE,
  isDear: true,
  params: IdParams,
  response: NightReviewAnswer,
});

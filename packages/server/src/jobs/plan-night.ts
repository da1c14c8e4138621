// The worker's side of planning: one request in, a plan and every goal's windows out.
import type { MessagePort } from 'node:worker_threads';
import type { Consequences, EarlyEnds, LimitCost, Outlook, Season, SeasonDifference, WhatHelps } from '@meridiem/core';
import {
  consequencesOf,
  earlyEnds,
  explainSeasonNight,
  limitCost,
  outlookOf,
  planNight,
  proposeVisits,
  reserveOf,
  reviewNight,
  seasonDifference,
  seasonOutlook,
  usableSecByNight,
  whatHelps,
} from '@meridiem/core';
import type {
  ConsequencesJob,
  EarlyEndsJob,
  HelpsJob,
  LimitJob,
  OutlookJob,
  PlanJob,
  PlanResult,
  ReviewJob,
  ReviewResult,
  SeasonJob,
  SeasonReasonJob,
  SeasonReasonResult,
  SwapDatesJob,
  UsableJob,
  VisitsJob,
  VisitsResult,
} from './plan-job.ts';

/** A stored job tells how far it is. */
export interface ToldProgress {
  readonly progress?: MessagePort;
}

export default function planNightJob({ request, options }: PlanJob): PlanResult {
  const started = performance.now();
  const { plan, survey, problem, solution } = planNight(request, options);
  const goals = (survey?.goals ?? []).map(({ goalId, windows, gaps, blocked, limits }) => ({
    goalId,
    windows,
    gaps,
    blocked,
    limits,
  }));
  const reserve = survey && problem && solution ? reserveOf({ request, survey, problem, solution }) : [];
  return { plan, goals, reserve, planningMs: performance.now() - started };
}

export const outlookJob = ({ request, nights, options, progress }: OutlookJob & ToldProgress): Outlook =>
  outlookOf(request, nights, options, (share) => progress?.postMessage(share));

export const earlyEndsJob = ({ request, options, plan }: EarlyEndsJob): EarlyEnds | null =>
  earlyEnds(request, plan, options);

export const limitJob = ({ request, nights, key, proposed }: LimitJob): LimitCost =>
  limitCost(request, nights, key, proposed);

export const usableJob = ({ request, nights }: UsableJob): number[][] => usableSecByNight(request, nights);

/** A thread is ended from outside: nothing asks for it to stop. */
const telling =
  (progress: MessagePort | undefined) =>
  (share: number): boolean => {
    progress?.postMessage(share);
    return false;
  };

export const seasonJob = ({ request, options, before, progress }: SeasonJob & ToldProgress): Season =>
  seasonOutlook(request, { ...options, before }, telling(progress))!;

export const consequencesJob = ({
  compared,
  options,
  before,
  progress,
}: ConsequencesJob & ToldProgress): Consequences =>
  consequencesOf(compared, { ...options, before }, telling(progress))!;

export const swapDatesJob = ({ swapped, options, before, progress }: SwapDatesJob & ToldProgress): SeasonDifference =>
  seasonDifference(swapped, { ...options, before }, telling(progress))!;

export const helpsJob = ({ helped, options, before, progress }: HelpsJob & ToldProgress): WhatHelps =>
  whatHelps(helped.request, helped.projectId, { ...options, before }, telling(progress), helped.others)!;

export const seasonReasonJob = ({ asked, options, progress }: SeasonReasonJob & ToldProgress): SeasonReasonResult => ({
  reason: explainSeasonNight(asked, options, telling(progress)),
});

export const visitsJob = ({ visited, options, progress }: VisitsJob & ToldProgress): VisitsResult => ({
  visits: proposeVisits(visited, options, telling(progress))!,
});

export const reviewJob = ({ reviewed, options, progress }: ReviewJob & ToldProgress): ReviewResult => ({
  review: reviewNight(reviewed, options, telling(progress)),
});

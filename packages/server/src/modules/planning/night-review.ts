// A night by devices looked at afterwards, worked out as a stored job from what its plan was made from and how it went.
import type { FilterClass, NightReview } from '@meridiem/core';
import { DEFAULT_REVIEW_OPTIONS, REVIEW_VERSION } from '@meridiem/core';
import type { NightReviewAnswer } from '@meridiem/contract';
import { notFound, ServiceError } from '../../errors.ts';
import type { ReviewJob, ReviewResult } from '../../jobs/plan-job.ts';
import type { Answer, AskedFor } from '../../jobs/service.ts';
import type { Viewer } from '../../plugins/sessions.ts';
import { nightRecordOf } from '../runs/index.ts';
import { filtersOfGoals } from './goals-repository.ts';
import { publishedPlanOf } from './published-repository.ts';
import { hashOf } from './request.ts';
import type { PlanningUse } from './service.ts';

export function createNightReview({ database, jobs }: Pick<PlanningUse, 'database' | 'jobs'>) {
  /** @returns why it can't be, where nothing is kept that a review could be made of
   * @throws NOT_FOUND */
  async function asked({ observatoryId }: Viewer, runId: string): Promise<AskedFor | { readonly whyNot: string }> {
    const { models } = database;
    const run = await models.NightRun.findOne({ where: { id: runId, observatoryId, kind: 'night' } });
    if (!run) throw notFound('run');
    const { rigId, nightDate } = (await models.NightPlan.findByPk(run.planId))!;
    const plans = await models.NightPlan.findAll({ where: { rigId, nightDate } });
    const order = [['requested', 'ASC']] as [string, string][];
    const runs = await models.NightRun.findAll({ where: { planId: plans.map(({ id }) => id), kind: 'night' }, order });
    if (runs.some(({ endedAs }) => endedAs === null))
      return { whyNot: 'A night is reviewed when it is over, and only if devices carried it out.' };
    const first = plans.find(({ id }) => id === runs[0].planId)!;
    const kept = await models.PlanRequest.findByPk(first.id);
    if (!kept) return { whyNot: 'No review: this plan was published before the data behind a plan were kept.' };
    const { plan } = (await publishedPlanOf(database, rigId, nightDate, first.seq))!;
    const record = await nightRecordOf(database, runs);
    const request: ReviewJob = {
      reviewed: { request: kept.request, plan: { blocks: plan.blocks }, record },
      options: DEFAULT_REVIEW_OPTIONS,
    };
    return { kind: 'review', requestHash: hashOf({ ...request, version: REVIEW_VERSION }), request };
  }

  async function shown({ result, job }: Answer<ReviewResult>): Promise<NightReviewAnswer> {
    const review = result?.review ?? null;
    return {
      isWorkedOut: result !== null,
      whyNot: null,
      job,
      review: review && { ...review, best: await byFilter(review.best) },
    };
  }

  async function byFilter(best: NightReview['best']): Promise<NonNullable<NightReviewAnswer['review']>['best']> {
    const goals = await filtersOfGoals(database, best.map(({ goalId }) => goalId)); // prettier-ignore
    const counts = new Map<string, { filterLetter: string; filterClass: FilterClass; exposures: number }>();
    for (const { id, filterLetter, filterClass } of goals) {
      const exposures = best.filter(({ goalId }) => goalId === id).reduce((sum, one) => sum + one.exposures, 0);
      const before = counts.get(filterLetter)?.exposures ?? 0;
      counts.set(filterLetter, { filterLetter, filterClass, exposures: before + exposures });
    }
    return [...counts.values()].sort((a, b) => a.filterLetter.localeCompare(b.filterLetter));
  }

  return {
    async nightReview(viewer: Viewer, runId: string): Promise<NightReviewAnswer> {
      const request = await asked(viewer, runId);
      if ('whyNot' in request) return { ...request, review: null, isWorkedOut: false, job: null };
      return shown(await jobs.read<ReviewResult>(viewer, request));
    },

    /** @throws NOT_POSSIBLE where there can be none */
    async askNightReview(viewer: Viewer, runId: string): Promise<NightReviewAnswer> {
      const request = await asked(viewer, runId);
      if ('whyNot' in request) throw new ServiceError('NOT_POSSIBLE', request.whyNot);
      return shown(await jobs.ask<ReviewResult>(viewer, request));
    },
  };
}

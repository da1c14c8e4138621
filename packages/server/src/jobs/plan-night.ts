// The worker's side of planning: one request in, a plan and every goal's windows out.
import type { Outlook } from '@meridiem/core';
import { outlookOf, planNight, reserveOf } from '@meridiem/core';
import type { OutlookJob, PlanJob, PlanResult } from './plan-job.ts';

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

export const outlookJob = ({ request, nights, options }: OutlookJob): Outlook => outlookOf(request, nights, options);

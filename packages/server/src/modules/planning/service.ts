// Plans: of a night, of one project's nights to come; changed by hand, published.
import type { ResponseOf, readPlanning } from '@meridiem/contract';
import type { NightPlan } from '@meridiem/core';
import type { JobService } from '../../jobs/service.ts';
import type { Viewer } from '../../plugins/sessions.ts';
import { asSeenBy } from '../../privacy.ts';
import type { ChangeService } from '../changes/index.ts';
import { nightNamed } from '../nights/index.ts';
import type { ObservatoryService } from '../observatory/index.ts';
import type { RigNight } from './hand-changes-repository.ts';
import { createEarlyEnds } from './early-ends.ts';
import { createNightPages } from './night-pages.ts';
import { createNightReview } from './night-review.ts';
import { createPlanChanges } from './plan-changes.ts';
import { createProjectNights } from './project-nights.ts';
import { planName } from './rig-plan.ts';
import type { RestOfNight, RigPlanner, RigPlannerParts } from './rig-planner.ts';
import { createRigPlanner, rigNamed } from './rig-planner.ts';
import { createSeason } from './season.ts';
import { createSeasonReason } from './season-reason.ts';
import { createSwapDates } from './swap-dates.ts';
import { createVisitAdvice } from './visit-advice.ts';

export interface PlanningParts extends RigPlannerParts {
  readonly observatory: ObservatoryService;
  readonly changes: ChangeService;
  readonly jobs: JobService;
  readonly searchEffort: number;
}

/** What each use case needs. */
export interface PlanningUse extends PlanningParts {
  readonly planner: RigPlanner;
}

export type PlanningService = ReturnType<typeof createPlanningService>;

export function createPlanningService(parts: PlanningParts) {
  const { observatory: observatories } = parts;
  const planner = createRigPlanner(parts);
  const use = { ...parts, planner };
  return {
    ...createEarlyEnds(use),
    ...createNightPages(use),
    ...createNightReview(use),
    ...createPlanChanges(use),
    ...createProjectNights(use),
    ...createSeason(use),
    ...createSeasonReason(use),
    ...createSwapDates(use),
    ...createVisitAdvice(use),

    /** For a night under way. */
    async restOfNight({ observatoryId, rigId, nightDate }: RigNight, rest: RestOfNight): Promise<NightPlan> {
      const observatory = await observatories.read(observatoryId);
      return planner.restOfNight(observatory, rigNamed(observatory, rigId), nightNamed(observatory, nightDate), rest);
    },

    /** The problem of a rig's night with names, for a page that plans by itself. */
    async planning(viewer: Viewer, rigId: string, nightDate: string): Promise<ResponseOf<typeof readPlanning>> {
      const observatory = await observatories.read(viewer.observatoryId);
      const night = nightNamed(observatory, nightDate);
      const { request, rows } = await planner.survey(observatory, rigNamed(observatory, rigId), night);
      return { request, names: rows.map(asSeenBy(viewer)).map(planName) };
    },
  };
}

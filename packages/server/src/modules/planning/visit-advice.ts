// Visits worth making: worked out as a job, shown with names.
import type { ResponseOf, VisitAdvice, readVisitAdvice } from '@meridiem/contract';
import type { ProposedVisit, VisitOptions } from '@meridiem/core';
import { SEASON_VERSION, VISIT_RULES } from '@meridiem/core';
import type { VisitsResult } from '../../jobs/plan-job.ts';
import type { Answer, AskedFor } from '../../jobs/service.ts';
import type { Viewer } from '../../plugins/sessions.ts';
import { isVisible } from '../../privacy.ts';
import { hashOf } from './request.ts';
import type { SeasonFacts } from './season-facts.ts';
import { seasonFacts } from './season-facts.ts';
import type { SeasonParts } from './season.ts';

const TRIALS = { ...VISIT_RULES, seed: 1, secondsEach: 0.4 } as const;

export function createVisitAdvice(parts: SeasonParts) {
  const { jobs } = parts;

  async function asked(viewer: Viewer): Promise<{ facts: SeasonFacts; request: AskedFor }> {
    const facts = await seasonFacts(parts, viewer.observatoryId);
    const options: VisitOptions = { ...TRIALS, visitNights: [...new Set(facts.work.map((one) => one.nightDate))] };
    const request = { visited: facts.requestWith({ anyFilter: true }), options };
    return {
      facts,
      request: { kind: 'visits', requestHash: hashOf({ ...request, version: SEASON_VERSION }), request },
    };
  }

  return {
    async visitAdvice(viewer: Viewer): Promise<ResponseOf<typeof readVisitAdvice>> {
      const { facts, request } = await asked(viewer);
      return shown(viewer, facts, await jobs.read<VisitsResult>(viewer, request));
    },

    async askVisitAdvice(viewer: Viewer): Promise<ResponseOf<typeof readVisitAdvice>> {
      const { facts, request } = await asked(viewer);
      return shown(viewer, facts, await jobs.ask<VisitsResult>(viewer, request));
    },
  };
}

function shown(
  viewer: Viewer,
  { rows }: SeasonFacts,
  { result, job }: Answer<VisitsResult>,
): ResponseOf<typeof readVisitAdvice> {
  if (!result) return { advice: null, job };
  const known = new Map(rows.map((row) => [row.projectId, row]));
  const named = ({ hours, ...rest }: ProposedVisit['jobs'][number]): VisitAdvice['visits'][number]['jobs'][number] => {
    const seen = hours.filter(({ projectId }) => known.has(projectId) && isVisible(known.get(projectId)!, viewer));
    const hidden = hours.filter((one) => !seen.includes(one)).reduce((sum, one) => sum + one.hours, 0);
    return {
      ...rest,
      fitsId: rest.fits,
      removesId: rest.removes,
      hours: [
        ...seen.map((one) => ({ ...one, name: known.get(one.projectId)!.projectName })),
        ...(hidden === 0 ? [] : [{ projectId: null, name: null, hours: hidden }]),
      ],
    };
  };
  const visits = result.visits.map((visit) => ({ ...visit, jobs: visit.jobs.map(named) }));
  return { advice: { visits, costHours: TRIALS.costHours, apartNights: TRIALS.apartNights }, job };
}

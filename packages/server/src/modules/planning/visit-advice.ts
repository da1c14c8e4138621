// What planned visits open and close, and which would be worth making: that is worked out as a job, and shown with names.
import type { MovedHours, ResponseOf, readVisitAdvice, readVisitEffects } from '@meridiem/contract';
import type { ProposedVisit, VisitOptions } from '@meridiem/core';
import { SEASON_VERSION, servedOn, VISIT_RULES } from '@meridiem/core';
import type { VisitsResult } from '../../jobs/plan-job.ts';
import type { Answer, AskedFor } from '../../jobs/service.ts';
import type { Viewer } from '../../plugins/sessions.ts';
import { isVisible } from '../../privacy.ts';
import { hashOf } from './request.ts';
import type { SeasonFacts } from './season-facts.ts';
import { seasonFacts, visitedRig, visitsOf } from './season-facts.ts';
import type { SeasonParts } from './season.ts';

type Moved = ProposedVisit['jobs'][number]['hours'][number];

const TRIALS = { ...VISIT_RULES, seed: 1, secondsEach: 0.4 } as const;

export function createVisitAdvice(parts: SeasonParts) {
  const { jobs, searchEffort } = parts;

  async function asked(viewer: Viewer): Promise<{ facts: SeasonFacts; request: AskedFor }> {
    const facts = await seasonFacts(parts, viewer.observatoryId);
    const options: VisitOptions = {
      ...TRIALS,
      secondsEach: TRIALS.secondsEach * searchEffort,
      visitNights: [...new Set(facts.work.map((one) => one.nightDate))],
    };
    const request = { visited: facts.requestWith({ anyFilter: true }), options };
    return {
      facts,
      request: { kind: 'visits', requestHash: hashOf({ ...request, version: SEASON_VERSION }), request },
    };
  }

  return {
    /** What each piece of planned work opens and closes, after all work before it. */
    async visitEffects(viewer: Viewer): Promise<ResponseOf<typeof readVisitEffects>> {
      const facts = await seasonFacts(parts, viewer.observatoryId);
      return {
        effects: facts.work.map((work) => ({
          jobId: work.jobId,
          hours: seenHours(viewer, facts, movedBy(facts, work)),
        })),
      };
    },

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

/** Exposing time still wanted that a piece of work opens, less what it closes. */
function movedBy(facts: SeasonFacts, { jobId, rigId }: SeasonFacts['work'][number]): Moved[] {
  const own = facts.work.filter((work) => work.rigId === rigId);
  const place = own.findIndex((work) => work.jobId === jobId);
  const visits = visitsOf(own, rigId);
  const [before, after] = [place, place + 1].map((count) =>
    servedOn(visitedRig(facts, rigId, visits.slice(0, count)), visits[place].nightDate),
  );
  const hours = new Map<string, number>();
  for (const row of facts.rowsOf(rigId)) {
    if (row.state !== 'granted' || row.resting || !row.enabled || row.wanted === null) continue;
    const gain = Number(after(row.positionAngleDeg, row.filterId)) - Number(before(row.positionAngleDeg, row.filterId));
    const leftHours = (Math.max(0, row.wanted - row.accepted - row.undecided) * row.exposureSec) / 3600;
    hours.set(row.projectId, (hours.get(row.projectId) ?? 0) + gain * leftHours);
  }
  return [...hours].filter(([, moved]) => moved !== 0).map(([projectId, moved]) => ({ projectId, hours: moved }));
}

/** Others' private projects are summed up without a name. */
function seenHours(viewer: Viewer, { rows }: SeasonFacts, moved: readonly Moved[]): MovedHours {
  const known = new Map(rows.map((row) => [row.projectId, row]));
  const seen = moved.filter(({ projectId }) => known.has(projectId) && isVisible(known.get(projectId)!, viewer));
  const hidden = moved.filter((one) => !seen.includes(one)).reduce((sum, one) => sum + one.hours, 0);
  return [
    ...seen.map((one) => ({ ...one, name: known.get(one.projectId)!.projectName })),
    ...(hidden === 0 ? [] : [{ projectId: null, name: null, hours: hidden }]),
  ];
}

function shown(
  viewer: Viewer,
  facts: SeasonFacts,
  { result, job }: Answer<VisitsResult>,
): ResponseOf<typeof readVisitAdvice> {
  if (!result) return { advice: null, job };
  const named = ({ hours, fits, removes, ...rest }: ProposedVisit['jobs'][number]) => ({
    ...rest,
    fitsId: fits,
    removesId: removes,
    hours: seenHours(viewer, facts, hours),
  });
  const visits = result.visits.map((visit) => ({ ...visit, jobs: visit.jobs.map(named) }));
  return { advice: { visits, costHours: TRIALS.costHours, apartNights: TRIALS.apartNights }, job };
}

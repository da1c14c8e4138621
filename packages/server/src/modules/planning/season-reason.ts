// Why a project has, or has not, a place in a night of the season that stands: worked out as a job, shown with names.
import type { SeasonReason, SeasonReasonAnswer } from '@meridiem/contract';
import type { ExplainOptions, SeasonReason as FoundReason, Season } from '@meridiem/core';
import { notFound, ServiceError } from '../../errors.ts';
import type { SeasonReasonResult } from '../../jobs/plan-job.ts';
import type { Answer, AskedFor } from '../../jobs/service.ts';
import type { Viewer } from '../../plugins/sessions.ts';
import { isVisible } from '../../privacy.ts';
import type { SeasonFacts } from './season-facts.ts';
import type { SeasonParts } from './season.ts';
import { keyed, seasonAsked } from './season.ts';

/** Of one core, for each search of those that are compared. */
const SECONDS = 0.5;
/** Of the season's value: searches of the same season differ by as much. */
const NOTICEABLE = 0.005;

interface NightOfProject {
  readonly id: string;
  readonly nightDate: string;
}

interface AskedReason {
  readonly facts: SeasonFacts;
  readonly season: Season;
  readonly request: AskedFor;
}

export function createSeasonReason(parts: SeasonParts) {
  const { jobs } = parts;

  /** Null where the season is not planned for what is now wished.
   * @throws NOT_FOUND where the viewer may not see the project */
  async function asked(viewer: Viewer, { id, nightDate }: NightOfProject): Promise<AskedReason | null> {
    const { facts, request: ofSeason } = await seasonAsked(parts, viewer);
    const row = facts.rows.find(({ projectId }) => projectId === id);
    if (!row || !isVisible(row, viewer)) throw notFound('project');
    const { result: season } = await jobs.read<Season>(viewer, ofSeason);
    if (!season) return null;
    const options: ExplainOptions = { seed: 1, seconds: SECONDS * parts.searchEffort };
    const { plan, fairness } = season;
    const night = { projectId: id, nightDate, plan, multipliers: fairness?.multipliers ?? [] };
    return {
      facts,
      season,
      request: keyed('seasonReason', { asked: { request: facts.requestWith(), ...night }, options }),
    };
  }

  return {
    async seasonReason(viewer: Viewer, night: NightOfProject): Promise<SeasonReasonAnswer> {
      const found = await asked(viewer, night);
      if (!found) return { reason: null, job: null };
      return shown(viewer, found, await jobs.read<SeasonReasonResult>(viewer, found.request));
    },

    async askSeasonReason(viewer: Viewer, night: NightOfProject): Promise<SeasonReasonAnswer> {
      const found = await asked(viewer, night);
      if (!found) throw new ServiceError('NOT_POSSIBLE', 'The season has to be planned first: open its page');
      const { season } = found;
      const [first, last] = [season.nights[0], season.nights.at(-1)].map((one) => one?.nightDate ?? '');
      if (night.nightDate < first || night.nightDate > last)
        throw new ServiceError('NOT_POSSIBLE', `The season looks at the nights from ${first} to ${last}`);
      if (!season.projects.some(({ projectId }) => projectId === night.id))
        throw new ServiceError('NOT_POSSIBLE', 'The season holds nothing of this project: it is not granted, rests, or has no goal that could be exposed'); // prettier-ignore
      return shown(viewer, found, await jobs.ask<SeasonReasonResult>(viewer, found.request));
    },
  };
}

const NOTHING: Omit<SeasonReason, 'code'> = {
  rate: null,
  costs: null,
  isNoticeable: false,
  rival: null,
  isRivalHidden: false,
  firstNight: null,
  lastNight: null,
  rateThere: null,
  missing: null,
  skies: [],
  filterLetter: null,
  limit: null,
};

function shown(
  viewer: Viewer,
  { facts, season }: AskedReason,
  { result, job }: Answer<SeasonReasonResult>,
): SeasonReasonAnswer {
  const reason = result?.reason;
  if (!reason) return { reason: null, job };
  return { reason: { ...NOTHING, code: reason.code, ...partsOf(viewer, facts, season, reason) }, job };
}

function partsOf(viewer: Viewer, facts: SeasonFacts, season: Season, reason: FoundReason): Partial<SeasonReason> {
  const priced = (costs: number | null) => ({
    costs,
    isNoticeable: costs !== null && costs > NOTICEABLE * season.value,
  });
  switch (reason.code) {
    case 'PAST_LAST_NIGHT':
      return { lastNight: reason.lastNight };
    case 'NOT_SERVED':
      return { missing: reason.is, firstNight: reason.fromNight, lastNight: reason.sinceNight };
    case 'GRANT_USED':
      return { skies: [...reason.skies] };
    case 'LIMIT':
    case 'WINDOW_TOO_SHORT':
      return {
        filterLetter: facts.rows.find(({ goalId }) => goalId === reason.goalId)?.filterLetter ?? null,
        limit: reason.code === 'LIMIT' ? limitOf(reason.gap) : null,
      };
    case 'HERE':
      return {
        rate: reason.rate,
        firstNight: reason.better?.nightDate ?? null,
        rateThere: reason.better?.rate ?? null,
        ...priced(reason.second.costs),
        ...rivalOf(viewer, facts, reason.second.projectId),
      };
    case 'ELSEWHERE': {
      const { rate, firstNight, lastNight, rateThere } = reason;
      return { rate, firstNight, lastNight, rateThere, ...priced(reason.costs) };
    }
    case 'OUTBID':
      return { rate: reason.rate, ...priced(reason.costs), ...rivalOf(viewer, facts, reason.rivalProjectId) };
    default:
      return {};
  }
}

const limitOf = ({
  code,
  limit,
  best,
  worst,
  origin,
  startUtcMs,
  endUtcMs,
}: Extract<FoundReason, { code: 'LIMIT' }>['gap']): SeasonReason['limit'] => ({
  ...{ code, limit, best, worst, origin },
  rival: null,
  interval: { startUtcMs, endUtcMs },
});

function rivalOf(viewer: Viewer, { rows }: SeasonFacts, projectId: string | null) {
  const row = rows.find((one) => one.projectId === projectId);
  const isSeen = row !== undefined && isVisible(row, viewer);
  return { rival: isSeen ? row.projectName : null, isRivalHidden: projectId !== null && !isSeen };
}

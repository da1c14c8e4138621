// The nights ahead of all rigs, planned for all granted projects together; and what one more project would do to them.
import type {
  Consequences,
  Filter,
  HelpsAnswer,
  readSeason,
  ResponseOf,
  SeasonNight,
  SeasonProject,
  WhatIf,
} from '@meridiem/contract';
import type { Consequences as FoundConsequences, Season, SeasonOptions, WhatHelps } from '@meridiem/core';
import { SEASON_VERSION, waitsForVisit } from '@meridiem/core';
import { notFound, ServiceError } from '../../errors.ts';
import type { HelpsJob } from '../../jobs/plan-job.ts';
import { standingSeasonHash } from '../../jobs/repository.ts';
import type { Answer, AskedFor, JobService } from '../../jobs/service.ts';
import type { Viewer } from '../../plugins/sessions.ts';
import { isVisible } from '../../privacy.ts';
import { refuseOutside } from '../limits/index.ts';
import { hashOf } from './request.ts';
import type { SeasonFactParts, SeasonFacts } from './season-facts.ts';
import { otherRigs } from './other-rigs.ts';
import { seasonFacts, visitedRig, visitsOf } from './season-facts.ts';

/** Seconds of one core, at the usual effort. */
const OPTIONS = { seed: 1, seconds: 8, boundRounds: 200, draws: 200 } as const;
/** Up to nine seasons of one project: each gets less still. */
const HELPED = { seed: 1, seconds: 2, boundRounds: 0, draws: 100 } as const;
/** Four seasons are compared: each gets less. */
export const COMPARED = { seed: 1, seconds: 3, boundRounds: 0, draws: 200 } as const;

export interface SeasonParts extends SeasonFactParts {
  readonly jobs: JobService;
  /** How much seasons are searched, against what is usual. */
  readonly searchEffort: number;
}

type ConsequencesAnswer = { consequences: Consequences | null; job: Answer<FoundConsequences>['job'] };

type Usual = typeof OPTIONS | typeof HELPED | typeof COMPARED;

/** Options of a search under the observatory's weather, at the effort of this server. */
export const searchOptions = (
  { searchEffort }: SeasonParts,
  usual: Usual,
  { observatory }: SeasonFacts,
): SeasonOptions => ({
  ...usual,
  seconds: usual.seconds * searchEffort,
  boundRounds: Math.ceil(usual.boundRounds * searchEffort),
  persistence: observatory.weatherPersistence,
});

/** The season as things are. */
export async function seasonAsked(
  parts: SeasonParts,
  { observatoryId }: Viewer,
): Promise<{ facts: SeasonFacts; request: AskedFor }> {
  const facts = await seasonFacts(parts, observatoryId);
  return {
    facts,
    request: keyed('season', { request: facts.requestWith(), options: searchOptions(parts, OPTIONS, facts) }),
  };
}

/** To begin with the season that stands: what it is asked by stays the same, so that the answer is found again. */
export async function begun(
  { database }: Pick<SeasonParts, 'database'>,
  { observatoryId }: Viewer,
  asked: AskedFor,
  more: object = {},
): Promise<AskedFor> {
  const beforeHash = await standingSeasonHash(database, observatoryId);
  return { ...asked, request: { ...asked.request, ...more, ...(beforeHash ? { beforeHash } : {}) } };
}

export function createSeason(parts: SeasonParts) {
  const { jobs } = parts;
  const optionsOf = (usual: Usual, facts: SeasonFacts): SeasonOptions => searchOptions(parts, usual, facts);

  const asked = (viewer: Viewer) => seasonAsked(parts, viewer);

  /** A season as it would be: changes of what the viewer may not see are refused as if it were not there. */
  async function whatIfAsked(viewer: Viewer, whatIf: WhatIf): Promise<{ facts: SeasonFacts; request: AskedFor }> {
    const facts = await seasonFacts(parts, viewer.observatoryId);
    const { granted = [], leftOut = [], grades = [], limits = [], shares, ...others } = whatIf;
    const named = [...grades, ...limits].flatMap(({ projectId }) => projectId ?? []);
    for (const projectId of [...granted, ...leftOut, ...named])
      if (!facts.rows.some((row) => row.projectId === projectId && isVisible(row, viewer))) throw notFound('project');
    for (const { rigId } of whatIf.closed ?? [])
      if (rigId !== null && !facts.observatory.rigs.some(({ id }) => id === rigId)) throw notFound('rig');
    for (const { key, value } of limits) refuseOutside(key, value);
    const options = optionsOf(OPTIONS, facts);
    const request = facts.requestWith({
      ...others,
      limits,
      granted,
      leftOut,
      grades: Object.fromEntries(grades.map(({ projectId, grade }) => [projectId, grade])),
      ...(shares ? { memberShares: Object.fromEntries(shares.map(({ memberId, share }) => [memberId, share])) } : {}),
    });
    return { facts, request: keyed('season', { request, options }) };
  }

  async function helpsAsked(viewer: Viewer, projectId: string): Promise<{ facts: SeasonFacts; request: AskedFor }> {
    const facts = await seasonFacts(parts, viewer.observatoryId);
    await seenGoals(viewer, facts, projectId);
    const options = optionsOf(HELPED, facts);
    const helped = { projectId, request: facts.requestWith(), others: otherRigs(facts, projectId) };
    if (!helped.request.rigs.some(({ request }) => request.projects.some(({ id }) => id === projectId)))
      throw new ServiceError('NOT_POSSIBLE', 'The season holds nothing of this project: it is not granted, rests, or has no goal that could be exposed'); // prettier-ignore
    return { facts, request: keyed('helps', { helped, options }) };
  }

  /** Goals of a project that the viewer may see.
   * @throws NOT_FOUND, NOT_POSSIBLE where it has none */
  async function seenGoals(viewer: Viewer, facts: SeasonFacts, projectId: string): Promise<SeasonFacts['rows']> {
    const own = facts.rows.filter((row) => row.projectId === projectId);
    if (own.length === 0) {
      const project = await parts.database.models.Project.findOne({ where: { id: projectId, observatoryId: viewer.observatoryId } }); // prettier-ignore
      if (!project || !isVisible(project, viewer)) throw notFound('project');
      throw new ServiceError('NOT_POSSIBLE', 'This project has no goal yet');
    }
    if (!isVisible(own[0], viewer)) throw notFound('project');
    return own;
  }

  async function consequencesAsked(
    viewer: Viewer,
    projectId: string,
  ): Promise<{ facts: SeasonFacts; request: AskedFor }> {
    const facts = await seasonFacts(parts, viewer.observatoryId);
    const own = await seenGoals(viewer, facts, projectId);
    const options = optionsOf(COMPARED, facts);
    const compared = {
      projectId,
      withProject: facts.requestWith({ granted: [projectId] }),
      // One that is granted already asks for more: what it has goes on.
      without: facts.requestWith(own[0].state === 'granted' ? {} : { leftOut: [projectId] }),
    };
    return { facts, request: keyed('consequences', { compared, options }) };
  }

  return {
    async season(viewer: Viewer): Promise<ResponseOf<typeof readSeason>> {
      const { facts, request } = await asked(viewer);
      return shownTo(viewer, await jobs.read<Season>(viewer, request), facts);
    },

    async askSeason(viewer: Viewer): Promise<ResponseOf<typeof readSeason>> {
      const { facts, request } = await asked(viewer);
      return shownTo(viewer, await jobs.ask<Season>(viewer, await begun(parts, viewer, request, { isStanding: true })), facts); // prettier-ignore
    },

    async whatIf(viewer: Viewer, changes: WhatIf): Promise<ResponseOf<typeof readSeason>> {
      const { facts, request } = await whatIfAsked(viewer, changes);
      return shownTo(viewer, await jobs.read<Season>(viewer, request), facts);
    },

    async askWhatIf(viewer: Viewer, changes: WhatIf): Promise<ResponseOf<typeof readSeason>> {
      const { facts, request } = await whatIfAsked(viewer, changes);
      return shownTo(viewer, await jobs.ask<Season>(viewer, await begun(parts, viewer, request)), facts);
    },

    async helps(viewer: Viewer, projectId: string): Promise<HelpsAnswer> {
      const { facts, request } = await helpsAsked(viewer, projectId);
      return shownHelps(await jobs.read<WhatHelps>(viewer, request), request, facts);
    },

    async askHelps(viewer: Viewer, projectId: string): Promise<HelpsAnswer> {
      const { facts, request } = await helpsAsked(viewer, projectId);
      return shownHelps(await jobs.ask<WhatHelps>(viewer, await begun(parts, viewer, request)), request, facts);
    },

    /** What granting a project would do, where somebody has asked for it. */
    async consequences(viewer: Viewer, projectId: string): Promise<ConsequencesAnswer> {
      const { facts, request } = await consequencesAsked(viewer, projectId);
      return shownConsequences(viewer, await jobs.read<FoundConsequences>(viewer, request), facts);
    },

    async askConsequences(viewer: Viewer, projectId: string): Promise<ConsequencesAnswer> {
      const { facts, request } = await consequencesAsked(viewer, projectId);
      return shownConsequences(
        viewer,
        await jobs.ask<FoundConsequences>(viewer, await begun(parts, viewer, request)),
        facts,
      );
    },
  };
}

/** Results are kept by what was asked, of the planner as it now is. */
export const keyed = (kind: AskedFor['kind'], request: object): AskedFor => ({
  kind,
  requestHash: hashOf({ ...request, version: SEASON_VERSION }),
  request,
});

function shownHelps(
  { result, job }: Answer<WhatHelps>,
  { request }: AskedFor,
  { observatory: { rigs } }: SeasonFacts,
): HelpsAnswer {
  if (!result) return { helps: null, job };
  const { nights } = (request as HelpsJob).helped.request;
  const { asIs, helps, useless } = result;
  return {
    helps: {
      asIs: forecastOnly(asIs),
      helps: helps.map(({ key, rigId, forecast }) => ({
        key,
        rigName: rigs.find(({ id }) => id === rigId)?.name ?? null,
        forecast: forecastOnly(forecast),
      })),
      useless: [...useless],
      lastNight: nights.at(-1)!.night.nightDate,
    },
    job,
  };
}

const forecastOnly = ({ projectId: _own, ...forecast }: WhatHelps['asIs']) => forecast;

/** Others' private projects lose their names, not their delays. */
function shownConsequences(
  viewer: Viewer,
  { result, job }: Answer<FoundConsequences>,
  { rows }: SeasonFacts,
): ConsequencesAnswer {
  if (!result) return { consequences: null, job };
  const known = new Map(rows.map((row) => [row.projectId, row]));
  const delays = result.delays.map(({ projectId, ...delay }) => {
    const row = known.get(projectId);
    const isSeen = row !== undefined && isVisible(row, viewer);
    return { ...delay, projectId: isSeen ? projectId : null, name: isSeen ? row.projectName : null };
  });
  return { consequences: { ...result, own: forecastOnly(result.own), delays }, job };
}

/** A season as somebody may see it: another's private project takes its time without a name. */
function shownTo(viewer: Viewer, { result, job }: Answer<Season>, facts: SeasonFacts): ResponseOf<typeof readSeason> {
  if (!result) return { season: null, job };
  const { observatory, rows, deadlines } = facts;
  const known = new Map(rows.map((row) => [row.projectId, row]));
  const isSeen = (projectId: string): boolean => known.has(projectId) && isVisible(known.get(projectId)!, viewer);
  const filters = new Map(observatory.filters.map((filter) => [filter.id, filter]));
  const nights = result.nights.map((night) => ({
    ...night,
    cells: night.cells.map((cell) => shownCell(cell, isSeen(cell.projectId), filters)),
  }));
  const rigOf = new Map(result.nights.flatMap(({ rigId, cells }) => cells.map(({ projectId }) => [projectId, rigId])));
  const projects = result.projects
    .filter(({ projectId }) => isSeen(projectId))
    .map((project): SeasonProject => {
      const { projectName: name, ownerName, rigId } = { rigId: rigOf.get(project.projectId), ...known.get(project.projectId)! }; // prettier-ignore
      return {
        ...project,
        name,
        ownerName,
        rigId: rigId ?? observatory.rigs[0].id,
        deadline: deadlines.get(project.projectId) ?? null,
        hangsOnVisit: hangsOnVisit(facts, project.projectId),
      };
    });
  const { value, bound, draws, fairness } = result;
  const multipliers = fairness?.multipliers.map((one) => ({ ...one })) ?? [];
  return {
    season: { nights, projects, value, bound, draws, fairness: fairness && { price: fairness.price, multipliers } },
    job,
  };
}

/** The first night for which some of a project waits until hands have been on site. */
function hangsOnVisit({ observatory, rowsOf, work }: SeasonFacts, projectId: string): string | null {
  const nights = observatory.rigs.flatMap((rig) => {
    const visits = visitsOf(work, rig.id);
    if (visits.length === 0) return [];
    const visited = visitedRig({ observatory }, rig.id, visits);
    return rowsOf(rig.id)
      .filter((row) => row.projectId === projectId && row.enabled)
      .map((row) => waitsForVisit(visited, row.positionAngleDeg, row.filterId));
  });
  return nights.filter((night) => night !== null).sort()[0] ?? null;
}

function shownCell(
  { projectId, filters: counts, ...cell }: Season['nights'][number]['cells'][number],
  isSeen: boolean,
  filters: ReadonlyMap<string, Filter>,
): SeasonNight['cells'][number] {
  return {
    ...cell,
    projectId: isSeen ? projectId : null,
    filters: isSeen
      ? counts.flatMap(({ filterId, exposures }) => {
          const filter = filters.get(filterId);
          return filter ? [{ letter: filter.letter, filterClass: filter.class, exposures }] : [];
        })
      : [],
  };
}

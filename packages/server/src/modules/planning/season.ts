// The nights ahead of all rigs, planned for all granted projects together; and what one more project would do to them.
import type { Consequences, Filter, readSeason, ResponseOf, SeasonNight, SeasonProject } from '@meridiem/contract';
import type { Consequences as FoundConsequences, Season, SeasonOptions } from '@meridiem/core';
import { SEASON_VERSION } from '@meridiem/core';
import { notFound, ServiceError } from '../../errors.ts';
import type { Answer, AskedFor, JobService } from '../../jobs/service.ts';
import type { Viewer } from '../../plugins/sessions.ts';
import { isVisible } from '../../privacy.ts';
import { hashOf } from './request.ts';
import type { SeasonFactParts, SeasonFacts } from './season-facts.ts';
import { seasonFacts } from './season-facts.ts';

const OPTIONS = { seed: 1, seconds: 10, boundRounds: 200, draws: 200 } as const;
/** Four seasons are compared: each gets less. */
const COMPARED = { seed: 1, seconds: 3, boundRounds: 0, draws: 200 } as const;

export interface SeasonParts extends SeasonFactParts {
  readonly jobs: JobService;
}

type ConsequencesAnswer = { consequences: Consequences | null; job: Answer<FoundConsequences>['job'] };

export function createSeason(parts: SeasonParts) {
  const { jobs } = parts;

  async function asked(viewer: Viewer): Promise<{ facts: SeasonFacts; request: AskedFor }> {
    const facts = await seasonFacts(parts, viewer.observatoryId);
    const options: SeasonOptions = { ...OPTIONS, persistence: facts.observatory.weatherPersistence };
    return { facts, request: keyed('season', { request: facts.requestWith(), options }) };
  }

  async function consequencesAsked(
    viewer: Viewer,
    projectId: string,
  ): Promise<{ facts: SeasonFacts; request: AskedFor }> {
    const facts = await seasonFacts(parts, viewer.observatoryId);
    const own = facts.rows.filter((row) => row.projectId === projectId);
    if (own.length === 0) {
      const project = await parts.database.models.Project.findOne({ where: { id: projectId, observatoryId: viewer.observatoryId } }); // prettier-ignore
      if (!project || !isVisible(project, viewer)) throw notFound('project');
      throw new ServiceError('NOT_POSSIBLE', 'This project has no goal yet');
    }
    if (!isVisible(own[0], viewer)) throw notFound('project');
    const options: SeasonOptions = { ...COMPARED, persistence: facts.observatory.weatherPersistence };
    const compared = {
      projectId,
      withProject: facts.requestWith({ granted: projectId }),
      without: facts.requestWith({ leftOut: projectId }),
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
      return shownTo(viewer, await jobs.ask<Season>(viewer, request), facts);
    },

    /** What granting a project would do, where somebody has asked for it. */
    async consequences(viewer: Viewer, projectId: string): Promise<ConsequencesAnswer> {
      const { facts, request } = await consequencesAsked(viewer, projectId);
      return shownConsequences(viewer, await jobs.read<FoundConsequences>(viewer, request), facts);
    },

    async askConsequences(viewer: Viewer, projectId: string): Promise<ConsequencesAnswer> {
      const { facts, request } = await consequencesAsked(viewer, projectId);
      return shownConsequences(viewer, await jobs.ask<FoundConsequences>(viewer, request), facts);
    },
  };
}

/** Results are kept by what was asked, of the planner as it now is. */
const keyed = (kind: AskedFor['kind'], request: object): AskedFor => ({
  kind,
  requestHash: hashOf({ ...request, version: SEASON_VERSION }),
  request,
});

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
  const { projectId: _own, ...own } = result.own;
  return { consequences: { ...result, own, delays }, job };
}

/** A season as somebody may see it: another's private project takes its time without a name. */
function shownTo(
  viewer: Viewer,
  { result, job }: Answer<Season>,
  { observatory, rows, deadlines }: SeasonFacts,
): ResponseOf<typeof readSeason> {
  if (!result) return { season: null, job };
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
      };
    });
  return { season: { nights, projects, value: result.value, bound: result.bound, draws: result.draws }, job };
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

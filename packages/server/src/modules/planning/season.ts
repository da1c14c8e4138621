// The nights ahead of all rigs, planned for all granted projects together.
import type { Filter, Observatory, readSeason, ResponseOf, SeasonNight, SeasonProject } from '@meridiem/contract';
import type { Season, SeasonOptions, SeasonRequest } from '@meridiem/core';
import { nightDatePlus, observingNight, SEASON_VERSION } from '@meridiem/core';
import type { Clock } from '../../clock.ts';
import type { Database } from '../../database/connection.ts';
import type { Answer, AskedFor, JobService } from '../../jobs/service.ts';
import { placedRows } from '../../moving-target.ts';
import type { Viewer } from '../../plugins/sessions.ts';
import { isVisible } from '../../privacy.ts';
import type { ObservatoryService } from '../observatory/index.ts';
import type { GoalRow } from './goals-repository.ts';
import { deadlinesOf, goalRowsOf, limitsOf } from './goals-repository.ts';
import { hashOf, nightRequest, projectAcceptanceRate, standingReason } from './request.ts';

/** Nights that a season looks at. */
const SEASON_NIGHTS = 60;
const OPTIONS = { seed: 1, seconds: 10, boundRounds: 200, draws: 200 } as const;

export interface SeasonParts {
  readonly database: Database;
  readonly clock: Clock;
  readonly observatory: ObservatoryService;
  readonly jobs: JobService;
}

interface Asked extends AskedFor {
  readonly observatory: Observatory;
  readonly rows: readonly GoalRow[];
  readonly deadlines: ReadonlyMap<string, string>;
}

export function createSeason({ database, clock, observatory: observatories, jobs }: SeasonParts) {
  async function asked(viewer: Viewer): Promise<Asked> {
    const observatory = await observatories.read(viewer.observatoryId);
    const deadlines = await deadlinesOf(database, viewer.observatoryId);
    const limits = await limitsOf(database, viewer.observatoryId);
    const rows = await Promise.all(observatory.rigs.map((rig) => goalRowsOf(database, rig.id)));
    const rigs = observatory.rigs.map((rig, r): SeasonRequest['rigs'][number] => {
      const offered = rows[r].filter((row) => standingReason(row) === null);
      const projectIds = [...new Set(offered.map(({ projectId }) => projectId))];
      const request = nightRequest({
        observatory,
        rig,
        night: observingNight(observatory.tonight, observatory.timeZone),
        fromUtcMs: null,
        rows: placedRows(offered, observatory, clock.nowUtcMs()),
        limits,
      });
      return {
        rigId: rig.id,
        request,
        acceptance: Object.fromEntries(projectIds.map((id) => [id, projectAcceptanceRate(offered, id)])),
        lastNight: Object.fromEntries(
          projectIds.flatMap((id) => (deadlines.has(id) ? [[id, deadlines.get(id)!]] : [])),
        ),
        closed: closedNights(observatory, rig.id),
      };
    });
    const nights = nightsAhead(observatory);
    const options: SeasonOptions = { ...OPTIONS, persistence: observatory.weatherPersistence };
    const request = { request: { rigs, nights }, options };
    return {
      kind: 'season',
      requestHash: hashOf({ ...request, version: SEASON_VERSION }),
      request,
      observatory,
      rows: rows.flat(),
      deadlines,
    };
  }

  return {
    async season(viewer: Viewer): Promise<ResponseOf<typeof readSeason>> {
      const { observatory, rows, deadlines, ...request } = await asked(viewer);
      return shownTo(viewer, await jobs.read<Season>(viewer, request), { observatory, rows, deadlines });
    },

    async askSeason(viewer: Viewer): Promise<ResponseOf<typeof readSeason>> {
      const { observatory, rows, deadlines, ...request } = await asked(viewer);
      return shownTo(viewer, await jobs.ask<Season>(viewer, request), { observatory, rows, deadlines });
    },
  };
}

function nightsAhead({ tonight, timeZone, climate }: Observatory): SeasonRequest['nights'] {
  return Array.from({ length: SEASON_NIGHTS }, (_, i) => {
    const nightDate = nightDatePlus(tonight, i);
    const month = Number(nightDate.slice(5, 7));
    return { night: observingNight(nightDate, timeZone), odds: climate.find((one) => one.month === month)!.clearOdds };
  });
}

/** Nights of the season on which a rig, or everything, is closed. */
const closedNights = ({ tonight, closures }: Observatory, rigId: string): string[] =>
  Array.from({ length: SEASON_NIGHTS }, (_, i) => nightDatePlus(tonight, i)).filter((nightDate) =>
    closures.some(
      (closure) =>
        (closure.rigId === null || closure.rigId === rigId) &&
        closure.firstNight <= nightDate &&
        nightDate <= closure.lastNight,
    ),
  );

/** A season as somebody may see it: another's private project takes its time without a name. */
function shownTo(
  viewer: Viewer,
  { result, job }: Answer<Season>,
  { observatory, rows, deadlines }: Pick<Asked, 'observatory' | 'rows' | 'deadlines'>,
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

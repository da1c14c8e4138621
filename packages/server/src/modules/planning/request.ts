// The observatory's rows to one planning request per rig.
import { createHash } from 'node:crypto';
import type { Filter, Observatory, Rig } from '@meridiem/contract';
import type { NightRequest, ObservingNight, RequestedGoal, RequestedPanel } from '@meridiem/core';
import { acceptanceRate, doneCount, exposuresToPlan, horizonProfile } from '@meridiem/core';
import type { GoalRow, ScopedLimit } from './goals-repository.ts';
import { settingsOf } from './goals-repository.ts';

/** Weight of a project by the coordinator's grade. */
const GRADE_WEIGHTS: Readonly<Record<number, number>> = { 1: 0.5, 2: 1, 3: 2 };

/** Why a goal is not offered to the planner at all, whatever the sky; null where it is. */
export function standingReason(row: GoalRow): 'NOT_GRANTED' | 'RESTING' | 'SWITCHED_OFF' | 'FILTER_NOT_FITTED' | null {
  if (row.state !== 'granted') return 'NOT_GRANTED';
  if (row.resting) return 'RESTING';
  if (!row.enabled) return 'SWITCHED_OFF';
  return row.fitted ? null : 'FILTER_NOT_FITTED';
}

export interface RequestParts {
  readonly observatory: Observatory;
  readonly rig: Rig;
  readonly night: ObservingNight;
  readonly fromUtcMs: number | null;
  readonly rows: readonly GoalRow[];
  readonly limits: readonly ScopedLimit[];
}

export function nightRequest({ observatory, rig, night, fromUtcMs, rows, limits }: RequestParts): NightRequest {
  const projects = [...new Map(rows.map((row) => [row.projectId, row])).values()];
  const panels = [...new Map(rows.map((row) => [row.panelId, row])).values()];
  const rates = new Map(projects.map(({ projectId }) => [projectId, projectAcceptanceRate(rows, projectId)]));
  return {
    site: {
      latitudeDeg: observatory.latitudeDeg,
      longitudeDeg: observatory.longitudeDeg,
      elevationM: observatory.elevationM,
    },
    timeZone: observatory.timeZone,
    night,
    fromUtcMs,
    zenithMagV: observatory.zenithMagV,
    horizon: horizonProfile(observatory.horizon),
    bounds: { ...observatory.bounds },
    observatoryLimits: limits.filter((limit) => limit.scope === 'observatory'),
    rig: { ...rig, detector: rig },
    filters: observatory.filters.map((filter) => ({ ...filter, offsetKnown: isOffsetKnown(rig, filter) })),
    projects: projects.map((row) => ({
      id: row.projectId,
      weight: GRADE_WEIGHTS[row.grade] ?? 1,
      panelOrder: row.panelOrder,
      arrival: row.arrival,
      limits: limits.filter((limit) => limit.scope === 'project' && limit.projectId === row.projectId),
    })),
    panels: panels.map(requestedPanel),
    goals: rows.map((row) => requestedGoal(row, rates.get(row.projectId)!, limits)),
  };
}

/** Identity of what a plan was made from. Time passing changes what is left of a night, not what is wished: `fromUtcMs` stays out. */
export const standingHash = (request: NightRequest): string => hashOf({ ...request, fromUtcMs: null });

/** SHA-256 of a value's JSON. */
export const hashOf = (value: unknown): string => createHash('sha256').update(JSON.stringify(value)).digest('hex');

/** How many of a project's judged exposures are accepted, from its own goals. */
export function projectAcceptanceRate(
  rows: readonly Pick<GoalRow, 'projectId' | 'accepted' | 'rejected'>[],
  projectId: string,
): number {
  const own = rows.filter((row) => row.projectId === projectId);
  const sum = (key: 'accepted' | 'rejected'): number => own.reduce((total, row) => total + row[key], 0);
  return acceptanceRate(sum('accepted'), sum('rejected'));
}

const isOffsetKnown = (rig: Rig, filter: Filter): boolean =>
  rig.slots.some((slot) => slot.filterId === filter.id && slot.focusOffsetSteps !== null);

function requestedPanel(row: GoalRow): RequestedPanel {
  const position = row.raDeg === null || row.decDeg === null ? null : { raDeg: row.raDeg, decDeg: row.decDeg };
  return { id: row.panelId, projectId: row.projectId, position, positionAngleDeg: row.positionAngleDeg };
}

function requestedGoal(row: GoalRow, rate: number, limits: readonly ScopedLimit[]): RequestedGoal {
  const offered = standingReason(row) === null;
  return {
    id: row.goalId,
    panelId: row.panelId,
    filterId: row.filterId,
    settings: settingsOf(row),
    binning: row.binning,
    readNoiseE: row.readNoiseE,
    toPlan: offered ? exposuresToPlan(row, row.counting, rate) : 0,
    done: doneCount(row, row.counting),
    wanted: offered ? row.wanted : 0,
    groupOf: row.filterGroup,
    limits: limits.filter((limit) => limit.scope === 'goal' && limit.goalId === row.goalId),
  };
}

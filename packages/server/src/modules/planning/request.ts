// The observatory's rows to one planning request per rig.
import { createHash } from 'node:crypto';
import type { Filter, Observatory, Rig } from '@meridiem/contract';
import type { NightRequest, ObservingNight, RequestedGoal, RequestedPanel } from '@meridiem/core';
import { acceptanceRate, darkCurrentAt, doneCount, exposuresToPlan, horizonProfile, rankWeights } from '@meridiem/core';
import type { GoalRow, ScopedLimit } from './goals-repository.ts';
import { settingsOf } from './goals-repository.ts';

/** Weight of a project by the coordinator's grade. */
const GRADE_WEIGHTS: Readonly<Record<number, number>> = { 1: 0.5, 2: 1, 3: 2 };

/** What is left of a grant when nothing more can be done with it. */
const LEAST_ENVELOPE_HOURS = 0.02;

/** Why a goal is not offered to the planner at all, whatever the sky; null where it is. */
export function standingReason(
  row: GoalRow,
): 'NOT_GRANTED' | 'RESTING' | 'SWITCHED_OFF' | 'ENVELOPE_USED' | 'PAST_LAST_NIGHT' | 'FILTER_NOT_FITTED' | null {
  if (row.state !== 'granted') return 'NOT_GRANTED';
  if (row.resting) return 'RESTING';
  if (!row.enabled) return 'SWITCHED_OFF';
  if (row.envelope && row.envelope.dark + row.envelope.bright < LEAST_ENVELOPE_HOURS) return 'ENVELOPE_USED';
  if (row.counts === 0) return 'PAST_LAST_NIGHT';
  return row.fitted ? null : 'FILTER_NOT_FITTED';
}

export interface RequestParts {
  readonly observatory: Observatory;
  readonly rig: Rig;
  readonly night: ObservingNight;
  readonly fromUtcMs: number | null;
  readonly rows: readonly GoalRow[];
  readonly limits: readonly ScopedLimit[];
  /** What members' hours count for how far they are behind or ahead, by project; all alike where left out. */
  readonly multipliers?: ReadonlyMap<string, number>;
}

export function nightRequest({
  observatory,
  rig,
  night,
  fromUtcMs,
  rows,
  limits,
  multipliers,
}: RequestParts): NightRequest {
  const projects = [...new Map(rows.map((row) => [row.projectId, row])).values()];
  const panels = [...new Map(rows.map((row) => [row.panelId, row])).values()];
  const rates = new Map(projects.map(({ projectId }) => [projectId, projectAcceptanceRate(rows, projectId)]));
  const goals = rows.map((row) => requestedGoal(row, { rig, rate: rates.get(row.projectId)!, limits }));
  const ranks = ranksOf(rows, goals);
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
      weight: (GRADE_WEIGHTS[row.grade] ?? 1) * ranks.get(row.projectId)! * (multipliers?.get(row.projectId) ?? 1) * (row.counts || 1), // prettier-ignore
      panelOrder: row.panelOrder,
      arrival: row.arrival,
      limits: limits.filter((limit) => limit.scope === 'project' && limit.projectId === row.projectId),
    })),
    panels: panels.map(requestedPanel),
    goals,
  };
}

/** Each owner's own order of projects as weights whose mean over the hours left is 1. */
function ranksOf(rows: readonly GoalRow[], goals: readonly RequestedGoal[]): Map<string, number> {
  const left = new Map<string, number>();
  rows.forEach(({ projectId, exposureSec }, g) =>
    left.set(projectId, (left.get(projectId) ?? 0) + (goals[g].toPlan * exposureSec) / 3600),
  );
  const projects = [...new Map(rows.map((row) => [row.projectId, row])).values()];
  return new Map(
    [...new Set(projects.map(({ ownerId }) => ownerId))].flatMap((owner) => {
      const own = projects.filter(({ ownerId }) => ownerId === owner);
      const weights = rankWeights(own.map(({ ownRank }) => ownRank), own.map(({ projectId }) => left.get(projectId)!)); // prettier-ignore
      return own.map(({ projectId }, i) => [projectId, weights[i]] as const);
    }),
  );
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

/** Exposures of a goal still to be planned, whether or not its project is granted.
 * @param rows all goals of its project */
export const exposuresLeft = (row: GoalRow, rows: readonly GoalRow[]): number =>
  exposuresToPlan(row, row.counting, projectAcceptanceRate(rows, row.projectId));

const isOffsetKnown = (rig: Rig, filter: Filter): boolean =>
  rig.slots.some((slot) => slot.filterId === filter.id && slot.focusOffsetSteps !== null);

function requestedPanel(row: GoalRow): RequestedPanel {
  const position = row.raDeg === null || row.decDeg === null ? null : { raDeg: row.raDeg, decDeg: row.decDeg };
  return { id: row.panelId, projectId: row.projectId, position, positionAngleDeg: row.positionAngleDeg };
}

function requestedGoal(
  row: GoalRow,
  { rig, rate, limits }: { rig: Rig; rate: number; limits: readonly ScopedLimit[] },
): RequestedGoal {
  const offered = standingReason(row) === null;
  return {
    id: row.goalId,
    panelId: row.panelId,
    filterId: row.filterId,
    settings: settingsOf(row),
    binning: row.binning,
    readNoiseE: row.readNoiseE,
    darkCurrentEPerSec: darkCurrentAt(rig, row.sensorC),
    toPlan: offered ? exposuresToPlan(row, row.counting, rate) : 0,
    done: doneCount(row, row.counting),
    wanted: offered ? row.wanted : 0,
    groupOf: row.filterGroup,
    limits: limits.filter((limit) => limit.scope === 'goal' && limit.goalId === row.goalId),
  };
}

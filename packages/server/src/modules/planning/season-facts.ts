// The nights ahead of all rigs as one request: what is offered to the planner, closed nights, deadlines, odds.
import type { Observatory, TriedLimit, TriedSwap } from '@meridiem/contract';
import type {
  ChargeWeights,
  EnvelopeHours,
  SeasonRequest,
  SeasonShares,
  SeasonVisit,
  VisitedRig,
} from '@meridiem/core';
import { nightDatePlus, observingNight, withJoined } from '@meridiem/core';
import type { Database } from '../../database/connection.ts';
import { placedInNight } from '../../moving-target.ts';
import { joinedGoalsOf } from '../joins/index.ts';
import type { ObservatoryService } from '../observatory/index.ts';
import { chargeWeightsOf, seasonShares, standingRows } from '../shares/index.ts';
import type { PlannedWork } from '../visits/index.ts';
import { plannedWork } from '../visits/index.ts';
import { clockHours } from './favours.ts';
import type { GoalRow, ScopedLimit } from './goals-repository.ts';
import { deadlinesOf, goalRowsOf, limitsOf } from './goals-repository.ts';
import { nightRequest, projectAcceptanceRate, standingReason } from './request.ts';

/** Nights that a season looks at. */
export const SEASON_NIGHTS = 60;

export interface SeasonFactParts {
  readonly database: Database;
  readonly observatory: ObservatoryService;
}

/** What seasons of an observatory are made from. */
export interface SeasonFacts {
  readonly observatory: Observatory;
  /** Goals of every project that isn't retired, of all rigs. */
  readonly rows: readonly GoalRow[];
  readonly deadlines: ReadonlyMap<string, string>;
  readonly work: readonly PlannedWork[];
  readonly rowsOf: (rigId: string) => readonly GoalRow[];
  /** The season as things are, or as they would be after a change. */
  readonly requestWith: (change?: SeasonChange) => SeasonRequest;
}

/** What a season might have that isn't so: nothing of it is written anywhere. */
export interface SeasonChange {
  /** Projects looked at as granted without a bound. */
  readonly granted?: readonly string[];
  readonly leftOut?: readonly string[];
  /** Grades, by project. */
  readonly grades?: Readonly<Record<string, number>>;
  /** Nights closed besides those that are. */
  readonly closed?: readonly ClosedNights[];
  /** Limits in the place of those that are set so. */
  readonly limits?: readonly TriedLimit[];
  readonly fairness?: number;
  /** Goals whose filter is not in the wheel are offered as well: a visit might put it in. */
  readonly anyFilter?: boolean;
  /** Shares by member, of every rig and sky. */
  readonly memberShares?: Readonly<Record<string, number>>;
  /** Hours that two members might swap. */
  readonly swapped?: TriedSwap;
}

type ClosedNights = Pick<Observatory['closures'][number], 'rigId' | 'firstNight' | 'lastNight'>;

export async function seasonFacts(
  { database, observatory: observatories }: SeasonFactParts,
  observatoryId: string,
): Promise<SeasonFacts> {
  const observatory = await observatories.read(observatoryId);
  const deadlines = await deadlinesOf(database, observatoryId);
  const limits = await limitsOf(database, observatoryId);
  const byRig = await Promise.all(observatory.rigs.map((rig) => goalRowsOf(database, rig.id)));
  const joined = await Promise.all(observatory.rigs.map((rig) => joinedGoalsOf(database, rig.id)));
  const weights = await chargeWeightsOf(database, observatoryId);
  const memberOf = Object.fromEntries(byRig.flat().map(({ projectId, ownerId }) => [projectId, ownerId]));
  const { tonight } = observatory;
  const work = await plannedWork(database, observatoryId, tonight);
  const shares = seasonShares(await standingRows(database, { observatoryId, tonight }), memberOf, weights);
  return {
    observatory,
    rows: byRig.flat(),
    deadlines,
    work,
    rowsOf: (rigId) => byRig[observatory.rigs.findIndex(({ id }) => id === rigId)] ?? [],
    requestWith: ({
      granted = [],
      leftOut = [],
      grades = {},
      closed = [],
      limits: tried = [],
      fairness,
      memberShares,
      swapped,
      anyFilter = false,
    } = {}) => ({
      // prettier-ignore
      shares: changedShares(shares, { fairness, memberShares, swapped }),
      nights: nightsAhead(observatory),
      rigs: observatory.rigs.map((rig, r): SeasonRequest['rigs'][number] => {
        const visits = visitsOf(work, rig.id);
        const fits = new Set(visits.flatMap((visit) => visit.fits));
        const notFitted = [...new Set(byRig[r].flatMap((row) => (row.fitted ? [] : [row.filterId])))];
        const offered = byRig[r]
          .map((row) => (anyFilter || fits.has(row.filterId) ? { ...row, fitted: true } : row))
          .map((row) => ({ ...row, grade: grades[row.projectId] ?? row.grade }))
          .map((row) =>
            granted.includes(row.projectId) ? { ...row, state: 'granted', resting: false, envelope: null } : row,
          )
          .filter((row) => !leftOut.includes(row.projectId) && standingReason(row) === null);
        const projectIds = [...new Set(offered.map(({ projectId }) => projectId))];
        const night = observingNight(observatory.tonight, observatory.timeZone);
        const rows = placedInNight(offered, observatory, night);
        return {
          rigId: rig.id,
          request: withJoined(
            nightRequest({ observatory, rig, night, fromUtcMs: null, rows, limits: withTried(limits, tried) }),
            joined[r],
          ),
          acceptance: Object.fromEntries(projectIds.map((id) => [id, projectAcceptanceRate(offered, id)])),
          lastNight: Object.fromEntries(
            projectIds.flatMap((id) => (deadlines.has(id) ? [[id, deadlines.get(id)!]] : [])),
          ),
          decayNights: Object.fromEntries(offered.flatMap(({ projectId, decayNights }) => (decayNights ? [[projectId, decayNights]] : []))), // prettier-ignore
          closed: closedNights(observatory.tonight, [...observatory.closures, ...closed], rig.id),
          envelopeHours: envelopesOf(offered, weights),
          ...(visits.length > 0 || anyFilter ? { visits, notFitted } : {}),
        };
      }),
    }),
  };
}

/** Each tried limit stands where it would be set; what is set more closely still goes before it. */
function withTried(limits: readonly ScopedLimit[], tried: readonly TriedLimit[]): readonly ScopedLimit[] {
  const isReplaced = (limit: ScopedLimit): boolean =>
    tried.some((one) => limit.goalId === null && limit.projectId === one.projectId && limit.class === one.class && limit.key === one.key); // prettier-ignore
  const set = tried.map((one): ScopedLimit => ({
    ...one,
    goalId: null,
    scope: one.projectId ? 'project' : 'observatory',
  }));
  return [...limits.filter((limit) => !isReplaced(limit)), ...set];
}

function changedShares(
  shares: SeasonShares,
  { fairness = shares.fairness, memberShares, swapped }: Pick<SeasonChange, 'fairness' | 'memberShares' | 'swapped'>,
): SeasonShares {
  const standings = shares.standings.map((row) => ({
    ...row,
    share: memberShares ? (memberShares[row.memberId] ?? 0) : row.share,
    entitledHours: row.entitledHours + (swapped ? hoursGot(swapped, row) : 0),
  }));
  return { ...shares, fairness, standings };
}

/** What a swap adds to a member's entitled hours of a rig and sky. */
function hoursGot(
  { rigId, fromId, toId, givesSky, givesHours, getsHours }: TriedSwap,
  row: SeasonShares['standings'][number],
): number {
  if (row.rigId !== rigId || (row.memberId !== fromId && row.memberId !== toId)) return 0;
  const isGiven = row.skyClass === givesSky;
  const got = isGiven ? -givesHours : getsHours;
  return row.memberId === fromId ? got : -got;
}

/** What visits will change at a rig, day by day. */
export const visitsOf = (work: readonly PlannedWork[], rigId: string): SeasonVisit[] =>
  work.filter((one) => one.rigId === rigId).map(visitOf);

const visitOf = ({ nightDate, skyAngleDeg, fitsId, removesId }: PlannedWork): SeasonVisit => ({
  nightDate,
  skyAngleDeg,
  fits: fitsId === null ? [] : [fitsId],
  removes: removesId === null ? [] : [removesId],
});

/** A rig as planned work will find it and leave it. */
export function visitedRig(
  { observatory }: Pick<SeasonFacts, 'observatory'>,
  rigId: string,
  visits: readonly SeasonVisit[],
): VisitedRig {
  const rig = observatory.rigs.find(({ id }) => id === rigId)!;
  const fitted = new Set(rig.slots.map(({ filterId }) => filterId));
  return { rig, notFitted: observatory.filters.flatMap(({ id }) => (fitted.has(id) ? [] : [id])), visits };
}

/** Clock hours that grants still hold. */
const envelopesOf = (rows: readonly GoalRow[], weights: ChargeWeights): Record<string, EnvelopeHours> =>
  Object.fromEntries(
    rows.flatMap(({ projectId, envelope }) =>
      envelope
        ? [[projectId, { dark: clockHours(envelope.dark, weights.dark), bright: clockHours(envelope.bright, weights.bright) }]] // prettier-ignore
        : [],
    ),
  );

function nightsAhead({ tonight, timeZone, climate }: Observatory): SeasonRequest['nights'] {
  return Array.from({ length: SEASON_NIGHTS }, (_, i) => {
    const nightDate = nightDatePlus(tonight, i);
    const month = Number(nightDate.slice(5, 7));
    return { night: observingNight(nightDate, timeZone), odds: climate.find((one) => one.month === month)!.clearOdds };
  });
}

/** Nights of the season on which a rig, or everything, is closed. */
const closedNights = (tonight: string, closures: readonly ClosedNights[], rigId: string): string[] =>
  Array.from({ length: SEASON_NIGHTS }, (_, i) => nightDatePlus(tonight, i)).filter((nightDate) =>
    closures.some(
      (closure) =>
        (closure.rigId === null || closure.rigId === rigId) &&
        closure.firstNight <= nightDate &&
        nightDate <= closure.lastNight,
    ),
  );

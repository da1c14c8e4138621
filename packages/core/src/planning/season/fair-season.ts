// A season with fairness in it: each member's light counts by how far they are behind or ahead, by rig and sky.
import type { SharedSky } from '../../shares/entitlement.ts';
import { SHARED_SKIES } from '../../shares/entitlement.ts';
import { DAMPING_NIGHTS, hoursMultiplier } from '../../shares/multiplier.ts';
import type { NamedSeason } from './season-of-nights.ts';
import type { PlannedSeason } from './plan-season.ts';
import { planSeason } from './plan-season.ts';
import { valueOfSeason } from './season-value.ts';
import type { SeasonLane, SeasonPlan, SeasonProblem } from './season-problem.ts';

/** One member's share of a rig's hours of a sky class, and where they stand before the season. */
export interface MemberStanding {
  readonly memberId: string;
  readonly rigId: string;
  readonly skyClass: SharedSky;
  readonly share: number;
  readonly entitledHours: number;
  readonly chargedHours: number;
}

export interface SeasonShares {
  /** λ: 0 lets fairness count nothing, 1 fully. */
  readonly fairness: number;
  /** Whose a project is. */
  readonly memberOf: Readonly<Record<string, string>>;
  readonly standings: readonly MemberStanding[];
  /** Share of a clock hour that is charged. */
  readonly weights: Readonly<Record<SharedSky, number>>;
}

/** What a member's hours count, and the hours it comes from, run to the season's end. */
export interface MemberMultiplier {
  readonly memberId: string;
  readonly rigId: string;
  readonly skyClass: SharedSky;
  readonly multiplier: number;
  readonly entitledHours: number;
  readonly chargedHours: number;
}

export interface FairSeason extends PlannedSeason {
  /** The problem as it was planned: the plan's value and bounds belong to it. */
  readonly problem: SeasonProblem;
  readonly multipliers: readonly MemberMultiplier[];
  /** Value lost against a season without fairness, measured without it: (0, 1]; 0 where nothing is lost. */
  readonly price: number;
}

export interface FairOptions {
  readonly iterations: number;
  readonly seed: number;
  /** A season to begin with. */
  readonly from?: SeasonPlan;
  readonly onProgress?: (share: number) => boolean;
}

/** Of the moves: for the season without fairness, for each round that finds the multipliers, and for the last one. */
const UNFAIR = 0.35;
const ROUND = 0.1;
const ROUNDS = 3;
const LAST = 0.35;
/** How far a round goes from the multipliers before to those that its plan asks for. */
const DAMPING = 0.6;

/** Plans a season whose hours go to members by their shares.
 * The expected charges of a plan move the multipliers, and those the plan: some short rounds, each beginning with the season before. */
export function fairSeason(season: NamedSeason, shares: SeasonShares, options: FairOptions): FairSeason {
  const { iterations, seed, from: before, onProgress = () => false } = options;
  const { problem } = season;
  const part = (from: number, share: number) => ({
    iterations: Math.round(iterations * share),
    seed,
    keep: before,
    onProgress: (done: number) => onProgress(from + share * done),
  });
  const entitled = entitledAhead(season, shares);
  const unfair = planSeason(problem, { ...part(0, UNFAIR), from: before });
  let multipliers = multipliersFor(shares, entitled, chargedAhead(season, shares, unfair.plan));
  let fair = unfair;
  for (let round = 0; round < ROUNDS; round++) {
    const weighed = weightedSeason(season, shares, multipliers);
    fair = planSeason(weighed, { ...part(UNFAIR + round * ROUND, ROUND), from: fair.plan });
    const asked = multipliersFor(shares, entitled, chargedAhead(season, shares, fair.plan));
    multipliers = multipliers.map((before, i) => ({
      ...asked[i],
      multiplier: before.multiplier + DAMPING * (asked[i].multiplier - before.multiplier),
    }));
  }
  const weighed = weightedSeason(season, shares, multipliers);
  const last = planSeason(weighed, { ...part(1 - LAST, LAST), from: fair.plan });
  const lost = 1 - valueOfSeason(problem, last.plan) / Math.max(1e-9, unfair.value);
  return { ...last, problem: weighed, multipliers, price: Math.max(0, lost) };
}

/** The season with light weighed by the multiplier of its hour, balance and completion by the mean of the member's multipliers. */
export function weightedSeason(
  { problem, projectIds, lanes }: NamedSeason,
  { memberOf }: SeasonShares,
  multipliers: readonly MemberMultiplier[],
): SeasonProblem {
  const byKey = new Map(multipliers.map((one) => [keyOf(one.memberId, one.rigId, one.skyClass), one.multiplier]));
  const memberIds = projectIds.map((id) => memberOf[id] ?? '');
  const factor = (project: number, rigId: string, sky: SharedSky): number =>
    byKey.get(keyOf(memberIds[project], rigId, sky)) ?? 1;
  const rigOfProject = rigsOfProjects(problem, lanes);
  const mean = (project: number): number => {
    const { dark = 1, bright = 1 } = problem.projects[project].envelopeSec ?? {};
    const rigId = rigOfProject[project];
    if (!(dark + bright > 0)) return 1;
    return (dark * factor(project, rigId, 'dark') + bright * factor(project, rigId, 'bright')) / (dark + bright);
  };
  const means = problem.projects.map((_, project) => mean(project));
  return {
    ...problem,
    panels: problem.panels.map((panel) => ({ ...panel, balance: panel.balance * means[panel.project] })),
    projects: problem.projects.map((project, r) => ({ ...project, bonus: project.bonus * means[r] })),
    lanes: problem.lanes.map((lane, l) => ({ ...lane, rates: weighedRates(problem, lane, lanes[l].rigId, factor) })),
  };
}

function weighedRates(
  { goals, panels }: SeasonProblem,
  { rates, slots, moonlit }: SeasonLane,
  rigId: string,
  factor: (project: number, rigId: string, sky: SharedSky) => number,
): Float32Array {
  const weighed = rates.slice();
  for (const { row, panel } of goals) {
    const { project } = panels[panel];
    const [dark, bright] = SHARED_SKIES.map((sky) => factor(project, rigId, sky));
    for (let slot = 0; slot < slots; slot++)
      weighed[row * slots + slot] = rates[row * slots + slot] * (moonlit?.[slot] ? bright : dark);
  }
  return weighed;
}

/** The rig that a project is framed for: the first in whose nights any of its goals is open. */
function rigsOfProjects({ goals, panels, projects, lanes }: SeasonProblem, named: NamedSeason['lanes']): string[] {
  return projects.map((_, project) => {
    const rows = goals.filter(({ panel }) => panels[panel].project === project).map(({ row }) => row);
    const lane = lanes.findIndex(({ rates, slots }) =>
      rows.some((row) => rates.subarray(row * slots, (row + 1) * slots).some((rate) => rate > 0)),
    );
    return named[Math.max(0, lane)]?.rigId ?? '';
  });
}

const keyOf = (memberId: string, rigId: string, sky: SharedSky): string => `${memberId} ${rigId} ${sky}`;

type Hours = ReadonlyMap<string, number>;

function multipliersFor({ standings, fairness }: SeasonShares, entitled: Entitled, charged: Hours): MemberMultiplier[] {
  return standings.map(({ memberId, rigId, skyClass, share, entitledHours, chargedHours }) => {
    const key = keyOf(memberId, rigId, skyClass);
    const hours = {
      entitledHours: entitledHours + (entitled.hours.get(key) ?? 0),
      chargedHours: chargedHours + (charged.get(key) ?? 0),
    };
    const dampingHours = share * DAMPING_NIGHTS * (entitled.nightHours.get(`${rigId} ${skyClass}`) ?? 0);
    return { memberId, rigId, skyClass, ...hours, multiplier: hoursMultiplier({ ...hours, dampingHours }, fairness) };
  });
}

interface Entitled {
  readonly hours: Hours;
  /** Weighted hours of a mean night, by rig and sky. */
  readonly nightHours: Hours;
}

/** Expected hours that members are entitled to: each open slot shared among those with work that is open in it. */
function entitledAhead(season: NamedSeason, { memberOf, standings, weights }: SeasonShares): Entitled {
  const { problem, lanes, projectIds } = season;
  const shareOf = new Map(standings.map((one) => [keyOf(one.memberId, one.rigId, one.skyClass), one.share]));
  const members = [...new Set(standings.map(({ memberId }) => memberId))];
  const rowsOf = members.map((memberId) => problem.goals.flatMap(({ panel, row, count }) => (count > 0 && memberOf[projectIds[problem.panels[panel].project]] === memberId ? [row] : []))); // prettier-ignore
  const [hours, nightHours] = [new Map<string, number>(), new Map<string, number>()];
  const nights = new Set(lanes.map(({ nightDate }) => nightDate)).size;
  problem.lanes.forEach(({ slots, rates, odds, moonlit }, l) => {
    const { rigId } = lanes[l];
    for (let slot = 0; slot < slots; slot++) {
      const sky: SharedSky = moonlit?.[slot] ? 'bright' : 'dark';
      const open = (odds * problem.slotSec * weights[sky]) / 3600;
      const able = members.filter((_, m) => rowsOf[m].some((row) => rates[row * slots + slot] > 0));
      if (able.length === 0) continue;
      add(nightHours, `${rigId} ${sky}`, open / nights);
      const total = able.reduce((sum, memberId) => sum + (shareOf.get(keyOf(memberId, rigId, sky)) ?? 0), 0);
      if (total <= 0) continue;
      for (const memberId of able) {
        const key = keyOf(memberId, rigId, sky);
        add(hours, key, (open * (shareOf.get(key) ?? 0)) / total);
      }
    }
  });
  return { hours, nightHours };
}

/** Expected hours that a plan would charge members. */
export function chargedAhead(
  { problem, lanes, projectIds }: NamedSeason,
  { memberOf, weights }: SeasonShares,
  plan: SeasonPlan,
): Hours {
  const hours = new Map<string, number>();
  plan.forEach((runs, l) => {
    const { slots, odds, moonlit } = problem.lanes[l];
    for (const { goal, count, startSec } of runs) {
      const { panel, cycleSec } = problem.goals[goal];
      const memberId = memberOf[projectIds[problem.panels[panel].project]] ?? '';
      const endSec = startSec + count * cycleSec;
      for (let slot = Math.floor(startSec / problem.slotSec); slot < slots && slot * problem.slotSec < endSec; slot++) {
        const sec = Math.min(endSec, (slot + 1) * problem.slotSec) - Math.max(startSec, slot * problem.slotSec);
        const sky: SharedSky = moonlit?.[slot] ? 'bright' : 'dark';
        add(hours, keyOf(memberId, lanes[l].rigId, sky), (odds * sec * weights[sky]) / 3600);
      }
    }
  });
  return hours;
}

const add = (sums: Map<string, number>, key: string, by: number): void => void sums.set(key, (sums.get(key) ?? 0) + by);

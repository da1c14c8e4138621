// The look ahead: a season planned under its odds and played out under drawn weather, in the observatory's words.
import { seededRandom } from '../../random.ts';
import { drawClearNights } from '../../weather/clear-nights.ts';
import { seasonBound } from '../bound/season-bound.ts';
import { iterationsFor } from './budget.ts';
import { finishingRange } from './finishing-range.ts';
import type { MemberMultiplier } from './fair-season.ts';
import { fairSeason } from './fair-season.ts';
import type { KeptSkies } from './kept-skies.ts';
import { planSeason } from './plan-season.ts';
import { playSeason, playTables } from './play-season.ts';
import type { SeasonPlan, SeasonProblem } from './season-problem.ts';
import type { NamedSeason, SeasonRequest } from './season-of-nights.ts';
import type { SeasonBefore } from './season-before.ts';
import { planBefore } from './season-before.ts';
import { SEASON_SLOT_SEC, seasonOfNights, worthOfNight } from './season-of-nights.ts';
import { lightSec, seasonTables } from './season-tables.ts';

export interface SeasonOptions {
  readonly seed: number;
  /** The search's budget in seconds of one core: so many iterations, whatever the clock says. */
  readonly seconds: number;
  /** Rounds that tighten the bound; 0 proves nothing. */
  readonly boundRounds: number;
  /** Seasons played out. */
  readonly draws: number;
  /** Correlation of a night's weather with the next one's. */
  readonly persistence: number;
  /** The season that stood until now: what still fits of it is begun with. */
  readonly before?: SeasonBefore;
}

/** What one project does in one rig's night. */
export interface SeasonCell {
  readonly projectId: string;
  readonly fromUtcMs: number;
  readonly toUtcMs: number;
  readonly exposures: number;
  readonly exposingSec: number;
  /** Mean rate of the light, over the target's own best. */
  readonly meanRate: number;
  readonly filters: readonly { readonly filterId: string; readonly exposures: number }[];
}

export interface SeasonNightShown {
  readonly nightDate: string;
  readonly rigId: string;
  /** Of being clear; 0 where the observatory is closed. */
  readonly odds: number;
  readonly startUtcMs: number | null;
  readonly endUtcMs: number | null;
  readonly darkHours: number;
  readonly moonlessHours: number;
  readonly cells: readonly SeasonCell[];
}

/** When a project ends, over the seasons played out. */
export interface ProjectForecast {
  readonly projectId: string;
  /** Hours of exposure still to be taken, and those of them that the season expects to take. */
  readonly leftHours: number;
  readonly expectedHours: number;
  /** Share of the seasons in which it is finished within the nights looked at. */
  readonly finishedShare: number;
  /** The nights from and to which eight in ten of all seasons finish it, and the one by which half of them have; null where that many don't. */
  readonly early: string | null;
  readonly middle: string | null;
  readonly late: string | null;
  /** It has a goal without an end. */
  readonly isOpenEnded: boolean;
}

export interface Season {
  readonly nights: readonly SeasonNightShown[];
  readonly projects: readonly ProjectForecast[];
  readonly value: number;
  /** No season is worth more; null where nothing was proven. */
  readonly bound: number | null;
  readonly draws: number;
  /** The runs of each lane, as the search left them. */
  readonly plan: SeasonPlan;
  /** Of the goals that its runs count by. */
  readonly goalIds: readonly string[];
  /** What members' hours count, and what that costs; null where no shares were given. */
  readonly fairness: SeasonFairness | null;
}

export interface SeasonFairness {
  readonly multipliers: readonly MemberMultiplier[];
  /** Share of the value that is lost against a season in which fairness counts nothing. */
  readonly price: number;
}

/** Grows whenever the same request gets another season: seasons that are kept are of one version. */
export const SEASON_VERSION = 5;

/** Shares of the work, by what each takes of the time. */
const SURVEYED = 0.15;
const PLANNED = 0.8;
const BOUND = 0.95;

/** @param onProgress gets the share that is done, (0, 1]; says whether to stop
 * @returns null where it was stopped */
export function seasonOutlook(
  request: SeasonRequest,
  options: SeasonOptions,
  onProgress: (share: number) => boolean = () => false,
  kept?: KeptSkies,
): Season | null {
  let isStopped = false;
  const season = seasonOfNights(request, (share) => (isStopped ||= onProgress(SURVEYED * share)), kept);
  if (isStopped) return null;
  return outlookOfSeason({ request, season }, options, (share) => onProgress(SURVEYED + (1 - SURVEYED) * share));
}

/** The same for nights that are surveyed already. */
export function outlookOfSeason(
  { request, season }: { request: SeasonRequest; season: NamedSeason },
  { seed, seconds, boundRounds, draws, persistence, before }: SeasonOptions,
  onProgress: (share: number) => boolean = () => false,
): Season | null {
  let isStopped = false;
  const told = (share: number): boolean => (isStopped ||= onProgress(PLANNED * share));
  const iterations = iterationsFor(season.problem, seconds);
  const from = (before && planBefore(season, before)) ?? undefined;
  const { plan, value, problem, fairness } = planned({ request, season }, { iterations, seed, from, onProgress: told });
  if (isStopped) return null;
  const bound = boundRounds > 0 && value > 0 ? boundOf(problem, value, boundRounds) : null;
  if (onProgress(BOUND)) return null;
  const forecasts = projectForecasts({ request, season: { ...season, problem }, plan, seed, draws, persistence });
  const { goalIds } = season;
  return { nights: shownNights(request, season, plan), projects: forecasts, value, bound, draws, plan, goalIds, fairness }; // prettier-ignore
}

/** The plan with the problem that it is the plan of: weighed by shares where there are any. */
function planned(
  { request: { shares }, season }: { request: SeasonRequest; season: NamedSeason },
  options: { iterations: number; seed: number; from?: SeasonPlan; onProgress: (share: number) => boolean },
) {
  const { problem } = season;
  const isNothing = problem.goals.every(({ count }) => count <= 0);
  if (!shares || isNothing || new Set(shares.standings.map(({ memberId }) => memberId)).size < 2)
    return { ...planSeason(problem, { ...options, keep: options.from }), problem, fairness: null };
  const { multipliers, price, ...fair } = fairSeason(season, shares, options);
  return { ...fair, fairness: { multipliers, price } };
}

/** Large seasons get fewer rounds: a round takes time by goals. */
const ROUNDS_TIMES_GOALS = 40_000;

function boundOf(problem: SeasonProblem, reached: number, wished: number): number {
  const rounds = Math.min(wished, Math.ceil(ROUNDS_TIMES_GOALS / problem.goals.length));
  return seasonBound(problem, { rounds: Math.ceil(rounds / 4), slotRounds: 80, coarseRounds: rounds, reached }).bound;
}

function shownNights(request: SeasonRequest, season: NamedSeason, plan: SeasonPlan): SeasonNightShown[] {
  const tables = seasonTables(season.problem);
  const filterOf = new Map(
    request.rigs.flatMap(({ request: { goals } }) => goals.map((g) => [g.id, g.filterId] as const)),
  );
  return season.lanes.map(({ startUtcMs, ...named }, lane) => {
    const byProject = new Map<number, SeasonPlan[number][number][]>();
    for (const run of plan[lane]) {
      const project = tables.projectOf[tables.panelOf[run.goal]];
      byProject.set(project, [...(byProject.get(project) ?? []), run]);
    }
    const cells = [...byProject].map(([project, runs]): SeasonCell => {
      const endOf = ({ goal, count, startSec }: (typeof runs)[number]): number =>
        startSec + count * tables.cycleSec[goal];
      const light = runs.reduce((sum, run) => sum + lightSec(tables.lanes[lane], tables.rowOf[run.goal], run.startSec, endOf(run), SEASON_SLOT_SEC), 0); // prettier-ignore
      const busySec = runs.reduce((sum, run) => sum + endOf(run) - run.startSec, 0);
      const filters = new Map<string, number>();
      for (const { goal, count } of runs) {
        const filterId = filterOf.get(season.goalIds[goal])!;
        filters.set(filterId, (filters.get(filterId) ?? 0) + count);
      }
      return {
        projectId: season.projectIds[project],
        fromUtcMs: Math.round(startUtcMs! + Math.min(...runs.map(({ startSec }) => startSec)) * 1000),
        toUtcMs: Math.round(startUtcMs! + Math.max(...runs.map(endOf)) * 1000),
        exposures: runs.reduce((sum, { count }) => sum + count, 0),
        exposingSec: runs.reduce((sum, { goal, count }) => sum + count * season.problem.goals[goal].exposureSec, 0),
        meanRate: light / busySec / worthOfNight(tables.lanes[lane].night),
        filters: [...filters].map(([filterId, exposures]) => ({ filterId, exposures })),
      };
    });
    return { ...named, startUtcMs, cells };
  });
}

interface ForecastParts extends Pick<SeasonOptions, 'seed' | 'draws' | 'persistence'> {
  readonly request: SeasonRequest;
  readonly season: NamedSeason;
  readonly plan: SeasonPlan;
}

function projectForecasts({ request, season, plan, seed, draws, persistence }: ForecastParts): ProjectForecast[] {
  const { problem, projectIds } = season;
  const tables = seasonTables(problem);
  const expected = expectedCounts(season, plan);
  const own = projectIds.map((_, r) =>
    problem.goals.flatMap((goal, g) => (tables.projectOf[goal.panel] === r ? [g] : [])),
  );
  const isOpenEnded = own.map((goals) => goals.some((g) => problem.goals[g].done >= problem.goals[g].wanted && problem.goals[g].count > 0)); // prettier-ignore
  const acceptance = Float64Array.from(projectIds, (id) => request.rigs.map((rig) => rig.acceptance[id]).find((rate) => rate !== undefined) ?? 1); // prettier-ignore
  const random = seededRandom(seed);
  const played = playTables(tables);
  const odds = request.nights.map((night) => night.odds);
  const finished = Array.from({ length: draws }, () =>
    playSeason(played, { clear: drawClearNights(odds, persistence, random), random, acceptance }),
  );
  const hours = (goals: readonly number[], count: (g: number) => number): number =>
    goals.reduce((sum, g) => sum + (count(g) * problem.goals[g].exposureSec) / 3600, 0);
  return projectIds.map((projectId, r) => {
    const ends = finished.flatMap((each) => (each[r] >= 0 ? [each[r]] : []));
    const range = finishingRange(isOpenEnded[r] ? [] : ends, draws);
    const dated = (night: number | null): string | null =>
      night === null ? null : request.nights[night].night.nightDate;
    return {
      projectId,
      leftHours: isOpenEnded[r] ? 0 : hours(own[r], (g) => problem.goals[g].count),
      expectedHours: hours(own[r], (g) => expected[g]),
      finishedShare: draws > 0 ? ends.length / draws : 0,
      early: dated(range.early),
      middle: dated(range.middle),
      late: dated(range.late),
      isOpenEnded: isOpenEnded[r],
    };
  });
}

function expectedCounts({ problem, lanes }: NamedSeason, plan: SeasonPlan): Float64Array {
  const expected = new Float64Array(problem.goals.length);
  plan.forEach((runs, lane) => {
    for (const { goal, count } of runs) expected[goal] += count * lanes[lane].odds;
  });
  return expected;
}

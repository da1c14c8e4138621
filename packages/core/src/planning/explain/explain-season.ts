// Why a project has, or has not, a place in a night of the season: the rule that keeps it out, where its hours lie instead, or what forcing it would cost.
import type { Gap } from '../../limits/windows.ts';
import type { SharedSky } from '../../shares/entitlement.ts';
import { SHARED_SKIES } from '../../shares/entitlement.ts';
import { surveyNight } from '../night/survey.ts';
import type { RequestedGoal } from '../night/night-request.ts';
import { countsOn } from '../last-night.ts';
import { iterationsFor } from '../season/budget.ts';
import type { MemberMultiplier } from '../season/fair-season.ts';
import { weightedSeason } from '../season/fair-season.ts';
import { servedOn } from '../season/rig-visits.ts';
import type { NamedSeason, SeasonRequest, SeasonRig } from '../season/season-of-nights.ts';
import { seasonOfNights, surveyedRequest, visited, worthOfNight } from '../season/season-of-nights.ts';
import type { SeasonPlan, SeasonProblem } from '../season/season-problem.ts';
import type { SeasonTables } from '../season/season-tables.ts';
import { seasonTables } from '../season/season-tables.ts';
import type { SeasonTrials, Stretch } from './season-trials.ts';
import { endOfRun, holderOf, meanRateOf, projectOf, withoutProject, withStretch, worthAsIs } from './season-trials.ts';

/** Every kind of reason. */
export const SEASON_REASONS = [
  'CLOSED',
  'NO_NIGHT',
  'NOTHING_LEFT',
  'PAST_LAST_NIGHT',
  'NOT_SERVED',
  'LIMIT',
  'WINDOW_TOO_SHORT',
  'GRANT_USED',
  'HERE',
  'ELSEWHERE',
  'OUTBID',
] as const satisfies readonly SeasonReason['code'][];

/** Rates are shares of the target's own best light; costs are in the season's value, hours at weight 1. */
export type SeasonReason =
  /** The rig is closed, or the sun doesn't set. */
  | { readonly code: 'CLOSED' | 'NO_NIGHT' | 'NOTHING_LEFT' }
  | { readonly code: 'PAST_LAST_NIGHT'; readonly lastNight: string }
  /** The camera stands at another angle, or the filter is not in the wheel; with the first night after a planned visit that took it away, and the one from which a planned visit changes that. */
  | {
      readonly code: 'NOT_SERVED';
      readonly is: 'angle' | 'filter';
      readonly sinceNight: string | null;
      readonly fromNight: string | null;
    }
  /** What keeps out the goal that lacks most: the gap that lasts longest, what nature shuts aside. */
  | { readonly code: 'LIMIT'; readonly goalId: string; readonly gap: Gap }
  | { readonly code: 'WINDOW_TOO_SHORT'; readonly goalId: string }
  /** Of the skies that the night has for it, its grant holds no more than is planned already. */
  | { readonly code: 'GRANT_USED'; readonly skies: readonly SharedSky[] }
  | {
      readonly code: 'HERE';
      readonly rate: number;
      /** The night after this one with the best light for it, where that is better by more than a hundredth. */
      readonly better: { readonly nightDate: string; readonly rate: number } | null;
      /** Who would have the time without it, null for nobody, and what the season would lose. */
      readonly second: { readonly projectId: string | null; readonly costs: number };
    }
  /** All that it could take in this night is planned in other ones. */
  | {
      readonly code: 'ELSEWHERE';
      readonly rate: number;
      readonly firstNight: string;
      readonly lastNight: string;
      readonly rateThere: number;
      readonly costs: number | null;
    }
  /** Null costs: it can't be forced. */
  | {
      readonly code: 'OUTBID';
      readonly rate: number;
      readonly rivalProjectId: string | null;
      readonly costs: number | null;
    };

/** A night of a planned season that somebody asks about. */
export interface AskedNight {
  readonly request: SeasonRequest;
  readonly projectId: string;
  readonly nightDate: string;
  /** As the season was planned, with what members' hours counted in it. */
  readonly plan: SeasonPlan;
  readonly multipliers: readonly MemberMultiplier[];
}

export interface ExplainOptions {
  readonly seed: number;
  /** Of one core, for each of the seasons that are compared. */
  readonly seconds: number;
}

/** Shares of the work: looking at the nights, and each search. */
const SURVEYED = 0.5;
const MOST_TRIALS = 3;
/** How much is forced into a night. */
const STRETCH_SEC = 3600;
/** Nights with light better by less than this are alike. */
const ALIKE = 0.01;

/** @param onProgress gets the share that is done, (0, 1]; says whether to stop
 * @returns null where it was stopped, or no rig has the project or the night */
export function explainSeasonNight(
  asked: AskedNight,
  { seed, seconds }: ExplainOptions,
  onProgress: (share: number) => boolean = () => false,
): SeasonReason | null {
  let isStopped = false;
  const season = seasonOfNights(asked.request, (share) => (isStopped ||= onProgress(SURVEYED * share)));
  if (isStopped) return null;
  return explainInSeason(season, asked, { seed, seconds }, (share) => onProgress(SURVEYED + (1 - SURVEYED) * share));
}

/** The same for nights that are surveyed already. */
export function explainInSeason(
  season: NamedSeason,
  asked: AskedNight,
  { seed, seconds }: ExplainOptions,
  onProgress: (share: number) => boolean = () => false,
): SeasonReason | null {
  const place = placeOf(season, asked);
  if (!place) return null;
  const bare = withoutTrials(season, asked, place);
  if (bare) return bare;
  const { shares } = asked.request;
  const problem = shares ? weightedSeason(season, shares, asked.multipliers) : season.problem;
  const trials = { problem, plan: asked.plan, iterations: iterationsFor(problem, seconds), seed };
  return asked.plan[place.lane].some(({ goal }) => projectOf(problem, goal) === place.project)
    ? whyHere(season, trials, place, onProgress)
    : whyNot(season, trials, place, onProgress);
}

interface Place {
  readonly rig: SeasonRig;
  readonly project: number;
  readonly lane: number;
  /** Goals of the project that want more exposures. */
  readonly goals: readonly number[];
}

function placeOf(
  { problem, lanes, projectIds }: NamedSeason,
  { request, projectId, nightDate }: AskedNight,
): Place | null {
  const rig = request.rigs.find((one) => one.request.projects.some(({ id }) => id === projectId));
  const lane = lanes.findIndex((one) => one.rigId === rig?.rigId && one.nightDate === nightDate);
  if (!rig || lane < 0) return null;
  const project = projectIds.indexOf(projectId);
  const goals = problem.goals.flatMap(({ count }, g) => (count > 0 && projectOf(problem, g) === project ? [g] : []));
  return { rig, project, lane, goals };
}

/** Reasons that need no other season to be found. */
function withoutTrials(season: NamedSeason, asked: AskedNight, place: Place): SeasonReason | null {
  const { problem, lanes } = season;
  const { nightDate, odds, startUtcMs } = lanes[place.lane];
  if (startUtcMs === null) return { code: odds > 0 ? 'NO_NIGHT' : 'CLOSED' };
  if (place.goals.length === 0) return { code: 'NOTHING_LEFT' };
  if (asked.plan[place.lane].some(({ goal }) => projectOf(problem, goal) === place.project)) return null;
  if (place.goals.some((goal) => stretchesOf(problem, place.lane, goal).length > 0))
    return grantUsed(problem, asked.plan, place);
  return whyClosed(season, asked, place, nightDate);
}

/** Why nothing of a project is open in a night. */
function whyClosed(
  { problem, goalIds }: NamedSeason,
  { request, projectId }: AskedNight,
  { rig, goals }: Place,
  nightDate: string,
): SeasonReason {
  const lastNight = rig.lastNight?.[projectId] ?? null;
  if (countsOn(nightDate, { lastNight, decayNights: rig.decayNights?.[projectId] ?? null }) <= 0)
    return { code: 'PAST_LAST_NIGHT', lastNight: lastNight! };
  const requested = new Map(rig.request.goals.map((goal) => [goal.id, goal]));
  const own = goals
    .toSorted(
      (a, b) => problem.goals[b].count * problem.goals[b].cycleSec - problem.goals[a].count * problem.goals[a].cycleSec,
    )
    .map((goal) => requested.get(goalIds[goal])!);
  const angleOf = new Map(rig.request.panels.map((panel) => [panel.id, panel.positionAngleDeg]));
  const isServed = servedOn(visited(rig), nightDate);
  const served = own.find(({ panelId, filterId }) => isServed(angleOf.get(panelId)!, filterId));
  if (!served)
    return notServed(rig, own, { angleOf, nightDate, nights: request.nights.map(({ night }) => night.nightDate) });
  return whyNoWindow(rig, served, request.nights.find(({ night }) => night.nightDate === nightDate)!.night);
}

interface Unserved {
  readonly angleOf: ReadonlyMap<string, number>;
  readonly nightDate: string;
  /** All that the season looks at. */
  readonly nights: readonly string[];
}

function notServed(
  rig: SeasonRig,
  goals: readonly RequestedGoal[],
  { angleOf, nightDate, nights }: Unserved,
): SeasonReason {
  const isServedIn = (night: string): boolean => {
    const isServed = servedOn(visited(rig), night);
    return goals.some(({ panelId, filterId }) => isServed(angleOf.get(panelId)!, filterId));
  };
  const later = nights.find((night) => night > nightDate && isServedIn(night));
  const lastServed = nights.findLast((night) => night < nightDate && isServedIn(night));
  const since = lastServed && nights.find((night) => night > lastServed);
  const anyFilter = servedOn({ ...visited(rig), rig: { ...rig.request.rig, rotatorKind: 'motor' } }, nightDate);
  const isFilter = !anyFilter(angleOf.get(goals[0].panelId)!, goals[0].filterId);
  return { code: 'NOT_SERVED', is: isFilter ? 'filter' : 'angle', sinceNight: since ?? null, fromNight: later ?? null };
}

/** Where nothing else keeps a goal out it is said that the target is down, and where not even that, that it is day. */
const NATURAL: Readonly<Record<string, number>> = { BELOW_HORIZON: 1, BELOW_MOUNT: 1, TWILIGHT: 2, SUN_BOUND: 2 };
const rankOf = ({ code }: Gap): number => NATURAL[code] ?? 0;

function whyNoWindow(
  rig: SeasonRig,
  goal: RequestedGoal,
  night: SeasonRequest['nights'][number]['night'],
): SeasonReason {
  const survey = surveyNight(surveyedRequest(rig.request, [goal], night))!;
  const lengthMs = ({ startUtcMs, endUtcMs }: Gap): number => endUtcMs - startUtcMs;
  const longest = survey.goals[0].gaps.toSorted((a, b) => rankOf(a) - rankOf(b) || lengthMs(b) - lengthMs(a))[0];
  return longest ? { code: 'LIMIT', goalId: goal.id, gap: longest } : { code: 'WINDOW_TOO_SHORT', goalId: goal.id };
}

/** Whether the grant holds no exposure more in any of the night's skies in which something is open. */
function grantUsed(problem: SeasonProblem, plan: SeasonPlan, { project, lane, goals }: Place): SeasonReason | null {
  const { envelopeSec } = problem.projects[project];
  if (!envelopeSec) return null;
  const left = { ...envelopeSec };
  plan.forEach((runs, l) => {
    for (const run of runs)
      if (projectOf(problem, run.goal) === project)
        for (const sky of SHARED_SKIES) left[sky] -= problem.lanes[l].odds * secInSky(problem, l, run, sky);
  });
  const { odds } = problem.lanes[lane];
  const used = new Set<SharedSky>();
  for (const goal of goals)
    for (const startSec of stretchesOf(problem, lane, goal)) {
      const run = { goal, count: 1, startSec };
      const lacking = SHARED_SKIES.filter((sky) => odds * secInSky(problem, lane, run, sky) > left[sky] + 1e-6);
      if (lacking.length === 0) return null;
      for (const sky of lacking) used.add(sky);
    }
  return { code: 'GRANT_USED', skies: SHARED_SKIES.filter((sky) => used.has(sky)) };
}

function secInSky(problem: SeasonProblem, lane: number, run: SeasonPlan[number][number], sky: SharedSky): number {
  const { slots, moonlit } = problem.lanes[lane];
  const endSec = endOfRun(problem, run);
  let sec = 0;
  for (let slot = Math.floor(run.startSec / problem.slotSec); slot < slots && slot * problem.slotSec < endSec; slot++)
    if ((moonlit?.[slot] ? 'bright' : 'dark') === sky)
      sec += Math.min(endSec, (slot + 1) * problem.slotSec) - Math.max(run.startSec, slot * problem.slotSec);
  return sec;
}

/** Edges of slots at which an exposure of a goal can begin in a lane. */
function stretchesOf(problem: SeasonProblem, lane: number, goal: number): number[] {
  const { slots } = problem.lanes[lane];
  return Array.from({ length: slots }, (_, slot) => slot * problem.slotSec).filter(
    (startSec) => openSec(problem, lane, goal, startSec) >= problem.goals[goal].cycleSec - 1e-6,
  );
}

/** Seconds from a moment until the goal's window ends. */
function openSec(problem: SeasonProblem, lane: number, goal: number, startSec: number): number {
  const { slots, rates } = problem.lanes[lane];
  const row = problem.goals[goal].row * slots;
  let slot = Math.round(startSec / problem.slotSec);
  while (slot < slots && rates[row + slot] > 0) slot += 1;
  return slot * problem.slotSec - startSec;
}

function whyHere(
  season: NamedSeason,
  trials: SeasonTrials,
  { project, lane }: Place,
  onProgress: (share: number) => boolean,
): SeasonReason | null {
  const { problem, projectIds, lanes } = season;
  const own = trials.plan[lane].filter(({ goal }) => projectOf(problem, goal) === project);
  const worth = worthAsIs(trials);
  if (onProgress(0.5)) return null;
  const without = withoutProject(trials, project, lane);
  if (onProgress(1)) return null;
  const heir = holderOf(
    problem,
    without.plan[lane],
    own.map((run) => [run.startSec, endOfRun(problem, run)] as const),
  );
  const rate = rateOfRuns(
    problem,
    own.map((run) => ({ lane, run })),
  );
  const better = bestAfter(season, project, lane);
  return {
    code: 'HERE',
    rate,
    better:
      better && better.rate > rate + ALIKE ? { nightDate: lanes[better.lane].nightDate, rate: better.rate } : null,
    second: { projectId: heir < 0 ? null : projectIds[heir], costs: Math.max(0, worth - without.value) },
  };
}

/** Mean rate of runs, without what nights lose by coming later. */
function rateOfRuns(
  problem: SeasonProblem,
  runs: readonly { readonly lane: number; readonly run: SeasonPlan[number][number] }[],
): number {
  let [light, sec] = [0, 0];
  for (const { lane, run } of runs) {
    const lengthSec = endOfRun(problem, run) - run.startSec;
    light += (lengthSec * meanRateOf(problem, lane, run)) / worthOfNight(problem.lanes[lane].night);
    sec += lengthSec;
  }
  return light / sec;
}

/** The best light of a project after a lane's night, for what it still wants. */
function bestAfter({ problem }: NamedSeason, project: number, after: number): { lane: number; rate: number } | null {
  let best: { lane: number; rate: number } | null = null;
  problem.lanes.forEach(({ night, slots, rates }, lane) => {
    if (night <= problem.lanes[after].night) return;
    problem.goals.forEach(({ row, count }, goal) => {
      if (count <= 0 || projectOf(problem, goal) !== project) return;
      for (let slot = 0; slot < slots; slot++) {
        const rate = rates[row * slots + slot] / worthOfNight(night);
        if (rate > (best?.rate ?? 0)) best = { lane, rate };
      }
    });
  });
  return best;
}

function whyNot(
  season: NamedSeason,
  trials: SeasonTrials,
  place: Place,
  onProgress: (share: number) => boolean,
): SeasonReason | null {
  const { problem, projectIds, lanes } = season;
  const { lane, project } = place;
  const tried = stretchesToTry(trials, place);
  const worth = worthAsIs(trials);
  let best = { value: -Infinity, stretch: tried[0] };
  for (const [i, stretch] of tried.entries()) {
    if (onProgress((i + 1) / (tried.length + 1))) return null;
    const found = withStretch(trials, stretch);
    if (found && found.value > best.value) best = { value: found.value, stretch };
  }
  const { stretch } = best;
  const costs = best.value === -Infinity ? null : Math.max(0, worth - best.value);
  const run = { goal: stretch.goal, count: stretch.count, startSec: stretch.fromSec };
  const rate = rateOfRuns(problem, [{ lane, run }]);
  const elsewhere = trials.plan.flatMap((runs, l) => runs.flatMap((one) => (projectOf(problem, one.goal) === project ? [{ lane: l, run: one }] : []))); // prettier-ignore
  const isAllPlanned = place.goals.every((goal) => leftOf(trials, goal) < problem.lanes[lane].odds || stretchesOf(problem, lane, goal).length === 0); // prettier-ignore
  if (isAllPlanned && elsewhere.length > 0)
    return {
      code: 'ELSEWHERE',
      rate,
      firstNight: lanes[elsewhere[0].lane].nightDate,
      lastNight: lanes[elsewhere.at(-1)!.lane].nightDate,
      rateThere: rateOfRuns(problem, elsewhere),
      costs,
    };
  const rival = holderOf(problem, trials.plan[lane], [[run.startSec, endOfRun(problem, run)]]);
  return { code: 'OUTBID', rate, rivalProjectId: rival < 0 ? null : projectIds[rival], costs };
}

/** Expected exposures of a goal that a plan leaves. */
const leftOf = ({ problem, plan }: SeasonTrials, goal: number): number =>
  plan.reduce(
    (left, runs, l) =>
      runs.reduce((rest, run) => rest - (run.goal === goal ? run.count * problem.lanes[l].odds : 0), left),
    problem.goals[goal].count,
  ) + 1e-6;

interface Standing {
  readonly tables: SeasonTables;
  readonly plan: SeasonPlan;
}

/** Stretches of up to an hour that gain most over what stands there. */
function stretchesToTry({ problem, plan }: SeasonTrials, { lane, goals }: Place): Stretch[] {
  const { odds } = problem.lanes[lane];
  const tables = seasonTables(problem);
  const scored = goals.flatMap((goal) => {
    const { cycleSec, count: wanted } = problem.goals[goal];
    return stretchesOf(problem, lane, goal).map((fromSec) => {
      const roomSec = Math.min(STRETCH_SEC + cycleSec - 1, openSec(problem, lane, goal, fromSec) + 1e-6);
      const count = Math.max(1, Math.min(Math.floor(roomSec / cycleSec), Math.floor(wanted / odds + 1e-6), wanted));
      const stretch = { lane, goal, fromSec, count };
      return { stretch, gain: gainOf({ tables, plan }, stretch) };
    });
  });
  const best: Stretch[] = [];
  for (const { stretch } of scored.sort((a, b) => b.gain - a.gain)) {
    const isNew = best.every(({ goal, fromSec }) => goal !== stretch.goal || Math.abs(fromSec - stretch.fromSec) >= STRETCH_SEC); // prettier-ignore
    if (isNew) best.push(stretch);
    if (best.length === MOST_TRIALS) break;
  }
  return best;
}

/** Worth of a stretch less that of what is planned in its time, by the second: light, and what balance and completion pay at most. */
function gainOf({ tables, plan }: Standing, { lane, goal, fromSec, count }: Stretch): number {
  const { problem } = tables;
  const worthPerSec = (run: SeasonPlan[number][number]): number => {
    const panel = tables.panelOf[run.goal];
    const light = tables.lightPerSec[run.goal] * meanRateOf(problem, lane, run);
    return light + tables.balancePerSec[panel] + tables.bonusPerSec[tables.projectOf[panel]];
  };
  const own = { goal, count, startSec: fromSec };
  const toSec = endOfRun(problem, own);
  const stands = plan[lane].reduce((sum, run) => {
    const sec = Math.max(0, Math.min(endOfRun(problem, run), toSec) - Math.max(run.startSec, fromSec));
    return sum + sec * worthPerSec(run);
  }, 0);
  return worthPerSec(own) - stands / (toSec - fromSec);
}

// A request in the observatory's words to a plan in the observatory's words, through the one planning entry.
import type { StepCosts } from '../exposure/time-cost.ts';
import { exposureCycleSec, filterChangeSec, panelChangeSec } from '../exposure/time-cost.ts';
import type { Interval } from '../time/nights.ts';
import { HOUR_MS } from '../units.ts';
import { outbidBy } from './explain.ts';
import type {
  GoalNight,
  KeptRun,
  NightPlan,
  NightRequest,
  Omission,
  PlannedBlock,
  PlannedRun,
  RequestedGoal,
} from './night-request.ts';
import type { BalanceTerm, KeptPlan, NightProblem, NightSolution, PlanGoal } from './problem.ts';
import { KEPT_STAY_VALUE, placedCounts, toMs } from './problem.ts';
import type { SolveOptions } from './solve-night.ts';
import { DEFAULT_SOLVE_OPTIONS, solveNight } from './solve-night.ts';
import type { NightSurvey } from './survey.ts';
import { surveyNight } from './survey.ts';
import { isBanned, pinnedRuns, windowsLeft } from './wishes.ts';

/** Coefficients of the objective: light, balance, completion. The observatory's settings with these defaults. */
export interface ObjectiveWeights {
  readonly light: number;
  readonly balance: number;
  readonly completion: number;
}
export const DEFAULT_OBJECTIVE_WEIGHTS: ObjectiveWeights = { light: 0.6, balance: 0.4, completion: 0.3 };

const DEFAULT_MIN_STRETCH_MIN = 20;

export interface PlannedNight {
  readonly survey: NightSurvey | null;
  readonly problem: NightProblem | null;
  readonly solution: NightSolution | null;
  readonly plan: NightPlan;
}

/** The best plan found for a night, with the reason for every goal left out. Deterministic for equal input. */
export function planNight(
  request: NightRequest,
  options: SolveOptions = DEFAULT_SOLVE_OPTIONS,
  weights = DEFAULT_OBJECTIVE_WEIGHTS,
): PlannedNight {
  const survey = surveyNight(request);
  if (!survey) {
    const omissions = request.goals.map((goal): Omission => ({ goalId: goal.id, code: 'NO_WINDOW', gap: null }));
    return { survey, problem: null, solution: null, plan: { blocks: [], omissions, value: 0 } };
  }
  const problem = nightProblem(request, survey, weights);
  const solution = solveNight(problem, options);
  return { survey, problem, solution, plan: planOf({ request, survey, problem, solution }) };
}

export interface SolvedNight {
  readonly request: NightRequest;
  readonly survey: NightSurvey;
  readonly problem: NightProblem;
  readonly solution: NightSolution;
}

/** A solved problem in the observatory's words, without the reasons of what is left out: for a plan that is shown at once. */
export function barePlanOf({ request, survey, problem, solution }: SolvedNight): Omit<NightPlan, 'omissions'> {
  return {
    blocks: plannedBlocks(request, survey, problem, solution),
    value: solution.value,
    broken: pinnedRuns(problem, request.wishes ?? [], survey.table.startUtcMs).broken,
  };
}

/** A solved problem in the observatory's words. */
export function planOf(solved: SolvedNight): NightPlan {
  const { request, survey, problem, solution } = solved;
  return { ...barePlanOf(solved), omissions: omissionsOf(request, survey, problem, solution) };
}

/** The allocation problem of a surveyed night. */
export function nightProblem(
  request: NightRequest,
  survey: NightSurvey,
  weights = DEFAULT_OBJECTIVE_WEIGHTS,
): NightProblem {
  const { table } = survey;
  const originUtcMs = table.startUtcMs;
  const wishes = request.wishes ?? [];
  const panelIndex = new Map(request.panels.map((panel, i) => [panel.id, i]));
  const projectIndex = new Map(request.projects.map((project, i) => [project.id, i]));
  const goals = request.goals.map((goal, g): PlanGoal => {
    const night = survey.goals[g];
    const panel = request.panels[panelIndex.get(goal.panelId)!];
    const weight = request.projects[projectIndex.get(panel.projectId)!].weight;
    return {
      id: goal.id,
      project: projectIndex.get(panel.projectId)!,
      panel: panelIndex.get(goal.panelId)!,
      exposureSec: goal.settings.exposureSec,
      cycleSec: cycleOf(request, goal),
      count: goal.toPlan,
      value: (weights.light * weight * goal.settings.exposureSec) / 3600,
      windows:
        night.blocked || isBanned(wishes, panel.id)
          ? []
          : windowsLeft(wishes, panel.id, night.windows).map((window) => toSeconds(window, originUtcMs)),
      rate: { stepSec: table.stepMs / 1000, values: stepMeans(night.rateShare) },
    };
  });
  const timed = {
    lengthSec: ((table.length - 1) * table.stepMs) / 1000,
    goals: inTurn(request, goals),
    panelChangeSec: panelChanges(request),
    goalChangeSec: (from: number, to: number) => goalChangeSec(request, from, to),
  };
  const { pinned } = pinnedRuns(timed, wishes, originUtcMs);
  return {
    ...timed,
    ...(pinned.length > 0 ? { pinned } : {}),
    ...(request.kept ? { kept: keptPlan(request.kept, goals, originUtcMs) } : {}),
    ...(request.goals.some(({ groupOf }) => groupOf)
      ? { groups: request.goals.map(({ groupOf }) => groupOf ?? 0) }
      : {}),
    panelCount: request.panels.length,
    projectBonus: request.projects.map((project, p) =>
      hasEndlessGoal(request, project.id) ? 0 : completionBonus(request, goals, p, weights),
    ),
    balances: request.panels.flatMap((panel) => balanceTerm(request, panel.id, weights)),
    minStaySec:
      60 * Math.max(0, ...survey.goals.map(({ limits }) => limits.minStretchMin.value ?? DEFAULT_MIN_STRETCH_MIN)),
  };
}

function keptPlan(kept: readonly KeptRun[], goals: readonly PlanGoal[], originUtcMs: number): KeptPlan {
  const runs = kept.flatMap(({ goalId, startUtcMs, count }) => {
    const goal = goals.findIndex(({ id }) => id === goalId);
    return goal < 0 ? [] : [{ goal, startSec: toMs(Math.max(0, (startUtcMs - originUtcMs) / 1000)), count }];
  });
  return { runs, worthPerStay: KEPT_STAY_VALUE };
}

/** A rig's times for a project: what it switches off takes none. */
function costsOf({ rig, projects }: NightRequest, projectId: string): StepCosts {
  const arrival = projects.find(({ id }) => id === projectId)?.arrival;
  if (!arrival) return rig.costs;
  return {
    ...rig.costs,
    ...(arrival.centre ? {} : { centreSec: 0 }),
    ...(arrival.guide ? {} : { guidingStartSec: 0, ditherSec: 0 }),
    ...(arrival.focus ? {} : { autofocusSec: 0 }),
  };
}

/** Where filters alternate, the change to the next filter and the dither of a round are spread over the exposures of a group. */
function cycleOf(request: NightRequest, goal: RequestedGoal): number {
  const costs = costsOf(request, request.panels.find(({ id }) => id === goal.panelId)!.projectId);
  if (!goal.groupOf) return exposureCycleSec(costs, goal.settings);
  const beside = request.goals.filter(({ panelId, groupOf }) => panelId === goal.panelId && groupOf);
  if (beside.length < 2) return exposureCycleSec(costs, goal.settings);
  const changeSec = filterChangeSec(
    costs,
    beside.every(({ filterId }) => isOffsetKnown(request, filterId)),
  );
  const dithers = goal.settings.ditherEvery > 0 ? costs.ditherSec / beside.length : 0;
  return exposureCycleSec(costs, { ...goal.settings, ditherEvery: 0 }) + (changeSec + dithers) / goal.groupOf;
}

const isOffsetKnown = ({ filters }: NightRequest, filterId: string): boolean =>
  filters.find(({ id }) => id === filterId)?.offsetKnown ?? false;

/** Panels that take turns get at most their share of the hours that the project's panels can use. */
function inTurn(request: NightRequest, goals: readonly PlanGoal[]): PlanGoal[] {
  const capped = [...goals];
  request.projects.forEach(({ panelOrder }, project) => {
    if (panelOrder !== 'in_turn') return;
    const own = goals.flatMap((goal, g) =>
      goal.project === project && goal.count > 0 && goal.windows.length > 0 ? [g] : [],
    );
    const panels = new Set(own.map((g) => goals[g].panel));
    if (panels.size < 2) return;
    const [from, to] = own.reduce(
      ([first, last], g) => [
        Math.min(first, goals[g].windows[0].fromSec),
        Math.max(last, goals[g].windows.at(-1)!.toSec),
      ],
      [Infinity, 0],
    );
    for (const panel of panels) {
      const members = own.filter((g) => goals[g].panel === panel);
      const neededSec = members.reduce((sum, g) => sum + goals[g].count * goals[g].cycleSec, 0);
      const share = Math.min(1, (to - from) / panels.size / neededSec);
      for (const g of members) capped[g] = { ...goals[g], count: Math.max(1, Math.floor(goals[g].count * share)) };
    }
  });
  return capped;
}

const toSeconds = ({ startUtcMs, endUtcMs }: Interval, originUtcMs: number) => ({
  fromSec: (startUtcMs - originUtcMs) / 1000,
  toSec: (endUtcMs - originUtcMs) / 1000,
});

/** Samples at step edges to means over steps. */
function stepMeans(samples: Float64Array): Float64Array {
  return Float64Array.from({ length: samples.length - 1 }, (_, i) => (samples[i] + samples[i + 1]) / 2);
}

function panelChanges(request: NightRequest): number[][] {
  const { panels } = request;
  const row = (from: (typeof panels)[number] | null): number[] =>
    panels.map((to) =>
      from?.id === to.id || !to.position
        ? 0
        : Math.ceil(panelChangeSec(costsOf(request, to.projectId), from?.position ?? null, to.position)),
    );
  return [row(null), ...panels.map(row)];
}

function goalChangeSec(request: NightRequest, from: number, to: number): number {
  const { goals } = request;
  if (goals[from].filterId === goals[to].filterId || (goals[from].groupOf && goals[to].groupOf)) return 0;
  const known = (g: number): boolean => isOffsetKnown(request, goals[g].filterId);
  const { projectId } = request.panels.find(({ id }) => id === goals[to].panelId)!;
  return filterChangeSec(costsOf(request, projectId), known(from) && known(to));
}

const goalHours = (goal: RequestedGoal): number => ((goal.wanted ?? 0) * goal.settings.exposureSec) / 3600;

function completionBonus(
  request: NightRequest,
  goals: readonly PlanGoal[],
  project: number,
  weights: ObjectiveWeights,
): number {
  const own = request.goals.filter((_, g) => goals[g].project === project);
  const open = goals.some((goal) => goal.project === project && goal.count > 0);
  return open
    ? weights.completion * request.projects[project].weight * own.reduce((sum, goal) => sum + goalHours(goal), 0)
    : 0;
}

const hasEndlessGoal = (request: NightRequest, projectId: string): boolean =>
  request.goals.some(
    (goal) =>
      goal.wanted === null &&
      request.panels.some((panel) => panel.id === goal.panelId && panel.projectId === projectId),
  );

function balanceTerm(request: NightRequest, panelId: string, weights: ObjectiveWeights): BalanceTerm[] {
  const members = request.goals.flatMap((goal, g) =>
    goal.panelId === panelId && goal.wanted !== null && goal.wanted > 0
      ? [{ goal: g, done: goal.done, wanted: goal.wanted }]
      : [],
  );
  if (members.length === 0) return [];
  const panel = request.panels.find((candidate) => candidate.id === panelId)!;
  const { weight } = request.projects.find((project) => project.id === panel.projectId)!;
  const hours = members.reduce((sum, { goal }) => sum + goalHours(request.goals[goal]), 0);
  return [{ weight: weights.balance * weight * hours, members }];
}

function plannedBlocks(
  request: NightRequest,
  survey: NightSurvey,
  problem: NightProblem,
  { placements }: NightSolution,
): PlannedBlock[] {
  const { table } = survey;
  const utcMs = (sec: number): number => Math.round(table.startUtcMs + sec * 1000);
  const blocks: { panel: number; startUtcMs: number; runs: PlannedRun[] }[] = [];
  let previousPanel = -1;
  for (const { goal, startsSec } of placements) {
    const record = problem.goals[goal];
    const lastSec = startsSec[startsSec.length - 1];
    const run: PlannedRun = {
      goalId: record.id,
      startUtcMs: utcMs(startsSec[0]),
      endUtcMs: utcMs(lastSec + record.cycleSec),
      exposureStartsUtcMs: startsSec.map(utcMs),
      exposureSec: record.exposureSec,
      meanRateShare: meanShare(survey.goals[goal], table, startsSec, record.exposureSec),
    };
    if (record.panel !== previousPanel) {
      const change = problem.panelChangeSec[previousPanel + 1][record.panel];
      blocks.push({ panel: record.panel, startUtcMs: utcMs(Math.max(0, startsSec[0] - change)), runs: [] });
      previousPanel = record.panel;
    }
    blocks[blocks.length - 1].runs.push(run);
  }
  return blocks.map(({ panel, startUtcMs, runs }) => ({
    panelId: request.panels[panel].id,
    startUtcMs,
    endUtcMs: runs[runs.length - 1].endUtcMs,
    runs,
  }));
}

function meanShare(
  night: GoalNight,
  table: NightSurvey['table'],
  startsSec: readonly number[],
  exposureSec: number,
): number {
  const at = (sec: number): number =>
    night.rateShare[Math.min(table.length - 1, Math.round((sec * 1000) / table.stepMs))];
  return startsSec.reduce((sum, sec) => sum + at(sec + exposureSec / 2), 0) / startsSec.length;
}

/** Why each goal without a place in the plan has none. */
function omissionsOf(
  request: NightRequest,
  survey: NightSurvey,
  problem: NightProblem,
  solution: NightSolution,
): Omission[] {
  const placed = placedCounts(problem, solution.placements);
  return request.goals.flatMap((goal, g): Omission[] => {
    if (placed[g] > 0) return [];
    const night = survey.goals[g];
    if (goal.toPlan <= 0) return [{ goalId: goal.id, code: 'NOTHING_LEFT' }];
    if (isBanned(request.wishes ?? [], goal.panelId)) return [{ goalId: goal.id, code: 'LEFT_OUT_BY_HAND' }];
    if (night.blocked) {
      const numbers =
        night.blocked.code === 'CAMERA_ANGLE'
          ? { actual: night.blocked.actualDeg, limit: night.blocked.limitDeg }
          : { actual: null, limit: null };
      return [{ goalId: goal.id, code: night.blocked.code, ...numbers }];
    }
    if (night.windows.length === 0) return [{ goalId: goal.id, code: 'NO_WINDOW', gap: tellingGap(night) }];
    const longestSec = Math.max(...night.windows.map((w) => (w.endUtcMs - w.startUtcMs) / 1000));
    if (longestSec < goal.settings.exposureSec)
      return [{ goalId: goal.id, code: 'WINDOW_TOO_SHORT', longestSec, neededSec: goal.settings.exposureSec }];
    if (problem.goals[g].windows.length === 0) return [{ goalId: goal.id, code: 'HELD_BY_HAND' }];
    return [{ goalId: goal.id, code: 'OUTBID', ...outbidBy(problem, solution, g) }];
  });
}

/** The gap that says most: the longest one that isn't the day itself. */
function tellingGap({ gaps }: GoalNight): GoalNight['gaps'][number] | null {
  const length = (gap: GoalNight['gaps'][number]): number => gap.endUtcMs - gap.startUtcMs;
  const byNight = gaps.filter(({ code }) => code !== 'SUN_BOUND' && code !== 'TWILIGHT');
  const pool = byNight.length > 0 ? byNight : gaps;
  return pool.reduce<GoalNight['gaps'][number] | null>(
    (longest, gap) => (longest && length(longest) >= length(gap) ? longest : gap),
    null,
  );
}

/** Hours of a goal's windows that a plan could use. */
export const usableHours = (night: GoalNight): number =>
  night.blocked ? 0 : night.windows.reduce((sum, w) => sum + (w.endUtcMs - w.startUtcMs) / HOUR_MS, 0);

// The allocation problem of one night, from a request and the survey of its sky; what hands set is laid over it.
import type { StepCosts } from '../../exposure/time-cost.ts';
import { exposureCycleSec, filterChangeSec, panelChangeSec } from '../../exposure/time-cost.ts';
import type { Interval } from '../../time/nights.ts';
import type { GoalNight, KeptRun, NightRequest, RequestedGoal } from './night-request.ts';
import type { BalanceTerm, KeptPlan, NightProblem, PlanGoal } from '../problem.ts';
import { KEPT_STAY_VALUE, toMs } from '../problem.ts';
import type { NightSurvey } from './survey.ts';
import { isBanned, pinnedRuns, windowsLeft } from '../hand/wishes.ts';

/** Coefficients of the objective: light, balance, completion. The observatory's settings with these defaults. */
export interface ObjectiveWeights {
  readonly light: number;
  readonly balance: number;
  readonly completion: number;
}
export const DEFAULT_OBJECTIVE_WEIGHTS: ObjectiveWeights = { light: 0.6, balance: 0.4, completion: 0.3 };

const DEFAULT_MIN_STRETCH_MIN = 20;

/** The allocation problem of a surveyed night. */
export const nightProblem = (
  request: NightRequest,
  survey: NightSurvey,
  weights = DEFAULT_OBJECTIVE_WEIGHTS,
): NightProblem => withHands(openProblem(request, survey, weights), request, survey);

/** The problem before any hand: what stays while hands move. */
export function openProblem(
  request: NightRequest,
  { table, goals: nights }: NightSurvey,
  weights = DEFAULT_OBJECTIVE_WEIGHTS,
): NightProblem {
  const panelIndex = new Map(request.panels.map((panel, i) => [panel.id, i]));
  const projectIndex = new Map(request.projects.map((project, i) => [project.id, i]));
  const projectCosts = new Map(request.projects.map(({ id }) => [id, costsOf(request, id)]));
  const costs = request.panels.map(({ projectId }) => projectCosts.get(projectId) ?? request.rig.costs);
  const goalCosts = request.goals.map(({ panelId }) => costs[panelIndex.get(panelId)!]);
  const goals = request.goals.map((goal, g): PlanGoal => {
    const night = nights[g];
    const panel = request.panels[panelIndex.get(goal.panelId)!];
    const weight = request.projects[projectIndex.get(panel.projectId)!].weight + (goal.sharedWith?.weight ?? 0);
    return {
      id: goal.id,
      project: projectIndex.get(panel.projectId)!,
      panel: panelIndex.get(goal.panelId)!,
      exposureSec: goal.settings.exposureSec,
      cycleSec: cycleOf(request, goal, goalCosts[g]),
      count: goal.toPlan,
      value: (weights.light * weight * goal.settings.exposureSec) / 3600,
      windows: night.blocked ? [] : night.windows.map((window) => toSeconds(window, table.startUtcMs)),
      rate: { stepSec: table.stepMs / 1000, values: stepMeans(night.rateShare) },
    };
  });
  return {
    lengthSec: ((table.length - 1) * table.stepMs) / 1000,
    goals,
    panelChangeSec: panelChanges(request, costs),
    goalChangeSec: goalChanges(request, goalCosts),
    ...(request.goals.some(({ groupOf }) => groupOf)
      ? { groups: request.goals.map(({ groupOf }) => groupOf ?? 0) }
      : {}),
    panelCount: request.panels.length,
    projectBonus: request.projects.map((project, p) =>
      hasEndlessGoal(request, project.id) ? 0 : completionBonus(request, goals, p, weights),
    ),
    balances: balanceTerms(request, weights),
    minStayOfPanelSec: request.panels.map(({ id }) => minStaySec(request, nights, id)),
    ...(request.endHazardPerHour ? { endHazardPerHour: request.endHazardPerHour } : {}),
  };
}

/** The longest of the shortest stretches that a panel's goals ask for; other panels' goals have no say in it. */
function minStaySec({ goals }: NightRequest, nights: readonly GoalNight[], panelId: string): number {
  const asked = goals.flatMap((goal, g) =>
    goal.panelId === panelId ? [nights[g].limits.minStretchMin.value ?? DEFAULT_MIN_STRETCH_MIN] : [],
  );
  return 60 * Math.max(0, ...asked);
}

/** An open problem with the request's hand changes, its panels in turn, and the plan to stay near to. */
export function withHands(open: NightProblem, request: NightRequest, survey: NightSurvey): NightProblem {
  const wishes = request.wishes ?? [];
  const originUtcMs = survey.table.startUtcMs;
  const touched = new Set(wishes.flatMap((wish) => (wish.kind === 'pin' ? [] : [wish.panelId])));
  const goals = open.goals.map((goal, g): PlanGoal => {
    const { panelId } = request.goals[g];
    if (!touched.has(panelId) || goal.windows.length === 0) return goal;
    const left = isBanned(wishes, panelId) ? [] : windowsLeft(wishes, panelId, survey.goals[g].windows);
    return { ...goal, windows: left.map((window) => toSeconds(window, originUtcMs)) };
  });
  const timed = { ...open, goals: inTurn(request, goals) };
  const { pinned } = pinnedRuns(timed, wishes, originUtcMs);
  return {
    ...timed,
    ...(pinned.length > 0 ? { pinned } : {}),
    ...(request.kept ? { kept: keptPlan(request.kept, goals, originUtcMs) } : {}),
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
function cycleOf(request: NightRequest, goal: RequestedGoal, costs: StepCosts): number {
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
  const means = new Float64Array(samples.length - 1);
  for (let i = 0; i < means.length; i++) means[i] = (samples[i] + samples[i + 1]) / 2;
  return means;
}

function panelChanges({ panels }: NightRequest, costs: readonly StepCosts[]): number[][] {
  const row = (from: (typeof panels)[number] | null): number[] =>
    panels.map((to, i) =>
      from?.id === to.id || !to.position ? 0 : Math.ceil(panelChangeSec(costs[i], from?.position ?? null, to.position)),
    );
  return [row(null), ...panels.map(row)];
}

/** @param costs of each goal's panel */
function goalChanges(request: NightRequest, costs: readonly StepCosts[]): (from: number, to: number) => number {
  const { goals } = request;
  const known = goals.map(({ filterId }) => isOffsetKnown(request, filterId));
  return (from, to) =>
    goals[from].filterId === goals[to].filterId || (goals[from].groupOf && goals[to].groupOf)
      ? 0
      : filterChangeSec(costs[to], known[from] && known[to]);
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

function balanceTerms(request: NightRequest, weights: ObjectiveWeights): BalanceTerm[] {
  const weightOf = new Map(request.projects.map(({ id, weight }) => [id, weight]));
  const terms = new Map(request.panels.map(({ id }) => [id, { hours: 0, members: [] as BalanceMember[] }]));
  request.goals.forEach((goal, g) => {
    const { panelId, wanted, done } = goal;
    const term = terms.get(panelId);
    if (!term || wanted === null || wanted <= 0) return;
    term.members.push(leadOf(request, goal) ?? { goal: g, done, wanted });
    term.hours += goalHours(goal);
  });
  return request.panels.flatMap(({ id, projectId }) => {
    const { hours, members } = terms.get(id)!;
    return members.length > 0 ? [{ weight: weights.balance * weightOf.get(projectId)! * hours, members }] : [];
  });
}
type BalanceMember = BalanceTerm['members'][number];

/** A goal that wholly comes with a joined one is as far as that is placed. */
function leadOf({ goals }: NightRequest, { comesWith, toPlan, done, wanted }: RequestedGoal): BalanceMember | null {
  const lead = comesWith && toPlan === 0 ? goals.findIndex(({ id }) => id === comesWith) : -1;
  return lead < 0 ? null : { goal: lead, done: Math.max(0, done - goals[lead].toPlan), wanted: wanted! };
}

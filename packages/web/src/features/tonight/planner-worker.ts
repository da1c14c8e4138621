// Plans a rig's night anew off the page's own thread: a plan at once, then a better one; and answers why.
import type { NightSky, PlanBlock, PlanName } from '@meridiem/contract';
import { hoursOfPlan, shownBlocks } from '@meridiem/contract';
import type {
  BrokenWish,
  KeptRun,
  MomentReason,
  NightProblem,
  NightRequest,
  NightSurvey,
  NightWish,
  SolvedNight,
} from '@meridiem/core';
import { barePlanOf, explainMoment, firstNight, openProblem, solveNight, surveyNight, withHands } from '@meridiem/core';

export interface PlannerSetting {
  readonly kind: 'setting';
  readonly request: NightRequest;
  readonly names: readonly PlanName[];
  readonly sky: NightSky;
}
export interface PlannerChange {
  readonly kind: 'change';
  readonly turn: number;
  readonly wishes: readonly NightWish[];
  readonly kept: readonly KeptRun[];
}
export interface PlannerQuestion {
  readonly kind: 'why';
  readonly goalId: string;
  readonly utcMs: number;
}
export type PlannerOrder = PlannerSetting | PlannerChange | PlannerQuestion;

export interface Replanned {
  readonly kind: 'plan';
  readonly turn: number;
  readonly stage: 'first' | 'improved';
  readonly blocks: PlanBlock[];
  readonly value: number;
  readonly exposingHours: number;
  readonly overheadHours: number;
  readonly broken: readonly BrokenWish[];
}
export interface Explained {
  readonly kind: 'why';
  readonly goalId: string;
  readonly utcMs: number;
  readonly reason: MomentReason;
}
export type PlannerReply = Replanned | Explained;

let setting: PlannerSetting | null = null;
let survey: NightSurvey | null = null;
/** The problem before any hand. */
let open: NightProblem | null = null;

/** What of a request the survey depends on: hand changes leave the sky as it is. */
const skyPart = ({ wishes: _wishes, kept: _kept, ...sky }: NightRequest): string => JSON.stringify(sky);
let surveyed = '';

const reply = (message: PlannerReply): void => self.postMessage(message);

self.onmessage = ({ data }: MessageEvent<PlannerOrder>): void => {
  if (data.kind === 'setting') {
    const next = skyPart(data.request);
    setting = data;
    solved = null;
    if (next === surveyed) return;
    surveyed = next;
    survey = surveyNight(data.request);
    open = survey && openProblem(data.request, survey);
    // Solved once before anybody asks: a planner that is warm when a hand moves.
    solved = solvedNight();
  } else if (data.kind === 'change') replan(data);
  else explain(data);
};

function replan({ turn, wishes, kept }: PlannerChange): void {
  if (!setting || !survey || !open) return;
  const { names, sky } = setting;
  const request: NightRequest = { ...setting.request, wishes, kept };
  const problem = withHands(open, request, survey);
  for (const stage of ['first', 'improved'] as const) {
    const solution = stage === 'first' ? firstNight(problem) : solveNight(problem);
    const plan = barePlanOf({ request, survey, problem, solution });
    const flips = request.rig.mountKind === 'german_equatorial';
    const blocks = shownBlocks({ site: request.site, flips, sky, names, plan, taken: [] });
    reply({ kind: 'plan', turn, stage, blocks, value: plan.value, ...hoursOfPlan(plan), broken: plan.broken ?? [] });
  }
}

/** The night as it was last set, solved once for all questions. */
let solved: SolvedNight | null = null;

function solvedNight(): SolvedNight | null {
  if (!setting || !survey || !open) return null;
  const { request } = setting;
  const problem = withHands(open, request, survey);
  firstNight(problem);
  return { request, survey, problem, solution: solveNight(problem) };
}

function explain({ goalId, utcMs }: PlannerQuestion): void {
  solved ??= solvedNight();
  if (!setting || !solved) return;
  const goal = solved.request.goals.findIndex(({ id }) => id === goalId);
  if (goal >= 0) reply({ kind: 'why', goalId, utcMs, reason: explainMoment(solved, goal, utcMs) });
}

// A request in the observatory's words to a plan in the observatory's words, through the one planning entry.
import { HOUR_MS } from '../../units.ts';
import { outbidBy } from '../explain/explain.ts';
import { DEFAULT_OBJECTIVE_WEIGHTS, nightProblem } from './night-problem.ts';
import type { GoalNight, NightPlan, NightRequest, Omission, PlannedBlock, PlannedRun } from './night-request.ts';
import type { NightProblem, NightSolution, Placement } from '../problem.ts';
import { placedCounts } from '../problem.ts';
import type { SolveOptions } from './solve-night.ts';
import { DEFAULT_SOLVE_OPTIONS, solveNight } from './solve-night.ts';
import type { NightSurvey } from './survey.ts';
import { surveyNight } from './survey.ts';
import { isBanned, pinnedRuns } from '../hand/wishes.ts';

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

/** A run that a flip, the zenith or a closed window interrupts is two. */
function withoutHoles({ goals }: NightProblem, { goal, startsSec }: Placement): Placement[] {
  const { cycleSec } = goals[goal];
  const runs: number[][] = [];
  for (const [i, startSec] of startsSec.entries()) {
    if (i === 0 || startSec - startsSec[i - 1] > cycleSec + HOLE_SEC) runs.push([]);
    runs[runs.length - 1].push(startSec);
  }
  return runs.map((own) => ({ goal, startsSec: own }));
}
const HOLE_SEC = 30;

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
  for (const { goal, startsSec } of placements.flatMap((placement) => withoutHoles(problem, placement))) {
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
    if (goal.toPlan <= 0)
      return [
        goal.comesWith
          ? { goalId: goal.id, code: 'WITH_ANOTHER', leadGoalId: goal.comesWith }
          : { goalId: goal.id, code: 'NOTHING_LEFT' },
      ];
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

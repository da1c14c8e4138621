// Why a goal is, or is not, exposed at one moment of a solved night: the limit that fails, the hour it waits for, or what forcing it would cost.
import type { Gap } from '../../limits/windows.ts';
import { momentOfSample } from '../../sky/night-table.ts';
import type { UtcMs } from '../../units.ts';
import type { BlockedReason } from '../night/night-request.ts';
import { goalRecords, meanRate } from '../objective.ts';
import type { SolvedNight } from '../night/plan-night.ts';
import type { KeptPlan, NightProblem, NightSolution, Placement } from '../problem.ts';
import { changeSecBetween, KEPT_STAY_VALUE, toMs } from '../problem.ts';
import type { SolveOptions } from '../night/solve-night.ts';
import { DEFAULT_SOLVE_OPTIONS, solveNight } from '../night/solve-night.ts';
import { isBanned, startsFrom } from '../hand/wishes.ts';

/** Rates are shares of the best that the target and filter reach from the site; costs are in the plan's value, hours at weight 1. */
export type MomentReason =
  /** The sun is up. */
  | { readonly code: 'DAY' }
  | { readonly code: 'NOTHING_LEFT' | 'LEFT_OUT_BY_HAND' | 'HELD_BY_HAND' | BlockedReason['code'] }
  | { readonly code: 'LIMIT'; readonly gap: Gap }
  /** A window, but no exposure that begins now ends inside it. */
  | { readonly code: 'WINDOW_ENDS'; readonly endUtcMs: UtcMs }
  | {
      readonly code: 'EXPOSED';
      readonly rate: number;
      /** The best moment of its windows, where it is better than now by more than a hundredth. */
      readonly better: { readonly utcMs: UtcMs; readonly rate: number } | null;
      readonly second: { readonly goalId: string; readonly costs: number } | null;
    }
  | {
      readonly code: 'WAITS';
      readonly rate: number;
      readonly atUtcMs: UtcMs;
      readonly rateThen: number;
      readonly costs: number;
    }
  | { readonly code: 'OUTBID'; readonly rate: number; readonly rivalGoalId: string | null; readonly costs: number };

/** @param goal index into the request's goals */
export function explainMoment(
  solved: SolvedNight,
  goal: number,
  utcMs: UtcMs,
  options: SolveOptions = DEFAULT_SOLVE_OPTIONS,
): MomentReason {
  const { request, survey, problem, solution } = solved;
  const night = survey.goals[goal];
  const standing = standingOf(solved, goal);
  if (standing) return standing;
  if (!(utcMs >= survey.table.startUtcMs && utcMs <= momentOfSample(survey.table, survey.table.length - 1)))
    return { code: 'DAY' };
  const gap = night.gaps.find(({ startUtcMs, endUtcMs }) => utcMs >= startUtcMs && utcMs < endUtcMs);
  if (gap) return { code: 'LIMIT', gap };
  const atSec = (utcMs - survey.table.startUtcMs) / 1000;
  const record = goalRecords(problem)[goal];
  const window = problem.goals[goal].windows.find(({ fromSec, toSec }) => atSec >= fromSec && atSec < toSec);
  if (!window) return { code: 'HELD_BY_HAND' };
  if (atSec + record.exposureSec > window.toSec)
    return { code: 'WINDOW_ENDS', endUtcMs: survey.table.startUtcMs + window.toSec * 1000 };
  const rate = meanRate(record, atSec);
  const utcOf = (sec: number): UtcMs => survey.table.startUtcMs + sec * 1000;
  if (isExposed(problem, solution, goal, atSec)) {
    const best = bestMoment(problem, goal);
    const second = secondBest(solved, goal, atSec, options);
    return {
      code: 'EXPOSED',
      rate,
      better: best.rate > rate + 0.01 ? { utcMs: utcOf(best.sec), rate: best.rate } : null,
      second: second && { goalId: request.goals[second.goal].id, costs: second.costs },
    };
  }
  const costs = costOfForcing(problem, solution, goal, atSec, options);
  if (costs === null) return { code: 'HELD_BY_HAND' };
  const own = solution.placements.filter((placement) => placement.goal === goal);
  if (own.length > 0) {
    const { startsSec } = own[0];
    return { code: 'WAITS', rate, atUtcMs: utcOf(startsSec[0]), rateThen: meanRateOf(problem, own), costs };
  }
  const rival = holderOf(problem, solution, atSec, forcedCount(problem, goal, atSec) * record.cycleSec);
  return { code: 'OUTBID', rate, rivalGoalId: rival === null ? null : request.goals[rival].id, costs };
}

function standingOf({ request, survey }: SolvedNight, goal: number): MomentReason | null {
  const { toPlan, panelId } = request.goals[goal];
  if (toPlan <= 0) return { code: 'NOTHING_LEFT' };
  if (isBanned(request.wishes ?? [], panelId)) return { code: 'LEFT_OUT_BY_HAND' };
  const { blocked } = survey.goals[goal];
  return blocked && { code: blocked.code };
}

/** By how much the night's value falls when a goal must be exposed from a moment on for the shortest stay; 0 where nothing is lost, null where a hand holds the time. */
export function costOfForcing(
  problem: NightProblem,
  solution: NightSolution,
  goal: number,
  atSec: number,
  options: SolveOptions = DEFAULT_SOLVE_OPTIONS,
): number | null {
  const startsSec = startsFrom(problem.goals[goal], atSec, forcedCount(problem, goal, atSec));
  const forced = withPin(problem, { goal, startsSec });
  if (!forced) return null;
  return Math.max(0, solution.value - solveNight({ ...forced, kept: nearTo(solution) }, options).value);
}

/** Exposures of the shortest stay, as far as they are wanted and the window holds them. */
function forcedCount(problem: NightProblem, goal: number, atSec: number): number {
  const { cycleSec, exposureSec, count, windows, panel } = problem.goals[goal];
  const window = windows.find(({ fromSec, toSec }) => atSec >= fromSec && atSec + exposureSec <= toSec);
  const fits = window ? Math.floor((window.toSec - atSec - exposureSec + 1e-6) / cycleSec) + 1 : 0;
  return Math.min(count, fits, Math.max(1, Math.ceil(problem.minStayOfPanelSec[panel] / cycleSec)));
}

/** The problem with one pin more; null where it would run into another, or begin before the rig can be there. */
function withPin(problem: NightProblem, pin: Placement): NightProblem | null {
  const pinned = [...(problem.pinned ?? []), pin].sort((a, b) => a.startsSec[0] - b.startsSec[0]);
  if (pinned[0] === pin && pin.startsSec[0] < changeSecBetween(problem, -1, pin.goal)) return null;
  const count = pinned.filter(({ goal }) => goal === pin.goal).reduce((sum, run) => sum + run.startsSec.length, 0);
  if (count > problem.goals[pin.goal].count) return null;
  for (let i = 1; i < pinned.length; i++) {
    const [a, b] = [pinned[i - 1], pinned[i]];
    const readySec = a.startsSec.at(-1)! + problem.goals[a.goal].cycleSec + changeSecBetween(problem, a.goal, b.goal);
    if (readySec > b.startsSec[0] + 0.002) return null;
  }
  return { ...problem, pinned };
}

/** A solution as the plan that a re-plan stays near to. */
const nearTo = ({ placements }: NightSolution): KeptPlan => ({
  runs: placements.map(({ goal, startsSec }) => ({ goal, startSec: toMs(startsSec[0]), count: startsSec.length })),
  worthPerStay: KEPT_STAY_VALUE,
});

const isExposed = (problem: NightProblem, { placements }: NightSolution, goal: number, atSec: number): boolean =>
  placements.some(
    (placement) =>
      placement.goal === goal &&
      atSec >= placement.startsSec[0] &&
      atSec < placement.startsSec.at(-1)! + problem.goals[goal].cycleSec,
  );

/** The goal that holds most of a stretch; null where nothing does. */
function holderOf(problem: NightProblem, { placements }: NightSolution, fromSec: number, lengthSec: number) {
  const held = new Map<number, number>();
  for (const { goal, startsSec } of placements) {
    const { cycleSec } = problem.goals[goal];
    const shared = Math.min(startsSec.at(-1)! + cycleSec, fromSec + lengthSec) - Math.max(startsSec[0], fromSec);
    if (shared > 0) held.set(goal, (held.get(goal) ?? 0) + shared);
  }
  let most: number | null = null;
  for (const [goal, sec] of held) if (most === null || sec > held.get(most)!) most = goal;
  return most;
}

function bestMoment(problem: NightProblem, goal: number): { sec: number; rate: number } {
  const record = goalRecords(problem)[goal];
  let best = { sec: 0, rate: 0 };
  for (const { fromSec, toSec } of problem.goals[goal].windows) {
    for (let sec = fromSec; sec + record.exposureSec <= toSec; sec += 60) {
      const rate = meanRate(record, sec);
      if (rate > best.rate) best = { sec, rate };
    }
  }
  return best;
}

/** Who would have the moment, and what the night would lose, if this goal were left out of the stay that holds it. */
function secondBest({ problem, solution }: SolvedNight, goal: number, atSec: number, options: SolveOptions) {
  const { panel } = problem.goals[goal];
  const cut = problem.goals.map((other) =>
    other.panel === panel ? { ...other, windows: withoutMoment(other.windows, atSec) } : other,
  );
  if ((problem.pinned ?? []).some((run) => problem.goals[run.goal].panel === panel)) return null;
  const without = solveNight({ ...problem, goals: cut, kept: nearTo(solution) }, options);
  const heir = without.placements.find(({ goal: other }) => isExposed(problem, without, other, atSec));
  return heir ? { goal: heir.goal, costs: Math.max(0, solution.value - without.value) } : null;
}

const withoutMoment = (windows: NightProblem['goals'][number]['windows'], atSec: number) =>
  windows.flatMap(({ fromSec, toSec }) =>
    atSec < fromSec || atSec >= toSec
      ? [{ fromSec, toSec }]
      : [
          { fromSec, toSec: atSec },
          { fromSec: atSec + 1, toSec },
        ],
  );

function meanRateOf(problem: NightProblem, placements: readonly Placement[]): number {
  const records = goalRecords(problem);
  const shots = placements.flatMap(({ goal, startsSec }) => startsSec.map((sec) => meanRate(records[goal], sec)));
  return shots.reduce((sum, rate) => sum + rate, 0) / shots.length;
}

// What a coordinator sets by hand for one night: runs pinned, panels left out, held back or cut off; and how each enters the problem.
import type { Interval } from '../../time/nights.ts';
import type { UtcMs } from '../../units.ts';
import type { NightProblem, PlanGoal, Placement, TimeWindow } from '../problem.ts';
import { changeSecBetween } from '../problem.ts';

/** One hand change. It holds for its night only and outlives every re-plan. */
export type NightWish =
  /** A run of a goal from a moment on. */
  | {
      readonly id: string;
      readonly kind: 'pin';
      readonly goalId: string;
      readonly startUtcMs: UtcMs;
      readonly count: number;
    }
  /** A panel is left out. */
  | { readonly id: string; readonly kind: 'ban'; readonly panelId: string }
  /** A panel is not exposed before, or not after, a moment. */
  | { readonly id: string; readonly kind: 'not_before' | 'not_after'; readonly panelId: string; readonly utcMs: UtcMs };

export type WishKind = NightWish['kind'];

/** Why a pinned run stands in the plan only in part or not at all. */
export interface BrokenWish {
  readonly wishId: string;
  readonly code: 'OUTSIDE_LIMITS' | 'TIME_TAKEN' | 'NOTHING_LEFT';
  readonly kept: number;
  readonly asked: number;
}

export const isBanned = (wishes: readonly NightWish[], panelId: string): boolean =>
  wishes.some((wish) => wish.kind === 'ban' && wish.panelId === panelId);

/** Windows of a panel's goal as far as hands leave them open. */
export function windowsLeft(wishes: readonly NightWish[], panelId: string, windows: readonly Interval[]): Interval[] {
  let [fromUtcMs, toUtcMs] = [-Infinity, Infinity];
  for (const wish of wishes) {
    if (wish.kind === 'not_before' && wish.panelId === panelId) fromUtcMs = Math.max(fromUtcMs, wish.utcMs);
    if (wish.kind === 'not_after' && wish.panelId === panelId) toUtcMs = Math.min(toUtcMs, wish.utcMs);
  }
  return windows
    .map(({ startUtcMs, endUtcMs }) => ({
      startUtcMs: Math.max(startUtcMs, fromUtcMs),
      endUtcMs: Math.min(endUtcMs, toUtcMs),
    }))
    .filter(({ startUtcMs, endUtcMs }) => endUtcMs > startUtcMs);
}

/** Times come by way of whole milliseconds. */
const SLACK_SEC = 0.002;

/** What pins need of a problem that is still being made. */
type Pinning = Pick<NightProblem, 'goals' | 'panelChangeSec' | 'goalChangeSec' | 'lengthSec'>;

/** Pinned runs as placements in time order: exposures outside their windows, beyond the count or in time that an earlier pin holds are left out, and said.
 * No hand overrides a limit or a bound: a limit is changed where it is set. */
export function pinnedRuns(
  problem: Pinning,
  wishes: readonly NightWish[],
  originUtcMs: UtcMs,
): { pinned: Placement[]; broken: BrokenWish[] } {
  const pins = wishes
    .flatMap((wish) => (wish.kind === 'pin' ? [wish] : []))
    .sort((a, b) => a.startUtcMs - b.startUtcMs || (a.id < b.id ? -1 : 1));
  const left = problem.goals.map((goal) => goal.count);
  const pinned: Placement[] = [];
  const broken: BrokenWish[] = [];
  for (const { id, goalId, startUtcMs, count } of pins) {
    const goal = problem.goals.findIndex((candidate) => candidate.id === goalId);
    if (goal < 0) continue;
    const record = problem.goals[goal];
    const readySec = readyAfter(problem, pinned[pinned.length - 1], goal);
    const fromSec = Math.max(0, (startUtcMs - originUtcMs) / 1000);
    const open = startsFrom(record, fromSec, count);
    const free = open.filter((sec) => sec >= readySec - SLACK_SEC);
    const startsSec = free.slice(0, left[goal]);
    left[goal] -= startsSec.length;
    if (startsSec.length > 0) pinned.push({ goal, startsSec });
    if (startsSec.length === count) continue;
    const code = open.length < count ? 'OUTSIDE_LIMITS' : free.length < count ? 'TIME_TAKEN' : 'NOTHING_LEFT';
    broken.push({ wishId: id, code, kept: startsSec.length, asked: count });
  }
  return { pinned, broken };
}

function readyAfter(problem: Pinning, last: Placement | undefined, goal: number): number {
  if (!last) return changeSecBetween(problem, -1, goal);
  const { cycleSec } = problem.goals[last.goal];
  return last.startsSec[last.startsSec.length - 1] + cycleSec + changeSecBetween(problem, last.goal, goal);
}

const isInside = ({ windows, exposureSec }: PlanGoal, sec: number): boolean =>
  windows.some(
    (window: TimeWindow) => sec >= window.fromSec - SLACK_SEC && sec + exposureSec <= window.toSec + SLACK_SEC,
  );

/** Starts of exposures from a moment on, one after the other; where a window closes they go on in the next one. None where the moment itself lies outside. */
export function startsFrom(goal: PlanGoal, fromSec: number, count: number): number[] {
  const startsSec: number[] = [];
  if (!isInside(goal, fromSec)) return startsSec;
  let sec = fromSec;
  while (startsSec.length < count) {
    if (!isInside(goal, sec)) {
      const next = goal.windows.find((window) => window.fromSec > sec);
      if (!next) break;
      sec = next.fromSec;
      if (!isInside(goal, sec)) continue;
    }
    startsSec.push(sec);
    sec += goal.cycleSec;
  }
  return startsSec;
}

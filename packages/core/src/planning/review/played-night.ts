// A night as it would have been carried out: by a plan that does not know what will be lost, made again after each loss.
import type { Interval } from '../../time/nights.ts';
import type { UtcMs } from '../../units.ts';
import type { GoalRecord } from '../objective.ts';
import { Collective, goalRecords, meanRate } from '../objective.ts';
import type { NightProblem, Placement, PlanGoal, TimeWindow } from '../problem.ts';
import { changeSecBetween } from '../problem.ts';

export interface Shot {
  readonly goal: number;
  readonly startSec: number;
}

/** Seconds from the problem's origin in which nothing can be exposed. */
export interface LostSec {
  readonly fromSec: number;
  readonly toSec: number;
  /** The telescope stays where it is, and the plan goes on. */
  readonly isPassing?: boolean;
}

/** A span in seconds of the night's problem; what lies before its beginning is negative. */
export const spanInSec = (
  { startUtcMs, endUtcMs, isPassing }: Interval & Pick<LostSec, 'isPassing'>,
  originUtcMs: UtcMs,
): LostSec => ({ fromSec: (startUtcMs - originUtcMs) / 1000, toSec: (endUtcMs - originUtcMs) / 1000, isPassing });

/** A panel that is not tried from a moment on. */
export interface LeftSec {
  readonly panel: number;
  readonly fromSec: number;
}

/** A plan as it came into force. */
export interface PlanInForce {
  readonly fromSec: number;
  readonly shots: readonly Shot[];
}

export interface Played {
  readonly lost: readonly LostSec[];
  readonly left: readonly LeftSec[];
  /** The plan that the night begins with; made at its beginning where left out. */
  readonly first?: readonly Shot[];
  readonly solve: (problem: NightProblem) => readonly Placement[];
  /** The plans that were made again in it, instead of those that `solve` would make; in order. */
  readonly madeAgain?: readonly PlanInForce[];
  /** Seconds from the end of an exposure to the next one's beginning, where they are known; otherwise as the problem says. */
  readonly gapSec?: (from: number, to: number, endSec: number) => number | null;
}

/** So far behind its plan a night is planned again. */
const LATE_SEC = 600;
/** So late an exposure is left out where planning again was of no use. */
const LATEST_SEC = 1500;

interface Standing {
  readonly atSec: number;
  /** Where the telescope is; −1 after a loss. */
  readonly panel: number;
  readonly placed: readonly number[];
}

/** What a night brings whose losses nobody knows beforehand: starts are waited for, and after a loss, or where it runs late, the
 * rest is planned again. Limits are the plan's: what it has begun is carried out where it runs late, to the end of the night. */
export const playedNight = (problem: NightProblem, played: Played): Shot[] => new Playing(problem, played).shots();

class Playing {
  readonly #problem: NightProblem;
  readonly #played: Played;
  readonly #shots: Shot[] = [];
  readonly #placed: number[];
  #queue: readonly Shot[];
  #atSec = 0;
  #lastGoal = -1;
  /** When the last exposure ended, with what has passed since. */
  #exposedSec = 0;
  #losses = 0;
  #plansMade = 0;
  /** Whether the night is planned again where it falls behind: until that was of no use. */
  #isPlannedAgain = true;

  constructor(problem: NightProblem, played: Played) {
    this.#problem = problem;
    this.#played = played;
    this.#placed = problem.goals.map(() => 0);
    this.#queue = played.first ?? this.#planned();
  }

  shots(): Shot[] {
    while (this.#queue.length > 0) this.#goOn(this.#queue[0]);
    return this.#shots;
  }

  #goOn(shot: Shot): void {
    const record = this.#problem.goals[shot.goal];
    const startSec = Math.max(shot.startSec, this.#readySec(shot.goal));
    if (this.#isBrokenOff(startSec + record.exposureSec) || this.#isReplaced(startSec)) return;
    const lateSec = startSec - shot.startSec;
    if (lateSec > LATE_SEC && this.#isPlannedAgain && !this.#played.madeAgain) {
      this.#queue = this.#planned();
      this.#isPlannedAgain = !this.#queue.some((one) => one.startSec < this.#atSec - LATE_SEC);
      return;
    }
    if (this.#isGivenUp(record.panel, startSec)) return;
    this.#queue = this.#queue.slice(1);
    const isPast = startSec + record.exposureSec > this.#problem.lengthSec;
    if (isPast || lateSec > LATEST_SEC || this.#placed[shot.goal] >= record.count) return;
    this.#shots.push({ goal: shot.goal, startSec });
    this.#placed[shot.goal] += 1;
    [this.#atSec, this.#lastGoal] = [startSec + record.cycleSec, shot.goal];
    this.#exposedSec = startSec + record.exposureSec;
  }

  #readySec(goal: number): number {
    const known = this.#lastGoal < 0 ? null : this.#played.gapSec?.(this.#lastGoal, goal, this.#exposedSec);
    if (known !== null && known !== undefined) return this.#exposedSec + known;
    return this.#atSec + changeSecBetween(this.#problem, this.#lastGoal, goal);
  }

  #isBrokenOff(endSec: number): boolean {
    const loss = this.#played.lost[this.#losses];
    if (!loss || loss.fromSec >= endSec) return false;
    this.#losses += 1;
    if (loss.isPassing) this.#pass(loss.toSec - loss.fromSec);
    else if (loss.toSec > this.#atSec) this.#afterTrouble(loss.toSec);
    return true;
  }

  #pass(sec: number): void {
    this.#atSec += sec;
    this.#exposedSec += sec;
  }

  #isGivenUp(panel: number, startSec: number): boolean {
    const given = this.#played.left.find((one) => one.panel === panel && one.fromSec <= startSec);
    if (!given) return false;
    if (this.#played.madeAgain) this.#queue = this.#queue.slice(1);
    else this.#afterTrouble(Math.max(this.#atSec, given.fromSec));
    return true;
  }

  #afterTrouble(atSec: number): void {
    [this.#atSec, this.#lastGoal, this.#isPlannedAgain] = [atSec, -1, true];
    if (!this.#played.madeAgain) this.#queue = this.#planned();
  }

  /** Whether a plan has come into force before the exposure at hand. */
  #isReplaced(startSec: number): boolean {
    const next = this.#played.madeAgain?.[this.#plansMade];
    if (!next || next.fromSec > startSec) return false;
    this.#plansMade += 1;
    this.#queue = next.shots;
    return true;
  }

  #planned(): Shot[] {
    const panel = this.#lastGoal < 0 ? -1 : this.#problem.goals[this.#lastGoal].panel;
    const standing = { atSec: this.#atSec, panel, placed: this.#placed };
    return shotsOf(this.#played.solve(restOf(this.#problem, standing, this.#played.left)));
  }
}

/** What is left of a night for a telescope that stands somewhere. */
export function restOf(
  problem: NightProblem,
  { atSec, panel, placed }: Standing,
  left: readonly LeftSec[],
): NightProblem {
  const goals = problem.goals.map((goal, g): PlanGoal => {
    const isLeft = left.some((one) => one.panel === goal.panel && one.fromSec <= atSec);
    const arrivalSec = panel === goal.panel ? 0 : problem.panelChangeSec[panel + 1][goal.panel];
    return {
      ...goal,
      count: goal.count - placed[g],
      windows: isLeft ? [] : cutBefore(goal.windows, atSec === 0 ? 0 : atSec + arrivalSec),
    };
  });
  const { kept: _kept, ...rest } = problem;
  return {
    ...rest,
    goals,
    balances: problem.balances.map((term) => ({
      ...term,
      members: term.members.map((member) => ({ ...member, done: member.done + placed[member.goal] })),
    })),
    pinned: problem.pinned?.flatMap(({ goal, startsSec }) => {
      const later = startsSec.filter((sec) => sec >= atSec && goals[goal].windows.some((window) => sec >= window.fromSec - 1 && sec + goals[goal].exposureSec <= window.toSec + 1)); // prettier-ignore
      return later.length > 0 ? [{ goal, startsSec: later }] : [];
    }),
  };
}

const cutBefore = (windows: readonly TimeWindow[], atSec: number): TimeWindow[] =>
  windows
    .map(({ fromSec, toSec }) => ({ fromSec: Math.max(fromSec, atSec), toSec }))
    .filter(({ fromSec, toSec }) => toSec > fromSec);

/** A problem without the time that is lost in it; after each loss a telescope arrives from wherever it was parked. */
export const withoutLost = (problem: NightProblem, lost: readonly LostSec[]): NightProblem => ({
  ...problem,
  goals: problem.goals.map((goal) => {
    const arrivalSec = problem.panelChangeSec[0][goal.panel];
    const windows = lost.reduce<readonly TimeWindow[]>(
      (open, { fromSec, toSec }) =>
        open.flatMap((window) =>
          [
            { fromSec: window.fromSec, toSec: Math.min(window.toSec, fromSec) },
            { fromSec: Math.max(window.fromSec, toSec + arrivalSec), toSec: window.toSec },
          ].filter((part) => part.toSec > part.fromSec),
        ),
      goal.windows,
    );
    return { ...goal, windows };
  }),
});

/** A problem in which everything but exposing takes so many times as long: between exposures of one goal, and on the way to another. */
export const slowedBy = (
  problem: NightProblem,
  by: { readonly within: number; readonly between: number },
): NightProblem => ({
  ...problem,
  goals: problem.goals.map((goal) => ({
    ...goal,
    cycleSec: goal.exposureSec + (goal.cycleSec - goal.exposureSec) * by.within,
  })),
  panelChangeSec: problem.panelChangeSec.map((row) => row.map((sec) => sec * by.between)),
  goalChangeSec: (from, to) => problem.goalChangeSec(from, to) * by.between,
});

export const shotsOf = (placements: readonly Placement[]): Shot[] =>
  placements
    .flatMap(({ goal, startsSec }) => startsSec.map((startSec) => ({ goal, startSec })))
    .sort((a, b) => a.startSec - b.startSec);

/** What exposures are worth in a night, wherever they stand. */
export function worthOf(problem: NightProblem, shots: readonly Shot[]): number {
  const records: GoalRecord[] = goalRecords(problem);
  const placed = problem.goals.map(() => 0);
  let light = 0;
  for (const { goal, startSec } of shots) {
    placed[goal] += 1;
    light += problem.goals[goal].value * meanRate(records[goal], startSec);
  }
  return light + new Collective(problem).value(placed);
}

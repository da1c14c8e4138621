// An independent judge of night plans: recounts value and looks for violations by plain loops. Shares no code with the planner.
import type { NightProblem, Placement } from '../problem.ts';

export type ViolationCode =
  | 'UNKNOWN_GOAL'
  | 'OUTSIDE_WINDOW'
  | 'PAST_NIGHT_END'
  | 'OVERLAP'
  | 'CHANGE_TOO_SHORT'
  | 'CYCLE_TOO_SHORT'
  | 'TOO_MANY'
  | 'STAY_TOO_SHORT'
  | 'PIN_MOVED'
  | 'LIMIT_BROKEN'
  | 'ANGLE_OUT_OF_TOLERANCE';

export interface Violation {
  readonly code: ViolationCode;
  readonly goal: string;
  readonly atSec: number;
  readonly words: string;
}

export interface CheckedNight {
  readonly value: number;
  readonly violations: readonly Violation[];
}

interface Shot {
  readonly goal: number;
  readonly startSec: number;
}

const SLACK_SEC = 0.01;

/** Recomputes the value of a plan and lists every broken promise. */
export function checkNight(problem: NightProblem, placements: readonly Placement[]): CheckedNight {
  const shots: Shot[] = [];
  for (const { goal, startsSec } of placements) for (const startSec of startsSec) shots.push({ goal, startSec });
  const known = shots.filter((shot) => problem.goals[shot.goal] !== undefined);
  const violations = [
    ...shots
      .filter((shot) => !problem.goals[shot.goal])
      .map((shot) => violation('UNKNOWN_GOAL', '?', shot.startSec, 'no such goal')),
    ...known.flatMap((shot) => windowViolations(problem, shot)),
    ...changeViolations(problem, known),
    ...countViolations(problem, known),
    ...stayViolations(problem, known),
    ...pinViolations(problem, known),
  ];
  return { value: recountedValue(problem, known), violations };
}

function windowViolations(problem: NightProblem, { goal, startSec }: Shot): Violation[] {
  const { id, exposureSec, windows } = problem.goals[goal];
  const endSec = startSec + exposureSec;
  const found: Violation[] = [];
  const inside = windows.some((window) => startSec >= window.fromSec - SLACK_SEC && endSec <= window.toSec + SLACK_SEC);
  if (!inside)
    found.push(violation('OUTSIDE_WINDOW', id, startSec, `exposure ${startSec}–${endSec} s lies in no window`));
  if (endSec > problem.lengthSec + SLACK_SEC)
    found.push(violation('PAST_NIGHT_END', id, startSec, `ends at ${endSec} s, the night at ${problem.lengthSec} s`));
  return found;
}

function changeViolations(problem: NightProblem, shots: readonly Shot[]): Violation[] {
  const found: Violation[] = [];
  shots.forEach((shot, i) => {
    const here = problem.goals[shot.goal];
    if (i === 0) {
      const needed = problem.panelChangeSec[0][here.panel];
      if (shot.startSec < needed - SLACK_SEC)
        found.push(
          violation('CHANGE_TOO_SHORT', here.id, shot.startSec, `first exposure before ${needed} s of preparation`),
        );
      return;
    }
    const before = shots[i - 1];
    const there = problem.goals[before.goal];
    const pauseSec = shot.startSec - before.startSec;
    if (pauseSec < there.exposureSec - SLACK_SEC)
      found.push(
        violation('OVERLAP', here.id, shot.startSec, `starts ${pauseSec} s after one of ${there.exposureSec} s`),
      );
    else if (pauseSec < there.cycleSec - SLACK_SEC)
      found.push(
        violation(
          'CYCLE_TOO_SHORT',
          here.id,
          shot.startSec,
          `starts ${pauseSec} s after the last, a cycle takes ${there.cycleSec} s`,
        ),
      );
    else {
      const change =
        here.panel === there.panel
          ? shot.goal === before.goal
            ? 0
            : problem.goalChangeSec(before.goal, shot.goal)
          : problem.panelChangeSec[there.panel + 1][here.panel];
      if (pauseSec < there.cycleSec + change - SLACK_SEC)
        found.push(
          violation(
            'CHANGE_TOO_SHORT',
            here.id,
            shot.startSec,
            `change takes ${change} s, ${pauseSec - there.cycleSec} s are left for it`,
          ),
        );
    }
  });
  return found;
}

function countViolations(problem: NightProblem, shots: readonly Shot[]): Violation[] {
  return problem.goals.flatMap((goal, g) => {
    const placed = shots.filter((shot) => shot.goal === g).length;
    return placed > goal.count
      ? [violation('TOO_MANY', goal.id, 0, `${placed} placed, ${goal.count} left to place`)]
      : [];
  });
}

function stayViolations(problem: NightProblem, shots: readonly Shot[]): Violation[] {
  const found: Violation[] = [];
  const placed = new Map<number, number>();
  let from = 0;
  while (from < shots.length) {
    const panel = problem.goals[shots[from].goal].panel;
    let to = from;
    let finishes = false;
    while (to < shots.length && problem.goals[shots[to].goal].panel === panel) {
      const goal = shots[to].goal;
      placed.set(goal, (placed.get(goal) ?? 0) + 1);
      finishes ||= placed.get(goal)! >= problem.goals[goal].count || isPinned(problem, shots[to]);
      to += 1;
    }
    const lengthSec = shots[to - 1].startSec + problem.goals[shots[to - 1].goal].cycleSec - shots[from].startSec;
    if (!finishes && lengthSec < problem.minStayOfPanelSec[panel] - SLACK_SEC) {
      found.push(
        violation(
          'STAY_TOO_SHORT',
          problem.goals[shots[from].goal].id,
          shots[from].startSec,
          `stays ${lengthSec} s, finishes nothing`,
        ),
      );
    }
    from = to;
  }
  return found;
}

const isPinned = ({ pinned }: NightProblem, shot: Shot): boolean =>
  (pinned ?? []).some(
    ({ goal, startsSec }) => goal === shot.goal && startsSec.some((sec) => Math.abs(sec - shot.startSec) < SLACK_SEC),
  );

function pinViolations({ pinned, goals }: NightProblem, shots: readonly Shot[]): Violation[] {
  const missing = (goal: number, sec: number): boolean =>
    !shots.some((shot) => shot.goal === goal && Math.abs(shot.startSec - sec) < SLACK_SEC);
  return (pinned ?? []).flatMap(({ goal, startsSec }) =>
    startsSec
      .filter((sec) => missing(goal, sec))
      .map((sec) => violation('PIN_MOVED', goals[goal].id, sec, 'an exposure set by hand is missing')),
  );
}

/** Light by one-step sums of the rate curve, then completion, then balance. */
function recountedValue(problem: NightProblem, shots: readonly Shot[]): number {
  const placed = problem.goals.map((_, g) => shots.filter((shot) => shot.goal === g).length);
  let value = 0;
  for (const { goal, startSec } of shots) value += problem.goals[goal].value * averageRate(problem, goal, startSec);
  problem.projectBonus.forEach((bonus, project) => {
    const own = problem.goals.map((goal, g) => ({ goal, g })).filter(({ goal }) => goal.project === project);
    if (own.length > 0 && own.every(({ goal, g }) => placed[g] >= goal.count)) value += bonus;
  });
  for (const { weight, members } of problem.balances) {
    const least = (extra: boolean): number =>
      Math.min(1, ...members.map((m) => (m.done + (extra ? placed[m.goal] : 0)) / m.wanted));
    if (members.length > 0) value += weight * (least(true) - least(false));
  }
  return value;
}

function averageRate(problem: NightProblem, goal: number, startSec: number): number {
  const { exposureSec, rate } = problem.goals[goal];
  let sum = 0;
  let at = startSec;
  const endSec = startSec + exposureSec;
  while (at < endSec - 1e-9) {
    const step = Math.floor(at / rate.stepSec + 1e-9);
    const until = Math.min(endSec, (step + 1) * rate.stepSec);
    sum += (rate.values[Math.min(step, rate.values.length - 1)] ?? 0) * (until - at);
    at = until;
  }
  return sum / exposureSec;
}

export const violation = (code: ViolationCode, goal: string, atSec: number, words: string): Violation => ({
  code,
  goal,
  atSec,
  words,
});

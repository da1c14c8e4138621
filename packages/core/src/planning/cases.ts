// Hand-checkable cases (minutes, JSON) to planning problems, one a night; what earlier nights placed is gone from later ones.
import type { NightProblem, PlanGoal } from './problem.ts';

const MINUTE_SEC = 60;

export interface CaseGoal {
  readonly id: string;
  readonly project: number;
  readonly panel: number;
  readonly t: number;
  readonly n: number;
  readonly v: number;
  /** Per night: [from, to, rate] in minutes. */
  readonly win: readonly (readonly (readonly [number, number, number])[])[];
  readonly done?: number;
}

export interface PlannerCase {
  readonly name: string;
  readonly nights: readonly number[];
  readonly slew: number;
  readonly fch: number;
  readonly goals: readonly CaseGoal[];
  readonly bonus?: readonly number[];
  readonly bal?: readonly { readonly weight: number; readonly goals: readonly string[] }[];
  readonly optimum: number;
}

/** One night of a case, given how many exposures of each goal are done by then. */
export function caseNight(source: PlannerCase, night: number, done: readonly number[]): NightProblem {
  const panelCount = 1 + Math.max(0, ...source.goals.map((goal) => goal.panel));
  const projectCount = Math.max(
    source.bonus?.length ?? 0,
    1 + Math.max(0, ...source.goals.map((goal) => goal.project)),
  );
  const changeRow = (from: number): number[] =>
    Array.from({ length: panelCount }, (_, to) => (from < 0 || from === to ? 0 : source.slew * MINUTE_SEC));
  const lengthSec = source.nights[night] * MINUTE_SEC;
  return {
    lengthSec,
    goals: source.goals.map((goal, g) => planGoal(goal, night, goal.n - done[g], lengthSec)),
    panelCount,
    panelChangeSec: Array.from({ length: panelCount + 1 }, (_, row) => changeRow(row - 1)),
    goalChangeSec: () => source.fch * MINUTE_SEC,
    projectBonus: Array.from({ length: projectCount }, (_, project) => openBonus(source, project, done)),
    balances: (source.bal ?? []).map(({ weight, goals }) => ({
      weight,
      members: goals.map((id) => {
        const goal = source.goals.findIndex((candidate) => candidate.id === id);
        return { goal, done: done[goal], wanted: source.goals[goal].n };
      }),
    })),
    minStayOfPanelSec: new Array<number>(panelCount).fill(0),
  };
}

/** What is done of each goal before the first night. */
export const doneAtStart = (source: PlannerCase): number[] => source.goals.map((goal) => goal.done ?? 0);

/** A project already complete pays nothing again. */
function openBonus(source: PlannerCase, project: number, done: readonly number[]): number {
  const open = source.goals.some((goal, g) => goal.project === project && done[g] < goal.n);
  return open ? (source.bonus?.[project] ?? 0) : 0;
}

function planGoal(goal: CaseGoal, night: number, count: number, lengthSec: number): PlanGoal {
  const windows = [...(goal.win[night] ?? [])].sort((a, b) => a[0] - b[0]);
  const values = new Float64Array(Math.ceil(lengthSec / MINUTE_SEC));
  for (const [from, to, rate] of windows) values.fill(rate, from, to);
  return {
    id: goal.id,
    project: goal.project,
    panel: goal.panel,
    exposureSec: goal.t * MINUTE_SEC,
    cycleSec: goal.t * MINUTE_SEC,
    count: Math.max(0, count),
    value: goal.v,
    windows: windows.map(([from, to]) => ({ fromSec: from * MINUTE_SEC, toSec: to * MINUTE_SEC })),
    rate: { stepSec: MINUTE_SEC, values },
  };
}

// A hand-checkable case (minutes, several nights) to a season's problem: one lane a night.
import type { CaseGoal, PlannerCase } from '../cases.ts';
import type { SeasonProblem } from './season-problem.ts';

const MINUTE_SEC = 60;

/** Goals stand sorted by project and panel; an exposure may run on from one window into another that begins where it ends. */
export function seasonOfCase(source: PlannerCase): SeasonProblem {
  const goals = source.goals.toSorted((a, b) => a.project - b.project || a.panel - b.panel);
  const panels = [...new Map(goals.map(({ panel, project }) => [panel, project])).entries()];
  const indexOf = (panel: number): number => panels.findIndex(([id]) => id === panel);
  const projects = 1 + Math.max(0, ...goals.map(({ project }) => project));
  const travel = (from: number, to: number): number => (from === to ? 0 : source.slew * MINUTE_SEC);
  const refilter = (from: number, to: number): number =>
    from !== to && goals[from].panel === goals[to].panel ? source.fch * MINUTE_SEC : 0;
  return {
    slotSec: MINUTE_SEC,
    goals: goals.map(({ panel, t, n, done = 0, v }, goal) => ({
      panel: indexOf(panel),
      filter: goal,
      row: goal,
      exposureSec: t * MINUTE_SEC,
      cycleSec: t * MINUTE_SEC,
      wanted: n,
      done,
      count: Math.max(0, n - done),
      value: v,
    })),
    panels: panels.map(([id, project]) => ({ project, balance: balanceOf(source, goals, id) })),
    projects: Array.from({ length: projects }, (_, project) => ({ bonus: source.bonus?.[project] ?? 0 })),
    lanes: source.nights.map((slots, night) => ({
      night,
      rig: 0,
      slots,
      odds: 1,
      rates: ratesOf(goals, night, slots),
    })),
    panelChangeSec: square(panels.length, travel),
    filterChangeSec: square(goals.length, refilter),
    filters: goals.length,
  };
}

const square = (size: number, at: (from: number, to: number) => number): Float64Array =>
  Float64Array.from({ length: size ** 2 }, (_, i) => at(Math.floor(i / size), i % size));

const balanceOf = ({ bal = [] }: PlannerCase, goals: readonly CaseGoal[], panel: number): number =>
  bal
    .filter(({ goals: members }) => goals.find(({ id }) => id === members[0])?.panel === panel)
    .reduce((sum, { weight }) => sum + weight, 0);

function ratesOf(goals: readonly CaseGoal[], night: number, slots: number): Float32Array {
  const rates = new Float32Array(goals.length * slots);
  goals.forEach(({ win }, row) => {
    for (const [from, to, rate] of win[night] ?? []) rates.fill(rate, row * slots + from, row * slots + to);
  });
  return rates;
}

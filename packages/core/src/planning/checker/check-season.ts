// An independent judge of seasons: recounts value and looks for violations slot by slot, from the problem's tables alone. Shares no code with the planner.
import type { SeasonGoal, SeasonPlan, SeasonProblem, SeasonRun, SeasonValue } from '../season/season-problem.ts';

export type SeasonViolationCode =
  | 'WRONG_LANES'
  | 'UNKNOWN_GOAL'
  | 'BAD_COUNT'
  | 'BEFORE_START'
  | 'OVERLAP'
  | 'CHANGE_TOO_SHORT'
  | 'CLOSED'
  | 'PAST_NIGHT_END'
  | 'TOO_MANY'
  | 'TOO_MANY_IN_NIGHT'
  | 'ENVELOPE';

export interface SeasonViolation {
  readonly code: SeasonViolationCode;
  readonly lane: number;
  readonly goal: number;
  readonly atSec: number;
}

export interface CheckedSeason extends SeasonValue {
  readonly violations: readonly SeasonViolation[];
  /** Projects that lack nothing at the end, of those that lacked something. */
  readonly finished: number;
  readonly open: number;
}

/** Room for times written to the millisecond. */
const TOLERANCE_SEC = 0.0015;
const ALMOST = 1e-6;

export function checkSeason(problem: SeasonProblem, plan: SeasonPlan): CheckedSeason {
  const violations: SeasonViolation[] = [];
  if (plan.length !== problem.lanes.length)
    violations.push({ code: 'WRONG_LANES', lane: plan.length, goal: -1, atSec: 0 });
  const expected = problem.goals.map(() => 0);
  let light = 0;
  plan.slice(0, problem.lanes.length).forEach((runs, lane) => {
    const known = runs.filter((run) => isKnown(problem, lane, run, violations));
    known.forEach((run, i) => {
      if (i > 0) checkBetween(problem, lane, known[i - 1], run, violations);
      light += lightOf(problem, lane, run, violations);
      expected[run.goal] += run.count * problem.lanes[lane].odds;
    });
  });
  checkCaps(problem, plan, expected, violations);
  checkEnvelopes(problem, plan, violations);
  const paid = collective(problem, expected);
  return { value: light + paid.balance + paid.completion, light, ...paid, violations };
}

function isKnown({ goals }: SeasonProblem, lane: number, run: SeasonRun, violations: SeasonViolation[]): boolean {
  const at = { lane, goal: run.goal, atSec: run.startSec };
  if (!goals[run.goal]) violations.push({ code: 'UNKNOWN_GOAL', ...at });
  else if (!Number.isInteger(run.count) || run.count < 1 || !Number.isFinite(run.startSec))
    violations.push({ code: 'BAD_COUNT', ...at });
  else return true;
  return false;
}

const endOf = ({ goals }: SeasonProblem, { goal, count, startSec }: SeasonRun): number =>
  startSec + count * goals[goal].cycleSec;

function checkBetween(
  problem: SeasonProblem,
  lane: number,
  before: SeasonRun,
  run: SeasonRun,
  violations: SeasonViolation[],
): void {
  const at = { lane, goal: run.goal, atSec: run.startSec };
  const gapSec = run.startSec - endOf(problem, before);
  const [from, to] = [problem.goals[before.goal], problem.goals[run.goal]];
  const neededSec =
    problem.panelChangeSec[from.panel * problem.panels.length + to.panel] +
    problem.filterChangeSec[from.filter * problem.filters + to.filter];
  if (gapSec < -TOLERANCE_SEC) violations.push({ code: 'OVERLAP', ...at });
  else if (gapSec < neededSec - TOLERANCE_SEC) violations.push({ code: 'CHANGE_TOO_SHORT', ...at });
}

/** Light of a run, slot by slot. */
function lightOf(problem: SeasonProblem, lane: number, run: SeasonRun, violations: SeasonViolation[]): number {
  const { slots, rates, odds } = problem.lanes[lane];
  const goal: SeasonGoal = problem.goals[run.goal];
  const endSec = endOf(problem, run);
  const at = { lane, goal: run.goal, atSec: run.startSec };
  if (run.startSec < -TOLERANCE_SEC) violations.push({ code: 'BEFORE_START', ...at });
  if (endSec > slots * problem.slotSec + TOLERANCE_SEC) violations.push({ code: 'PAST_NIGHT_END', ...at });
  let [rateSec, isClosed] = [0, false];
  for (let slot = 0; slot < slots; slot++) {
    const from = Math.max(run.startSec, slot * problem.slotSec);
    const sec = Math.min(endSec, (slot + 1) * problem.slotSec) - from;
    if (sec <= 0) continue;
    const rate = rates[goal.row * slots + slot];
    if (rate <= 0 && sec > TOLERANCE_SEC) isClosed = true;
    rateSec += rate * sec;
  }
  if (isClosed) violations.push({ code: 'CLOSED', ...at });
  return (odds * goal.value * rateSec) / goal.cycleSec;
}

/** No goal gets more than it wants: over the season as expected, in one night at all. */
function checkCaps(
  { goals, lanes }: SeasonProblem,
  plan: SeasonPlan,
  expected: readonly number[],
  violations: SeasonViolation[],
): void {
  goals.forEach(({ count }, goal) => {
    if (expected[goal] > count + ALMOST) violations.push({ code: 'TOO_MANY', lane: -1, goal, atSec: 0 });
    const byNight = new Map<number, number>();
    plan.forEach((runs, lane) => {
      for (const run of runs)
        if (run.goal === goal) byNight.set(lanes[lane].night, (byNight.get(lanes[lane].night) ?? 0) + run.count);
    });
    for (const [night, placed] of byNight)
      if (placed > count + ALMOST) violations.push({ code: 'TOO_MANY_IN_NIGHT', lane: night, goal, atSec: 0 });
  });
}

/** No project takes more of a sky than was granted: each slot of each run counted on its own. */
function checkEnvelopes(problem: SeasonProblem, plan: SeasonPlan, violations: SeasonViolation[]): void {
  problem.projects.forEach(({ envelopeSec }, project) => {
    if (!envelopeSec) return;
    let [dark, bright] = [0, 0];
    plan.slice(0, problem.lanes.length).forEach((runs, l) => {
      const { slots, odds, moonlit } = problem.lanes[l];
      for (const run of runs) {
        if (!problem.goals[run.goal] || problem.panels[problem.goals[run.goal].panel].project !== project) continue;
        for (let slot = 0; slot < slots; slot++) {
          const from = Math.max(run.startSec, slot * problem.slotSec);
          const sec = Math.max(0, Math.min(endOf(problem, run), (slot + 1) * problem.slotSec) - from);
          if (moonlit?.[slot]) bright += odds * sec;
          else dark += odds * sec;
        }
      }
    });
    if (dark > envelopeSec.dark + 0.01 || bright > envelopeSec.bright + 0.01)
      violations.push({ code: 'ENVELOPE', lane: -1, goal: -1, atSec: 0 });
  });
}

function collective({ goals, panels, projects, lanes }: SeasonProblem, expected: readonly number[]) {
  const before = panels.map(() => 1);
  const after = panels.map(() => 1);
  goals.forEach(({ panel, done, wanted }, goal) => {
    before[panel] = Math.min(before[panel], done / wanted);
    after[panel] = Math.min(after[panel], (done + expected[goal]) / wanted);
  });
  const balance = panels.reduce((sum, panel, p) => sum + panel.balance * (after[p] - before[p]), 0);
  // Expected counts come in fractions: less than one exposure short is whole.
  const allowed = lanes.some(({ odds }) => odds < 1) ? 1 - ALMOST : ALMOST;
  const lacksIn = (r: number, placed: readonly number[]): boolean =>
    goals.some(({ panel, count }, g) => panels[panel].project === r && count - placed[g] > allowed);
  const lacked = projects.map((_, r) => lacksIn(r, goals.map(() => 0))); // prettier-ignore
  const lacks = projects.map((_, r) => lacksIn(r, expected));
  const done = projects.filter((_, r) => lacked[r] && !lacks[r]);
  const completion = done.reduce((sum, { bonus }) => sum + bonus, 0);
  return { balance, completion, finished: done.length, open: lacked.filter(Boolean).length };
}

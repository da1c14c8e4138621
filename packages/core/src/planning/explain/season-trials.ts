// A season searched on from its plan as it is, with a stretch forced into a night, and with a project kept out of one: what each is worth.
import type { PlannedSeason } from '../season/plan-season.ts';
import { planSeason } from '../season/plan-season.ts';
import type { SeasonLane, SeasonPlan, SeasonProblem, SeasonRun } from '../season/season-problem.ts';
import { valueOfSeason } from '../season/season-value.ts';

export interface SeasonTrials {
  readonly problem: SeasonProblem;
  readonly plan: SeasonPlan;
  /** Moves of each search. */
  readonly iterations: number;
  readonly seed: number;
}

/** Part of a lane for one goal. */
export interface Stretch {
  readonly lane: number;
  readonly goal: number;
  readonly fromSec: number;
  readonly count: number;
}

/** Added to a goal's rate where it is forced, so that no other gain is worth giving the stretch up for. */
const FORCED_RATE = 50;

/** Searches from other seeds: where work must move for a project to be finished all the same, one alone may miss the way. */
const SEARCHES = 2;

/** The best season that some searches find from a plan on. */
function searchedOn(problem: SeasonProblem, from: SeasonPlan, { iterations, seed }: SeasonTrials): PlannedSeason {
  const found = Array.from({ length: SEARCHES }, (_, i) => planSeason(problem, { iterations, seed: seed + i, from }));
  return found.reduce((best, one) => (one.value > best.value ? one : best));
}

/** What the season is worth after the same search with nothing forced. */
export const worthAsIs = (trials: SeasonTrials): number => searchedOn(trials.problem, trials.plan, trials).value;

/** The best season found with a stretch exposed where it is forced; null where none holds it. */
export function withStretch(trials: SeasonTrials, stretch: Stretch): PlannedSeason | null {
  const { problem, plan } = trials;
  const { lane, goal, fromSec, count } = stretch;
  const { row, cycleSec } = problem.goals[goal];
  const toSec = fromSec + count * cycleSec;
  const forced = withLane(problem, lane, ({ slots, rates }) =>
    rates.map((rate, i) => {
      const fromOfSlot = (i % slots) * problem.slotSec;
      if (fromOfSlot >= toSec || fromOfSlot + problem.slotSec <= fromSec) return rate;
      return Math.floor(i / slots) === row && rate > 0 ? rate + FORCED_RATE : 0;
    }),
  );
  const found = searchedOn(forced, putIn(problem, plan, stretch), trials);
  const held = found.plan[lane]
    .filter((run) => run.goal === goal)
    .reduce((sec, run) => sec + overlapSec(problem, run, fromSec, toSec), 0);
  return held < (toSec - fromSec) / 2 ? null : { plan: found.plan, value: valueOfSeason(problem, found.plan) };
}

/** The best season found in which a project has nothing of a lane. */
export function withoutProject(trials: SeasonTrials, project: number, lane: number): PlannedSeason {
  const { problem, plan } = trials;
  const rows = new Set(rowsOf(problem, project));
  const kept = plan.map((runs, l) => (l === lane ? runs.filter(({ goal }) => projectOf(problem, goal) !== project) : runs)); // prettier-ignore
  const closed = withLane(problem, lane, ({ slots, rates }) =>
    rates.map((rate, i) => (rows.has(Math.floor(i / slots)) ? 0 : rate)),
  );
  return searchedOn(closed, kept, trials);
}

/** The project that holds most of some runs' time in a lane; −1 where nothing does. */
export function holderOf(
  problem: SeasonProblem,
  runs: readonly SeasonRun[],
  stretches: readonly (readonly [number, number])[],
): number {
  const held = new Map<number, number>();
  for (const run of runs)
    for (const [fromSec, toSec] of stretches) {
      const sec = overlapSec(problem, run, fromSec, toSec);
      if (sec > 0) held.set(projectOf(problem, run.goal), (held.get(projectOf(problem, run.goal)) ?? 0) + sec);
    }
  let most = -1;
  for (const [project, sec] of held) if (most < 0 || sec > held.get(most)!) most = project;
  return most;
}

export const projectOf = ({ goals, panels }: SeasonProblem, goal: number): number => panels[goals[goal].panel].project;

export const endOfRun = ({ goals }: SeasonProblem, { goal, count, startSec }: SeasonRun): number =>
  startSec + count * goals[goal].cycleSec;

const rowsOf = (problem: SeasonProblem, project: number): number[] =>
  problem.goals.flatMap(({ row }, goal) => (projectOf(problem, goal) === project ? [row] : []));

const overlapSec = (problem: SeasonProblem, run: SeasonRun, fromSec: number, toSec: number): number =>
  Math.max(0, Math.min(endOfRun(problem, run), toSec) - Math.max(run.startSec, fromSec));

const withLane = (
  problem: SeasonProblem,
  lane: number,
  ratesOf: (lane: SeasonLane) => Float32Array,
): SeasonProblem => ({
  ...problem,
  lanes: problem.lanes.map((one, l) => (l === lane ? { ...one, rates: ratesOf(one) } : one)),
});

/** The plan with the stretch in it: what stood there gives way, and the project has so much less in its poorest hours elsewhere. */
function putIn(problem: SeasonProblem, plan: SeasonPlan, { lane, goal, fromSec, count }: Stretch): SeasonPlan {
  const { cycleSec } = problem.goals[goal];
  const room = makeRoom(problem, plan, { lane, goal, count });
  return room.map((runs, l) => {
    if (l !== lane) return runs;
    const before = runs.flatMap((run) => {
      const fits = Math.min(run.count, Math.floor((fromSec - run.startSec) / problem.goals[run.goal].cycleSec));
      return fits > 0 ? [{ ...run, count: fits }] : [];
    });
    const after = runs.filter(({ startSec }) => startSec >= fromSec + (count * cycleSec) / 2);
    return [...before, { goal, count, startSec: fromSec }, ...after];
  });
}

/** Takes away exposures of the goal, and of its project where a grant bounds its time, where their light is worth least. */
function makeRoom(
  problem: SeasonProblem,
  plan: SeasonPlan,
  { lane, goal, count }: Omit<Stretch, 'fromSec'>,
): SeasonPlan {
  const project = projectOf(problem, goal);
  const { odds } = problem.lanes[lane];
  const hasGrant = problem.projects[project].envelopeSec !== undefined;
  const own = plan
    .flatMap((runs, l) => runs.map((run, r) => ({ run, l, r, rate: meanRateOf(problem, l, run) })))
    .filter(({ run, l }) => l !== lane && (hasGrant ? projectOf(problem, run.goal) === project : run.goal === goal))
    .sort((a, b) => Number(b.run.goal === goal) - Number(a.run.goal === goal) || a.rate - b.rate);
  const used = plan.flatMap((runs, l) =>
    runs.map((run) => (run.goal === goal ? run.count * problem.lanes[l].odds : 0)),
  );
  let lacking = count * odds - (problem.goals[goal].count - used.reduce((a, b) => a + b, 0));
  let lackingSec = hasGrant ? count * odds * problem.goals[goal].cycleSec : 0;
  const left = new Map<string, number>();
  for (const { run, l, r } of own) {
    const isOfGoal = run.goal === goal;
    if (isOfGoal ? lacking <= 0 && lackingSec <= 0 : lackingSec <= 0) continue;
    const { odds: oddsThere } = problem.lanes[l];
    const { cycleSec } = problem.goals[run.goal];
    const needed = Math.max(isOfGoal ? lacking / oddsThere : 0, lackingSec / (oddsThere * cycleSec));
    const taken = Math.min(run.count, Math.ceil(needed - 1e-9));
    if (isOfGoal) lacking -= taken * oddsThere;
    lackingSec -= taken * oddsThere * cycleSec;
    left.set(`${l} ${r}`, run.count - taken);
  }
  return plan.map((runs, l) =>
    runs.map((run, r) => ({ ...run, count: left.get(`${l} ${r}`) ?? run.count })).filter((run) => run.count > 0),
  );
}

/** Mean rate of a run's light. */
export function meanRateOf(problem: SeasonProblem, lane: number, run: SeasonRun): number {
  const { slots, rates } = problem.lanes[lane];
  const { row } = problem.goals[run.goal];
  const endSec = endOfRun(problem, run);
  let sum = 0;
  for (let slot = Math.max(0, Math.floor(run.startSec / problem.slotSec)); slot < slots; slot++) {
    const sec = Math.min(endSec, (slot + 1) * problem.slotSec) - Math.max(run.startSec, slot * problem.slotSec);
    if (sec <= 0) break;
    sum += sec * rates[row * slots + slot];
  }
  return sum / (endSec - run.startSec);
}

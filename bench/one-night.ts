// One night: a plan at once, the application's budget, three times that, and a long search, as shares of the proven bound; the simplest greedy beside them.
import type { NightProblem } from '@meridiem/core';
import {
  firstNight,
  medianOf,
  nightBound,
  nightProblem,
  openProblem,
  solveNight,
  surveyNight,
  withHands,
} from '@meridiem/core';
import { checkNight } from '@meridiem/core/checker';
import { greedyNight } from './greedy.ts';
import { nightInstance } from './instances.ts';

/** Nights of the instance family that the goals are set for. */
const SEEDS = 10;
/** The bound is worked out beside the plans, not in the application: it may take its time. */
const boundEffort = (goals: number) =>
  goals <= 60
    ? { stepSec: 30, rounds: 1000, branches: 60, branchRounds: 300 }
    : { stepSec: 60, rounds: 500, branches: 20, branchRounds: 100 };

interface Row {
  readonly what: string;
  readonly plan: (problem: NightProblem) => Parameters<typeof checkNight>[1];
}

const FIRST: Row = { what: 'first plan', plan: (problem) => firstNight(problem).placements };
const USUAL: Row = { what: 'the application’s budget', plan: (problem) => solveNight(problem).placements };
const SEARCHED: Row = {
  what: '10000 iterations',
  plan: (problem) => solveNight(problem, { seed: 1, iterations: 10_000 }).placements,
};
const GREEDY: Row = { what: 'the simplest greedy', plan: greedyNight };

/** @param longIterations of the long search: about 3 s for 40 goals */
export function benchOneNight(goals: number, longIterations: number): string[] {
  const long: Row = {
    what: `${longIterations} iterations`,
    plan: (problem) => solveNight(problem, { seed: 1, iterations: longIterations }).placements,
  };
  return rowsOf(goals, SEEDS, [FIRST, USUAL, SEARCHED, long, GREEDY]);
}

/** The application's budget on more nights, for its worst time. */
export const benchThirtyNights = (goals: number): string[] => rowsOf(goals, 30, [USUAL, GREEDY]);

function rowsOf(goals: number, seeds: number, rows: readonly Row[]): string[] {
  const problems = Array.from({ length: seeds + 1 }, (_, seed) => {
    const request = nightInstance({ seed: Math.max(1, seed), goals, night: Math.max(1, seed) * 9 });
    return nightProblem(request, surveyNight(request)!);
  });
  const measured = problems.map((problem) => {
    const outcomes = rows.map(({ plan }) => {
      const { placements, tookMs } = timed(() => plan(problem));
      const checked = checkNight(problem, placements);
      // The greedy knows no shortest stay; its value is taken as it is.
      if (plan !== greedyNight && checked.violations.length > 0) throw new Error(checked.violations[0].words);
      return { tookMs, value: checked.value };
    });
    const reached = outcomes.reduce((most, { value }) => Math.max(most, value), 0);
    const started = performance.now();
    const bound = nightBound(problem, { ...boundEffort(goals), reached });
    return { outcomes, bound, boundMs: performance.now() - started };
  });
  // The first night warms the machine up; a night in which nothing can be exposed tells nothing.
  const counted = measured.slice(1).filter(({ bound }) => bound > 0);
  const nights = `${counted.length} nights`;
  const shown = (values: number[], unit: string, worst: number): string =>
    `${medianOf(values).toFixed(unit === '%' ? 1 : 0)} ${unit}, worst ${worst.toFixed(unit === '%' ? 1 : 0)} ${unit}`;
  return [
    ...rows.map(({ what }, r) => {
      const times = counted.map(({ outcomes }) => outcomes[r].tookMs);
      const shares = counted.map(({ outcomes, bound }) => (100 * outcomes[r].value) / bound);
      return `| ${goals} goals, ${nights}: ${what} | ${shown(times, 'ms', Math.max(...times))} | ${shown(shares, '%', Math.min(...shares))} |`;
    }),
    `| ${goals} goals, ${nights}: the bound, at most ${boundEffort(goals).branches} branches | ${shown(
      counted.map(({ boundMs }) => boundMs),
      'ms',
      Math.max(...counted.map(({ boundMs }) => boundMs)),
    )} | |`,
  ];
}

/** Equal input gives an equal plan: a short one is made three times and the middle time taken, so that no pause of the machine counts for it. */
function timed<T>(make: () => T): { placements: T; tookMs: number } {
  const times: number[] = [];
  for (;;) {
    const started = performance.now();
    const placements = make();
    times.push(performance.now() - started);
    if (times.length === 3 || times[0] > 500) return { placements, tookMs: medianOf(times) };
  }
}

/** The rest of a night planned anew at its middle, near to the plan before, as the page does it after a hand change. */
export function benchHalfNight(goals: number): string[] {
  const measured = Array.from({ length: SEEDS + 1 }, (_, i) => {
    const seed = Math.max(1, i);
    const request = nightInstance({ seed, goals, night: seed * 9 });
    const survey = surveyNight(request)!;
    const whole = nightProblem(request, survey);
    const originUtcMs = survey.table.startUtcMs;
    const kept = solveNight(whole).placements.map(({ goal, startsSec }) => ({
      goalId: request.goals[goal].id,
      startUtcMs: originUtcMs + startsSec[0] * 1000,
      count: startsSec.length,
    }));
    const half = { ...request, fromUtcMs: originUtcMs + whole.lengthSec * 500 };
    const halfSurvey = surveyNight(half)!;
    const open = openProblem(half, halfSurvey);
    const stages = (['first', 'improved'] as const).map((stage) => {
      const started = performance.now();
      const again = { ...half, kept: kept.filter(({ startUtcMs }) => startUtcMs >= half.fromUtcMs) };
      const problem = withHands(open, again, halfSurvey);
      const { value } = stage === 'first' ? firstNight(problem) : solveNight(problem);
      return { tookMs: performance.now() - started, value };
    });
    const long = solveNight(withHands(open, half, halfSurvey), { seed: 1, iterations: 60_000 }).value;
    return stages.map(({ tookMs, value }) => ({ tookMs, share: long > 0 ? value / long : 1 }));
  }).slice(1);
  return (['a plan', 'improved'] as const).map((what, k) => {
    const times = measured.map((stages) => stages[k].tookMs);
    const shares = measured.map((stages) => 100 * stages[k].share);
    return `| ${goals} goals, half a night anew: ${what} | ${medianOf(times).toFixed(0)} ms, worst ${Math.max(...times).toFixed(0)} ms | ${medianOf(shares).toFixed(1)} %, worst ${Math.min(...shares).toFixed(1)} % of a long search |`;
  });
}

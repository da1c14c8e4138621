// One night: a plan at once, the application's budget, and a long search, as shares of the proven bound; the simplest greedy beside them.
import type { NightProblem } from '@meridiem/core';
import { firstNight, medianOf, nightBound, nightProblem, solveNight, surveyNight } from '@meridiem/core';
import { checkNight } from '@meridiem/core/checker';
import { greedyNight } from './greedy.ts';
import { nightInstance } from './instances.ts';

const SEEDS = 10;
/** The bound is worked out beside the plans, not in the application: it may take its time. */
const BOUND = { stepSec: 30, rounds: 300, branches: 40, branchRounds: 200 };

interface Row {
  readonly what: string;
  readonly plan: (problem: NightProblem) => Parameters<typeof checkNight>[1];
}

/** @param longIterations of the long search: about 3 s for 40 goals */
export function benchOneNight(goals: number, longIterations: number): string[] {
  const rows: Row[] = [
    { what: 'first plan', plan: (problem) => firstNight(problem).placements },
    { what: 'the application’s budget', plan: (problem) => solveNight(problem).placements },
    {
      what: `${longIterations} iterations`,
      plan: (problem) => solveNight(problem, { seed: 1, iterations: longIterations }).placements,
    },
    { what: 'the simplest greedy', plan: greedyNight },
  ];
  const problems = Array.from({ length: SEEDS + 1 }, (_, seed) => {
    const request = nightInstance({ seed: Math.max(1, seed), goals, night: Math.max(1, seed) * 9 });
    return nightProblem(request, surveyNight(request)!);
  });
  const measured = problems.map((problem) => {
    const outcomes = rows.map(({ plan }) => {
      const started = performance.now();
      const placements = plan(problem);
      const tookMs = performance.now() - started;
      const checked = checkNight(problem, placements);
      // The greedy knows no shortest stay; its value is taken as it is.
      if (plan !== greedyNight && checked.violations.length > 0) throw new Error(checked.violations[0].words);
      return { tookMs, value: checked.value };
    });
    const reached = outcomes.reduce((most, { value }) => Math.max(most, value), 0);
    const started = performance.now();
    const bound = nightBound(problem, { ...BOUND, reached });
    return { outcomes, bound, boundMs: performance.now() - started };
  });
  // The first night warms the machine up.
  const counted = measured.slice(1);
  const shown = (values: number[], unit: string, worst: number): string =>
    `${medianOf(values).toFixed(unit === '%' ? 1 : 0)} ${unit}, worst ${worst.toFixed(unit === '%' ? 1 : 0)} ${unit}`;
  return [
    ...rows.map(({ what }, r) => {
      const times = counted.map(({ outcomes }) => outcomes[r].tookMs);
      const shares = counted.map(({ outcomes, bound }) => (100 * outcomes[r].value) / bound);
      return `| ${goals} goals: ${what} | ${shown(times, 'ms', Math.max(...times))} | ${shown(shares, '%', Math.min(...shares))} |`;
    }),
    `| ${goals} goals: the bound, at most ${BOUND.branches} branches | ${shown(
      counted.map(({ boundMs }) => boundMs),
      'ms',
      Math.max(...counted.map(({ boundMs }) => boundMs)),
    )} | |`,
  ];
}

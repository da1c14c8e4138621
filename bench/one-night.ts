// One night of 40 goals: time, value, greedy beside it, share of the proven bound.
import { medianOf, nightBound, nightProblem, solveNight, surveyNight } from '@meridiem/core';
import { checkNight } from '@meridiem/core/checker';
import { greedyNight } from './greedy.ts';
import { nightInstance } from './instances.ts';

export function benchOneNight(goals: number, nights: number): string[] {
  const times: number[] = [];
  const ofBound: number[] = [];
  const greedyOfBound: number[] = [];
  let empty = 0;
  for (let night = -3; night < nights; night++) {
    const request = nightInstance({ seed: Math.abs(night) + 1, goals, night: Math.abs(night) * 9 });
    const problem = nightProblem(request, surveyNight(request)!);
    const started = performance.now();
    const solution = solveNight(problem);
    const tookMs = performance.now() - started;
    if (night < 0) continue;
    times.push(tookMs);
    const bound = nightBound(problem);
    const checked = checkNight(problem, solution.placements);
    if (checked.violations.length > 0) throw new Error(checked.violations[0].words);
    if (bound < 1e-9) {
      empty += 1;
      continue;
    }
    ofBound.push(checked.value / bound);
    greedyOfBound.push(checkNight(problem, greedyNight(problem)).value / bound);
  }
  const shares = (values: number[]): string =>
    `${(100 * medianOf(values)).toFixed(1)} % (worst ${(100 * Math.min(...values)).toFixed(1)} %)`;
  return [
    `| one night, ${goals} goals, ${nights} nights (${empty} with nothing to expose) | median ${medianOf(times).toFixed(0)} ms, worst ${Math.max(...times).toFixed(0)} ms | ${shares(ofBound)} | ${shares(greedyOfBound)} |`,
  ];
}

// Nights that may end at any time: the safe order beside the one best without cuts, in the application's budget.
import {
  DEFAULT_SOLVE_OPTIONS,
  hazardOf,
  medianOf,
  nightProblem,
  safetyPrice,
  solveNight,
  surveyNight,
} from '@meridiem/core';
import { nightInstance } from './instances.ts';

const SEEDS = 10;

/** @param chancePerHour that a night under way ends within an hour, (0, 1) */
export function benchSafeOrder(goals: number, chancePerHour: number): string {
  const measured = Array.from({ length: SEEDS }, (_, i) => {
    const request = nightInstance({ seed: i + 1, goals });
    const problem = { ...nightProblem(request, surveyNight(request)!), endHazardPerHour: hazardOf(chancePerHour) };
    const begun = performance.now();
    solveNight({ ...problem, endHazardPerHour: 0 }, DEFAULT_SOLVE_OPTIONS);
    const between = performance.now();
    const { safe, uncut, safeExpected, uncutExpected } = safetyPrice(problem, DEFAULT_SOLVE_OPTIONS);
    return {
      plainMs: between - begun,
      safeMs: performance.now() - between,
      gain: 100 * (safeExpected / uncutExpected - 1),
      lost: 100 * (1 - safe.value / uncut.value),
    };
  });
  const [plainMs, safeMs] = [medianOf(measured.map((one) => one.plainMs)), medianOf(measured.map((one) => one.safeMs))];
  const shown = (values: number[]): string =>
    `median ${medianOf(values).toFixed(1)} %, least ${Math.min(...values).toFixed(1)}, most ${Math.max(...values).toFixed(1)}`;
  return `| ${goals} goals, ${SEEDS} nights, ${Math.round(100 * chancePerHour)} of 100 an hour | ${shown(measured.map((one) => one.gain))} | ${shown(measured.map((one) => one.lost))} | ${safeMs.toFixed(0)} ms, without ${plainMs.toFixed(0)} ms |`;
}

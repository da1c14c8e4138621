// Fitting panels to random subjects, with the smaller layouts beside it: what the framing page's worker does.
import { alternatives, fitPanels, seededRandom } from '@meridiem/core';
import { randomFitWish } from '../packages/core/fixtures/fit-wishes.ts';

const CASES = 200;
const LAYOUTS = [
  [1, 1],
  [1, 2],
  [2, 1],
  [2, 2],
] as const;

export function benchFit(): string[] {
  const random = seededRandom(2_024);
  const wishes = Array.from({ length: CASES }, () => randomFitWish(random));
  const timed = (work: (wish: (typeof wishes)[number]) => unknown): number[] =>
    wishes
      .map((wish) => {
        const started = performance.now();
        work(wish);
        return performance.now() - started;
      })
      .sort((a, b) => a - b);
  const whole = timed((wish) => [fitPanels(wish), alternatives(wish, LAYOUTS)]);
  const fit = timed(fitPanels);
  const shown = (times: readonly number[]): string =>
    `median ${times[CASES / 2].toFixed(1)} ms, worst ${times[CASES - 1].toFixed(1)} ms`;
  return [
    `| ${CASES} subjects fitted, with four smaller layouts | ${shown(whole)} | the fit alone ${shown(fit)} | limit 200 ms |`,
  ];
}

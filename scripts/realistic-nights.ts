// Plans many random realistic nights and has the independent checkers judge them: npm run realistic-nights [-- COUNT]
import { planNight } from '@meridiem/core';
import { checkNight } from '@meridiem/core/checker';
import { nightInstance } from '../bench/instances.ts';
import { skyViolations } from '../packages/core/test/sky-violations.ts';

const count = Number(process.argv[2] ?? 500);
let exposures = 0;
let empty = 0;
const found: string[] = [];
for (let night = 0; night < count; night++) {
  const request = nightInstance({ seed: night + 1, goals: 6 + (night % 14), night: (night * 13) % 365 });
  const { problem, solution, plan } = planNight(request, { seed: 1, iterations: 1500 });
  const violations = [...checkNight(problem!, solution!.placements).violations, ...skyViolations(request, plan)];
  found.push(
    ...violations.map((violation) => `night ${night}, ${violation.goal}: ${violation.code} ${violation.words}`),
  );
  exposures += plan.blocks.flatMap((block) => block.runs).reduce((sum, run) => sum + run.exposureStartsUtcMs.length, 0);
  if (plan.blocks.length === 0) empty += 1;
}
console.log(
  `${count} nights (${empty} with nothing to expose), ${exposures} exposures, each limit sampled every 2 s: ${found.length} violations`,
);
for (const words of found.slice(0, 20)) console.log(words);
process.exit(found.length === 0 ? 0 : 1);

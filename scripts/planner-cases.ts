// Runs the app's planner on hand-checkable cases: npm run planner-cases [-- FILE] [--json]
import { readFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import type { PlannerCase } from '@meridiem/core';
import { caseNight, doneAfter, doneAtStart, solveNight } from '@meridiem/core';
import { checkNight } from '@meridiem/core/checker';

const shipped = join(dirname(fileURLToPath(import.meta.url)), '../packages/core/fixtures/planner-cases.json');
const words = process.argv.slice(2);
const asJson = words.includes('--json');
const file = words.find((word) => !word.startsWith('--')) ?? shipped;
const { instances } = JSON.parse(readFileSync(file, 'utf8')) as { instances: PlannerCase[] };

/** The nights of a case planned one after the other; value by the independent checker. */
function valueOfCase(source: PlannerCase): number {
  let done = doneAtStart(source);
  let value = 0;
  for (let night = 0; night < source.nights.length; night++) {
    const problem = caseNight(source, night, done);
    const { placements } = solveNight(problem);
    const checked = checkNight(problem, placements);
    if (checked.violations.length > 0)
      throw new Error(`${source.name}: ${checked.violations.map((found) => found.words).join('; ')}`);
    value += checked.value;
    done = doneAfter(problem, done, placements);
  }
  return value;
}

const rounded = (value: number): number => Math.round(value * 1e6) / 1e6;
const results = instances.map((source) => ({
  name: source.name,
  value: rounded(valueOfCase(source)),
  optimum: source.optimum,
}));
if (asJson) console.log(JSON.stringify(results));
else
  for (const { name, value, optimum } of results)
    console.log(`${name.padEnd(24)} ${String(value).padStart(8)}  optimum ${optimum}`);

// Runs the app's planner on hand-checkable cases: npm run planner-cases [-- FILE] [--json]
import { readFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import type { PlannerCase } from '@meridiem/core';
import { caseNight, doneAtStart, planSeason, seasonOfCase, solveNight } from '@meridiem/core';
import { checkNight, checkSeason } from '@meridiem/core/checker';

const shipped = join(dirname(fileURLToPath(import.meta.url)), '../packages/core/fixtures/planner-cases.json');
const words = process.argv.slice(2);
const asJson = words.includes('--json');
const file = words.find((word) => !word.startsWith('--')) ?? shipped;
const { instances } = JSON.parse(readFileSync(file, 'utf8')) as { instances: PlannerCase[] };

/** A case's value by the independent checkers: one night as tonight is planned, several as a season. */
const valueOfCase = (source: PlannerCase): number =>
  source.nights.length > 1 ? valueOfSeason(source) : valueOfNight(source);

function valueOfSeason(source: PlannerCase): number {
  const problem = seasonOfCase(source);
  const { value, violations } = checkSeason(problem, planSeason(problem, { iterations: 20_000, seed: 1 }).plan);
  if (violations.length > 0) throw new Error(`${source.name}: ${violations.map(({ code }) => code).join('; ')}`);
  return value;
}

function valueOfNight(source: PlannerCase): number {
  const problem = caseNight(source, 0, doneAtStart(source));
  const { value, violations } = checkNight(problem, solveNight(problem).placements);
  if (violations.length > 0) throw new Error(`${source.name}: ${violations.map(({ words }) => words).join('; ')}`);
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

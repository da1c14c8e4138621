// One night against the best plan known of it: npm run bench:best-known. With "-- --search ITERATIONS SEED GOALS" plans are looked for
// from a seed of their own instead, of nights of one size or all, and those that are better are kept.
import { readFileSync, writeFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import type { NightProblem, Placement } from '@meridiem/core';
import { medianOf, nightProblem, solveNight, surveyNight } from '@meridiem/core';
import { checkNight } from '@meridiem/core/checker';
import { nightInstance } from './instances.ts';

const FILE = fileURLToPath(new URL('./best-known.json', import.meta.url));
const NIGHTS = 10;
const SEEDS = [1, 2, 3];
const SIZES = [
  { goals: 40, iterations: 10_000, wanted: 'mean within 1 %, worst 3 %, in 200 ms' },
  { goals: 350, iterations: 120_000, wanted: 'mean within 0.8 %, worst 2 %, in 4 s' },
] as const;

/** Runs of exposures one after the other: goal, seconds from the night's origin to the first start, count. */
type StoredRun = readonly [goal: number, startSec: number, count: number];
interface KnownPlan {
  readonly goals: number;
  readonly seed: number;
  readonly value: number;
  readonly runs: readonly StoredRun[];
}

const problemOf = (goals: number, seed: number): NightProblem => {
  const request = nightInstance({ seed, goals, night: seed * 9 });
  return nightProblem(request, surveyNight(request)!);
};

/** Its value by the checker, which finds no fault with it. */
function soundValue(problem: NightProblem, placements: readonly Placement[]): number {
  const { value, violations } = checkNight(problem, placements);
  if (violations.length > 0) throw new Error(violations[0].words);
  return value;
}

const STORED_PER_SEC = 1000;

/** Times to the millisecond, later rather than earlier, so that a window that begins between is not left. */
function runsOf({ goals }: NightProblem, placements: readonly Placement[]): StoredRun[] {
  return placements.flatMap(({ goal, startsSec }) => {
    const runs: [number, number, number][] = [];
    for (const startSec of startsSec) {
      const last = runs.at(-1);
      const isNext = last && Math.abs(startSec - last[1] - last[2] * goals[goal].cycleSec) < 2 / STORED_PER_SEC;
      if (isNext) last[2] += 1;
      else runs.push([goal, Math.ceil(startSec * STORED_PER_SEC) / STORED_PER_SEC, 1]);
    }
    return runs;
  });
}

const placementsOf = ({ goals }: NightProblem, runs: readonly StoredRun[]): Placement[] =>
  runs.map(([goal, startSec, count]) => ({
    goal,
    startsSec: Array.from({ length: count }, (_, i) => startSec + i * goals[goal].cycleSec),
  }));

function searched(known: readonly KnownPlan[], iterations: number, seed: number, size: number | null): KnownPlan[] {
  return known.map((plan) => {
    if (size !== null && plan.goals !== size) return plan;
    const problem = problemOf(plan.goals, plan.seed);
    const budget = Math.round((iterations * plan.goals) / SIZES[0].goals);
    const { placements } = solveNight(problem, { seed: 1000 * seed, iterations: budget });
    const value = soundValue(problem, placements);
    if (value <= plan.value) return plan;
    console.log(`${plan.goals} goals, night ${plan.seed}: ${plan.value.toFixed(3)} → ${value.toFixed(3)}`);
    return { ...plan, value, runs: runsOf(problem, placements) };
  });
}

function measured({ goals, iterations, wanted }: (typeof SIZES)[number], known: readonly KnownPlan[]): string {
  const [shares, tookMs]: [number[], number[]] = [[], []];
  for (const plan of known.filter((one) => one.goals === goals)) {
    const problem = problemOf(goals, plan.seed);
    // A stored plan is a plan: its value is what the checker says it is.
    const best = Math.max(plan.value, soundValue(problem, placementsOf(problem, plan.runs)));
    for (const seed of SEEDS) {
      const startedMs = performance.now();
      const { placements } = solveNight(problem, { seed, iterations });
      tookMs.push(performance.now() - startedMs);
      shares.push(best > 0 ? (100 * soundValue(problem, placements)) / best : 100);
    }
  }
  const mean = shares.reduce((sum, share) => sum + share, 0) / shares.length;
  return `| ${goals} goals, ${iterations} iterations | ${medianOf(tookMs).toFixed(0)} ms | ${mean.toFixed(2)} %, worst ${Math.min(...shares).toFixed(2)} % | ${wanted} |`;
}

function stored(): KnownPlan[] {
  try {
    return JSON.parse(readFileSync(FILE, 'utf8')) as KnownPlan[];
  } catch {
    return SIZES.flatMap(({ goals }) =>
      Array.from({ length: NIGHTS }, (_, i) => ({ goals, seed: i + 1, value: 0, runs: [] })),
    );
  }
}

const [word, iterations, seed = '1', size] = process.argv.slice(2);
let known = stored();
if (word === '--search') {
  known = searched(known, Number(iterations), Number(seed), size ? Number(size) : null);
  writeFileSync(FILE, `[\n${known.map((plan) => JSON.stringify(plan)).join(',\n')}\n]\n`);
} else {
  solveNight(problemOf(40, 1), { seed: 1, iterations: 2000 });
  console.log(
    '| night | time | of the best known: mean, worst of 10 nights × 3 seeds | wanted |\n| --- | --- | --- | --- |',
  );
  for (const size of SIZES) console.log(measured(size, known));
}

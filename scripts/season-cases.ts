// Plans season cases with the planner of the application: npm run season-cases [-- FILE… --seconds N --iterations N --seed N --rounds N --json]
import { readdirSync, readFileSync } from 'node:fs';
import { basename, dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { parseArgs } from 'node:util';
import { inflateRawSync } from 'node:zlib';
import type { SeasonCase, SeasonProblem } from '@meridiem/core';
import { iterationsFor, planOfCase, planSeason, problemOfCase, seasonBound } from '@meridiem/core';
import { checkSeason } from '@meridiem/core/checker';
import { greedySeason } from '../bench/season-greedy.ts';

const shipped = join(dirname(fileURLToPath(import.meta.url)), '../packages/core/fixtures/season-cases');
const { values: given, positionals } = parseArgs({
  allowPositionals: true,
  options: {
    seconds: { type: 'string', default: '10' },
    iterations: { type: 'string' },
    seed: { type: 'string', default: '1' },
    rounds: { type: 'string' },
    json: { type: 'boolean', default: false },
  },
});
const files =
  positionals.length > 0
    ? positionals
    : readdirSync(shipped).filter((name) => name.endsWith('.json')).map((name) => join(shipped, name)); // prettier-ignore

const cpuSec = (): number => {
  const { user, system } = process.cpuUsage();
  return (user + system) / 1e6;
};
const rounded = (value: number): number => Math.round(value * 1e4) / 1e4;

function solved(problem: SeasonProblem) {
  const iterations = given.iterations ? Number(given.iterations) : iterationsFor(problem, Number(given.seconds));
  const before = cpuSec();
  const { plan } = planSeason(problem, { iterations, seed: Number(given.seed) });
  const seconds = cpuSec() - before;
  const checked = checkSeason(problem, plan);
  if (checked.violations.length > 0) throw new Error(`the plan breaks rules: ${JSON.stringify(checked.violations[0])}`);
  return { plan, value: checked.value, seconds };
}

/** Rounds in inverse proportion to what one costs: at most some two minutes of one core. */
function boundOf(problem: SeasonProblem, reached: number) {
  const rounds = given.rounds ? Number(given.rounds) : roundsFor(problem);
  const before = cpuSec();
  const { bound, duals } = seasonBound(problem, { rounds, slotRounds: 80, coarseRounds: rounds, reached });
  const proof = {
    count: Array.from(duals.count, rounded),
    shares: duals.terms.map(({ kind, goals, share }) => ({ kind, goals, share: Array.from(share) })),
  };
  return { bound, boundSeconds: cpuSec() - before, proof };
}

const roundsFor = ({ panels, lanes }: SeasonProblem): number =>
  Math.max(40, Math.min(2000, Math.round(1_000_000 / (panels.length * new Set(lanes.map((l) => l.night)).size))));

const results = [];
for (const file of files) {
  const source = JSON.parse(readFileSync(file, 'utf8')) as SeasonCase & { bound?: number; bestKnown?: number };
  const problem = problemOfCase(source, (rates) => inflateRawSync(Buffer.from(rates, 'base64')));
  const { plan, value, seconds } = solved(problem);
  const { bound, boundSeconds, proof } = boundOf(problem, value);
  if (given.json) {
    results.push({
      name: source.name ?? basename(file, '.json'),
      value,
      bound,
      seconds,
      plan: planOfCase(plan),
      proof,
    });
    continue;
  }
  const greedy = checkSeason(problem, greedySeason(problem)).value;
  const percent = (part: number, whole: number): string => `${((100 * part) / whole).toFixed(2)} %`;
  console.log(
    [
      (source.name ?? basename(file)).padEnd(12),
      `value ${value.toFixed(3)} in ${seconds.toFixed(1)} s`,
      `own bound ${bound.toFixed(3)} in ${boundSeconds.toFixed(0)} s (${percent(value, bound)})`,
      ...(source.bound ? [`the file's ${source.bound} (${percent(value, source.bound)})`] : []),
      ...(source.bestKnown ? [`best known ${source.bestKnown}`] : []),
      `greedy ${percent(greedy, source.bound ?? bound)}`,
    ].join(' · '),
  );
}
if (given.json) console.log(JSON.stringify(results));

import { describe, expect, it } from '@jest/globals';
import { readFileSync } from 'node:fs';
import { bruteForce, randomCase } from '../../../test/random-cases.ts';
import { nightBound } from '../bound/bound.ts';
import type { PlannerCase } from '../cases.ts';
import { caseNight, doneAtStart } from '../cases.ts';
import { checkNight } from '../checker/index.ts';
import { constructedBlocks } from './construct.ts';
import { Decoder } from './decoder.ts';
import { improvedBlocks } from './improve.ts';
import { seededRandom } from '../../random.ts';
import { solveNight } from './solve-night.ts';

const { instances } = JSON.parse(
  readFileSync(new URL('../../../fixtures/planner-cases.json', import.meta.url), 'utf8'),
) as { instances: PlannerCase[] };
const oneNight = instances.filter(({ nights }) => nights.length === 1);
const problemOf = (source: Omit<PlannerCase, 'optimum'>) =>
  caseNight(source as PlannerCase, 0, doneAtStart(source as PlannerCase));

function checkedValue(source: Omit<PlannerCase, 'optimum'>): number {
  const problem = problemOf(source);
  const { value, violations } = checkNight(problem, solveNight(problem).placements);
  expect(violations).toEqual([]);
  return value;
}

describe('hand-checkable cases of one night', () => {
  it('are H1 to H4 and H7 to H9', () =>
    expect(oneNight.map(({ name }) => name.slice(0, 2))).toEqual(['H1', 'H2', 'H3', 'H4', 'H7', 'H8', 'H9']));
  it.each(oneNight.map((source) => [source.name, source] as const))('%s reaches its optimum', (_, source) =>
    expect(checkedValue(source)).toBeCloseTo(source.optimum, 9),
  );
  it.each(oneNight.map((source) => [source.name, source] as const))(
    'brute force agrees on the optimum of %s',
    (_, source) => expect(bruteForce(source)).toBeCloseTo(source.optimum, 9),
  );
});

describe('random small cases of one night', () => {
  const seeds = Array.from({ length: 100 }, (_, i) => i + 1);
  const results = seeds.map((seed) => ({
    seed,
    value: checkedValue(randomCase(seed)),
    optimum: bruteForce(randomCase(seed)),
  }));

  it('are at the brute-force optimum, at least 95 of 100', () => {
    const reached = results.filter(({ value, optimum }) => value >= optimum - 1e-6);
    expect(reached.length).toBeGreaterThanOrEqual(95);
  });

  it('never claim more than brute force finds', () => {
    for (const { value, optimum } of results) expect(value).toBeLessThanOrEqual(optimum + 1e-6);
  });

  it('lie under their bound', () => {
    for (const { seed, optimum } of results)
      expect(nightBound(problemOf(randomCase(seed)), { stepSec: 60, rounds: 6 })).toBeGreaterThanOrEqual(
        optimum - 1e-6,
      );
  });

  it('are solved by the search alone to 95 % of the optimum or better, in the mean', () => {
    const shares = results.map(({ seed, optimum }) => {
      const decoder = new Decoder(problemOf(randomCase(seed)));
      const blocks = improvedBlocks(decoder, constructedBlocks(decoder), {
        iterations: 3000,
        random: seededRandom(seed),
      });
      return optimum === 0 ? 1 : decoder.solutionOf(blocks).value / optimum;
    });
    expect(shares.reduce((sum, share) => sum + share, 0) / shares.length).toBeGreaterThan(0.95);
  });
});

describe('the entry', () => {
  it('refuses a goal on a panel that is not there', () => {
    const problem = problemOf(oneNight[0]);
    const broken = { ...problem, goals: problem.goals.map((goal) => ({ ...goal, panel: 99 })) };
    expect(() => solveNight(broken)).toThrow(expect.objectContaining({ code: 'PROBLEM_INVALID' }));
  });
});

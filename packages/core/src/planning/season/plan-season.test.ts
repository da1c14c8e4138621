import { describe, expect, it } from '@jest/globals';
import { readFileSync } from 'node:fs';
import { inflateRawSync } from 'node:zlib';
import { exactSeason, randomSeason } from '../../../test/random-seasons.ts';
import { seededRandom } from '../../random.ts';
import { seasonBound } from '../bound/season-bound.ts';
import type { PlannerCase } from '../cases.ts';
import { checkSeason } from '../checker/index.ts';
import { planSeason, walkGreedily } from './plan-season.ts';
import type { SeasonCase } from './season-case.ts';
import { problemOfCase } from './season-case.ts';
import { moveOnce } from './season-moves.ts';
import { seasonOfCase } from './season-of-case.ts';
import { SeasonSearch } from './season-search.ts';
import { SeasonState } from './season-state.ts';
import { seasonTables } from './season-tables.ts';

const read = (path: string): unknown =>
  JSON.parse(readFileSync(new URL(`../../../fixtures/${path}`, import.meta.url), 'utf8'));
const caseNamed = (name: string) => {
  const source = read(`season-cases/${name}.json`) as SeasonCase & { bound: number; bestKnown: number };
  return { source, problem: problemOfCase(source, (rates) => inflateRawSync(Buffer.from(rates, 'base64'))) };
};

const SEASONS = 300;
const exact = Array.from({ length: SEASONS }, (_, i) => {
  const problem = randomSeason(i + 1, i % 3 === 0);
  const optimum = exactSeason(problem);
  const { plan } = planSeason(problem, { iterations: 2000, seed: 1 });
  return { problem, optimum, checked: checkSeason(problem, plan) };
});

describe(`${SEASONS} small seasons solved exactly`, () => {
  it('have plans that break no rule and are worth no more than the optimum', () => {
    for (const { checked, optimum } of exact) {
      expect(checked.violations).toEqual([]);
      expect(checked.value).toBeLessThanOrEqual(optimum + 1e-6);
    }
  });

  it('have plans at the optimum in 95 of 100 of them, and near it in every one, after 240,000 moves', () => {
    const tried = exact.slice(0, Number(process.env.MERIDIEM_LONG ?? 0) ? SEASONS : 30);
    const shares = tried.map(({ problem, optimum }) =>
      optimum > 0 ? planSeason(problem, { iterations: 240_000, seed: 1 }).value / optimum : 1,
    );
    expect(shares.filter((share) => share > 1 - 1e-6).length).toBeGreaterThanOrEqual(0.95 * tried.length);
    expect(Math.min(...shares)).toBeGreaterThanOrEqual(0.97);
  });

  it('have bounds over the optimum', () => {
    for (const { problem, optimum, checked } of exact) {
      const { bound } = seasonBound(problem, { rounds: 60, slotRounds: 30, coarseRounds: 0, reached: checked.value });
      expect(bound).toBeGreaterThanOrEqual(optimum - 1e-6);
    }
  });
});

describe('the season’s search', () => {
  it('values a season as the checker does, whatever moves were made', () => {
    for (const isOdd of [false, true]) {
      const { problem } = caseNamed('p8n5k1');
      const lanes = problem.lanes.map((lane, i) => ({ ...lane, odds: isOdd ? 0.35 + 0.1 * i : 1 }));
      const state = new SeasonState(seasonTables({ ...problem, lanes }));
      const random = seededRandom(7);
      const search = new SeasonSearch(state, random);
      walkGreedily(state, 3);
      for (let i = 0; i < 6000; i++) {
        const isChanged = moveOnce(search);
        state.settle();
        if (isChanged && random() < 0.4) state.keep();
        else state.undo();
        if (i % 500 > 0) continue;
        const checked = checkSeason({ ...problem, lanes }, state.plan());
        expect(checked.violations).toEqual([]);
        expect(state.value).toBeCloseTo(checked.value, 6);
      }
    }
  });

  it('finds the same season for the same seed, and another for another', () => {
    const { problem } = caseNamed('p6n4k1');
    const of = (seed: number) => JSON.stringify(planSeason(problem, { iterations: 5000, seed }).plan);
    expect(of(1)).toBe(of(1));
    expect(of(1)).not.toBe(of(2));
  });

  it('is never worth less than the season it begins with', () => {
    const { problem } = caseNamed('p8n5k1');
    const first = planSeason(problem, { iterations: 20_000, seed: 1 });
    const again = planSeason(problem, { iterations: 2000, seed: 2, from: first.plan });
    expect(again.value).toBeGreaterThanOrEqual(first.value - 1e-9);
  });

  it('ends when it is told to', () => {
    const { problem } = caseNamed('p6n4k1');
    const shares: number[] = [];
    const onProgress = (share: number): boolean => shares.push(share) > 3;
    planSeason(problem, { iterations: 1_000_000, seed: 1, onProgress });
    expect(shares).toHaveLength(4);
  });
});

describe('several nights by hand', () => {
  const { instances } = read('planner-cases.json') as { instances: PlannerCase[] };

  it.each(instances.map((source) => [source.name, source] as const))('%s is at its optimum', (_, source) => {
    const problem = seasonOfCase(source);
    const { plan } = planSeason(problem, { iterations: 20_000, seed: 1 });
    const { value, violations } = checkSeason(problem, plan);
    expect(violations).toEqual([]);
    expect(value).toBeCloseTo(source.optimum, 5);
  });
});

describe('the bound of a season', () => {
  it('lies over the best known plan, and at most 0.2 % over what was proven elsewhere', () => {
    const { problem, source } = caseNamed('p6n4k1');
    const { bound } = seasonBound(problem, {
      rounds: 300,
      slotRounds: 60,
      coarseRounds: 1500,
      reached: source.bestKnown,
    });
    expect(bound).toBeGreaterThan(source.bestKnown);
    expect(bound).toBeLessThan(1.002 * source.bound);
  });
});

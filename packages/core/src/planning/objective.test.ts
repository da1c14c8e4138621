import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { nightInstance } from '../../../../bench/instances.ts';
import { checkNight } from './checker/index.ts';
import { nightProblem } from './night/night-problem.ts';
import { Collective, exactRates, goalRecords, meanRate, meanRateOfRun } from './objective.ts';
import type { NightProblem, Placement } from './problem.ts';
import { surveyNight } from './night/survey.ts';

const problems = [2, 5, 9].map((seed): NightProblem => {
  const request = nightInstance({ seed, goals: 24, night: seed * 9 });
  return nightProblem(request, surveyNight(request)!);
});

describe('the rate of an exposure', () => {
  const record = goalRecords({
    ...problems[0],
    goals: [
      {
        ...problems[0].goals[0],
        exposureSec: 120,
        cycleSec: 150,
        rate: { stepSec: 60, values: Float64Array.from({ length: 200 }, (_, i) => Math.sin(i / 30) ** 2) },
      },
    ],
  })[0];
  const at = (sec: number): number => Math.sin(Math.floor(sec / 60) / 30) ** 2;
  it('is its mean over the exposure', () =>
    fc.assert(
      fc.property(fc.double({ min: 0, max: 11_000, noNaN: true }), (startSec) => {
        let sum = 0;
        for (let i = 0; i < 1200; i++) sum += at(startSec + (i + 0.5) / 10);
        expect(meanRate(record, startSec)).toBeCloseTo(sum / 1200, 3);
      }),
      { numRuns: 60 },
    ));
  it('of a run is near the mean over its exposures, and the same for one', () =>
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 5000 }), fc.integer({ min: 1, max: 30 }), (startSec, count) => {
        const [quick, exact] = [meanRateOfRun(record, startSec, count), exactRates(record, startSec, count) / count];
        expect(Math.abs(quick - exact)).toBeLessThan(0.02);
        if (count === 1) expect(quick).toBeCloseTo(exact, 9);
      }),
    ));
});

describe('what counts are worth together', () => {
  it('is what the checker recounts, whatever is placed', () =>
    fc.assert(
      fc.property(
        fc.constantFrom(...problems),
        fc.infiniteStream(fc.double({ min: 0, max: 1, noNaN: true })),
        (problem, shares) => {
          const draws = shares[Symbol.iterator]();
          const counts = problem.goals.map(({ count }) => {
            const share = draws.next().value as number;
            return share > 0.7 ? count : Math.floor(count * share);
          });
          // Windows and overlap are none of its business: everything at once, in the light of its first moment.
          const placements = counts.flatMap((count, goal): Placement[] =>
            count > 0 ? [{ goal, startsSec: Array.from({ length: count }, () => 0) }] : [],
          );
          const records = goalRecords(problem);
          const light = placements.reduce(
            (sum, { goal, startsSec }) => sum + startsSec.length * records[goal].value * meanRate(records[goal], 0),
            0,
          );
          expect(new Collective(problem).value(counts) + light).toBeCloseTo(checkNight(problem, placements).value, 4);
        },
      ),
      { numRuns: 60 },
    ));
  it('never falls when one more exposure is placed', () =>
    fc.assert(
      fc.property(fc.constantFrom(...problems), fc.nat(), fc.nat({ max: 99 }), (problem, which, percent) => {
        const collective = new Collective(problem);
        const counts = problem.goals.map(({ count }) => Math.floor((count * percent) / 100));
        const goal = which % counts.length;
        const more = counts.with(goal, Math.min(problem.goals[goal].count, counts[goal] + 1));
        expect(collective.value(more)).toBeGreaterThanOrEqual(collective.value(counts) - 1e-9);
      }),
    ));
  it('is the same asked by the goals that have something, named once or more', () =>
    fc.assert(
      fc.property(
        fc.constantFrom(...problems),
        fc.array(fc.record({ which: fc.nat(), count: fc.nat({ max: 300 }) }), { maxLength: 60 }),
        (problem, placings) => {
          const collective = new Collective(problem);
          const placed = problem.goals.map(() => 0);
          const some = placings.map(({ which, count }) => {
            const goal = which % placed.length;
            placed[goal] = Math.min(problem.goals[goal].count, placed[goal] + count);
            return goal;
          });
          expect(collective.valueOfSome(placed, some, some.length)).toBeCloseTo(collective.value(placed), 9);
          expect(collective.valueOfSome(placed, [], 0)).toBeCloseTo(collective.value(placed.map(() => 0)), 9);
        },
      ),
    ));
  it('is nothing where nothing is placed, and all of it where everything is', () => {
    for (const problem of problems) {
      const collective = new Collective(problem);
      const open = problem.projectBonus.map((bonus, p) =>
        problem.goals.some((g) => g.project === p && g.count > 0) ? bonus : 0,
      );
      expect(collective.value(problem.goals.map(() => 0))).toBeCloseTo(0, 9);
      const all = problem.balances.reduce(
        (sum, { weight, members }) =>
          sum + weight * (1 - Math.min(1, ...members.map(({ done, wanted }) => done / wanted))),
        open.reduce((sum, bonus) => sum + bonus, 0),
      );
      expect(collective.value(problem.goals.map(({ count }) => count))).toBeCloseTo(all, 6);
    }
  });
});

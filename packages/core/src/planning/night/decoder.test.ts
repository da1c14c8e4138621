import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { checkNight } from '../checker/index.ts';
import type { Block } from './decoder.ts';
import { Decoder } from './decoder.ts';
import { Collective, meanRate } from '../objective.ts';
import type { NightProblem } from '../problem.ts';
import { placedCounts } from '../problem.ts';

const goal = (id: string, panel: number, project: number, from: number, to: number, count: number) => ({
  id,
  project,
  panel,
  exposureSec: 120,
  cycleSec: 130,
  count,
  value: 1,
  windows: [{ fromSec: from, toSec: to }],
  rate: {
    stepSec: 60,
    values: Float64Array.from({ length: 400 }, (_, i) => 0.3 + 0.6 * Math.sin((Math.PI * i) / 400)),
  },
});
const problem: NightProblem = {
  lengthSec: 20_000,
  panelCount: 3,
  panelChangeSec: [
    [60, 60, 60],
    [0, 90, 150],
    [90, 0, 120],
    [150, 120, 0],
  ],
  goalChangeSec: () => 15,
  projectBonus: [3, 2],
  minStayOfPanelSec: [600, 600, 600],
  goals: [
    goal('a', 0, 0, 0, 9000, 12),
    goal('b', 0, 0, 2000, 15_000, 10),
    goal('c', 1, 1, 500, 20_000, 20),
    goal('d', 2, 1, 8000, 12_000, 30),
    goal('e', 2, 1, 0, 100, 5),
  ],
  balances: [
    {
      weight: 4,
      members: [
        { goal: 0, done: 2, wanted: 14 },
        { goal: 1, done: 5, wanted: 15 },
      ],
    },
  ],
};
const blocks = fc.array(
  fc.record({
    goal: fc.integer({ min: 0, max: 4 }),
    count: fc.integer({ min: 1, max: 40 }),
    earliestSec: fc.integer({ min: 0, max: 20_000 }),
  }),
  { maxLength: 12 },
);

describe('any list of blocks', () => {
  it('decodes into a night that keeps every promise', () => {
    fc.assert(
      fc.property(blocks, (list: Block[]) => {
        const { placements, value } = new Decoder(problem).solutionOf(list);
        const checked = checkNight(problem, placements);
        expect(checked.violations).toEqual([]);
        expect(checked.value).toBeCloseTo(value, 6);
      }),
      { numRuns: 400 },
    );
  });

  it('never places more than is left', () => {
    fc.assert(
      fc.property(blocks, (list: Block[]) => {
        const { placements } = new Decoder(problem).solutionOf(list);
        placedCounts(problem, placements).forEach((placed, g) =>
          expect(placed).toBeLessThanOrEqual(problem.goals[g].count),
        );
      }),
    );
  });

  it('is worth the same without the blocks that placed nothing', () => {
    fc.assert(
      fc.property(blocks, (list: Block[]) => {
        const decoder = new Decoder(problem);
        const value = decoder.valueOf(list);
        expect(decoder.valueOf(decoder.timed(list))).toBeCloseTo(value, 9);
      }),
    );
  });

  it('is worth to the search what its stays that are long enough hold, and nothing for the others', () => {
    const collective = new Collective(problem);
    fc.assert(
      fc.property(blocks, (list: Block[]) => {
        const decoder = new Decoder(problem);
        const value = decoder.valueOf(list);
        const runs = decoder.runsOf(list);
        const light = runs.reduce((sum, { goal: g, startsSec }) => {
          const record = decoder.goals[g];
          return sum + startsSec.reduce((rates, startSec) => rates + record.value * meanRate(record, startSec), 0);
        }, 0);
        const held = light + collective.value(placedCounts(problem, runs));
        expect(Math.abs(value - held)).toBeLessThanOrEqual(0.004 * Math.abs(light) + 0.01);
      }),
      { numRuns: 400 },
    );
  });

  it('is priced by runs within a thousandth of its sum over exposures, where no stay is too short', () => {
    fc.assert(
      fc.property(blocks, (list: Block[]) => {
        const decoder = new Decoder({ ...problem, minStayOfPanelSec: [0, 0, 0] });
        const exact = decoder.solutionOf(list).value;
        expect(Math.abs(decoder.valueOf(list) - exact)).toBeLessThanOrEqual(0.004 * Math.abs(exact) + 0.01);
      }),
    );
  });
});

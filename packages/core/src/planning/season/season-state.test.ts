// A season's state: what is placed is counted along, decoded from where it changed only, and undone without a trace.
import { describe, expect, it } from '@jest/globals';
import { randomSeason } from '../../../test/random-seasons.ts';
import { seededRandom } from '../../random.ts';
import { checkSeason } from '../checker/index.ts';
import { BlockList } from './lane-plan.ts';
import type { SeasonProblem } from './season-problem.ts';
import { SeasonState } from './season-state.ts';
import { seasonTables } from './season-tables.ts';
import { valueOfSeason } from './season-value.ts';

/** Two panels of one project under an open sky: five minutes an exposure, five minutes of travel. */
const open: SeasonProblem = {
  slotSec: 300,
  goals: [0, 1].map((panel) => ({ panel, filter: 0, row: panel, exposureSec: 300, cycleSec: 300, wanted: 4, done: 0, count: 4, value: 1 })), // prettier-ignore
  panels: [
    { project: 0, balance: 2 },
    { project: 0, balance: 2 },
  ],
  projects: [{ bonus: 3 }],
  lanes: [0, 1].map((night) => ({ night, rig: 0, slots: 10, odds: 1, rates: new Float32Array(20).fill(1) })),
  panelChangeSec: Float64Array.from([0, 300, 300, 0]),
  filterChangeSec: new Float64Array(1),
  filters: 1,
};

const blocks = (...of: readonly (readonly [goal: number, count: number, notBeforeSec?: number])[]): BlockList => {
  const list = new BlockList();
  for (const [goal, count, notBeforeSec] of of) list.push(goal, count, notBeforeSec);
  return list;
};

describe('a season’s state', () => {
  it('places blocks one after the other, with travel between panels', () => {
    const state = new SeasonState(seasonTables(open));
    state.change(0, blocks([0, 2], [1, 3]));
    state.settle();
    expect(state.runsOf(0)).toEqual([
      { goal: 0, count: 2, startSec: 0 },
      { goal: 1, count: 3, startSec: 900 },
    ]);
    expect(state.light).toBeCloseTo(5);
    expect(state.value).toBeCloseTo(5 + 2 * 0.5 + 2 * 0.75);
  });

  it('waits where a block is not to begin before a moment', () => {
    const state = new SeasonState(seasonTables(open));
    state.change(0, blocks([0, 1], [1, 1, 2000]));
    expect(state.runsOf(0).map(({ startSec }) => startSec)).toEqual([0, 2000]);
  });

  it('cuts what does not fit the night, and what would be more than is wanted over all nights', () => {
    const state = new SeasonState(seasonTables(open));
    state.change(0, blocks([0, 50]));
    expect(state.runsOf(0)).toEqual([{ goal: 0, count: 4, startSec: 0 }]);
    state.change(1, blocks([0, 4], [1, 50]));
    expect(state.runsOf(1)).toEqual([{ goal: 1, count: 4, startSec: 0 }]);
    expect(state.left(0, state.tables.lanes[1])).toBe(0);
  });

  it('pays for a project once all its panels are whole, and no longer when one is not', () => {
    const state = new SeasonState(seasonTables(open));
    state.change(0, blocks([0, 4], [1, 4]));
    state.settle();
    expect(state.value).toBeCloseTo(8 + 4 + 3);
    expect(state.openPanels[0]).toBe(0);
    state.keep();
    state.change(0, blocks([0, 4], [1, 3]));
    state.settle();
    expect(state.value).toBeCloseTo(7 + 2 + 1.5);
    state.undo();
    expect(state.value).toBeCloseTo(15);
    expect(state.openPanels[0]).toBe(0);
  });

  it('undoes changes of several lanes at once, the last first', () => {
    const state = new SeasonState(seasonTables(open));
    state.change(0, blocks([0, 2]));
    state.settle();
    state.keep();
    const versions = [...state.versions];
    state.change(1, blocks([0, 2]));
    state.change(0, blocks([1, 4]));
    state.change(0, blocks([1, 1], [0, 1]));
    state.settle();
    state.undo();
    expect(state.plan()).toEqual([[{ goal: 0, count: 2, startSec: 0 }], []]);
    expect([...state.used]).toEqual([2, 0]);
    expect([...state.versions]).toEqual(versions);
  });

  it('counts the way up to what is not finished in the guide alone', () => {
    const state = new SeasonState(seasonTables(open));
    state.theta = 1;
    state.change(0, blocks([0, 4]));
    state.settle();
    expect(state.guide - state.value).toBeCloseTo(3 * 0.5 ** 2);
    state.theta = 0;
    expect(state.guide).toBeCloseTo(state.value);
  });

  it('counts what the checker counts after any number of random lanes', () => {
    for (let seed = 1; seed <= 40; seed++) {
      const problem = randomSeason(seed, seed % 2 === 0);
      const random = seededRandom(seed);
      const state = new SeasonState(seasonTables(problem));
      for (let i = 0; i < 30; i++) {
        const list = new BlockList();
        for (let b = 0; b < 4; b++)
          list.push(
            Math.floor(random() * problem.goals.length),
            1 + Math.floor(random() * 3),
            random() < 0.3 ? random() * 1500 : 0,
          );
        state.change(Math.floor(random() * problem.lanes.length), list);
        state.settle();
        if (random() < 0.6) state.keep();
        else state.undo();
      }
      const checked = checkSeason(problem, state.plan());
      expect(checked.violations).toEqual([]);
      expect(state.value).toBeCloseTo(checked.value, 6);
      expect(valueOfSeason(problem, state.plan())).toBeCloseTo(checked.value, 6);
    }
  });
});

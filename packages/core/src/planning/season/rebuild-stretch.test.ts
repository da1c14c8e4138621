// A stretch built again: what lies outside of it stays, what is built fits, and a season annealed ends at the best it met.
import { describe, expect, it } from '@jest/globals';
import { randomSeason } from '../../../test/random-seasons.ts';
import { seededRandom } from '../../random.ts';
import { checkSeason } from '../checker/index.ts';
import { annealSeason, restore } from './anneal-season.ts';
import { walkGreedily } from './plan-season.ts';
import { rebuildStretch } from './rebuild-stretch.ts';
import { SeasonSearch } from './season-search.ts';
import { SeasonState } from './season-state.ts';
import { seasonTables } from './season-tables.ts';

const begun = (seed: number): SeasonSearch => {
  const state = new SeasonState(seasonTables(randomSeason(seed, seed % 2 === 0)));
  walkGreedily(state, seed);
  return new SeasonSearch(state, seededRandom(seed));
};

describe('a stretch that is built again', () => {
  it('leaves what begins before it, and breaks no rule', () => {
    for (let seed = 1; seed <= 40; seed++) {
      const search = begun(seed);
      const { state, tables } = search;
      for (let lane = 0; lane < state.lanes.length; lane++) {
        const fromSec = tables.lanes[lane].lengthSec / 3;
        const before = state.runsOf(lane).filter(({ startSec }) => startSec < fromSec);
        search.next.clear();
        rebuildStretch(search, lane, fromSec, tables.lanes[lane].lengthSec, 0.3);
        search.forgetFreed();
        state.settle();
        state.keep();
        expect(state.runsOf(lane).slice(0, before.length).map(({ goal }) => goal)).toEqual(before.map(({ goal }) => goal)); // prettier-ignore
      }
      const checked = checkSeason(tables.problem, state.plan());
      expect(checked.violations).toEqual([]);
      expect(state.value).toBeCloseTo(checked.value, 6);
    }
  });

  it('is filled from an empty night', () => {
    let filled = 0;
    for (let seed = 1; seed <= 20; seed++) {
      const state = new SeasonState(seasonTables(randomSeason(seed)));
      const search = new SeasonSearch(state, seededRandom(seed));
      search.next.clear();
      rebuildStretch(search, 0, 0, state.tables.lanes[0].lengthSec, 0);
      search.forgetFreed();
      state.settle();
      if (state.value > 0) filled += 1;
    }
    expect(filled).toBeGreaterThan(12);
  });
});

describe('annealing', () => {
  it('leaves the season at the best it met, never worse than it was', () => {
    for (let seed = 1; seed <= 25; seed++) {
      const { state } = begun(seed);
      const before = state.value;
      annealSeason(state, { iterations: 1200, seed });
      expect(state.value).toBeGreaterThanOrEqual(before - 1e-9);
      expect(checkSeason(state.tables.problem, state.plan()).value).toBeCloseTo(state.value, 6);
    }
  });

  it('puts a plan back as it was, whatever stands', () => {
    for (let seed = 1; seed <= 15; seed++) {
      const [first, second] = [begun(seed), begun(seed)];
      annealSeason(first.state, { iterations: 400, seed });
      annealSeason(second.state, { iterations: 400, seed: seed + 1 });
      restore(second.state, first.state.plan());
      expect(second.state.value).toBeCloseTo(first.state.value, 6);
      expect(second.state.plan()).toEqual(first.state.plan());
    }
  });
});

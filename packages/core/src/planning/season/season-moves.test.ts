// Each move of a season's search by itself: whatever it does, the season stays valid, its value is the checker's, and undo leaves no trace.
import { beforeAll, describe, expect, it } from '@jest/globals';
import { readFileSync } from 'node:fs';
import { inflateRawSync } from 'node:zlib';
import { randomSeason } from '../../../test/random-seasons.ts';
import { seededRandom } from '../../random.ts';
import { checkSeason } from '../checker/index.ts';
import { walkGreedily } from './plan-season.ts';
import type { SeasonCase } from './season-case.ts';
import { problemOfCase } from './season-case.ts';
import { SEASON_MOVES } from './season-moves.ts';
import type { SeasonMove } from './season-moves.ts';
import type { SeasonProblem } from './season-problem.ts';
import { SeasonSearch } from './season-search.ts';
import { SeasonState } from './season-state.ts';
import { seasonTables } from './season-tables.ts';

const source = JSON.parse(
  readFileSync(new URL('../../../fixtures/season-cases/p8n5k1.json', import.meta.url), 'utf8'),
) as SeasonCase;
const problem = problemOfCase(source, (rates) => inflateRawSync(Buffer.from(rates, 'base64')));

/** A season walked greedily, with a search over it. */
function begun(of: SeasonProblem, seed: number): SeasonSearch {
  const state = new SeasonState(seasonTables(of));
  walkGreedily(state, seed);
  return new SeasonSearch(state, seededRandom(seed + 100));
}

/** What undo must bring back. */
const trace = ({ state }: SeasonSearch) => ({
  plan: state.plan(),
  used: [...state.used],
  least: [...state.least],
  openPanels: [...state.openPanels],
  leftSec: [...state.leftSec],
  spentSec: [...state.spentSec],
  value: state.value,
  guide: state.guide,
});

function makeOnce(search: SeasonSearch, move: SeasonMove): boolean {
  search.next.clear();
  search.other.clear();
  const isChanged = move(search);
  search.forgetFreed();
  search.state.settle();
  return isChanged;
}

describe.each(SEASON_MOVES.map(([move, share]) => [move.name, move, share] as const))(
  'the move %s',
  (_, move, share) => {
    let search: SeasonSearch;
    beforeAll(() => {
      search = begun(problem, 3);
    });

    it('is made now and then, and changes something now and then', () => {
      expect(share).toBeGreaterThan(0);
      let changed = 0;
      for (let i = 0; i < 300; i++) {
        if (makeOnce(search, move)) changed += 1;
        search.state.undo();
      }
      expect(changed).toBeGreaterThan(0);
    });

    it('leaves no trace when it is undone', () => {
      const before = trace(search);
      for (let i = 0; i < 150; i++) {
        makeOnce(search, move);
        search.state.undo();
      }
      const after = trace(search);
      expect(after.plan).toEqual(before.plan);
      for (const key of ['used', 'least', 'openPanels', 'leftSec', 'spentSec'] as const)
        after[key].forEach((value, i) => expect(value).toBeCloseTo(before[key][i], 6));
      expect(after.value).toBeCloseTo(before.value, 9);
      expect(after.guide).toBeCloseTo(before.guide, 9);
    });

    it('keeps the season valid and its value the checker’s', () => {
      for (const [seed, isOdd] of [
        [11, false],
        [12, true],
      ] as const) {
        // prettier-ignore
        const small = begun(randomSeason(seed, isOdd), seed);
        for (let i = 0; i < 60; i++) {
          makeOnce(small, move);
          small.state.keep();
        }
        const checked = checkSeason(small.tables.problem, small.state.plan());
        expect(checked.violations).toEqual([]);
        expect(small.state.value).toBeCloseTo(checked.value, 6);
      }
      const kept = begun(problem, 5);
      for (let i = 0; i < 60; i++) {
        makeOnce(kept, move);
        kept.state.keep();
      }
      const checked = checkSeason(problem, kept.state.plan());
      expect(checked.violations).toEqual([]);
      expect(kept.state.value).toBeCloseTo(checked.value, 6);
    });
  },
);

describe('the moves together', () => {
  it('have names of their own', () => {
    const names = SEASON_MOVES.map(([move]) => move.name);
    expect(new Set(names).size).toBe(names.length);
  });

  it('do nothing to a season without a lane that is open', () => {
    const closed = { ...problem, lanes: problem.lanes.map((lane) => ({ ...lane, rates: lane.rates.map(() => 0) })) };
    const search = begun(closed, 1);
    for (const [move] of SEASON_MOVES)
      for (let i = 0; i < 20; i++) {
        makeOnce(search, move);
        search.state.keep();
      }
    expect(search.state.plan().flat()).toEqual([]);
    expect(search.state.value).toBeCloseTo(0, 9);
  });
});

// Seasons played out: what the walk may and may not do, and when it says that a project ended.
import { describe, expect, it } from '@jest/globals';
import { randomSeason } from '../../../test/random-seasons.ts';
import { seededRandom } from '../../random.ts';
import { playSeason, playTables } from './play-season.ts';
import type { SeasonProblem } from './season-problem.ts';
import { seasonTables } from './season-tables.ts';

const played = (
  problem: SeasonProblem,
  { clear, rate = 1, seed = 1 }: { clear?: number[]; rate?: number; seed?: number } = {},
): Int32Array =>
  playSeason(playTables(seasonTables(problem)), {
    clear: clear ?? problem.lanes.map(() => 1),
    random: seededRandom(seed),
    acceptance: Float64Array.from(problem.projects, () => rate),
  });

/** One project of one goal that takes 20 minutes, and as many nights of half an hour as asked for. */
const simple = (nights: number, wanted = 4): SeasonProblem => ({
  slotSec: 300,
  goals: [{ panel: 0, filter: 0, row: 0, exposureSec: 300, cycleSec: 300, wanted, done: 0, count: wanted, value: 1 }],
  panels: [{ project: 0, balance: 1 }],
  projects: [{ bonus: 1 }],
  lanes: Array.from({ length: nights }, (_, night) => ({ night, rig: 0, slots: 6, odds: 0.5, rates: new Float32Array(6).fill(1) })), // prettier-ignore
  panelChangeSec: new Float64Array(1),
  filterChangeSec: new Float64Array(1),
  filters: 1,
});

describe('a season that is played', () => {
  it('ends a project in the first clear night that can hold it', () => {
    expect([...played(simple(3))]).toEqual([0]);
    expect([...played(simple(3), { clear: [0, 1, 1] })]).toEqual([1]);
    expect([...played(simple(3), { clear: [0, 0, 0] })]).toEqual([-1]);
  });

  it('needs as many clear nights as the work is long', () => {
    expect([...played(simple(4, 13))]).toEqual([2]);
    expect([...played(simple(4, 13), { clear: [1, 0, 1, 1] })]).toEqual([3]);
    expect([...played(simple(4, 25))]).toEqual([-1]);
  });

  it('ends no project in a night that is lost, and none where all are', () => {
    for (let seed = 1; seed <= 40; seed++) {
      const problem = randomSeason(seed, true);
      const all = played(problem);
      problem.lanes.forEach((_, lost) => {
        const none = played(problem, { clear: problem.lanes.map(() => 0) });
        expect([...none].every((night) => night === -1)).toBe(true);
        const fewer = played(problem, { clear: problem.lanes.map((_lane, l) => Number(l !== lost)) });
        for (const night of fewer) expect(night).not.toBe(lost);
      });
      for (const night of all) expect(night).toBeLessThan(problem.lanes.length);
    }
  });

  it('takes longer where exposures are rejected at random, and the same for the same seed', () => {
    const long = simple(12, 40);
    const ends = Array.from({ length: 200 }, (_, seed) => played(long, { rate: 0.7, seed })[0]).filter((n) => n >= 0);
    const sure = played(long)[0];
    const mean = ends.reduce((sum, night) => sum + night, 0) / ends.length;
    // Counts are what will be taken: on the mean nothing is lost, but it scatters.
    expect(Math.abs(mean - sure)).toBeLessThan(1);
    expect(new Set(ends).size).toBeGreaterThan(1);
    expect(played(long, { rate: 0.7, seed: 5 })).toEqual(played(long, { rate: 0.7, seed: 5 }));
  });

  it('leaves the tables as they were, so that one set plays many seasons', () => {
    const problem = randomSeason(4);
    const tables = playTables(seasonTables(problem));
    const options = () => ({
      clear: problem.lanes.map(() => 1),
      random: seededRandom(3),
      acceptance: Float64Array.from(problem.projects, () => 1),
    });
    expect(playSeason(tables, options())).toEqual(playSeason(tables, options()));
  });
});

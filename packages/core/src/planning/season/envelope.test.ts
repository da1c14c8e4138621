// Envelopes: a project takes no more of a sky than was granted, whatever moves are made.
import { describe, expect, it } from '@jest/globals';
import { randomSeason } from '../../../test/random-seasons.ts';
import { seededRandom } from '../../random.ts';
import { checkSeason } from '../checker/index.ts';
import { planSeason, walkGreedily } from './plan-season.ts';
import { playSeason, playTables } from './play-season.ts';
import { moveOnce } from './season-moves.ts';
import type { SeasonProblem } from './season-problem.ts';
import { SeasonSearch } from './season-search.ts';
import { SeasonState } from './season-state.ts';
import { moonlitSecBetween, seasonTables } from './season-tables.ts';

/** A small season under a moon that is up in some slots, its first project bounded. */
function bounded(seed: number, dark: number, bright: number): SeasonProblem {
  const problem = randomSeason(seed, seed % 2 === 0);
  const random = seededRandom(seed + 1000);
  return {
    ...problem,
    lanes: problem.lanes.map((lane) => ({
      ...lane,
      moonlit: Uint8Array.from({ length: lane.slots }, () => Number(random() < 0.5)),
    })),
    projects: problem.projects.map((project, r) => (r === 0 ? { ...project, envelopeSec: { dark, bright } } : project)),
  };
}

const seeds = Array.from({ length: 40 }, (_, i) => i + 1);

describe('an envelope', () => {
  it('is kept by every plan', () => {
    for (const seed of seeds)
      for (const [dark, bright] of [
        [0, 0],
        [600, 0],
        [0, 900],
        [900, 300],
      ]) {
        // prettier-ignore
        const problem = bounded(seed, dark, bright);
        const { plan, value } = planSeason(problem, { iterations: 1500, seed: 1 });
        const checked = checkSeason(problem, plan);
        expect(checked.violations).toEqual([]);
        expect(checked.value).toBeCloseTo(value, 6);
      }
  });

  it('of nothing leaves its project without an exposure, and the others as they were', () => {
    for (const seed of seeds) {
      const problem = bounded(seed, 0, 0);
      const { plan } = planSeason(problem, { iterations: 1500, seed: 1 });
      const worked = new Set(plan.flat().map(({ goal }) => problem.panels[problem.goals[goal].panel].project));
      expect(worked.has(0)).toBe(false);
    }
  });

  it('that is wide changes nothing', () => {
    for (const seed of seeds) {
      const problem = bounded(seed, 1e9, 1e9);
      const open = { ...problem, projects: problem.projects.map(({ bonus }) => ({ bonus })) };
      const of = (p: SeasonProblem) => planSeason(p, { iterations: 1500, seed: 1 });
      expect(of(problem)).toEqual(of(open));
    }
  });

  it('is worth no more when it is narrower', () => {
    for (const seed of seeds.slice(0, 12)) {
      const values = [0, 600, 1200, 1e9].map((sec) => planSeason(bounded(seed, sec, sec), { iterations: 8000, seed: 1 }).value); // prettier-ignore
      const widest = values.at(-1)!;
      for (const value of values) expect(value).toBeLessThanOrEqual(widest * 1.02 + 1e-6);
    }
  });

  it('is counted along exactly while moves are made and undone', () => {
    for (const seed of seeds.slice(0, 15)) {
      const problem = bounded(seed, 1500, 900);
      const state = new SeasonState(seasonTables(problem));
      const random = seededRandom(seed);
      const search = new SeasonSearch(state, random);
      walkGreedily(state, seed);
      for (let i = 0; i < 400; i++) {
        const isChanged = moveOnce(search);
        state.settle();
        if (isChanged && random() < 0.5) state.keep();
        else state.undo();
      }
      const spent = [0, 0];
      state.plan().forEach((runs, l) => {
        const table = state.tables.lanes[l];
        for (const { goal, count, startSec } of runs) {
          if (problem.panels[problem.goals[goal].panel].project !== 0) continue;
          const endSec = startSec + count * problem.goals[goal].cycleSec;
          const moonlit = moonlitSecBetween(table, startSec, endSec, problem.slotSec);
          spent[0] += table.odds * (endSec - startSec - moonlit);
          spent[1] += table.odds * moonlit;
        }
      });
      expect(state.spentSec[0]).toBeCloseTo(spent[0], 6);
      expect(state.spentSec[1]).toBeCloseTo(spent[1], 6);
    }
  });

  it('that is ignored is found by the checker', () => {
    const caught = seeds.filter((seed) => {
      const problem = bounded(seed, 300, 300);
      const { plan } = planSeason(bounded(seed, 1e9, 1e9), { iterations: 1500, seed: 1 });
      return checkSeason(problem, plan).violations.some(({ code }) => code === 'ENVELOPE');
    });
    expect(caught.length).toBeGreaterThan(10);
  });

  it('of nothing ends no project in seasons that are played', () => {
    for (const seed of seeds) {
      const problem = bounded(seed, 0, 0);
      const tables = playTables(seasonTables(problem));
      const clear = problem.lanes.map(() => 1);
      const finished = playSeason(tables, {
        clear,
        random: seededRandom(seed),
        acceptance: Float64Array.from(problem.projects, () => 1),
      });
      expect(finished[0]).toBe(-1);
    }
  });
});

describe('moonlit seconds between two moments', () => {
  it('are those of the slots in between, in part where a moment lies within one', () => {
    const problem = bounded(3, 1, 1);
    const lane = { ...problem.lanes[0], slots: 4, moonlit: Uint8Array.from([0, 1, 1, 0]), rates: new Float32Array(24) };
    const { lanes } = seasonTables({ ...problem, lanes: [lane] });
    const of = (from: number, to: number): number => moonlitSecBetween(lanes[0], from, to, 300);
    expect(of(0, 300)).toBe(0);
    expect(of(0, 1200)).toBe(600);
    expect(of(450, 600)).toBe(150);
    expect(of(150, 450)).toBe(150);
    expect(of(900, 1200)).toBe(0);
  });
});

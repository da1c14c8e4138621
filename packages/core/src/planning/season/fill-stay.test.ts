// A stay is filled within its time, with no more than is left, and so that the panel's filters rise together.
import { describe, expect, it } from '@jest/globals';
import { randomSeason } from '../../../test/random-seasons.ts';
import { seededRandom } from '../../random.ts';
import { fillStay } from './fill-stay.ts';
import { BlockList } from './lane-plan.ts';
import type { SeasonProblem } from './season-problem.ts';
import { SeasonState } from './season-state.ts';
import { seasonTables } from './season-tables.ts';

const flat: SeasonProblem = {
  slotSec: 300,
  goals: [0, 1, 2].map((filter) => ({
    panel: 0,
    filter,
    row: filter,
    exposureSec: 100,
    cycleSec: 100,
    wanted: 30,
    done: filter * 10,
    count: 30 - filter * 10,
    value: 1,
  })),
  panels: [{ project: 0, balance: 1 }],
  projects: [{ bonus: 1 }],
  lanes: [{ night: 0, rig: 0, slots: 40, odds: 1, rates: new Float32Array(120).fill(1) }],
  panelChangeSec: new Float64Array(1),
  filterChangeSec: new Float64Array(9),
  filters: 3,
};

const stay = (lengthSec: number, startSec = 0) => ({ lane: 0, panel: 0, startSec, lengthSec, notBeforeSec: 0 });
const none = (state: SeasonState): Float64Array => new Float64Array(state.tables.goals);

describe('a stay', () => {
  it('raises what is behind first, so that the filters end at one level', () => {
    const state = new SeasonState(seasonTables(flat));
    const levels = Array.from({ length: 200 }, (_, seed) => {
      const out = new BlockList();
      fillStay(state, stay(1500), none(state), seededRandom(seed), out);
      return Array.from({ length: out.length }, (_unused, b) => [out.goal[b], out.count[b]]);
    });
    // Most stays take every filter that is open: fifteen exposures bring the first from 0 to 12 or 13, the second from 10 to 12 or 13.
    const whole = levels.filter((blocks) => blocks.length === 2);
    expect(whole.length).toBeGreaterThan(60);
    for (const blocks of whole) {
      const after = flat.goals.map(({ done }, g) => done + (blocks.find(([goal]) => goal === g)?.[1] ?? 0));
      const [first, second] = after;
      if (blocks.every(([goal]) => goal < 2)) expect(Math.abs(first - second)).toBeLessThanOrEqual(1);
    }
  });

  it('uses no more than its time and no more than is left, whatever was taken already', () => {
    for (let seed = 1; seed <= 60; seed++) {
      const problem = randomSeason(seed, seed % 2 === 0);
      const state = new SeasonState(seasonTables(problem));
      const random = seededRandom(seed);
      for (let lane = 0; lane < problem.lanes.length; lane++) {
        const out = new BlockList();
        const panel = Math.floor(random() * problem.panels.length);
        const lengthSec = 300 + random() * 3000;
        const usedSec = fillStay(
          state,
          { lane, panel, startSec: 0, lengthSec, notBeforeSec: 0 },
          none(state),
          random,
          out,
        );
        let exposingSec = 0;
        for (let b = 0; b < out.length; b++) {
          const goal = out.goal[b];
          expect(state.tables.panelOf[goal]).toBe(panel);
          expect(out.count[b] * problem.lanes[lane].odds).toBeLessThanOrEqual(problem.goals[goal].count + 1e-6);
          exposingSec += out.count[b] * problem.goals[goal].cycleSec;
        }
        expect(exposingSec).toBeLessThanOrEqual(lengthSec + 1e-6);
        expect(usedSec).toBeGreaterThanOrEqual(exposingSec - 1e-6);
      }
    }
  });

  it('is empty where the panel is closed at its beginning', () => {
    const rates = flat.lanes[0].rates.map((rate, i) => (i % 40 < 5 ? 0 : rate));
    const state = new SeasonState(seasonTables({ ...flat, lanes: [{ ...flat.lanes[0], rates }] }));
    const out = new BlockList();
    expect(fillStay(state, stay(3000), none(state), seededRandom(1), out)).toBe(0);
    expect(out.length).toBe(0);
    expect(fillStay(state, stay(3000, 1600), none(state), seededRandom(1), out)).toBeGreaterThan(0);
  });

  it('may use again what the same move takes away elsewhere', () => {
    const state = new SeasonState(seasonTables(flat));
    const all = new BlockList();
    for (let g = 0; g < 3; g++) all.push(g, flat.goals[g].count);
    state.change(0, all);
    state.settle();
    state.keep();
    const out = new BlockList();
    expect(fillStay(state, stay(3000), none(state), seededRandom(1), out)).toBe(0);
    const freed = Float64Array.from(flat.goals, ({ count }) => count);
    expect(fillStay(state, stay(3000), freed, seededRandom(1), out)).toBeGreaterThan(0);
  });

  it('waits for a moment where it is told to, with its first block only', () => {
    const state = new SeasonState(seasonTables(flat));
    for (let seed = 0; seed < 20; seed++) {
      const out = new BlockList();
      fillStay(state, { ...stay(2500), notBeforeSec: 700 }, none(state), seededRandom(seed), out);
      expect(out.notBeforeSec[0]).toBe(700);
      for (let b = 1; b < out.length; b++) expect(out.notBeforeSec[b]).toBe(0);
    }
  });
});

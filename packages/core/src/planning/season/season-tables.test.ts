// A season's tables against what a slow reading of the problem says.
import { describe, expect, it } from '@jest/globals';
import { randomSeason } from '../../../test/random-seasons.ts';
import { seededRandom } from '../../random.ts';
import { CLOSED, lightSec, seasonTables } from './season-tables.ts';

const problems = Array.from({ length: 30 }, (_, i) => randomSeason(i + 1, i % 2 === 0));

describe('the tables of a season', () => {
  it('know where each window ends and where the next one opens', () => {
    for (const problem of problems) {
      const { lanes, goals, rowOf } = seasonTables(problem);
      for (const { slots, rates, runs } of lanes)
        for (let g = 0; g < goals; g++)
          for (let slot = 0; slot < slots; slot++) {
            const isOpen = (at: number): boolean => at < slots && rates[rowOf[g] * slots + at] > 0;
            const run = runs[rowOf[g] * slots + slot];
            if (isOpen(slot)) {
              let end = slot;
              while (isOpen(end)) end += 1;
              expect(run).toBe(end);
            } else {
              let opens = slot;
              while (opens < slots && !isOpen(opens)) opens += 1;
              expect(run).toBe(opens < slots ? -opens - 1 : CLOSED);
            }
          }
    }
  });

  it('sum up light between any two moments as slot after slot does', () => {
    const random = seededRandom(3);
    for (const problem of problems) {
      const { lanes, rowOf, goals, slotSec } = seasonTables(problem);
      for (const lane of lanes) {
        const [a, b] = [random() * lane.lengthSec, random() * lane.lengthSec].toSorted((x, y) => x - y);
        const goal = Math.floor(random() * goals);
        let expected = 0;
        for (let slot = 0; slot < lane.slots; slot++) {
          const sec = Math.min(b, (slot + 1) * slotSec) - Math.max(a, slot * slotSec);
          expected += Math.max(0, sec) * lane.rates[rowOf[goal] * lane.slots + slot];
        }
        expect(lightSec(lane, rowOf[goal], a, b, slotSec)).toBeCloseTo(expected, 6);
      }
    }
  });

  it('keep the goals of a panel and the panels of a project together', () => {
    for (const problem of problems) {
      const tables = seasonTables(problem);
      problem.panels.forEach((_, p) => {
        const own = problem.goals.flatMap(({ panel }, g) => (panel === p ? [g] : []));
        const listed = Array.from({ length: tables.goalsFrom[p + 1] - tables.goalsFrom[p] }, (_unused, i) => tables.goalsFrom[p] + i); // prettier-ignore
        expect(listed).toEqual(own);
      });
      problem.projects.forEach((_, r) => {
        for (let p = tables.panelsFrom[r]; p < tables.panelsFrom[r + 1]; p++) expect(problem.panels[p].project).toBe(r);
      });
    }
  });

  it('share the sums of lanes that see the same sky', () => {
    const [problem] = problems;
    const [lane] = problem.lanes;
    const { lanes } = seasonTables({ ...problem, lanes: [lane, { ...lane, night: 1, odds: 0.5 }] });
    expect(lanes[1].sums).toBe(lanes[0].sums);
    expect(lanes[1].runs).toBe(lanes[0].runs);
    expect(lanes[1].odds).toBe(0.5);
  });

  it('let a goal lack less than one exposure where nights have odds, and nothing where they are sure', () => {
    const sure = { ...problems[1], lanes: problems[1].lanes.map((lane) => ({ ...lane, odds: 1 })) };
    expect(seasonTables(sure).lackAllowed).toBeLessThan(1e-3);
    const odd = { ...sure, lanes: sure.lanes.map((lane) => ({ ...lane, odds: 0.5 })) };
    expect(seasonTables(odd).lackAllowed).toBeGreaterThan(0.99);
    expect(seasonTables(odd).lackAllowed).toBeLessThan(1);
  });
});

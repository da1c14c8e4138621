// Season cases as their files state them: read without bounds and best values, written back as the verifier reads them.
import { describe, expect, it } from '@jest/globals';
import { readFileSync } from 'node:fs';
import { inflateRawSync } from 'node:zlib';
import { checkSeason } from '../checker/index.ts';
import { iterationsFor } from './budget.ts';
import { planSeason } from './plan-season.ts';
import type { SeasonCase } from './season-case.ts';
import { planOfCase, problemOfCase } from './season-case.ts';
import { changeBetweenSec } from './season-problem.ts';

const read = (name: string): SeasonCase =>
  JSON.parse(
    readFileSync(new URL(`../../../fixtures/season-cases/${name}.json`, import.meta.url), 'utf8'),
  ) as SeasonCase;
const inflate = (rates: string): Uint8Array => inflateRawSync(Buffer.from(rates, 'base64'));
const source = read('p6n4k1');
const problem = problemOfCase(source, inflate);

describe('a season case', () => {
  it('is the same problem without its bound, its best known value and its weather', () => {
    const { bound: _bound, bestKnown: _best, clear: _clear, ...bare } = source as SeasonCase & Record<string, unknown>;
    expect(problemOfCase(bare as SeasonCase, inflate)).toEqual(problem);
  });

  it('has a lane for each rig and night, and light in hours of weight', () => {
    expect(problem.lanes).toHaveLength(source.nights * source.rigs);
    source.goals.forEach((goal, g) => {
      const { weight } = source.projects[source.panels[goal.panel].project];
      expect(problem.goals[g].value).toBeCloseTo((source.coefficients.light * weight * goal.exposureSec) / 3600);
      expect(problem.goals[g].count).toBe(Math.max(0, goal.wanted - goal.done));
    });
    for (const { rates } of problem.lanes) for (const rate of rates) expect(rate).toBeLessThanOrEqual(250.5 / 250);
  });

  it('changes panels and filters as the file says, the same both ways', () => {
    const { slew, filterSec, refocusOnBandChangeSec } = source.change;
    for (let a = 0; a < problem.goals.length; a++)
      for (let b = 0; b < problem.goals.length; b++) {
        const sec = changeBetweenSec(problem, a, b);
        expect(sec).toBeCloseTo(changeBetweenSec(problem, b, a), 9);
        if (a === b) expect(sec).toBe(0);
        expect(sec).toBeLessThanOrEqual(slew.maxSec + filterSec + refocusOnBandChangeSec + 1e-9);
      }
  });

  it('writes a plan as goals, counts and starts to the millisecond, which is still a plan', () => {
    const { plan } = planSeason(problem, { iterations: 3000, seed: 1 });
    const written = planOfCase(plan);
    const again = written.map((runs) => runs.map(([goal, count, startSec]) => ({ goal, count, startSec })));
    expect(checkSeason(problem, again).violations).toEqual([]);
    expect(checkSeason(problem, again).value).toBeCloseTo(checkSeason(problem, plan).value, 4);
  });

  it('gets more moves for more seconds, in proportion', () => {
    expect(iterationsFor(problem, 2)).toBe(2 * iterationsFor(problem, 1));
    expect(iterationsFor(problem, 1)).toBeGreaterThan(10_000);
  });
});

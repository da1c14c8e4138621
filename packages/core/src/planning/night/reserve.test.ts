import { describe, expect, it } from '@jest/globals';
import { nightInstance } from '../../../../../bench/instances.ts';
import { outbidBy } from '../explain/explain.ts';
import { goalRecords, meanRate } from '../objective.ts';
import { nightProblem } from './night-problem.ts';
import { placedCounts } from '../problem.ts';
import { reserveOf } from './reserve.ts';
import { solveNight } from './solve-night.ts';
import { surveyNight } from './survey.ts';

// Half a moon: some of the night is dark, some is not.
const request = nightInstance({ seed: 6, goals: 40, night: 20 });
const survey = surveyNight(request)!;
const problem = nightProblem(request, survey);
const solution = solveNight(problem, { seed: 1, iterations: 800 });
const solved = { request, survey, problem, solution };
const placed = placedCounts(problem, solution.placements);
const indexOf = (goalId: string): number => problem.goals.findIndex(({ id }) => id === goalId);
const secOf = (utcMs: number): number => (utcMs - survey.table.startUtcMs) / 1000;

describe('the reserve', () => {
  const reserve = reserveOf(solved);
  it('has goals for each sky, one a panel, the best first', () => {
    for (const sky of ['dark', 'bright'] as const) {
      const own = reserve.filter((goal) => goal.sky === sky);
      expect(own.length).toBeGreaterThan(0);
      expect(own.length).toBeLessThanOrEqual(4);
      expect(new Set(own.map(({ goalId }) => problem.goals[indexOf(goalId)].panel)).size).toBe(own.length);
      const worth = own.map(({ perHour }) => perHour);
      expect(worth).toEqual([...worth].sort((a, b) => b - a));
    }
  });

  it('names only what is left out and meets its limits in those hours', () => {
    for (const { goalId, fromUtcMs, toUtcMs } of reserve) {
      const g = indexOf(goalId);
      expect(placed[g]).toBe(0);
      const { windows } = problem.goals[g];
      expect(windows.some(({ fromSec, toSec }) => secOf(fromUtcMs) >= fromSec - 1 && secOf(fromUtcMs) < toSec)).toBe(true); // prettier-ignore
      expect(secOf(toUtcMs)).toBeLessThanOrEqual(windows[windows.length - 1].toSec + 300);
    }
  });

  it('puts the hours with the moon up under the moon', () => {
    const { table } = survey;
    for (const { sky, fromUtcMs } of reserve) {
      const sample = Math.round((fromUtcMs - table.startUtcMs) / table.stepMs);
      expect(table.moonAltitudeDeg[sample] > 0).toBe(sky === 'bright');
    }
  });
});

describe('who outbids a goal', () => {
  const records = goalRecords(problem);
  const left = problem.goals.flatMap((goal, g) => (placed[g] === 0 && goal.windows.length > 0 && goal.count > 0 ? [g] : [])); // prettier-ignore

  it('is the goal that holds most of its hours', () => {
    expect(left.length).toBeGreaterThan(5);
    for (const g of left) {
      const { rivalGoalId } = outbidBy(problem, solution, g);
      const held = new Map<string, number>();
      for (const { goal, startsSec } of solution.placements) {
        const inside = startsSec.filter((sec) =>
          problem.goals[g].windows.some((w) => sec >= w.fromSec && sec < w.toSec),
        );
        if (inside.length > 0) held.set(problem.goals[goal].id, inside.length * problem.goals[goal].cycleSec);
      }
      if (held.size === 0) expect(rivalGoalId).toBeNull();
      else expect(held.get(rivalGoalId!)).toBe(Math.max(...held.values()));
    }
  });

  it('and what an hour of the goal itself would be worth at its best', () => {
    for (const g of left) {
      const { ownPerHour } = outbidBy(problem, solution, g);
      const record = records[g];
      const early = (record.value * meanRate(record, record.fromSec[0]) * 3600) / record.cycleSec;
      expect(ownPerHour).toBeGreaterThanOrEqual(early - 1e-9);
      expect(ownPerHour).toBeLessThanOrEqual((record.value * 3600) / record.cycleSec + 1e-9);
    }
  });
});

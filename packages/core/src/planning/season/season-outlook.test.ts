import { describe, expect, it } from '@jest/globals';
import { nightInstance } from '../../../../../bench/instances.ts';
import { nightDatePlus, observingNight } from '../../time/nights.ts';
import { checkSeason } from '../checker/index.ts';
import { planSeason } from './plan-season.ts';
import { keptShare, planBefore } from './season-before.ts';
import type { SeasonRequest } from './season-of-nights.ts';
import { seasonOfNights } from './season-of-nights.ts';
import { seasonOutlook } from './season-outlook.ts';

const OPTIONS = { seed: 1, seconds: 0.3, boundRounds: 20, draws: 60, persistence: 0.3 };
const request = nightInstance({ seed: 5, goals: 12, night: 40 });
const projectIds = request.projects.map(({ id }) => id);
const seasonRequest = (nights: number, odds = 0.6): SeasonRequest => ({
  rigs: [{ rigId: 'rig', request, acceptance: Object.fromEntries(projectIds.map((id) => [id, 0.9])) }],
  nights: Array.from({ length: nights }, (_, i) => ({
    night: observingNight(nightDatePlus(request.night.nightDate, i), request.timeZone),
    odds,
  })),
});

describe('nights ahead as one problem', () => {
  const { problem, lanes } = seasonOfNights(seasonRequest(6));

  it('asks for more exposures than are wanted, since some will be rejected', () => {
    for (const [g, { count }] of problem.goals.entries())
      expect(count).toBeGreaterThanOrEqual(request.goals.find(({ id }) => id === seasonOfNights(seasonRequest(1)).goalIds[g])!.toPlan); // prettier-ignore
  });

  it('is planned without breaking a rule', () => {
    const { plan, value } = planSeason(problem, { iterations: 20_000, seed: 1 });
    const checked = checkSeason(problem, plan);
    expect(checked.violations).toEqual([]);
    expect(checked.value).toBeCloseTo(value, 6);
    expect(value).toBeGreaterThan(0);
  });

  it('opens nothing where it is closed, and nothing of a project after its last night', () => {
    const [closed, ...open] = lanes.map(({ nightDate }) => nightDate);
    const last = { [projectIds[0]]: open[1] };
    const [rig] = seasonRequest(6).rigs;
    const shut = seasonOfNights({ ...seasonRequest(6), rigs: [{ ...rig, closed: [closed], lastNight: last }] });
    expect(shut.problem.lanes[0].slots).toBe(0);
    expect(shut.lanes[0]).toMatchObject({ odds: 0, startUtcMs: null });
    const rowsOf = (season: typeof shut): number[] =>
      season.problem.goals.flatMap(({ panel, row }) => (season.problem.panels[panel].project === 0 ? [row] : []));
    const isOpen = (season: typeof shut, lane: number): boolean => {
      const { rates, slots } = season.problem.lanes[lane];
      return rowsOf(season).some((row) => rates.subarray(row * slots, (row + 1) * slots).some((rate) => rate > 0));
    };
    expect([2, 3, 4, 5].map((lane) => isOpen(shut, lane))).toEqual([true, false, false, false]);
  });
});

describe('the look ahead', () => {
  it('says when each project ends, later where nights are seldom clear', () => {
    const ends = (odds: number): number =>
      seasonOutlook(seasonRequest(20, odds), OPTIONS)!.projects.reduce(
        (sum, { finishedShare }) => sum + finishedShare,
        0,
      );
    expect(ends(0.9)).toBeGreaterThan(ends(0.25));
  });

  it('orders its quantiles, and its bound lies over its value', () => {
    const { projects, value, bound } = seasonOutlook(seasonRequest(12), OPTIONS)!;
    for (const { early, middle, late } of projects) {
      if (middle) expect(early! <= middle).toBe(true);
      if (late) expect(middle! <= late).toBe(true);
    }
    expect(bound).toBeGreaterThanOrEqual(value);
  });

  it('is empty where there is no rig, no project, or no open night', () => {
    const [rig] = seasonRequest(3).rigs;
    const { nights } = seasonRequest(3);
    const nobody = { ...rig, request: { ...request, projects: [], panels: [], goals: [] } };
    const closed = { ...rig, closed: nights.map(({ night }) => night.nightDate) };
    for (const rigs of [[], [nobody], [closed]]) {
      const season = seasonOutlook({ rigs, nights }, OPTIONS)!;
      expect(season).toMatchObject({ value: 0, bound: null });
      expect(season.nights.flatMap(({ cells }) => cells)).toEqual([]);
      expect(season.projects.every(({ finishedShare, leftHours }) => finishedShare === 0 || leftHours === 0)).toBe(
        true,
      );
    }
  });

  it('is the same for the same request, and nothing where it is stopped', () => {
    expect(seasonOutlook(seasonRequest(4), OPTIONS)).toEqual(seasonOutlook(seasonRequest(4), OPTIONS));
    expect(seasonOutlook(seasonRequest(4), OPTIONS, (share) => share > 0.3)).toBeNull();
  });
});

describe('a season planned again', () => {
  const exposureSec = new Map(request.goals.map((goal) => [goal.id, goal.settings.exposureSec]));
  const before = seasonOutlook(seasonRequest(12), OPTIONS)!;
  const later = (nights: number): SeasonRequest => ({ ...seasonRequest(nights + 1), nights: seasonRequest(nights + 1).nights.slice(1) }); // prettier-ignore

  it('begins with the one before: no worse, and more of it stays than from nothing', () => {
    const cold = seasonOutlook(later(12), { ...OPTIONS, seed: 2 })!;
    const warm = seasonOutlook(later(12), { ...OPTIONS, seed: 2, before })!;
    expect(keptShare(before, warm, exposureSec)).toBeGreaterThan(keptShare(before, cold, exposureSec) + 0.1);
    expect(warm.value).toBeGreaterThan(0.98 * cold.value);
    expect(checkSeason(seasonOfNights(later(12)).problem, warm.plan).violations).toEqual([]);
    expect(keptShare(before, before, exposureSec)).toBe(1);
  });

  it('keeps what still fits where goals, rigs and nights have come or gone, and begins from nothing where nothing is left', () => {
    const named = seasonOfNights(later(12));
    const kept = planBefore(named, before)!;
    expect(kept).toHaveLength(12);
    expect(kept.slice(0, 11).map((runs) => runs.map(({ goal, count }) => [named.goalIds[goal], count]))).toEqual(
      before.plan.slice(1).map((runs) => runs.map(({ goal, count }) => [before.goalIds[goal], count])),
    );
    expect(kept[11]).toEqual([]);
    const others = { ...before, goalIds: before.goalIds.map((id) => `${id} of another`) };
    expect(planBefore(named, others)).toBeNull();
    const [rig] = seasonRequest(3).rigs;
    expect(planBefore(seasonOfNights({ ...seasonRequest(3), rigs: [{ ...rig, rigId: 'another' }] }), before)).toBeNull(); // prettier-ignore
    expect(seasonOutlook(seasonRequest(3), { ...OPTIONS, before: others })).toEqual(seasonOutlook(seasonRequest(3), OPTIONS)); // prettier-ignore
  });
});

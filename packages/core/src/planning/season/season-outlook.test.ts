import { describe, expect, it } from '@jest/globals';
import { nightInstance } from '../../../../../bench/instances.ts';
import { nightDatePlus, observingNight } from '../../time/nights.ts';
import { checkSeason } from '../checker/index.ts';
import { planSeason } from './plan-season.ts';
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

import { describe, expect, it } from '@jest/globals';
import { nightInstance } from '../../../../../bench/instances.ts';
import { skyViolations } from '../../../test/sky-violations.ts';
import { nightBound } from '../bound/bound.ts';
import { checkNight } from '../checker/index.ts';
import type { NightRequest } from './night-request.ts';
import { planningInterval } from './survey.ts';
import { planNight } from './plan-night.ts';
import { angleApartDeg } from '../../framing/angle.ts';

const NIGHTS = Number(process.env.MERIDIEM_REALISTIC_NIGHTS ?? 8);
const OPTIONS = { seed: 1, iterations: 1500 };
const request = nightInstance({ seed: 3, goals: 12 });

describe('plans of realistic nights', () => {
  it(`hold every limit, cost and count on ${NIGHTS} nights, by the independent checker`, () => {
    let placed = 0;
    for (let night = 0; night < NIGHTS; night++) {
      const realistic = nightInstance({ seed: night + 1, goals: 6 + (night % 14), night: (night * 13) % 365 });
      const { problem, solution, plan } = planNight(realistic, OPTIONS);
      const checked = checkNight(problem!, solution!.placements);
      expect(checked.violations).toEqual([]);
      expect(checked.value).toBeCloseTo(solution!.value, 6);
      expect(skyViolations(realistic, plan)).toEqual([]);
      expect(solution!.value).toBeLessThanOrEqual(nightBound(problem!, { stepSec: 60, rounds: 3 }) + 1e-6);
      placed += plan.blocks.length;
    }
    expect(placed).toBeGreaterThan(NIGHTS);
  }, 1_800_000);

  it('are equal for equal input', () => {
    expect(JSON.stringify(planNight(request, OPTIONS).plan)).toBe(
      JSON.stringify(planNight(nightInstance({ seed: 3, goals: 12 }), OPTIONS).plan),
    );
  });

  it('give every goal a place or a reason', () => {
    const { plan } = planNight(request, OPTIONS);
    const placed = plan.blocks.flatMap((block) => block.runs.map((run) => run.goalId));
    const named = new Set([...placed, ...plan.omissions.map((omission) => omission.goalId)]);
    expect(named.size).toBe(request.goals.length);
  });
});

describe('absences', () => {
  const codesOf = (changed: NightRequest): string[] =>
    planNight(changed, OPTIONS).plan.omissions.map((omission) => omission.code);

  it('name a missing position', () => {
    const unplaced = { ...request, panels: request.panels.map((panel) => ({ ...panel, position: null })) };
    expect(new Set(codesOf(unplaced))).toEqual(new Set(['NO_POSITION']));
  });

  it('name nothing left', () => {
    const done = { ...request, goals: request.goals.map((goal) => ({ ...goal, toPlan: 0 })) };
    expect(new Set(codesOf(done))).toEqual(new Set(['NOTHING_LEFT']));
  });

  it('name a hand-turned camera and its degrees', () => {
    const turned = { ...request, rig: { ...request.rig, rotatorKind: 'hand' as const, skyAngleDeg: 50 } };
    const { omissions } = planNight(turned, OPTIONS).plan;
    expect(omissions).toContainEqual(expect.objectContaining({ code: 'CAMERA_ANGLE', actual: 50, limit: 3 }));
  });

  it('name an angle that was never measured', () => {
    expect(new Set(codesOf({ ...request, rig: { ...request.rig, rotatorKind: 'none', skyAngleDeg: null } }))).toEqual(
      new Set(['ANGLE_UNKNOWN']),
    );
  });

  it('carry the failing limit with its numbers', () => {
    const high = {
      ...request,
      observatoryLimits: [{ scope: 'goal' as const, class: null, key: 'minAltitudeDeg' as const, value: 89.99 }],
    };
    const strict = { ...high, goals: high.goals.map((goal) => ({ ...goal, limits: high.observatoryLimits })) };
    const [omission] = planNight(strict, OPTIONS).plan.omissions;
    expect(omission).toMatchObject({
      code: 'NO_WINDOW',
      gap: { origin: expect.any(String), limit: expect.any(Number), best: expect.any(Number) },
    });
  });

  it('name who outbids', () => {
    const crowded = planNight(nightInstance({ seed: 5, goals: 40 }), OPTIONS).plan;
    const outbid = crowded.omissions.filter((omission) => omission.code === 'OUTBID');
    expect(outbid.length).toBeGreaterThan(0);
    for (const omission of outbid)
      expect(omission).toMatchObject({ rivalPerHour: expect.any(Number), ownPerHour: expect.any(Number) });
  });

  it('are all there where the sun never sets', () => {
    const summer = {
      ...request,
      site: { latitudeDeg: 78, longitudeDeg: 15, elevationM: 0 },
      night: {
        nightDate: '2029-06-21',
        startUtcMs: Date.parse('2029-06-21T11:00Z'),
        endUtcMs: Date.parse('2029-06-22T11:00Z'),
      },
    };
    const { plan } = planNight(summer, OPTIONS);
    expect(plan.blocks).toEqual([]);
    expect(plan.omissions).toHaveLength(request.goals.length);
  });
});

describe('a night without a day', () => {
  const winter = {
    ...request,
    site: { latitudeDeg: 85, longitudeDeg: 20, elevationM: 10 },
    night: {
      nightDate: '2028-12-15',
      startUtcMs: Date.parse('2028-12-15T11:00Z'),
      endUtcMs: Date.parse('2028-12-16T11:00Z'),
    },
    panels: request.panels.map((panel, i) => ({ ...panel, position: { raDeg: (37 * i) % 360, decDeg: 60 } })),
  };

  it('is planned from its beginning to its end', () => {
    const { startUtcMs, endUtcMs } = winter.night;
    expect(planningInterval(winter)).toEqual({ startUtcMs, endUtcMs });
    const { plan } = planNight(winter, OPTIONS);
    expect(plan.blocks.length).toBeGreaterThan(0);
    for (const block of plan.blocks) {
      expect(block.startUtcMs).toBeGreaterThanOrEqual(startUtcMs);
      expect(block.endUtcMs).toBeLessThanOrEqual(endUtcMs);
    }
  });
});

it.each([
  [10, 190, 0],
  [0, 179, 1],
  [350, 10, 20],
  [90, 0, 90],
])('framing angles %d° and %d° are %d° apart', (a, b, apart) => expect(angleApartDeg(a, b)).toBeCloseTo(apart, 9));

describe('a part of the sensor', () => {
  it('is read sooner, so that the same hours hold more exposures', () => {
    const [block] = planNight(request, OPTIONS).plan.blocks;
    const goal = request.goals.find(({ panelId }) => panelId === block.panelId)!;
    const taken = (shareRead: number): { count: number; startsUtcMs: readonly number[] } => {
      const settings = { exposureSec: 60, pauseSec: 0, ditherEvery: 0, shareRead };
      const alone: NightRequest = {
        ...request,
        rig: { ...request.rig, costs: { ...request.rig.costs, autofocusEveryMin: 0, downloadSec: 20 } },
        goals: [{ ...goal, settings, toPlan: 10_000, wanted: 10_000, groupOf: undefined }],
      };
      const runs = planNight(alone, OPTIONS).plan.blocks.flatMap((block) => block.runs);
      const count = runs.reduce((sum, run) => sum + run.exposureStartsUtcMs.length, 0);
      return { count, startsUtcMs: runs[0].exposureStartsUtcMs };
    };
    const [whole, quarter] = [taken(1), taken(0.25)];
    expect(whole.startsUtcMs[1] - whole.startsUtcMs[0]).toBe(80_000);
    expect(quarter.startsUtcMs[1] - quarter.startsUtcMs[0]).toBe(65_000);
    // 80 / 65 = 1.23; a stretch holds whole exposures, and the signal rate may end it a little sooner.
    expect(quarter.count / whole.count).toBeGreaterThan(1.15);
    expect(quarter.count / whole.count).toBeLessThan(1.3);
  });
});

describe('the shortest stay that one project asks for', () => {
  it('binds its own panels alone', () => {
    const mixed = nightInstance({ seed: 7, goals: 20 });
    expect(mixed.projects.length).toBeGreaterThan(1);
    const [first] = mixed.projects;
    const limits = [{ scope: 'project' as const, class: null, key: 'minStretchMin' as const, value: 240 }];
    const demanding = { ...mixed, projects: [{ ...first, limits }, ...mixed.projects.slice(1)] };
    const { problem } = planNight(demanding, OPTIONS);
    const plain = planNight(mixed, OPTIONS).problem!;
    mixed.panels.forEach(({ projectId }, panel) => {
      const expected = projectId === first.id ? 240 * 60 : plain.minStayOfPanelSec[panel];
      expect(problem!.minStayOfPanelSec[panel]).toBe(expected);
    });
  });
});

describe('a run', () => {
  it('has no hole: what a flip or the zenith interrupts is two', () => {
    let holes = 0;
    for (let seed = 1; seed <= 12; seed++) {
      const { plan, problem } = planNight(nightInstance({ seed, goals: 8 }), OPTIONS);
      for (const { goalId, exposureStartsUtcMs } of plan.blocks.flatMap(({ runs }) => runs)) {
        const { cycleSec } = problem!.goals.find(({ id }) => id === goalId)!;
        holes += exposureStartsUtcMs.filter(
          (startUtcMs, i) => i > 0 && startUtcMs - exposureStartsUtcMs[i - 1] > (cycleSec + 31) * 1000,
        ).length;
      }
    }
    expect(holes).toBe(0);
  });
});

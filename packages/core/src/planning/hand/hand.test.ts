import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { nightInstance } from '../../../../../bench/instances.ts';
import { checkNight } from '../checker/index.ts';
import type { Block } from '../night/decoder.ts';
import { Decoder } from '../night/decoder.ts';
import type { NightRequest } from '../night/night-request.ts';
import { nightProblem } from '../night/night-problem.ts';
import { planNight } from '../night/plan-night.ts';
import { firstNight, solveNight } from '../night/solve-night.ts';
import { surveyNight } from '../night/survey.ts';
import type { NightWish } from './wishes.ts';
import { pinnedRuns } from './wishes.ts';

const OPTIONS = { seed: 1, iterations: 1500 };
const request = nightInstance({ seed: 4, goals: 30, night: 36 });
const base = planNight(request, OPTIONS);
const [block] = base.plan.blocks;
const [run] = block.runs;
const MINUTE = 60_000;
const planned = (wishes: readonly NightWish[], changes: Partial<NightRequest> = {}) => {
  const wished = { ...request, ...changes, wishes };
  const result = planNight(wished, OPTIONS);
  expect(checkNight(result.problem!, result.solution!.placements).violations).toEqual([]);
  return result;
};
const pin = (minutesLater: number, count: number): NightWish => ({
  id: 'p',
  kind: 'pin',
  goalId: run.goalId,
  startUtcMs: run.startUtcMs + minutesLater * MINUTE,
  count,
});

describe('a pinned run', () => {
  it('stands where it was put, and the rest is planned around it', () => {
    const { plan } = planned([pin(12, 3)]);
    const starts = plan.blocks.flatMap((b) => b.runs).filter((r) => r.goalId === run.goalId);
    expect(starts.flatMap((r) => r.exposureStartsUtcMs)).toContain(run.startUtcMs + 12 * MINUTE);
    expect(plan.blocks.length).toBeGreaterThan(1);
    expect(plan.broken).toEqual([]);
  });

  it('set where the plan has it, whole blocks of several filters, is kept whole', () => {
    for (const own of base.plan.blocks) {
      const wishes = own.runs.map((r, i): NightWish => ({
        id: `w${i}`,
        kind: 'pin',
        goalId: r.goalId,
        startUtcMs: r.startUtcMs,
        count: r.exposureStartsUtcMs.length,
      }));
      expect(planned(wishes).plan.broken).toEqual([]);
    }
  });

  it('is never exposed outside its limits: what does not fit is said', () => {
    const { plan } = planned([pin(-9 * 60, 4)]);
    expect(plan.broken).toEqual([{ wishId: 'p', code: 'OUTSIDE_LIMITS', kept: 0, asked: 4 }]);
  });

  it('gives way to a pin before it', () => {
    const second: NightWish = { ...pin(12, 2), id: 'q' } as NightWish;
    const { plan } = planned([pin(12, 3), second]);
    expect(plan.broken).toMatchObject([{ wishId: 'q', code: 'TIME_TAKEN', kept: 0 }]);
  });

  it('takes no more than the goal still wants', () => {
    const few = { goals: request.goals.map((goal) => (goal.id === run.goalId ? { ...goal, toPlan: 2 } : goal)) };
    expect(planned([pin(12, 3)], few).plan.broken).toMatchObject([{ code: 'NOTHING_LEFT', kept: 2, asked: 3 }]);
  });
});

describe('panels', () => {
  const codeOf = (plan: ReturnType<typeof planned>['plan'], panelId: string): Set<string> => {
    const own = new Set(request.goals.filter((goal) => goal.panelId === panelId).map((goal) => goal.id));
    return new Set(plan.omissions.filter(({ goalId }) => own.has(goalId)).map(({ code }) => code));
  };

  it('left out by hand are not planned, and say so', () => {
    const { plan } = planned([{ id: 'b', kind: 'ban', panelId: block.panelId }]);
    expect(plan.blocks.some(({ panelId }) => panelId === block.panelId)).toBe(false);
    expect(codeOf(plan, block.panelId)).toContain('LEFT_OUT_BY_HAND');
  });

  it('keep to not before and not after', () => {
    const middle = block.startUtcMs + 40 * MINUTE;
    const later = planned([{ id: 'n', kind: 'not_before', panelId: block.panelId, utcMs: middle }]).plan;
    for (const b of later.blocks)
      if (b.panelId === block.panelId) expect(b.runs[0].startUtcMs).toBeGreaterThanOrEqual(middle);
    const never = planned([{ id: 'n', kind: 'not_after', panelId: block.panelId, utcMs: run.startUtcMs - 9e7 }]).plan;
    expect(codeOf(never, block.panelId)).toContain('HELD_BY_HAND');
  });

  it('of a project that works on one a night wait for the one furthest along', () => {
    const usable = (projectId: string): string[] => {
      const own = request.panels.filter((p) => p.projectId === projectId).map((p) => p.id);
      return own.filter((id) =>
        request.goals.some((g, i) => g.panelId === id && g.toPlan > 0 && base.survey!.goals[i].windows.length > 0),
      );
    };
    const several = request.projects.find(({ id }) => usable(id).length > 2)!;
    const projects = request.projects.map((p) => (p === several ? { ...p, panelOrder: 'one_per_night' as const } : p));
    const { survey, plan } = planned([], { projects });
    const own = usable(several.id);
    const open = request.goals.filter((goal, g) => own.includes(goal.panelId) && !survey!.goals[g].blocked);
    expect(new Set(open.map(({ panelId }) => panelId)).size).toBe(1);
    expect(
      codeOf(
        plan,
        own.find((id) => id !== open[0].panelId)!,
      ),
    ).toContain('OTHER_PANEL');
  });

  it('that take turns get at most their share', () => {
    const turned = { ...request, projects: request.projects.map((p) => ({ ...p, panelOrder: 'in_turn' as const })) };
    const survey = surveyNight(request)!;
    const [free, capped] = [nightProblem(request, survey), nightProblem(turned, survey)];
    expect(capped.goals.every((goal, g) => goal.count <= free.goals[g].count)).toBe(true);
    expect(capped.goals.some((goal, g) => goal.count < free.goals[g].count)).toBe(true);
  });
});

describe('filters that alternate', () => {
  const grouped = { goals: request.goals.map((goal) => ({ ...goal, groupOf: 2 })) };

  it('come in groups, the time of changes in their cycles', () => {
    const { plan, problem } = planned([], grouped);
    const longest = plan.blocks.reduce((most, b) => (b.runs.length > most.runs.length ? b : most));
    expect(longest.runs.length).toBeGreaterThan(4);
    expect(Math.max(...longest.runs.slice(0, 3).map((r) => r.exposureStartsUtcMs.length))).toBe(2);
    const g = problem!.goals.findIndex(({ id }) => id === longest.runs[0].goalId);
    expect(problem!.goals[g].cycleSec).toBeGreaterThan(problem!.goals[g].exposureSec + 4);
  });

  it('cost more where their focus offsets are unknown', () => {
    const survey = surveyNight(request)!;
    const cycle = (offsetKnown: boolean): number =>
      nightProblem(
        { ...request, ...grouped, filters: request.filters.map((f) => ({ ...f, offsetKnown })) },
        survey,
      ).goals.reduce((sum, { cycleSec }) => sum + cycleSec, 0);
    expect(cycle(false)).toBeGreaterThan(cycle(true) + 60);
  });
});

describe('a plan to stay near to', () => {
  const kept = base.plan.blocks.flatMap((b) =>
    b.runs.map((r) => ({ goalId: r.goalId, startUtcMs: r.startUtcMs, count: r.exposureStartsUtcMs.length })),
  );

  it('is moved less than where nothing is kept', () => {
    const sharedMs = (p: typeof base.plan): number =>
      base.plan.blocks.reduce(
        (sum, before) =>
          sum +
          p.blocks
            .filter(({ panelId }) => panelId === before.panelId)
            .map((b) => Math.min(b.endUtcMs, before.endUtcMs) - Math.max(b.startUtcMs, before.startUtcMs))
            .reduce((ms, shared) => ms + Math.max(0, shared), 0),
        0,
      );
    const [near, far] = [kept, undefined].map(
      (plan) => planNight({ ...request, ...(plan ? { kept: plan } : {}) }, { ...OPTIONS, seed: 11 }).plan,
    );
    expect(sharedMs(near)).toBeGreaterThan(sharedMs(far));
    expect(near.value).toBeGreaterThanOrEqual(base.plan.value - 0.03 * base.plan.blocks.length);
  });

  it('is a first plan at once after a hand change', () => {
    const wished = { ...request, kept, wishes: [pin(12, 3)] };
    const problem = nightProblem(wished, surveyNight(wished)!);
    const first = firstNight(problem);
    expect(checkNight(problem, first.placements).violations).toEqual([]);
    expect(first.value).toBeGreaterThan(0.8 * base.plan.value);
    expect(solveNight(problem, OPTIONS).value).toBeGreaterThanOrEqual(first.value - 1e-9 - 0.03 * kept.length);
  });
});

it('any list of blocks keeps every promise around any pins', () => {
  const problem = { ...base.problem!, kept: undefined };
  const goals = fc.integer({ min: 0, max: problem.goals.length - 1 });
  const second = fc.integer({ min: 0, max: Math.floor(problem.lengthSec) });
  const pins = fc.array(fc.record({ goal: goals, sec: second, count: fc.integer({ min: 1, max: 9 }) }), {
    maxLength: 4,
  });
  const blocks = fc.array(fc.record({ goal: goals, count: fc.integer({ min: 1, max: 30 }), earliestSec: second }), {
    maxLength: 14,
  });
  fc.assert(
    fc.property(pins, blocks, (asked, list: Block[]) => {
      const wishes = asked.map(({ goal, sec, count }, i): NightWish => ({
        id: `${i}`,
        kind: 'pin',
        goalId: problem.goals[goal].id,
        startUtcMs: sec * 1000,
        count,
      }));
      const pinned = { ...problem, pinned: pinnedRuns(problem, wishes, 0).pinned };
      const { placements, value } = new Decoder(pinned).solutionOf(list);
      const checked = checkNight(pinned, placements);
      expect(checked.violations).toEqual([]);
      expect(checked.value).toBeCloseTo(value, 6);
    }),
    { numRuns: 300 },
  );
});

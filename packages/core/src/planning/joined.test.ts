// Joined goals: planned once, worth what both want of them, inside the limits of both.
import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { nightInstance } from '../../../../bench/instances.ts';
import type { JoinablePanel } from './joined.ts';
import { matchJoined, withJoined } from './joined.ts';
import { nightProblem } from './night/night-problem.ts';
import type { NightRequest } from './night/night-request.ts';
import { planNight } from './night/plan-night.ts';
import { surveyNight } from './night/survey.ts';

/** One project with a goal that is open for hours, and its double by another member. */
function doubled(left: number, otherLeft: number, otherLimits: NightRequest['projects'][number]['limits'] = []) {
  const plain = nightInstance({ seed: 3, goals: 12 });
  const survey = surveyNight(plain)!;
  const at = survey.goals.findIndex(({ windows, blocked }) => !blocked && windows.length > 0);
  const goal = { ...plain.goals[at], toPlan: left, done: 0, wanted: left };
  const panel = plain.panels.find(({ id }) => id === goal.panelId)!;
  const project = {
    ...plain.projects.find(({ id }) => id === panel.projectId)!,
    weight: 1,
    panelOrder: 'free' as const,
  };
  return {
    ...plain,
    projects: [project, { ...project, id: 'other', weight: 2, limits: otherLimits }],
    panels: [panel, { ...panel, id: 'other panel', projectId: 'other' }],
    goals: [goal, { ...goal, id: 'other goal', panelId: 'other panel', toPlan: otherLeft, wanted: otherLeft }],
  };
}
const namesOf = ({ goals }: NightRequest): [string, string] => [goals[0].id, goals[1].id];
const joined = (request: NightRequest): NightRequest => withJoined(request, [namesOf(request)]);

describe('joined goals', () => {
  it('are planned as often as the one that wants more asks, whoever that is', () =>
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 40 }), fc.integer({ min: 0, max: 40 }), (left, otherLeft) => {
        const request = joined(doubled(left, otherLeft));
        const both = Math.min(left, otherLeft);
        expect(request.goals[0].toPlan + request.goals[1].toPlan).toBe(Math.max(left, otherLeft));
        const lead = request.goals.find(({ sharedWith }) => sharedWith);
        expect(lead?.toPlan ?? 0).toBe(both);
        // Two doubles of one goal are worth the same apart and joined; joined they take half the time.
        const worth = (of: NightRequest): number =>
          nightProblem(of, surveyNight(of)!).goals.reduce((sum, { value, count }) => sum + value * count, 0);
        expect(worth(request)).toBeCloseTo(worth(doubled(left, otherLeft)), 9);
      }),
      { numRuns: 40 },
    ));

  it('balance both panels where one comes wholly with the other: nothing placed is no gain, all of it the whole of both', () => {
    const request = doubled(12, 12);
    const { balances: apart } = nightProblem(request, surveyNight(request)!);
    const { balances } = nightProblem(joined(request), surveyNight(joined(request))!);
    expect(balances.map(({ weight }) => weight)).toEqual(apart.map(({ weight }) => weight));
    for (const { members } of balances) expect(members).toEqual([{ goal: 0, done: 0, wanted: 12 }]);
    // Where it wants more than the other it goes by what is left to it.
    const more = joined(doubled(12, 20));
    const { balances: others } = nightProblem(more, surveyNight(more)!);
    expect(others[1].members).toEqual([{ goal: 1, done: 12, wanted: 20 }]);
  });

  it('keep the limits of both', () => {
    const own = doubled(10, 20);
    const windowOf = (request: NightRequest, g: number) => surveyNight(request)!.goals[g].windows;
    const { startUtcMs, endUtcMs } = windowOf(own, 0)[0];
    const middle = new Date((startUtcMs + endUtcMs) / 2);
    const clock = new Intl.DateTimeFormat('en-GB', { timeZone: own.timeZone, hour: '2-digit', minute: '2-digit' }).format(middle); // prettier-ignore
    const [hour, minute] = clock.split(':').map(Number);
    const later = joined(doubled(10, 20, [{ scope: 'project', class: null, key: 'notBeforeClockMin', value: hour * 60 + minute }])); // prettier-ignore
    expect(windowOf(later, 0)[0].startUtcMs).toBeGreaterThanOrEqual(middle.getTime() - 61_000);
    expect(windowOf(later, 0)[0].startUtcMs).toBeGreaterThan(startUtcMs);
  });

  it('say where the one without any of its own comes from', () => {
    const request = joined(doubled(12, 12));
    const { omissions, blocks } = planNight(request, { seed: 1, iterations: 300 }).plan;
    expect(omissions).toEqual([{ goalId: 'other goal', code: 'WITH_ANOTHER', leadGoalId: request.goals[0].id }]);
    expect(blocks.flatMap(({ runs }) => runs).every(({ goalId }) => goalId === request.goals[0].id)).toBe(true);
  });

  it('leave a request alone where only one still wants, or one isn’t offered', () => {
    const request = doubled(0, 12);
    expect(joined(request)).toBe(request);
    expect(withJoined(request, [[request.goals[0].id, 'unknown']])).toBe(request);
  });
});

describe('who can join', () => {
  const panel = (
    panelId: string,
    raDeg: number,
    exposures: readonly string[],
    positionAngleDeg = 0,
  ): JoinablePanel => ({
    panelId,
    field: { centre: { raDeg, decDeg: 20 }, positionAngleDeg, widthDeg: 1, heightDeg: 0.7 },
    goals: exposures.map((words, i) => ({ goalId: `${panelId}${i}`, exposures: words })),
  });

  it('pairs equal exposures of panels that hold nine tenths of each other', () => {
    const { pairs, coverage } = matchJoined(
      [panel('a', 10, ['R 300', 'G 300', 'Ha 600'])],
      [panel('b', 10.03, ['Ha 600', 'R 300', 'R 300'])],
    );
    expect(pairs.map(({ goals }) => goals)).toEqual([['a0', 'b1'], ['a2', 'b0']]); // prettier-ignore
    expect(coverage).toBeGreaterThan(0.95);
  });

  it('takes a camera turned by half as the same field, by a quarter as another', () => {
    const own = [panel('a', 10, ['R'])];
    expect(matchJoined(own, [panel('b', 10, ['R'], 180)]).pairs).toHaveLength(1);
    expect(matchJoined(own, [panel('b', 10, ['R'], 90)])).toMatchObject({ pairs: [] });
  });

  it('gives each panel one partner, the nearest', () => {
    const { pairs } = matchJoined([panel('a', 10, ['R']), panel('c', 10.05, ['R'])], [panel('b', 10.04, ['R'])]);
    expect(pairs.map(({ goals }) => goals)).toEqual([['c0', 'b0']]);
  });

  it('knows no field of a panel without a place', () => {
    expect(matchJoined([{ ...panel('a', 10, ['R']), field: null }], [panel('b', 10, ['R'])])).toEqual({ coverage: 0, pairs: [] }); // prettier-ignore
  });
});

import { describe, expect, it } from '@jest/globals';
import { nightInstance } from '../../../../../bench/instances.ts';
import { breaksLimits } from '../../../test/sky-violations.ts';
import { seededRandom } from '../../random.ts';
import { explainMoment } from './explain-moment.ts';
import { planNight } from '../night/plan-night.ts';
import type { NightWish } from '../hand/wishes.ts';

const PAIRS = Number(process.env.MERIDIEM_LONG ?? 0) ? 200 : 40;
const EDGE_MS = 5 * 60_000;
const OPTIONS = { seed: 1, iterations: 3000 };
const nights = [1, 2, 4, 5].map((seed) => {
  const request = nightInstance({ seed, goals: 24, night: seed * 9 });
  const { survey, problem, solution } = planNight(request, OPTIONS);
  return { request, survey: survey!, problem: problem!, solution: solution! };
});

/** Goals and moments drawn alike from all nights, those that something is left of. */
function pairs(count: number, seed: number) {
  const random = seededRandom(seed);
  return Array.from({ length: count }, () => {
    const solved = nights[Math.floor(random() * nights.length)];
    const open = solved.request.goals.flatMap((goal, g) => (goal.toPlan > 0 ? [g] : []));
    const { startUtcMs, length, stepMs } = solved.survey.table;
    const utcMs = Math.round(startUtcMs + random() * (length - 1) * stepMs);
    return { solved, goal: open[Math.floor(random() * open.length)], utcMs };
  });
}

describe(`${PAIRS} goals and moments`, () => {
  const asked = pairs(PAIRS, 5).map((pair) => ({
    ...pair,
    reason: explainMoment(pair.solved, pair.goal, pair.utcMs, OPTIONS),
  }));

  it('name the limit that brute force finds failing, and none where it finds none', () => {
    for (const { solved, goal, utcMs, reason } of asked) {
      // Near an edge the checker's slack decides, not the limit.
      if (
        solved.survey.goals[goal].gaps.some(
          (gap) => Math.min(Math.abs(utcMs - gap.startUtcMs), Math.abs(utcMs - gap.endUtcMs)) < EDGE_MS,
        )
      )
        continue;
      const code = reason.code === 'LIMIT' ? reason.gap.code : null;
      expect([code, breaksLimits(solved.request, goal, utcMs, code)]).toEqual([code, code !== null]);
    }
    expect(asked.filter(({ reason }) => reason.code === 'LIMIT').length).toBeGreaterThan(PAIRS / 10);
  });

  it('say what forcing costs: the night falls by that amount when it is forced by hand', () => {
    let checked = 0;
    for (const { solved, goal, utcMs, reason } of asked) {
      if (reason.code !== 'OUTBID' && reason.code !== 'WAITS') continue;
      const { cycleSec, count, exposureSec, windows } = solved.problem.goals[goal];
      const atSec = (utcMs - solved.survey.table.startUtcMs) / 1000;
      const window = windows.find(({ fromSec, toSec }) => atSec >= fromSec && atSec < toSec)!;
      const fits = Math.floor((window.toSec - atSec - exposureSec) / cycleSec) + 1;
      const forced = Math.min(
        count,
        fits,
        Math.ceil(solved.problem.minStayOfPanelSec[solved.problem.goals[goal].panel] / cycleSec),
      );
      const wish: NightWish = {
        id: 'f',
        kind: 'pin',
        goalId: solved.request.goals[goal].id,
        startUtcMs: utcMs,
        count: forced,
      };
      const kept = solved.solution.placements.map(({ goal: g, startsSec }) => ({
        goalId: solved.request.goals[g].id,
        startUtcMs: solved.survey.table.startUtcMs + startsSec[0] * 1000,
        count: startsSec.length,
      }));
      const { plan } = planNight({ ...solved.request, wishes: [wish], kept }, OPTIONS);
      if ((plan.broken ?? []).length > 0) continue;
      const fall = Math.max(0, solved.solution.value - plan.value);
      expect(Math.abs(fall - reason.costs)).toBeLessThanOrEqual(Math.max(0.05, 0.05 * reason.costs));
      checked += 1;
    }
    expect(checked).toBeGreaterThan(PAIRS / 20);
  });

  it('name the hour that is waited for, with its rate', () => {
    for (const { solved, goal, reason } of asked) {
      if (reason.code !== 'WAITS') continue;
      const run = solved.solution.placements.find((placement) => placement.goal === goal)!;
      expect((reason.atUtcMs - solved.survey.table.startUtcMs) / 1000).toBeCloseTo(run.startsSec[0], 3);
      expect(reason.rateThen).toBeGreaterThan(0);
    }
  });
});

it('by day says so', () => {
  const [solved] = nights;
  expect(explainMoment(solved, 0, solved.request.night.startUtcMs, OPTIONS).code).toMatch(
    /DAY|NOTHING_LEFT|NO_POSITION/,
  );
  const open = solved.request.goals.findIndex(({ toPlan }) => toPlan > 0);
  expect(explainMoment(solved, open, solved.request.night.startUtcMs, OPTIONS)).toEqual({ code: 'DAY' });
});

it('what is exposed says its rate, its better hour and who was second', () => {
  const [solved] = nights;
  const { goal, startsSec } = solved.solution.placements[0];
  const reason = explainMoment(solved, goal, solved.survey.table.startUtcMs + startsSec[0] * 1000 + 1000, OPTIONS);
  expect(reason).toMatchObject({ code: 'EXPOSED', rate: expect.any(Number) });
});

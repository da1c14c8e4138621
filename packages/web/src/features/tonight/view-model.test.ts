import { describe, expect, it } from '@jest/globals';
import type { LeftOut, NightSky, PlanBlock, Reason, RigPlan } from '@meridiem/contract';
import type { MomentReason } from '@meridiem/core';
import { momentWords } from './moment-words.ts';
import {
  blockKeys,
  endWords,
  leftOutRows,
  planNameWords,
  planSummary,
  reserveByProject,
  skyFacts,
  takenOf,
  waitsBefore,
} from './view-model.ts';

const ZONE = 'America/Santiago';
const MINUTE = 60_000;
const EVENING = Date.parse('2029-01-13T00:00:00Z');
const reason = (code: string, best: number | null = null): Reason => ({
  code,
  limit: 30,
  best,
  worst: null,
  origin: null,
  rival: null,
  interval: null,
});
const leftOut = (projectId: string, panelName: string, filterLetter: string, why: Reason): LeftOut => ({
  projectId,
  projectName: `Project ${projectId}`,
  panelName,
  goalId: `${panelName}/${filterLetter}`,
  filterLetter,
  filterClass: filterLetter === 'Ha' ? 'narrowband' : 'broadband',
  reason: why,
});
const run = (filterClass: 'broadband' | 'narrowband', fromMin: number, count: number, taken = 0) => ({
  goalId: `goal ${filterClass}`,
  filterLetter: filterClass === 'narrowband' ? 'Ha' : 'L',
  filterClass,
  startUtcMs: EVENING + fromMin * MINUTE,
  endUtcMs: EVENING + (fromMin + 5 * count) * MINUTE,
  exposureSec: 290,
  count,
  taken,
  meanRateShare: 0.9,
});
const block = (...runs: PlanBlock['runs']): PlanBlock =>
  ({ panelId: 'p', startUtcMs: runs[0].startUtcMs, endUtcMs: runs.at(-1)!.endUtcMs, runs }) as PlanBlock;

describe('what is left out', () => {
  it('is one row for a project and a kind of reason', () => {
    const rows = leftOutRows([
      leftOut('x', 'one', 'Ha', reason('TARGET_TOO_LOW', 21)),
      leftOut('x', 'two', 'Ha', reason('TARGET_TOO_LOW', 22)),
      leftOut('x', 'two', 'L', reason('TARGET_TOO_LOW', 22)),
      leftOut('x', 'one', 'L', reason('COMPLETE')),
      leftOut('y', 'one', 'L', reason('TARGET_TOO_LOW', 3)),
    ]);
    expect(
      rows.map(({ projectName, panels, filters, words }) => [
        projectName,
        panels,
        filters.map((f) => f.letter).join(),
        words,
      ]),
    ).toEqual([
      ['Project x', 2, 'Ha,L', 'too low: 21.0° at best'],
      ['Project x', 1, 'L', 'complete'],
      ['Project y', 1, 'L', 'too low: 3.0° at best'],
    ]);
    expect(rows.reduce((sum, { items }) => sum + items.length, 0)).toBe(5);
    expect(new Set(rows.map(({ key }) => key)).size).toBe(3);
  });
});

describe('when a block ends', () => {
  const plan = (endMin: number): RigPlan =>
    ({
      usable: [{ class: 'narrowband', windows: [{ startUtcMs: EVENING, endUtcMs: EVENING + endMin * MINUTE }] }],
    }) as unknown as RigPlan;
  const stay = block(run('broadband', 0, 2), run('narrowband', 10, 12));
  it('says how near that is to the end of its last filter’s darkness', () => {
    expect(endWords(stay, plan(400), ZONE)).toBe('22:10');
    expect(endWords(stay, plan(100), ZONE)).toBe('22:10, 30 min before twilight is too bright');
    expect(endWords(stay, plan(70), ZONE)).toBe('22:10, 0 min before twilight is too bright');
    expect(endWords(stay, plan(55), ZONE)).toBe('22:10, 15 min past its darkness');
  });
  it('says no more where no darkness is known', () =>
    expect(endWords(block(run('broadband', 0, 2)), plan(5), ZONE)).toBe('21:10'));
});

describe('a night’s facts', () => {
  const sky = {
    sunsetUtcMs: EVENING,
    sunriseUtcMs: EVENING + 600 * MINUTE,
    duskUtcMs: EVENING + 90 * MINUTE,
    dawnUtcMs: EVENING + 510 * MINUTE,
    darkHours: 7,
    darkMoonlessHours: 4.25,
    moonIlluminatedShare: 0.634,
    moonriseUtcMs: EVENING + 30 * MINUTE,
    moonsetUtcMs: null,
  } as unknown as NightSky;
  const fact = (of: NightSky, name: string) => skyFacts(of, ZONE).find((one) => one.name === name)!.value;
  it('are told in local time', () => {
    expect(fact(sky, 'Sunset')).toBe('21:00');
    expect(fact(sky, 'Dark')).toBe('22:30–05:30 (7.0 h)');
    expect(fact(sky, 'Dark without moon')).toBe('4.3 h');
    expect(fact(sky, 'Moon')).toBe('63 % lit, rises 21:30');
  });
  it('say never where it doesn’t get dark, and a dash where the sun doesn’t set', () => {
    expect(fact({ ...sky, duskUtcMs: null }, 'Dark')).toBe('never');
    expect(fact({ ...sky, sunsetUtcMs: null }, 'Sunset')).toBe('—');
  });
});

describe('a plan in words', () => {
  const blocks = [block(run('broadband', 0, 2, 1)), block(run('narrowband', 12, 3), run('broadband', 30, 4, 4))];
  it('sums up exposures, and keeps overhead apart', () => {
    const plan = { blocks, exposingHours: 0.725, overheadHours: 0.1 } as unknown as RigPlan;
    expect(planSummary(plan)).toBe('9 exposures, 0.7 h exposing + 0.1 h overhead');
    expect(planSummary({ ...plan, blocks: [] })).toBe('Nothing is planned.');
    expect(takenOf(blocks[1])).toEqual({ taken: 4, count: 7 });
  });
  it('has a name for each state', () => {
    expect(planNameWords({ state: 'working', seq: null })).toBe('the working plan');
    expect(planNameWords({ state: 'automatic', seq: null })).toBe('the plan without hand changes');
    expect(planNameWords({ state: 'published', seq: 3 })).toBe('version 3');
  });
  it('keeps the names of its blocks while they are moved', () => {
    const of = (...panels: string[]) => blockKeys(panels.map((panelId) => ({ panelId }) as PlanBlock));
    expect(of('p', 'q', 'p')).toEqual(['p 0', 'q 0', 'p 1']);
    expect(new Set(of('q', 'p', 'p', 'q'))).toEqual(new Set(['q 0', 'p 0', 'p 1', 'q 1']));
  });
});

describe('one goal at one moment', () => {
  const words = (one: MomentReason): string => momentWords(one, ZONE, (goalId) => `goal ${goalId}`);
  it('is told with the numbers of what happens then', () => {
    expect(words({ code: 'EXPOSED', rate: 0.83, better: null, second: null })).toBe(
      'It is exposed then, at 83 % of its best light. That is its best tonight.',
    );
    const better = { utcMs: EVENING + 95 * MINUTE, rate: 0.97 };
    expect(words({ code: 'EXPOSED', rate: 0.83, better, second: { goalId: 'b', costs: 0.126 } })).toBe(
      'It is exposed then, at 83 % of its best light. Its best is 97 % at 22:35. Without it goal b would have the hour, and the night’s value would fall by 0.13.',
    );
    expect(words({ code: 'WINDOW_ENDS', endUtcMs: EVENING })).toMatch(/before 21:00, when its limits close\.$/);
    expect(words({ code: 'OUTBID', rate: 0.5, rivalGoalId: null, costs: 0.001 })).toBe(
      'It could be exposed at 50 % of its best light, but the hour is left free. Forcing it would cost nothing: it is a near tie.',
    );
  });
  it('meets its limit with the limit’s own sentence', () => {
    const gap = {
      startUtcMs: EVENING,
      endUtcMs: EVENING + 60 * MINUTE,
      code: 'TARGET_TOO_LOW',
      limit: 30,
      best: 24,
      worst: 12,
      origin: 'project',
    } as Extract<MomentReason, { code: 'LIMIT' }>['gap'];
    expect(words({ code: 'LIMIT', gap })).toBe(
      'The target stays below 30.0° from 21:00 to 22:00; it reaches 24.0° there at best. The limit comes from: project.',
    );
  });
  it.each(['DAY', 'NOTHING_LEFT', 'LEFT_OUT_BY_HAND', 'HELD_BY_HAND', 'CAMERA_ANGLE'] as const)(
    '%s is a sentence',
    (code) => expect(words({ code } as MomentReason)).toMatch(/^[A-Z].* .*\.$/),
  );
});

it('the reserve names each project once, by what gains most, with every filter that waits', () => {
  const goal = (projectId: string, filterLetter: string, perHour: number, sky: 'dark' | 'bright' = 'dark') =>
    ({ projectId, projectName: projectId, filterLetter, filterClass: 'narrowband', perHour, sky, goalId: `${projectId}${filterLetter}` }) as RigPlan['reserve'][number]; // prettier-ignore
  const rows = reserveByProject([goal('a', 'Ha', 0.4), goal('b', 'SII', 0.9), goal('a', 'OIII', 0.7), goal('a', 'Ha', 0.2), goal('c', 'L', 2, 'bright')], 'dark'); // prettier-ignore
  expect(rows.map(({ best, filters }) => [best.goalId, filters.map(({ letter }) => letter)])).toEqual([
    ['bSII', ['SII']],
    ['aOIII', ['Ha', 'OIII']],
  ]);
});

it('a gap of five minutes and more is a wait of its own', () => {
  const stay = (from: number, to: number) => ({ startUtcMs: EVENING + from * MINUTE, endUtcMs: EVENING + to * MINUTE }) as PlanBlock; // prettier-ignore
  expect(waitsBefore([stay(0, 60), stay(64, 90), stay(120, 150)])).toEqual([
    null,
    null,
    { startUtcMs: EVENING + 90 * MINUTE, endUtcMs: EVENING + 120 * MINUTE },
  ]);
  expect(waitsBefore([])).toEqual([]);
});

import { describe, expect, it } from '@jest/globals';
import type { NightForecast, NightSky, PlanBlock, RigPlan, ShownWish } from '@meridiem/contract';
import { DateTime } from 'luxon';
import {
  brokenWords,
  byTime,
  leftOutBlock,
  movedBlock,
  stretchedBlock,
  swappedBlocks,
  valueWords,
  wishesAfter,
  wishWords,
} from './hand-changes.ts';
import { momentOfClock, momentWords } from './moment-words.ts';
import { comparedRows, forecastWords, isDayAt, listedRuns } from './view-model.ts';

const MINUTE = 60_000;
const HOUR = 60 * MINUTE;
const run = (goalId: string, startUtcMs: number, count: number, exposureSec = 290) => ({
  goalId,
  filterLetter: goalId.toUpperCase(),
  filterClass: 'narrowband' as const,
  startUtcMs,
  endUtcMs: startUtcMs + count * 5 * MINUTE,
  exposureSec,
  count,
  taken: 0,
  meanRateShare: 0.9,
});
const block = (panelId: string, startUtcMs: number, runs: PlanBlock['runs']): PlanBlock =>
  ({
    panelId,
    panelName: panelId,
    projectName: panelId,
    startUtcMs,
    endUtcMs: runs.at(-1)!.endUtcMs,
    runs,
  }) as PlanBlock;
const first = block('p', 0, [run('a', 2 * MINUTE, 6), run('b', 32 * MINUTE, 4)]);
const second = block('q', 52 * MINUTE, [run('c', 54 * MINUTE, 12)]);
const pin: ShownWish = {
  id: 'w',
  kind: 'pin',
  panelId: 'p',
  panelName: 'p',
  projectId: 'x',
  goalId: 'a',
  filterLetter: 'A',
  utcMs: 2 * MINUTE,
  count: 6,
  broken: null,
};
const plan = { blocks: [first, second], wishes: [pin], value: 12, automaticValue: 12.36 } as unknown as RigPlan;

describe('a hand', () => {
  it('moves every run of a block, in place of its earlier pins', () => {
    const { changes, replaces } = movedBlock(plan, first, 10 * MINUTE);
    expect(changes.map((change) => 'utcMs' in change && change.utcMs)).toEqual([12 * MINUTE, 42 * MINUTE]);
    expect(replaces).toEqual(['w']);
  });

  it('takes back the pins that a block has pushed aside, and no other stay’s', () => {
    const wishes = [
      { ...pin, id: 'pushed', utcMs: 20 * MINUTE },
      { ...pin, id: 'later', utcMs: 3 * HOUR },
      { ...pin, id: 'other goal', goalId: 'c', utcMs: 10 * MINUTE },
    ];
    expect(movedBlock({ ...plan, wishes }, first, 0).replaces).toEqual(['pushed']);
  });

  it('stretches the last run by whole exposures, and does nothing for less than one', () => {
    expect(stretchedBlock(plan, first, 11 * MINUTE)!.changes.at(-1)).toMatchObject({ goalId: 'b', count: 6 });
    expect(stretchedBlock(plan, first, -60 * MINUTE)!.changes.at(-1)).toMatchObject({ count: 1 });
    expect(stretchedBlock(plan, first, MINUTE)).toBeNull();
  });

  it('swaps two blocks that follow each other', () => {
    const starts = swappedBlocks(plan, first, second).changes.map((c) =>
      c.kind === 'pin' ? [c.goalId, c.utcMs / MINUTE] : [],
    );
    expect(starts).toEqual([
      ['c', 2],
      ['a', 64],
      ['b', 94],
    ]);
  });

  it('pins what alternates one filter after the other', () => {
    const dealt = block('p', 0, [
      run('a', 0, 1),
      run('b', 5 * MINUTE, 1),
      run('a', 10 * MINUTE, 1),
      run('b', 15 * MINUTE, 1),
    ]);
    expect(movedBlock(plan, dealt, 0).changes).toMatchObject([
      { goalId: 'a', utcMs: 0, count: 2 },
      { goalId: 'b', utcMs: 10 * MINUTE, count: 2 },
    ]);
  });

  it('leaves the hand changes of a night as the server will have them', () => {
    const ban = leftOutBlock(plan, first);
    const before = [{ id: 'w', kind: 'pin' as const, goalId: 'a', startUtcMs: 0, count: 6 }];
    const after = wishesAfter(before, ban);
    expect(after).toMatchObject([{ kind: 'ban', panelId: 'p' }]);
    expect(wishesAfter(after, leftOutBlock(plan, first))).toHaveLength(1);
    expect(wishesAfter(after, { changes: [], replaces: [after[0].id] })).toEqual([]);
  });
});

describe('the list of hand changes', () => {
  it('goes by the night, with what holds all night at its end', () => {
    const wish = (id: string, utcMs: number | null, panelName = 'p'): ShownWish => ({ ...pin, id, utcMs, panelName });
    const list = [
      wish('all night', null, 'r'),
      wish('late', HOUR),
      wish('also all night', null, 'q'),
      wish('early', 0),
    ];
    expect(byTime(list).map(({ id }) => id)).toEqual(['early', 'late', 'also all night', 'all night']);
    expect(list[0].id).toBe('all night');
  });
});

describe('words', () => {
  it('of hand changes', () => {
    expect(wishWords({ ...pin, utcMs: 22 * HOUR }, 'utc')).toBe('p: A × 6 set at 22:00');
    expect(wishWords({ ...pin, kind: 'ban' }, 'utc')).toBe('p: left out');
    expect(brokenWords({ ...pin, broken: { code: 'OUTSIDE_LIMITS', kept: 2, asked: 6 } })).toBe(
      '4 of 6 lies outside its limits and is not planned',
    );
    expect(valueWords(plan)).toBe('value 12.00; without hand changes 12.36: 0.36 less');
    expect(valueWords({ value: 1, automaticValue: null })).toBeNull();
  });

  it('of the forecast', () => {
    const forecast = {
      call: 'go',
      hoursClear: 6.2,
      hoursDark: 7.5,
      agreeing: 2,
      sources: [1, 2, 3],
    } as unknown as NightForecast;
    expect(forecastWords(forecast)).toBe('Go: 6.2 of 7.5 dark hours expected clear; 2 of 3 sources agree');
    expect(forecastWords({ ...forecast, call: null })).toBe('No forecast covers this night.');
  });

  it('of a moment that waits, is outbid, or is a near tie', () => {
    const nameOf = (id: string): string => `goal ${id}`;
    const waits = { code: 'WAITS', rate: 0.5, atUtcMs: HOUR, rateThen: 0.9, costs: 0.31 } as const;
    expect(momentWords(waits, 'utc', nameOf)).toContain('It waits for 01:00, when it gathers 90 %');
    expect(momentWords({ code: 'OUTBID', rate: 0.5, rivalGoalId: 'z', costs: 0 }, 'utc', nameOf)).toBe(
      'It could be exposed at 50 % of its best light, but goal z has the hour. Forcing it would cost nothing: it is a near tie.',
    );
  });
});

describe('the page', () => {
  it('reads a time as the moment of the night', () => {
    const start = DateTime.fromISO('2026-10-11T12:00', { zone: 'utc' }).toMillis();
    const sky = {
      startUtcMs: start,
      endUtcMs: start + 24 * HOUR,
      sunsetUtcMs: start + 7 * HOUR,
      sunriseUtcMs: start + 18 * HOUR,
    } as NightSky;
    expect(momentOfClock('23:30', sky, 'utc')).toBe(start + 11.5 * HOUR);
    expect(momentOfClock('4.15', sky, 'utc')).toBe(start + 16.25 * HOUR);
    for (const text of ['', '25:00', 'late', '12:61']) expect(momentOfClock(text, sky, 'utc')).toBeNull();
    expect([6, 8, 19].map((hour) => isDayAt(sky, start + hour * HOUR))).toEqual([true, false, true]);
  });

  it('compares plans panel by panel, and lists alternating filters once', () => {
    const other = { ...plan, blocks: [second] } as RigPlan;
    expect(comparedRows(plan, other)).toEqual([
      { panelId: 'p', panelName: 'p', here: '48 min', there: 'nothing', difference: '+48 min' },
    ]);
    const runs = Array.from({ length: 8 }, (_, i) => run(i % 2 ? 'a' : 'b', i * 5 * MINUTE, 1));
    expect(listedRuns(block('p', 0, runs))).toMatchObject({ alternates: true, runs: [{ count: 4 }, { count: 4 }] });
    expect(listedRuns(first).alternates).toBe(false);
  });
});

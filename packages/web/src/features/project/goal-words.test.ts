import { describe, expect, it } from '@jest/globals';
import type { Goal, LimitEffect, Panel, Project, ProjectNight } from '@meridiem/contract';
import {
  classesOf,
  effectWords,
  endLabels,
  gatheredHours,
  leftWords,
  limitLines,
  panelCost,
  tonightOf,
  totalsOf,
} from './view-model.ts';

const goal = (changes: Partial<Goal> = {}): Goal =>
  ({
    filterLetter: 'L',
    filterClass: 'broadband',
    wanted: 60,
    enabled: true,
    leftExposingSec: 7200,
    leftOverheadSec: 900,
    tonight: null,
    tally: { done: 10, undecided: 0, toPlan: 50, wanted: 60, acceptedHours: 1.5, effectiveHours: 1.2, wantedHours: 9 },
    ...changes,
  }) as Goal;
const tally = (changes: Partial<Goal['tally']>): Goal['tally'] => ({ ...goal().tally, ...changes });
const panel = (...goals: Goal[]): Panel => ({ name: 'P', goals }) as Panel;

describe('what is left of a goal', () => {
  it('is told with its overhead apart', () => expect(leftWords(goal())).toBe('2 h 00 min + 15 min'));
  it('has no end where the goal has none', () =>
    expect(leftWords(goal({ leftExposingSec: null, leftOverheadSec: null }))).toBe('open-ended'));
  it('waits for verdicts rather than being done', () => {
    const waiting = goal({
      leftExposingSec: 0,
      leftOverheadSec: 0,
      tally: tally({ undecided: 9, toPlan: 0, done: 55 }),
    });
    expect(leftWords(waiting)).toBe('awaiting verdicts');
    expect(leftWords({ ...waiting, tally: tally({ undecided: 0, toPlan: 0, done: 60 }) })).toBe('nothing left');
  });
});

describe('a goal tonight', () => {
  const chance = (changes: Partial<NonNullable<Goal['tonight']>>) =>
    goal({
      tonight: { planned: 0, plannedEndUtcMs: null, reason: null, usableHours: 2.34, ...changes } as Goal['tonight'],
    });
  it('is planned, or has a reason, or is at least usable', () => {
    const end = Date.parse('2029-01-13T02:20:00Z');
    expect(tonightOf(chance({ planned: 12, plannedEndUtcMs: end }), 'UTC')).toBe('12 planned, until 02:20');
    const reason = {
      code: 'COMPLETE',
      limit: null,
      best: null,
      worst: null,
      origin: null,
      rival: null,
      interval: null,
    };
    expect(tonightOf(chance({ reason }), 'UTC')).toBe('complete');
    expect(tonightOf(chance({}), 'UTC')).toBe('usable 2.3 h');
    expect(tonightOf(goal(), 'UTC')).toBe('');
  });
});

describe('totals', () => {
  const off = goal({ enabled: false });
  it('count what is switched on', () =>
    expect(totalsOf([panel(goal(), off), panel(goal())])).toEqual({
      acceptedHours: 3,
      effectiveHours: 2.4,
      wantedHours: 18,
      leftExposingSec: 14_400,
      leftOverheadSec: 1800,
    }));
  it('have no wanted hours where a goal has no end, and none of its time', () => {
    const endless = goal({ wanted: null, leftExposingSec: null, leftOverheadSec: null });
    expect(totalsOf([panel(goal(), endless)])).toMatchObject({ wantedHours: null, leftExposingSec: 7200 });
    expect(panelCost(panel(goal(), endless, off))).toEqual({ exposingSec: 7200, overheadSec: 900 });
  });
  it('are none of nothing', () =>
    expect(totalsOf([])).toMatchObject({ acceptedHours: 0, wantedHours: 0, leftExposingSec: 0 }));
});

describe('limits of a project', () => {
  const project = {
    limits: [{ class: 'broadband', key: 'minAltitudeDeg', value: 45 }],
    observatoryLimits: [
      { class: null, key: 'minAltitudeDeg', value: 25 },
      { class: null, key: 'moonSeparationMinDeg', value: 50 },
    ],
  } as unknown as Project;
  const line = (key: string, filterClass: 'broadband' | 'narrowband') =>
    limitLines(project, filterClass).find((one) => one.key === key)!;
  it('come with where they are set, nearest first', () => {
    expect(line('minAltitudeDeg', 'broadband')).toMatchObject({ value: 45, own: true });
    expect(line('minAltitudeDeg', 'narrowband')).toMatchObject({ value: 25, own: false });
    expect(line('moonSeparationMinDeg', 'broadband')).toMatchObject({ value: 50, own: false });
  });
  it('are listed once for each class that the goals use', () =>
    expect(classesOf([panel(goal(), goal()), panel(goal({ filterClass: 'narrowband' }))])).toEqual([
      'broadband',
      'narrowband',
    ]));
});

describe('hours gathered', () => {
  const night = (nightDate: string, ...filters: [letter: string, acceptedHours: number][]): ProjectNight =>
    ({
      nightDate,
      filters: filters.map(([filterLetter, acceptedHours]) => ({
        filterLetter,
        acceptedHours,
        filterClass: 'broadband',
      })),
    }) as ProjectNight;
  const nights = [night('2029-01-12', ['L', 2]), night('2029-01-13', ['B', 1.5], ['L', 0.5]), night('2029-01-15')];
  it('add up night by night, every filter at every point', () => {
    const { points, filters } = gatheredHours(nights);
    expect(filters.map(({ letter }) => letter)).toEqual(['L', 'B']);
    expect(points).toEqual([
      { nightDate: '2029-01-12', L: 2, B: 0 },
      { nightDate: '2029-01-13', L: 2.5, B: 1.5 },
      { nightDate: '2029-01-15', L: 2.5, B: 1.5 },
    ]);
  });
  it('have lines that end together share one label', () => {
    const points = [{ nightDate: 'x', L: 10, R: 9.7, G: 5, B: 4.9, Ha: 1 }];
    const filters = ['L', 'R', 'G', 'B', 'Ha'].map((letter) => ({ letter }));
    expect(Object.fromEntries(endLabels(points, filters))).toEqual({ L: 'L R', R: '', G: 'G B', B: '', Ha: 'Ha' });
    expect(endLabels([], filters).size).toBe(0);
  });
});

describe('what a limit costs', () => {
  const effect = (...nights: [hours: number, hoursWithout: number, hoursProposed: number][]): LimitEffect =>
    ({
      nights: nights.map(([hours, hoursWithout, hoursProposed]) => ({ hours, hoursWithout, hoursProposed })),
    }) as LimitEffect;
  it('is told for tonight and the nights to come', () => {
    expect(effectWords(effect([5.3, 6.5, 6], [2, 4, 4]), false)).toBe(
      'This limit costs 3.2 of 10.5 h in the coming 2 nights; tonight 1.2 of 6.5 h.',
    );
    expect(effectWords(effect([5, 5, 5]), false)).toBe('This limit costs nothing in the coming night.');
  });
  it('and what a value that is tried would change', () => {
    expect(effectWords(effect([5, 6, 5.5], [5, 6, 5.5]), true)).toMatch(/As tried it gains 1\.0 h against now\.$/);
    expect(effectWords(effect([5, 6, 3]), true)).toMatch(/As tried it loses 2\.0 h against now\.$/);
    expect(effectWords(effect([5, 6, 5.01]), true)).toMatch(/As tried it changes nothing against now\.$/);
  });
});

import { describe, expect, it } from '@jest/globals';
import type { ImportRow, ProjectNight } from '@meridiem/contract';
import { groupsOf, summaryOf, toWrite } from './imports/view-model.ts';
import { previewWords, sigmasOf } from './observatory/view-model.ts';
import { endLabels, gatheredHours } from './project/view-model.ts';
import { nightsUpTo } from '../app/period.ts';
import { reviewSum } from './review/view-model.ts';

const row = (id: string, change: Partial<ImportRow> = {}): ImportRow => ({
  id,
  name: `${id}.fits`,
  state: 'ready',
  kind: 'light',
  startUtcMs: 0,
  exposureSec: 120,
  objectName: 'NGC 55',
  filterName: 'L',
  rigId: 'heron',
  filterId: 'L',
  panelId: 'one',
  panelName: 'NGC 55 1',
  projectName: 'NGC 55',
  goalId: 'goal',
  coverage: 1,
  creditShare: 1,
  isByHand: false,
  hasHash: true,
  reasons: ['covers 100 % of NGC 55 1'],
  doubts: [],
  ...change,
});
const context = { filters: [{ id: 'L', letter: 'L' }], rigs: [{ id: 'heron', name: 'Heron' }] };

describe('files of an import', () => {
  it('that share their fate stand on one line, what needs a person first', () => {
    const rows = [
      row('a'),
      row('b', { reasons: ['covers 97 % of NGC 55 1'], doubts: ['FILTER appears twice'] }),
      row('c', {
        state: 'choose',
        filterId: null,
        panelId: null,
        panelName: null,
        reasons: ['the header names no filter'],
      }),
      row('d', { state: 'refused', kind: null, reasons: ['The file is empty'] }),
      row('e', { state: 'refused', kind: null, reasons: ['no END card'] }),
    ];
    const groups = groupsOf({ rows, ...context });
    expect(groups.map((group) => [group.state, group.rows.length])).toEqual([
      ['choose', 1],
      ['ready', 2],
      ['refused', 1],
      ['refused', 1],
    ]);
    expect(groups[1]).toMatchObject({ goal: 'NGC 55 1, L, Heron', doubts: ['FILTER appears twice'] });
    expect(groups[1].hours).toBeCloseTo(240 / 3600);
    expect(groups[0].goal).toBe('no project, no filter, Heron');
    expect(summaryOf(rows)).toBe('1 to choose, 2 ready, 2 can’t be read');
    expect(toWrite(rows)).toBe(2);
  });
});

describe('nights of a project', () => {
  const night = (nightDate: string, hours: Record<string, number>): ProjectNight => ({
    number: 1,
    nightDate,
    filters: Object.entries(hours).map(([filterLetter, acceptedHours]) => ({
      filterLetter,
      filterClass: 'broadband',
      accepted: 1,
      undecided: 0,
      rejected: 0,
      acceptedHours,
    })),
  });

  it('add up by filter, every filter at every night', () => {
    const { points, filters } = gatheredHours([night('2026-10-01', { L: 2 }), night('2026-10-02', { L: 1, R: 0.5 })]);
    expect(filters.map(({ letter }) => letter)).toEqual(['L', 'R']);
    expect(points).toEqual([
      { nightDate: '2026-10-01', L: 2, R: 0 },
      { nightDate: '2026-10-02', L: 3, R: 0.5 },
    ]);
  });

  it('label lines that end together once', () => {
    const filters = ['L', 'R', 'G', 'B'].map((letter) => ({ letter }));
    const labels = endLabels([{ nightDate: '2026-10-01', L: 10, R: 3, G: 3.1, B: 6 }], filters);
    expect(Object.fromEntries(labels)).toEqual({ L: 'L', B: 'B', G: 'G R', R: '' });
    expect(endLabels([], filters).size).toBe(0);
  });
});

describe('a review', () => {
  const row = { projectId: 'p', projectName: 'p', ownerName: 'o', nights: 2, undecided: 1, acceptedHours: 1.5 };
  it('sums up, and says what share was kept only where something was judged', () => {
    const rows = [
      { ...row, accepted: 30, rejected: 10 },
      { ...row, accepted: 0, rejected: 0 },
    ];
    expect(reviewSum(rows)).toEqual({ accepted: 30, undecided: 2, rejected: 10, acceptedHours: 3, keptShare: 0.75 });
    expect(reviewSum([rows[1]]).keptShare).toBeNull();
  });

  it('covers the last thirty nights unless another period is chosen', () =>
    expect(nightsUpTo('2026-10-11', 31)).toEqual({ from: '2026-09-11', to: '2026-10-11' }));
});

describe('rules', () => {
  it.each([
    ['3.5', 3.5],
    ['3,5', 3.5],
    ['off', null],
    ['OFF ', null],
    ['0', undefined],
    ['30', undefined],
    ['', undefined],
    ['lots', undefined],
  ])('"%s" is read as %s', (text, sigmas) => expect(sigmasOf(text)).toBe(sigmas));

  it('say what they would drop, and why', () => {
    const byFigure = { starSize: 2, starCount: 0, guiding: 1, background: 0, elongation: 0, starlight: 0 };
    expect(previewWords({ exposures: 50, rejectedNow: 1, wouldReject: 3, byFigure })).toBe(
      'Of the newest 50 exposures 1 are rejected by rule now; these rules would reject 3: 2 for star size, 1 for guiding.',
    );
  });
});

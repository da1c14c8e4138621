import { describe, expect, it } from '@jest/globals';
import type { Season, SeasonProject } from '@meridiem/contract';
import { helpWords, uselessWords } from './helps.ts';
import {
  comparedRows,
  fairnessWords,
  isNothing,
  isSameLimit,
  moreWords,
  sharesTyped,
  whatIfOf,
  wholeWords,
  withEntry,
  withGrade,
  withLimits,
  withShares,
} from './what-if.ts';

const project = (projectId: string, fields: Partial<SeasonProject> = {}): SeasonProject => ({
  projectId,
  name: `Project ${projectId}`,
  ownerName: 'Mirela Costin',
  rigId: 'r1',
  deadline: null,
  hangsOnVisit: null,
  leftHours: 10,
  expectedHours: 8,
  finishedShare: 0.9,
  early: '2026-12-08',
  middle: '2026-12-12',
  late: '2026-12-20',
  isOpenEnded: false,
  ...fields,
});
const season = (projects: readonly SeasonProject[]): Season => ({
  nights: [{ nightDate: '2027-01-27', rigId: 'r1', odds: 0.5, startUtcMs: 0, endUtcMs: 1, darkHours: 7, moonlessHours: 3, cells: [] }], // prettier-ignore
  projects: [...projects],
  value: 10,
  bound: 11,
  draws: 200,
  fairness: null,
});

describe('a what-if in the address', () => {
  it('is nothing where the address says nothing', () => {
    expect(isNothing(whatIfOf(new URLSearchParams('')))).toBe(true);
    expect(isNothing(whatIfOf(new URLSearchParams('closedFrom=2026-12-01')))).toBe(true);
  });

  it('is read as it was written', () => {
    const search = new URLSearchParams({
      granted: 'a,b',
      without: 'c',
      grades: withGrade({ grades: [{ projectId: 'd', grade: 1 }] }, 'e', 3),
      fairness: '0.75',
      closedFrom: '2026-12-01',
      closedTo: '2026-12-07',
      closedRig: 'r1',
    });
    expect(whatIfOf(search)).toEqual({
      granted: ['a', 'b'],
      leftOut: ['c'],
      grades: [
        { projectId: 'd', grade: 1 },
        { projectId: 'e', grade: 3 },
      ],
      fairness: 0.75,
      closed: [{ rigId: 'r1', firstNight: '2026-12-01', lastNight: '2026-12-07' }],
    });
  });

  it('holds limits and shares as they are tried', () => {
    const limits = [
      { projectId: null, class: 'narrowband' as const, key: 'minAltitudeDeg' as const, value: 35 },
      { projectId: 'p', class: null, key: 'moonSeparationMinDeg' as const, value: null },
    ];
    const shares = [
      { memberId: 'a', share: 0.625 },
      { memberId: 'b', share: 0.375 },
    ];
    const search = new URLSearchParams({ limits: withLimits(limits), shares: withShares(shares)! });
    expect(whatIfOf(search)).toEqual({ limits, shares });
    expect(whatIfOf(new URLSearchParams('limits=all:all:noSuchLimit:3,all:all:minAltitudeDeg:high'))).toEqual({});
    expect(isSameLimit(limits[0], { ...limits[0], value: 50 })).toBe(true);
    expect(isSameLimit(limits[0], { ...limits[0], class: null })).toBe(false);
    expect(withShares(undefined)).toBeNull();
  });

  it('reads shares as percentages that make up the whole', () => {
    expect(sharesTyped({ a: '62,5', b: '37.5 %' })).toMatchObject({ isWhole: true, shares: [{ memberId: 'a', share: 0.625 }, { memberId: 'b', share: 0.375 }] }); // prettier-ignore
    expect(sharesTyped({ a: '50', b: '20' })).toMatchObject({ isWhole: false });
    expect([sharesTyped({ a: 'half', b: '50' }), sharesTyped({ a: '-5', b: '105' })]).toEqual([null, null]);
  });

  it('takes an entry in and out, and a grade back to what it is', () => {
    expect(withEntry(['a'], 'b', true)).toBe('a,b');
    expect(withEntry(['a', 'b'], 'a', false)).toBe('b');
    expect(withEntry(['a'], 'a', true)).toBe('a');
    expect(withGrade({ grades: [{ projectId: 'd', grade: 1 }] }, 'd', null)).toBe('');
    expect(withGrade({ grades: [{ projectId: 'd', grade: 1 }] }, 'd', 2)).toBe('d:2');
  });
});

describe('two seasons side by side', () => {
  const now = season([project('a'), project('b'), project('gone')]);
  const then = season([project('a'), project('b', { expectedHours: 2, finishedShare: 0.1 }), project('new', { expectedHours: 3 })]); // prettier-ignore

  it('put first what changes, and say of each when it ends', () => {
    const rows = comparedRows(now, then);
    expect(rows.map(({ projectId }) => projectId)).toEqual(['gone', 'b', 'new', 'a']);
    expect(rows.map(({ isChanged }) => isChanged)).toEqual([true, true, true, false]);
    expect(rows[0]).toMatchObject({ then: 'not in the season', hoursMore: -8 });
    expect(rows[1].hoursMore).toBe(-6);
    expect(rows[2].now).toBe('not in the season');
  });

  it('count an end that moves by days as a change', () => {
    const later = season([project('a', { middle: '2026-12-20' }), project('b', { middle: '2026-12-13' })]);
    expect(comparedRows(season([project('a'), project('b')]), later).map(({ isChanged }) => isChanged)).toEqual([true, false]); // prettier-ignore
  });

  it('are summed up with the change', () => {
    expect(wholeWords(now, then)).toBe(
      '13.0 h of exposures expected in all instead of 24.0 h (−11.0 h); 1.9 projects finished on average instead of 2.7.',
    );
    expect(moreWords(2.41)).toBe('+2.4 h');
    expect(moreWords(0.01)).toBe('the same');
  });
});

describe('fairness in a season', () => {
  it('says what it costs, and nothing where shares make no difference', () => {
    expect(fairnessWords({ fairness: null })).toBeNull();
    expect(fairnessWords({ fairness: { price: 0, multipliers: [] } })).toMatch(/^Fairness costs less than 0\.5 % of/);
    expect(fairnessWords({ fairness: { price: 0.0062, multipliers: [] } })).toMatch(/costs 0\.6 % of/);
    expect(fairnessWords({ fairness: { price: 0.031, multipliers: [] } })).toMatch(/costs 3 % of/);
  });
});

describe('what would help', () => {
  const {
    projectId: _id,
    name: _name,
    ownerName: _owner,
    rigId: _rig,
    deadline: _deadline,
    ...asIs
  } = project('a', {
    finishedShare: 0,
    expectedHours: 6.2,
    early: null,
    middle: null,
    late: null,
  });
  const helps = { asIs, helps: [], useless: ['lessSignal' as const, 'noClosures' as const], lastNight: '2027-01-27' };

  it('is said with dates and odds where it finishes more often, with hours where it only brings more', () => {
    const sooner = helpWords(
      { key: 'rigAlone', rigName: null, forecast: { ...asIs, finishedShare: 0.4, early: '2027-01-10' } },
      helps,
    );
    expect(sooner).toBe(
      'With the rig to itself: by Wed 27 Jan with odds of 40 %, not before Sun 10 Jan, finished in 40 % of the seasons instead of 0 %',
    );
    const more = helpWords({ key: 'lowerAltitude', rigName: null, forecast: { ...asIs, expectedHours: 12 } }, helps);
    expect(more).toBe('Allowed 5° lower: about 5.8 h more expected');
    const there = helpWords({ key: 'otherRig', rigName: 'Heron', forecast: { ...asIs, finishedShare: 0.3 } }, helps);
    expect(there).toMatch(/^With its rest on Heron, by recipes for the same filters: .*30 % of the seasons instead of 0 %$/); // prettier-ignore
  });

  it('names what was tried without a gain', () => {
    expect(uselessWords(helps)).toBe('Tried without a gain: allowed 10 % less signal; with the closed nights open.');
    expect(uselessWords({ ...helps, useless: [] })).toBeNull();
  });
});

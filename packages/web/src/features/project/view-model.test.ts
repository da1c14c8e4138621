import { describe, expect, it } from '@jest/globals';
import type { Panel } from '@meridiem/contract';
import { behindWords, delayWords, lightWords, outlookWords, ownEndWords, spentLines, wishWords } from './view-model.ts';

const outlook = { nights: [], doneNightDate: null, leftExposures: 0, openEnded: 0, lookedAheadNights: 60 };
const night = (nightDate: string) => ({ nightDate, exposures: 10, exposingSec: 3600 });

describe('what is still needed', () => {
  it('is said in nights, never as a promise', () => {
    expect(outlookWords(outlook)).toBe('Nothing more is needed.');
    expect(outlookWords({ ...outlook, leftExposures: 4 })).toBe('No night of the next 60 can serve it.');
    expect(
      outlookWords({ ...outlook, nights: [night('2026-12-03'), night('2026-12-04')], doneNightDate: '2026-12-04' }),
    ).toBe('2 nights; done in the night of Fri 4 Dec at the earliest.');
    expect(outlookWords({ ...outlook, nights: [night('2026-12-03')], leftExposures: 7, openEnded: 1 })).toBe(
      'Not in the next 60 nights: 1 night can serve, and 7 exposures stay open. 1 open-ended goal has no end.',
    );
  });
});

describe('a wish through time', () => {
  it('names what was first wanted, each change, and why', () => {
    const wish = { at: 0, who: 'A', wanted: 90, before: 60, why: null, isFirst: false };
    expect(wishWords({ ...wish, isFirst: true, wanted: 60 })).toBe('60 wanted');
    expect(wishWords({ ...wish, why: 'faint outer shell' })).toBe('60 → 90: faint outer shell');
    expect(wishWords({ ...wish, wanted: null })).toBe('60 → open-ended');
    expect(lightWords({ exposures: 12, predicted: 0.83, measured: 0.791 })).toBe(
      'Light: predicted 83 % of its best, measured 79 % over 12 accepted exposures.',
    );
  });
});

describe('where the time went', () => {
  it('leaves out what is zero and names each reason', () => {
    const time = {
      acceptedHours: 4,
      undecidedHours: 0,
      rejected: [{ reason: 'cloud', hours: 1.5 }],
      effectiveHours: 3,
      overheadHours: 0.5,
      faultHours: 0,
      chargedHours: 4,
      closedNights: 3,
      openNights: 0,
    };
    expect(spentLines(time).map(({ words, hours }) => `${words} ${hours}`)).toEqual([
      'accepted 4',
      'rejected: cloud 1.5',
      'overhead 0.5',
    ]);
  });
});

describe('balance', () => {
  const goal = (filterLetter: string, done: number, wanted: number | null, enabled = true) => ({
    filterLetter,
    wanted,
    enabled,
    tally: { done },
  });
  const panels = (...lists: ReturnType<typeof goal>[][]) =>
    lists.map((goals, i) => ({ name: `P, panel ${i + 1}`, goals })) as unknown as Panel[];
  it('names the goal that is behind', () => {
    expect(behindWords('P', panels([goal('L', 30, 60), goal('B', 5, 30)]))).toBe('least served: B');
    expect(behindWords('P', panels([goal('L', 30, 60)], [goal('L', 10, 60)]))).toBe('least served: L of panel 2');
  });
  it('names none where two are equally far, one is all there is, or the rest is off or endless', () => {
    expect(behindWords('P', panels([goal('L', 0, 60), goal('B', 0, 30)]))).toBe('by the least-served panel and filter');
    expect(behindWords('P', panels([goal('L', 1, 60), goal('B', 9, null), goal('R', 2, 10, false)]))).toBe(
      'of what is wanted',
    );
  });
});

describe('what granting a project would do', () => {
  const own = { leftHours: 20, expectedHours: 25, finishedShare: 1, early: '2026-12-08', middle: '2026-12-12', late: '2026-12-20', isOpenEnded: false }; // prettier-ignore
  const lastNight = '2027-01-26';

  it('says when it would end, and how much finds its place', () => {
    expect(ownEndWords({ own, lastNight })).toBe(
      'It would end 8–20 Dec, most likely 12 Dec; about 20.0 h of the 20.0 h still to take find their place.',
    );
    expect(ownEndWords({ own: { ...own, expectedHours: 3, finishedShare: 0, early: null, middle: null, late: null }, lastNight })).toBe('It would hardly end by Tue 26 Jan: about 3.0 h of the 20.0 h still to take find their place.'); // prettier-ignore
    expect(ownEndWords({ own: { ...own, leftHours: 0 }, lastNight })).toBe('Nothing is left to take.');
  });

  it('says how much later others end, or how much more seldom', () => {
    const delay = { projectId: 'p', name: 'x', middleWithout: '2026-12-12', middleWith: '2026-12-15', finishedShareWithout: 1, finishedShareWith: 0.98, nights: 3, isNoticeable: true, isSooner: false }; // prettier-ignore
    expect(delayWords(delay)).toBe('would end about 3 nights later, 15 Dec instead of 12 Dec');
    expect(delayWords({ ...delay, nights: null, middleWith: null, finishedShareWith: 0.4 })).toBe(
      'would end in 40 % of the seasons instead of 100 %',
    );
  });
});

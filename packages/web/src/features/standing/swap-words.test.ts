import { describe, expect, it } from '@jest/globals';
import type { ChangedEnd } from '@meridiem/contract';
import { endAfterSwap, othersWords } from './swap-words.ts';

const LAST = '2026-12-09';
const end = (fields: Partial<ChangedEnd>): ChangedEnd => ({
  projectId: 'a',
  name: 'A',
  middleWithout: '2026-11-03',
  middleWith: '2026-11-03',
  finishedShareWithout: 0.9,
  finishedShareWith: 0.9,
  nights: 0,
  isNoticeable: false,
  isSooner: false,
  ...fields,
});

describe('an end before and after a swap', () => {
  it('is one date where it hardly moves', () => {
    expect(endAfterSwap(end({ middleWith: '2026-11-04', nights: 1 }), LAST)).toBe('3 Nov, no noticeable change');
  });
  it('is two dates and the nights between where it moves', () => {
    expect(endAfterSwap(end({ middleWith: '2026-11-01', nights: -2, isSooner: true }), LAST)).toBe(
      '1 Nov instead of 3 Nov, 2 nights sooner',
    );
    expect(endAfterSwap(end({ middleWith: '2026-11-04', nights: 1, isNoticeable: true }), LAST)).toBe(
      '4 Nov instead of 3 Nov, 1 night later',
    );
  });
  it('is odds where half of all seasons don’t end it', () => {
    const open = { middleWithout: null, middleWith: null, nights: null };
    expect(
      endAfterSwap(end({ ...open, finishedShareWithout: 0.3, finishedShareWith: 0.45, isSooner: true }), LAST),
    ).toMatch(/^finished by .*9 Dec.* with odds of 45.% instead of 30.%$/);
    expect(endAfterSwap(end({ ...open, finishedShareWithout: 0.3 }), LAST)).toMatch(
      /odds of 30.%, no noticeable change$/,
    );
    expect(endAfterSwap(end({ ...open, finishedShareWithout: 0.02 }), LAST)).toMatch(/^not by .*, before or after$/);
  });
  it('of others is counted', () => {
    expect(othersWords(0)).toBe('No noticeable delay for anyone else.');
    expect(othersWords(1)).toBe('1 project of another member ends noticeably later.');
    expect(othersWords(3)).toBe('3 projects of other members end noticeably later.');
  });
});

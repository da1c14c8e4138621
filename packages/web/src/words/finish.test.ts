import { describe, expect, it } from '@jest/globals';
import type { Forecast } from './finish.ts';
import { finishWords } from './finish.ts';

const project: Forecast = {
  leftHours: 10,
  expectedHours: 8,
  finishedShare: 1,
  early: '2026-12-08',
  middle: '2026-12-12',
  late: '2026-12-20',
  isOpenEnded: false,
};

describe('when work ends', () => {
  it('is a range with what is most likely, the month said once', () => {
    expect(finishWords(project, '2027-01-26')).toBe('8–20 Dec, most likely 12 Dec');
    expect(finishWords({ ...project, late: '2027-01-03' }, '2027-01-26')).toBe('8 Dec – 3 Jan, most likely 12 Dec');
  });

  it('is said with its odds where some seasons don’t end it, and not at all where hardly any does', () => {
    const open = { ...project, finishedShare: 0.4, middle: null, late: null };
    expect(finishWords(open, '2027-01-26')).toBe('by Tue 26 Jan with odds of 40 %, not before Tue 8 Dec');
    expect(finishWords({ ...open, finishedShare: 0.05, early: null }, '2027-01-26')).toBe('not by Tue 26 Jan');
    expect(finishWords({ ...project, isOpenEnded: true }, '2027-01-26')).toBe('open-ended, about 8.0 h expected');
    expect(finishWords({ ...project, leftHours: 0 }, '2027-01-26')).toBe('nothing left to take');
  });
});

import { describe, expect, it } from '@jest/globals';
import type { ShownNightReview } from '@meridiem/contract';
import { gapLines, lostWords, reviewWords } from './night-review.ts';

const review: ShownNightReview = {
  bestHours: 8.2,
  takenHours: 6.15,
  gapHours: { weather: 1.2, plan: 0.02, hands: -0.4, faults: 0.6, overhead: 0.5, remainder: -0.01, rejected: 0.14 },
  takenExposureHours: 6.4,
  overheadFactor: 1.31,
  lostHours: { weather: 2.74, fault: 0.3, hand: 0.01 },
  best: [],
};

describe('the review of a night in words', () => {
  it('says what was reached of the best', () => {
    expect(reviewWords(review)).toBe(
      'The best plan for this night’s weather would have exposed 8.2 h. The night reached 6.2 h of that, 75 %.',
    );
    expect(reviewWords({ ...review, bestHours: 0, takenHours: 0 })).toMatch(/^Nothing could/);
  });

  it('lists every cause, the largest with the whole bar, gains named as such', () => {
    const lines = gapLines(review);
    expect(lines.map(({ cause }) => cause).sort()).toEqual(Object.keys(review.gapHours).sort());
    const of = (cause: string) => lines.find((line) => line.cause === cause)!;
    expect(of('weather').barShare).toBe(1);
    expect(of('faults')).toMatchObject({ words: '0.6', barShare: 0.5 });
    expect(of('hands').words).toBe('gained 0.4');
    expect(of('overhead').name).toContain('1.3 × as long');
    expect(of('remainder')).toMatchObject({ words: '0.0', barShare: 0 });
  });

  it('says what kept the rig from exposing', () => {
    expect(lostWords(review)).toBe('No exposing was possible during: weather 2.7 h, faults 0.3 h.');
    expect(lostWords({ ...review, lostHours: { weather: 0, fault: 0, hand: 0 } })).toBeNull();
  });
});

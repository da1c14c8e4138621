import { describe, expect, it } from '@jest/globals';
import { chanceWords, priceWords } from './early-end-words.ts';

describe('a night that may end early', () => {
  it('is said with its chance', () => {
    expect(chanceWords(0)).toBe('no early end');
    expect(chanceWords(10)).toBe('an end within the hour in 10 of 100');
  });

  it.each([
    { price: null, words: 'The order is the one that holds most in a night that lasts.' },
    { price: { lostShare: 0, gainShare: 0.0002 }, words: 'The order that holds most in a night that lasts is the safest here too.' },
    { price: { lostShare: 0, gainShare: 0.056 }, words: 'The order costs nothing in a night that lasts, and 5.6 % more is expected to be held.' },
    { price: { lostShare: 0.0231, gainShare: 0.352 }, words: 'The order costs 2.3 % in a night that lasts, and 35 % more is expected to be held.' },
    { price: { lostShare: 0.004, gainShare: 0 }, words: 'The order costs 0.4 % in a night that lasts.' },
  ])('says what safety costs: $words', ({ price, words }) => {
    expect(priceWords(price)).toBe(words);
  }); // prettier-ignore
});

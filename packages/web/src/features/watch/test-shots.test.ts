import { describe, expect, it } from '@jest/globals';
import { NO_TEST_SHOT, testShotFrom, testShotOutcome, testShotWords } from './test-shots.ts';

const typed = { ...NO_TEST_SHOT, raText: '5h 34m 32s', decText: '+22 00 52' };

describe('a test shot as it is typed', () => {
  it('is taken at a place or where the telescope stands; pointing alone has no exposure', () => {
    expect(testShotFrom(NO_TEST_SHOT, true)).toEqual({ at: null, filterLetter: null, binning: 1, exposureSec: 10 });
    const { at, ...rest } = testShotFrom({ ...typed, filterLetter: 'R' }, false);
    expect(rest).toEqual({ filterLetter: 'R', binning: 1, exposureSec: null });
    expect(at!.raDeg).toBeCloseTo(83.6333, 3);
    expect(at!.decDeg).toBeCloseTo(22.0144, 3);
  });

  it.each([
    { of: { exposureText: '121' }, isPhotographed: true, field: 'exposureText', words: /at most 120 s/ },
    { of: { exposureText: '0' }, isPhotographed: true, field: 'exposureText', words: /More than 0/ },
    { of: { exposureText: 'long' }, isPhotographed: true, field: 'exposureText', words: /seconds/ },
    { of: { raText: '5h' }, isPhotographed: true, field: 'decText', words: /declination is missing/ },
    { of: { raText: '', decText: '' }, isPhotographed: false, field: 'raText', words: /place/ },
    { of: { raText: 'x', decText: '10' }, isPhotographed: true, field: 'raText', words: /x/ },
  ])('says at the field what can’t be read: $of', ({ of, isPhotographed, field, words }) => {
    const read = () => testShotFrom({ ...typed, decText: of.raText ? '' : typed.decText, ...of }, isPhotographed);
    expect(read).toThrow(
      expect.objectContaining({ field, message: expect.stringMatching(words) as unknown as string }),
    );
  });
});

describe('a test shot in words', () => {
  it('says what was asked and what came of it', () => {
    const at = { raDeg: 83.633333, decDeg: 22.014444 };
    expect(testShotWords({ exposureSec: 10, filterLetter: 'L', binning: 2, at })).toBe(
      '10 s in L, 2×2, 05h 34m 32.0s, +22° 00′ 52″',
    );
    expect(testShotWords({ exposureSec: 2, filterLetter: null, binning: 1, at: null })).toBe(
      '2 s, where it points now',
    );
    expect(testShotWords({ exposureSec: null, filterLetter: null, binning: 1, at })).toMatch(/^Pointing at 05h/);
    expect(testShotOutcome({ outcome: null, words: null }, true)).toBe('under way');
    expect(testShotOutcome({ outcome: null, words: null }, false)).toBe('not taken: the hold was lifted first');
    expect(testShotOutcome({ outcome: 'refused', words: 'the Sun would be at 3.0°' }, true)).toBe('refused: the Sun would be at 3.0°'); // prettier-ignore
    expect(testShotOutcome({ outcome: 'done', words: '41 stars' }, true)).toBe('41 stars');
  });
});

import { describe, expect, it } from '@jest/globals';
import type { CalibrationNeed } from '@meridiem/contract';
import { CALIBRATION_RULES } from '@meridiem/core';
import { guideDarkWords, inOrder, likeWords, owedWords, rulesWords, stateWords } from './view-model.ts';

const need = (change: Partial<CalibrationNeed> = {}): CalibrationNeed => ({
  kind: 'flat', filterLetter: 'L', gain: 100, offset: 30, binning: 1, region: null, exposureSec: null, sensorC: null, mechanicalAngleDeg: 30,
  lights: 12, newestUtcMs: 0, state: 'owed', set: null, words: 'none has been taken', ...change,
}); // prettier-ignore

describe('calibration in words', () => {
  it('says what the frames must be like', () => {
    expect(likeWords(need())).toBe('L, gain 100, offset 30, 1×1, camera at 30.0°');
    expect(likeWords(need({ filterLetter: null, mechanicalAngleDeg: null, gain: null }))).toBe('no filter, gain not known, offset 30, 1×1, camera angle not known'); // prettier-ignore
    expect(likeWords(need({ kind: 'dark', filterLetter: null, exposureSec: 300, sensorC: -10 }))).toBe('300 s, −10 °C, gain 100, offset 30, 1×1'); // prettier-ignore
    expect(likeWords(need({ kind: 'bias', filterLetter: null }))).toBe('gain 100, offset 30, 1×1');
    const region = { widthPx: 800, heightPx: 600 };
    expect(likeWords(need({ kind: 'bias', region }))).toBe('gain 100, offset 30, 1×1, the middle 800 × 600 px');
  });
  it('says what is enough for the rig', () => {
    expect(rulesWords(CALIBRATION_RULES)).toBe(
      'Flats: at least 10, within 2°, for 30 days. Darks: at least 10, within 1 °C, bias at least 20, both for 365 days.',
    );
  });
  it('says how old the guide camera’s darks are', () => {
    const takenUtcMs = Date.parse('2026-11-12T03:00Z');
    expect(guideDarkWords({ takenUtcMs: null, isDue: true }, 'UTC')).toContain('no darks yet');
    expect(guideDarkWords({ takenUtcMs, isDue: false }, 'UTC')).toBe('Guide camera: darks of Wed 11 Nov.');
    expect(guideDarkWords({ takenUtcMs, isDue: true }, 'UTC')).toContain('darks of Wed 11 Nov, too old');
  });
  it('says what is owed, and that first', () => {
    const matched = need({ state: 'matched', words: '' });
    const few = need({ state: 'few', words: '4 of at least 10' });
    expect([stateWords(matched), stateWords(few), stateWords(need())]).toEqual(['there', 'too few: 4 of at least 10', 'owed']); // prettier-ignore
    expect(inOrder([matched, few, need()]).map(({ state }) => state)).toEqual(['owed', 'few', 'matched']);
    expect([owedWords([]), owedWords([matched]), owedWords([matched, few]), owedWords([few, need(), matched])]).toEqual(
      ['No lights in this period.', 'Nothing is owed.', '1 of 2 sets is owed.', '2 of 3 sets are owed.'],
    );
  });
});

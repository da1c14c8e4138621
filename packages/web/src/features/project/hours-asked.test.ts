import { describe, expect, it } from '@jest/globals';
import type { Request } from '@meridiem/contract';
import { envelopeWords, remarkFieldWords, requestWords, skiesWords, typedHours } from './hours-asked.ts';

const request = (fields: Partial<Request> = {}): Request => ({
  id: 'r',
  personName: 'Ruan Aldous',
  darkHours: 12,
  brightHours: 4.5,
  words: '',
  state: 'open',
  remark: null,
  remarkField: null,
  queuePlace: null,
  decidedByName: null,
  decidedUtcMs: null,
  createdUtcMs: 0,
  ...fields,
});

describe('hours asked for', () => {
  it('name the skies they are asked for', () => {
    expect(skiesWords(12, 4.5)).toBe('12.0 h moonless and 4.5 h moonlit');
    expect(skiesWords(0, 2)).toBe('2.0 h moonlit');
    expect(skiesWords(0, 0)).toBe('nothing');
  });

  it('say how they were decided', () => {
    expect(requestWords(request())).toBe('Ruan Aldous asks for 12.0 h moonless and 4.5 h moonlit.');
    expect(requestWords(request({ state: 'queued', queuePlace: 2 }))).toMatch(/number 2 in the queue/);
    expect(requestWords(request({ state: 'granted', decidedByName: 'Ilse' }))).toMatch(/granted by Ilse/);
    expect(requestWords(request({ state: 'returned', decidedByName: 'Ilse' }))).toMatch(/returned by Ilse/);
    expect(requestWords(request({ state: 'withdrawn' }))).toMatch(/withdrew it/);
    expect(remarkFieldWords('deadline')).toBe('the last night');
  });

  it('are typed as numbers, empty for none', () => {
    expect(typedHours('12,5 h')).toBe(12.5);
    expect(typedHours('')).toBe(0);
    for (const text of ['x', '-2', 'NaN']) expect(typedHours(text)).toBeNull();
  });
});

describe('an envelope', () => {
  it('says what of each sky is used, and that there is no bound where there is none', () => {
    expect(envelopeWords(null)).toMatch(/without a bound/);
    expect(envelopeWords({ darkHours: 10, brightHours: 4, usedDarkHours: 2.5, usedBrightHours: 0 })).toBe(
      '2.5 of 10.0 h moonless used, 0.0 of 4.0 h moonlit used',
    );
    expect(envelopeWords({ darkHours: 0, brightHours: 4, usedDarkHours: 0, usedBrightHours: 1 })).toBe(
      '1.0 of 4.0 h moonlit used',
    );
  });
});

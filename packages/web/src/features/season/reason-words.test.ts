import { describe, expect, it } from '@jest/globals';
import type { SeasonReason } from '@meridiem/contract';
import { SEASON_REASONS } from '@meridiem/core';
import { seasonReasonWords } from './reason-words.ts';

const about = { zone: 'utc', value: 31.9 };
const reason = (code: SeasonReason['code'], more: Partial<SeasonReason> = {}): SeasonReason => ({
  code,
  rate: 0.61,
  costs: 0.42,
  isNoticeable: true,
  rival: 'NGC 1360 halo',
  isRivalHidden: false,
  firstNight: '2026-12-01',
  lastNight: '2026-12-04',
  rateThere: 0.93,
  missing: 'angle',
  skies: ['dark'],
  filterLetter: 'Ha',
  limit: { code: 'TARGET_TOO_LOW', limit: 30, best: 21.5, worst: 4, origin: 'project', rival: null, interval: null },
  ...more,
});
const words = (code: SeasonReason['code'], more: Partial<SeasonReason> = {}): string =>
  seasonReasonWords(reason(code, more), about);

describe('why a project has a place in a night, or none', () => {
  it.each(SEASON_REASONS.map((code) => ({ code })))('is said in whole sentences: $code', ({ code }) => {
    expect(words(code)).toMatch(/^[A-Z].*\.$/);
    expect(words(code)).not.toMatch(/undefined|null|NaN/);
  });

  it('names who would have the time, and what the season would lose', () => {
    expect(words('HERE')).toBe(
      'It gathers 61 % of its best light here. The best after it is 93 %, on Tue 1 Dec. Without it NGC 1360 halo would have the time, and the season would lose 0.4 of its value of 31.9.',
    );
    expect(words('HERE', { firstNight: null, rival: null, isNoticeable: false })).toBe(
      'It gathers 61 % of its best light here. No night after it is better. Without it the time would stay free, and the season would lose nothing noticeable.',
    );
  });

  it('names no private project', () => {
    expect(words('OUTBID', { rival: null, isRivalHidden: true })).toContain('but a private project has the time');
    expect(words('OUTBID', { rival: null })).toContain('but the time is left free');
  });

  it('says where the hours lie instead, and what forcing one in costs', () => {
    expect(words('ELSEWHERE')).toContain('from Tue 1 Dec to Fri 4 Dec, at 93 % of its best light');
    expect(words('ELSEWHERE', { lastNight: '2026-12-01' })).toContain('planned in other nights, on Tue 1 Dec,');
    expect(words('ELSEWHERE', { costs: null, isNoticeable: false })).toContain('No hour of it can be forced in.');
  });

  it('says what is missing in the rig, and from when a visit changes that', () => {
    expect(words('NOT_SERVED', { lastNight: null })).toBe(
      'The camera is at another angle. A planned visit changes that for the night of Tue 1 Dec.',
    );
    expect(words('NOT_SERVED', { firstNight: null })).toContain('from the night of Fri 4 Dec on, by a planned visit');
    expect(words('NOT_SERVED', { missing: 'filter', firstNight: null, lastNight: null })).toBe(
      'A filter that it needs is not in the wheel, and no planned visit changes that.',
    );
  });

  it('names the goal that a limit keeps out, and the skies that a grant is used up for', () => {
    expect(words('LIMIT')).toMatch(/^Ha: The target stays below 30/);
    expect(words('GRANT_USED', { skies: ['dark', 'bright'] })).toContain('without the moon or with the moon up');
  });
});

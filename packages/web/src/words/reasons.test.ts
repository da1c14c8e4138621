import { describe, expect, it } from '@jest/globals';
import { OBSTACLE_CODES } from '@meridiem/core';
import { longReason, shortReason, WORDED_REASONS } from './reasons.ts';

const OTHERS = [
  'HELD_BY_HAND',
  'LEFT_OUT_BY_HAND',
  'OTHER_PANEL',
  'NOT_GRANTED',
  'RESTING',
  'SWITCHED_OFF',
  'ENVELOPE_USED',
  'FILTER_NOT_FITTED',
  'PAST_LAST_NIGHT',
  'COMPLETE',
  'AWAITING_VERDICTS',
  'NO_POSITION',
  'ANGLE_UNKNOWN',
  'CAMERA_ANGLE',
  'WINDOW_TOO_SHORT',
  'OUTBID',
  'WITH_ANOTHER',
];
const reason = (code: string) => ({
  code,
  limit: 30,
  best: 20.5,
  worst: 10.2,
  origin: 'project',
  rival: 'NGC 1 in colour, L',
  interval: { startUtcMs: 0, endUtcMs: 3_600_000 },
});

describe('reasons in words', () => {
  it('exist for every code the planner can give', () =>
    expect([...WORDED_REASONS].sort()).toEqual([...OBSTACLE_CODES, ...OTHERS].sort()));

  it.each([...OBSTACLE_CODES, ...OTHERS])('%s is a sentence without holes', (code) => {
    for (const words of [shortReason(reason(code)), longReason(reason(code), 'UTC')]) {
      expect(words).not.toMatch(/undefined|NaN|null|\?/);
      expect(words).not.toContain(code);
    }
    expect(longReason(reason(code), 'UTC')).toMatch(/\.$/);
  });

  it('carry the numbers and the origin', () => {
    const words = longReason({ ...reason('MOONLIGHT'), limit: 0.3, best: 1.9, worst: 2.4 }, 'UTC');
    expect(words).toBe(
      'The moon would brighten the sky in this filter by 1.9 to 2.4 mag from 00:00 to 01:00; this goal accepts 0.3. The limit comes from: project.',
    );
  });

  it('say of a bound that no limit overrides it', () =>
    expect(longReason({ ...reason('SUN_BOUND'), origin: 'bound' }, 'UTC')).toMatch(/no limit overrides/));
});

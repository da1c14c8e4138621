import { describe, expect, it } from '@jest/globals';
import type { FieldError } from './channel-words.ts';
import { channelsTyped, clockOfMin, tallyWords } from './channel-words.ts';

const typed = { email: 'all', webhook: 'none', webhookUrl: ' ', quietFrom: '22:00', quietTo: '7.15' } as const;

describe('channels as typed', () => {
  it('are read with their times', () =>
    expect(channelsTyped(typed)).toEqual({ email: 'all', webhook: 'none', webhookUrl: null, quietFromMin: 1320, quietToMin: 435 })); // prettier-ignore

  it('may have no quiet hours', () =>
    expect(channelsTyped({ ...typed, quietFrom: '', quietTo: '' })).toMatchObject({ quietFromMin: null, quietToMin: null })); // prettier-ignore

  it('name the field that can’t be read', () => {
    try {
      channelsTyped({ ...typed, quietTo: 'dawn' });
      throw new Error('This should have been refused');
    } catch (error) {
      expect((error as FieldError).field).toBe('quietToMin');
      expect((error as Error).message).toMatch(/"dawn" is no time/);
    }
  });

  it('show minutes as a clock does', () => expect([clockOfMin(0), clockOfMin(1439), clockOfMin(null)]).toEqual(['00:00', '23:59', ''])); // prettier-ignore
});

describe('the tally', () => {
  it('says what left, what waits and what failed', () => {
    expect(tallyWords({ sent: 1, waiting: 0, failed: null }, 'utc')).toBe('1 message sent.');
    const failed = { channel: 'email' as const, atUtcMs: 0, problem: 'connect ECONNREFUSED' };
    expect(tallyWords({ sent: 4, waiting: 2, failed }, 'utc')).toBe(
      '4 messages sent, 2 waiting. E-mail failed at 1 Jan 00:00: connect ECONNREFUSED.',
    );
  });
});

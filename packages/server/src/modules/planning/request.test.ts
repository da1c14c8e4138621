import { describe, expect, it } from '@jest/globals';
import { nightInstance } from '../../../../../bench/instances.ts';
import { hashOf, standingHash } from './request.ts';

const request = nightInstance({ seed: 1, goals: 4 });

describe('what a plan was made from', () => {
  it('does not change by time passing', () => {
    const later = { ...request, fromUtcMs: request.night.startUtcMs + 3_600_000 };
    expect(standingHash(later)).toBe(standingHash(request));
    expect(hashOf(later)).not.toBe(hashOf(request));
  });

  it('changes with a wish', () => {
    const [first, ...others] = request.goals;
    expect(standingHash({ ...request, goals: [{ ...first, toPlan: first.toPlan + 1 }, ...others] })).not.toBe(
      standingHash(request),
    );
  });
});

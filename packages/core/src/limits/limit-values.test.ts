import { describe, expect, it } from '@jest/globals';
import type { StoredLimit } from './limit-values.ts';
import { limitsInForce } from './limit-values.ts';

const altitude = (scope: StoredLimit['scope'], ofClass: StoredLimit['class'], value: number | null): StoredLimit => ({
  scope,
  class: ofClass,
  key: 'minAltitudeDeg',
  value,
});

describe('limits in force', () => {
  const all = [
    altitude('observatory', null, 30),
    altitude('observatory', 'broadband', 35),
    altitude('project', null, 40),
    altitude('project', 'broadband', 45),
    altitude('goal', null, 50),
  ];

  it.each([
    [5, 50, 'goal'],
    [4, 45, 'project class'],
    [3, 40, 'project'],
    [2, 35, 'observatory class'],
    [1, 30, 'observatory'],
    [0, 30, 'default'],
  ] as const)('of %d stored values take the nearest, with its origin', (stored, value, origin) => {
    expect(limitsInForce(all.slice(0, stored), 'broadband').minAltitudeDeg).toEqual({ value, origin });
  });

  it('leave a class’s value to that class', () => {
    expect(limitsInForce(all.slice(0, 2), 'narrowband').minAltitudeDeg).toEqual({ value: 30, origin: 'observatory' });
  });

  it('take off as a value that is not inherited past', () => {
    expect(
      limitsInForce([altitude('observatory', null, 30), altitude('project', null, null)], 'broadband').minAltitudeDeg,
    ).toEqual({ value: null, origin: 'project' });
  });

  it('ask less light of narrow filters by default', () => {
    expect(limitsInForce([], 'narrowband').minRateShare.value).toBe(0.2);
    expect(limitsInForce([], 'broadband').minRateShare.value).toBe(0.35);
  });
});

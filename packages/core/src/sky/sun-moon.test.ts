import { describe, expect, it } from '@jest/globals';
import { daysToFullMoon } from './sun-moon.ts';

describe('days to full moon', () => {
  // Full moons of 2026 as almanacs give them: 24 November at 14:53 UTC, 24 December at 01:28 UTC.
  it.each([
    ['2026-11-24T14:53Z', 0],
    ['2026-11-19T14:53Z', 5],
    ['2026-11-27T14:53Z', -3],
    ['2026-12-20T01:28Z', 4],
  ])('from %s are %d', (time, days) => expect(daysToFullMoon(Date.parse(time))).toBeCloseTo(days, 2));
});

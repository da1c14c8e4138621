import { describe, expect, it } from '@jest/globals';
import { CLOSING_LONGEST_SEC } from '@meridiem/core';
import { DEVICE_LEASE_SEC, heldSec } from './lease.ts';

const NOW = Date.parse('2026-12-08T18:00Z');
const HOUR_MS = 3_600_000;
const steps = [{ plannedStartUtcMs: NOW + 2 * HOUR_MS }];

describe('the lease of a night by devices', () => {
  it('leaves a runner elsewhere the time to close after it has not been heard', () => {
    expect(DEVICE_LEASE_SEC - CLOSING_LONGEST_SEC).toBeGreaterThanOrEqual(300);
  });
  it('lasts at a real site to the end of the night and of its closing, whenever it is claimed', () => {
    const real = { endUtcMs: NOW + 10 * HOUR_MS, isSimulated: false };
    expect(heldSec(real, steps, NOW)).toBe(14 * 3600);
    expect(heldSec(real, steps, NOW + 11 * HOUR_MS)).toBe(4 * 3600);
    expect(heldSec(real, [], NOW)).toBe(14 * 3600);
  });
  it('lasts in a simulated night as long as that takes at its slowest, whatever today’s date is', () => {
    const simulated = { endUtcMs: NOW + 10 * HOUR_MS, isSimulated: true };
    expect(heldSec(simulated, steps, 0)).toBe(12.5 * 3600);
    expect(heldSec(simulated, [], 0)).toBe(4.5 * 3600);
  });
});

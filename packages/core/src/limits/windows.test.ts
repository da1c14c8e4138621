import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import type { Circumstances, Rule } from './obstacles.ts';
import { windowsOf } from './windows.ts';

const STEP_MS = 60_000;
const LENGTH = 600;
const at = (sample: number): Circumstances => ({
  utcMs: sample * STEP_MS,
  altitudeDeg: 90 * Math.sin((Math.PI * sample) / LENGTH),
  azimuthDeg: 0,
  hourAngleDeg: 0,
  sunAltitudeDeg: -30 + Math.abs(sample - 300) / 10,
  moonAltitudeDeg: 0,
  moonSeparationDeg: 90,
  moonBrighteningMag: sample / 100,
  rateShare: 1,
});
const rule = (code: Rule['code'], limit: number, actual: Rule['actual'], sign: 1 | -1): Rule => ({
  code,
  origin: 'project',
  limit,
  actual,
  margin: (c) => sign * (actual(c) - limit),
});
const samples = { length: LENGTH, at };

const floor = fc.double({ min: 1, max: 89, noNaN: true });
const depth = fc.double({ min: -29, max: -1, noNaN: true });
const brightening = fc.double({ min: 0.1, max: 5.9, noNaN: true });

describe('windows', () => {
  it('agree with brute force at every second, and gaps name a rule that fails there', () => {
    fc.assert(
      fc.property(floor, depth, brightening, (altitude, sun, moon) => {
        const rules = [
          rule('TWILIGHT', sun, (c) => c.sunAltitudeDeg, -1),
          rule('TARGET_TOO_LOW', altitude, (c) => c.altitudeDeg, 1),
          rule('MOONLIGHT', moon, (c) => c.moonBrighteningMag, -1),
        ];
        const { windows, gaps } = windowsOf(samples, rules);
        const wrong: number[] = [];
        for (let sample = 0; sample <= LENGTH - 1; sample += 1 / 6) {
          const here = at(sample);
          const passesAt = (moment: Circumstances): boolean => rules.every((r) => r.margin(moment) >= 0);
          const passes = passesAt(here);
          // A single instant between two limits is no window.
          const lasts = passesAt(at(sample - 1 / 60)) || passesAt(at(sample + 1 / 60));
          const near = (edges: { startUtcMs: number; endUtcMs: number }): boolean =>
            here.utcMs >= edges.startUtcMs - 1000 && here.utcMs <= edges.endUtcMs + 1000;
          if (passes && lasts && !windows.some(near)) wrong.push(sample);
          if (!passes) {
            const firstFailing = rules.find((r) => !(r.margin(here) >= 0))!.code;
            if (!gaps.some((gap) => near(gap) && gap.code === firstFailing)) wrong.push(sample);
          }
        }
        expect(wrong).toEqual([]);
      }),
      { numRuns: 40 },
    );
  });

  it('never let an edge stand where a rule fails', () => {
    const rules = [rule('TARGET_TOO_LOW', 33.3, (c) => c.altitudeDeg, 1)];
    const { windows } = windowsOf(samples, rules);
    for (const { startUtcMs, endUtcMs } of windows)
      for (const utcMs of [startUtcMs, endUtcMs])
        expect(rules[0].margin(at(utcMs / STEP_MS))).toBeGreaterThanOrEqual(0);
  });

  it('carry the failing limit with its numbers', () => {
    const { gaps, windows } = windowsOf(samples, [rule('TARGET_TOO_LOW', 95, (c) => c.altitudeDeg, 1)]);
    expect(windows).toEqual([]);
    expect(gaps).toHaveLength(1);
    expect(gaps[0]).toMatchObject({ code: 'TARGET_TOO_LOW', limit: 95, origin: 'project' });
    expect(gaps[0].best).toBeCloseTo(90, 1);
  });

  it('are the whole night without rules', () =>
    expect(windowsOf(samples, []).windows).toEqual([{ startUtcMs: 0, endUtcMs: (LENGTH - 1) * STEP_MS }]));
});

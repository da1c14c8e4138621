import { describe, expect, it } from '@jest/globals';
import { forecastOf } from './forecast.ts';

const FROM = Date.parse('2026-10-11T00:00Z');

describe('the forecast stand-in', () => {
  it('is the same for the same hours, asked whenever', () => {
    const [once, later] = [forecastOf('x', FROM, 12), forecastOf('x', FROM, 12)];
    expect(later).toEqual(once);
  });

  it('has sources that see the same weather and still disagree', () => {
    const hours = forecastOf('x', FROM, 96);
    const names = [...new Set(hours.map(({ source }) => source))];
    expect(names.length).toBeGreaterThanOrEqual(3);
    const cloud = (name: string): number[] =>
      hours.filter(({ source }) => source === name).map((hour) => hour.cloudShare);
    const [a, b] = names.map(cloud);
    const apart = a.map((share, i) => Math.abs(share - b[i]));
    expect(Math.max(...apart)).toBeGreaterThan(0.05);
    expect(apart.reduce((sum, one) => sum + one, 0) / apart.length).toBeLessThan(0.35);
  });

  it('stays within what can be', () => {
    for (const { cloudShare, windMPerSec, humidityShare } of forecastOf('y', FROM, 240)) {
      expect(cloudShare).toBeGreaterThanOrEqual(0);
      expect(cloudShare).toBeLessThanOrEqual(1);
      expect(windMPerSec).toBeGreaterThanOrEqual(0);
      expect(humidityShare).toBeLessThanOrEqual(1);
    }
  });
});

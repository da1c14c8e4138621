import { describe, expect, it } from '@jest/globals';
import { medianOf } from '@meridiem/core';
import { cloudShare } from './clouds.ts';
import type { ExposureOrder } from './simulated-exposure.ts';
import { simulatedExposure } from './simulated-exposure.ts';

const order = (i: number, changes: Partial<ExposureOrder> = {}): ExposureOrder => ({
  id: `step ${i}`,
  skySeed: 7,
  overcast: 0,
  startUtcMs: 1_800_000_000_000 + i * 300_000,
  exposureSec: 300,
  filterClass: 'narrowband',
  imageScaleArcsec: 0.83,
  gain: 100,
  sensorC: -10,
  rateShare: 0.9,
  airmass: 1.1,
  transparency: 0.98,
  skyRatio: 1.1,
  afterMove: false,
  ...changes,
});
const many = (changes: Partial<ExposureOrder> = {}) =>
  Array.from({ length: 1000 }, (_, i) => simulatedExposure(order(i, changes))).flatMap((exposure) => exposure ?? []);

describe('simulated exposures', () => {
  it('are equal for equal orders', () => expect(simulatedExposure(order(5))).toEqual(simulatedExposure(order(5))));

  it('measure plausibly under a clear sky', () => {
    const taken = many();
    expect(medianOf(taken.map((e) => e.halfFluxRadiusPx))).toBeGreaterThan(1.2);
    expect(medianOf(taken.map((e) => e.halfFluxRadiusPx))).toBeLessThan(3.5);
    expect(medianOf(taken.map((e) => e.guidingRmsArcsec))).toBeCloseTo(0.62, 1);
    expect(medianOf(taken.map((e) => e.starCount))).toBeGreaterThan(200);
    expect(medianOf(taken.map((e) => e.rateMeasured))).toBeCloseTo(0.9, 1);
  });

  it('are now and then lost by the camera', () => {
    const lost = 1000 - many().length;
    expect(lost).toBeGreaterThan(0);
    expect(lost).toBeLessThan(15);
  });

  it('lose stars and light to cloud, some of the time', () => {
    const taken = many({ overcast: 0.14 });
    const cloudy = taken.filter((e) => e.cloudShare > 0.35);
    expect(cloudy.length).toBeGreaterThan(20);
    expect(cloudy.length).toBeLessThan(300);
    expect(medianOf(cloudy.map((e) => e.starCount))).toBeLessThan(0.6 * medianOf(taken.map((e) => e.starCount)));
  });

  it('have clouds that come and go smoothly', () => {
    for (let minute = 0; minute < 600; minute++)
      expect(Math.abs(cloudShare(3, minute * 60_000, 0.3) - cloudShare(3, (minute + 1) * 60_000, 0.3))).toBeLessThan(
        0.35,
      );
  });
});

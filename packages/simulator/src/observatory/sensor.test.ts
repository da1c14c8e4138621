import { describe, expect, it } from '@jest/globals';
import { calibrated, levelledFlat, MeanFrame } from '@meridiem/core';
import { renderFrame } from './render.ts';
import { darkCurrentE, sensorMap } from './sensor.ts';

const FACTS = { widthPx: 360, heightPx: 260, pixelUm: 3.8, focalLengthMm: 400, apertureMm: 80, readNoiseE: 3, ePerAdu: 0.5 } as never; // prettier-ignore
const sensor = { map: sensorMap(8, 360, 260), sensorC: 0 };
const frame = (kind: 'light' | 'dark' | 'flat', exposureSec: number, seed: number, more = {}) =>
  renderFrame(
    FACTS,
    {
      isOpen: kind === 'light',
      flatLightShare: kind === 'flat' ? 0.01 : 0,
      ...{ pointing: { raDeg: 20, decDeg: -40 }, positionAngleDeg: 0, widthNm: 100, seeingArcsec: 3, defocusPx: 0, trailPx: 0, transparency: 1, skyMagV: 17, stars: [] }, // prettier-ignore
    },
    {
      exposureSec,
      offset: 30,
      gain: 100,
      seed,
      startX: 0,
      startY: 0,
      widthPx: 360,
      heightPx: 260,
      binning: 1,
      sensor,
      ...more,
    },
  );
const meanOf = (pictures: Parameters<MeanFrame['add']>[0][]) => {
  const mean = new MeanFrame();
  pictures.forEach((picture) => mean.add(picture));
  return mean.mean();
};
const many = <T>(of: (seed: number) => T): T[] => Array.from({ length: 14 }, (_, i) => of(i + 1));
/** Median of a corner over that of the middle. */
function unevenness({ pixels }: { pixels: ArrayLike<number> }, zero: number): number {
  const around = (x0: number, y0: number): number => {
    const values: number[] = [];
    for (let y = y0; y < y0 + 30; y++) for (let x = x0; x < x0 + 30; x++) values.push(pixels[y * 360 + x] - zero);
    return values.sort((a, b) => a - b)[450];
  };
  return around(0, 0) / around(165, 115);
}

describe('the simulated sensor', () => {
  it('is the same every night, and another camera’s is another', () => {
    expect(sensorMap(8, 360, 260)).toBe(sensor.map);
    expect(sensorMap(9, 360, 260).response).not.toEqual(sensor.map.response);
    expect(darkCurrentE(-10) * 2 ** (10 / 6)).toBeCloseTo(darkCurrentE(0), 9);
  });

  it('gives what darks and flats take out again', () => {
    const light = frame('light', 60, 99);
    const dark = meanOf(many((seed) => frame('dark', 60, 100 + seed)));
    const bias = meanOf(many((seed) => frame('dark', 0.01, 200 + seed)));
    const flat = meanOf(many((seed) => levelledFlat(frame('flat', 3, 300 + seed), bias)));
    expect(unevenness(light, 300)).toBeLessThan(0.96);
    expect(unevenness(calibrated(light, { dark }), 0)).toBeLessThan(0.96);
    expect(Math.abs(unevenness(calibrated(light, { dark, flat }), 0) - 1)).toBeLessThan(0.012);
    // Single pixels are as noisy as the sky: on the mean of the hot ones their glow is gone.
    const hot = [...sensor.map.glow].flatMap((glow, at) => (glow > 150 ? [at] : []));
    const excess = ({ pixels }: { pixels: ArrayLike<number> }): number =>
      hot.reduce((sum, at) => sum + pixels[at] - pixels[at + 1], 0) / hot.length;
    expect(excess(light)).toBeGreaterThan(500);
    expect(Math.abs(excess(calibrated(light, { dark })))).toBeLessThan(250);
  });

  it('is read in part and by pixels together', () => {
    const part = { startX: 40, startY: 30, widthPx: 80, heightPx: 60, binning: 2 };
    const shot = frame('dark', 300, 1, part);
    const hot = Array.from(shot.pixels).filter((value) => value > 800).length;
    expect(shot.pixels).toHaveLength(80 * 60);
    expect(hot).toBeGreaterThan(0);
  });
});

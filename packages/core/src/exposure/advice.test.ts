import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import type { CameraModeNumbers } from './advice.ts';
import { exposureAdvice, longestExposureSec, shortestExposureSec } from './advice.ts';
import type { FilterSky } from './filter-sky.ts';
import { skyOverDark } from './filter-sky.ts';

const filter = (name: 'L' | 'Ha'): FilterSky => ({
  class: name === 'L' ? 'broadband' : 'narrowband',
  centreNm: name === 'L' ? 550 : 656,
  widthNm: name === 'L' ? 260 : 5,
  extinctionMagPerAirmass: 0.15,
  zenithMag: name === 'L' ? 21.6 : 20.9,
  moonFactor: 1,
});
const modes: readonly CameraModeNumbers[] = [
  { id: 'deep', name: 'deep well', gain: 0, readNoiseE: 3.5, fullWellE: 50_000 },
  { id: 'quiet', name: 'quiet', gain: 100, readNoiseE: 1.5, fullWellE: 16_000 },
];
const wide = {
  apertureMm: 100,
  obstructionShare: 0,
  focalLengthMm: 500,
  pixelUm: 3.76,
  throughput: 0.5,
  darkCurrentEPerSec: 0.002,
  binning: 1,
};
const long = { ...wide, apertureMm: 300, obstructionShare: 0.3, focalLengthMm: 2400 };

describe('the suggested exposure', () => {
  // By hand: 9.756 RN² / B. B, electrons per second and pixel: 10⁴ × nm × throughput × cm² × 10^(−0.4 m) × scale²:
  // 0.563 for L and 0.0206 for Ha through 78.5 cm² at 1.551″; 0.200 for L through 643 cm² at 0.323″.
  it.each([
    ['luminance through the wide refractor', 'L', wide, 212, { mode: 'deep', exposureSec: 240, ditherEvery: 2 }],
    ['hydrogen through the wide refractor', 'Ha', wide, 1064, { mode: 'quiet', exposureSec: 600, ditherEvery: 1 }],
    ['luminance through the long reflector', 'L', long, 110, { mode: 'quiet', exposureSec: 120, ditherEvery: 3 }],
  ] as const)('for %s', (_, name, detector, shortestSec, expected) => {
    const advice = exposureAdvice(filter(name), detector, modes)!;
    expect({ mode: advice.mode.id, exposureSec: advice.exposureSec, ditherEvery: advice.ditherEvery }).toEqual(
      expected,
    );
    expect(Math.abs(advice.shortestSec / shortestSec - 1)).toBeLessThan(0.01);
    expect(advice.isBounded).toBe(shortestSec > 600);
  });

  it('is shorter under a moon, by as much as the sky is brighter in the filter', () => {
    // 1.5 mag brighter in V are 3.98 times the light; a filter that takes a tenth of the moonlight has 1.30 times.
    expect(skyOverDark({ moonFactor: 1 }, 1.5)).toBeCloseTo(3.981, 3);
    expect(skyOverDark({ moonFactor: 0.1 }, 1.5)).toBeCloseTo(1.298, 3);
    const [dark, moonlit] = [1, 3.981].map((ratio) =>
      exposureAdvice(filter('L'), wide, modes, { skyOverDark: ratio })!,
    );
    expect(dark.shortestSec / moonlit.shortestSec).toBeCloseTo(3.981, 6);
    expect([dark.exposureSec, moonlit.exposureSec]).toEqual([240, 60]);
  });

  it('adds just the noise it may: 5 % is 9.8 RN²/B', () => {
    expect(shortestExposureSec(2, 1, 0.05)).toBeCloseTo(9.8 * 4, 0);
    fc.assert(
      fc.property(
        fc.double({ min: 0.5, max: 10, noNaN: true }),
        fc.double({ min: 0.01, max: 100, noNaN: true }),
        fc.double({ min: 0.01, max: 0.5, noNaN: true }),
        (readNoise, sky, added) => {
          const sec = shortestExposureSec(readNoise, sky, added);
          expect(Math.sqrt(sky * sec + readNoise ** 2) / Math.sqrt(sky * sec)).toBeCloseTo(1 + added, 6);
        },
      ),
    );
  });

  it('is none without a camera mode', () => expect(exposureAdvice(filter('L'), wide, [])).toBeNull());
});

describe('the longest exposure', () => {
  it('is shorter for a brighter star, and fills the well just then', () => {
    const detector = { ...wide, readNoiseE: 3.5 };
    const [bright, faint] = [6, 10].map((mag) => longestExposureSec(filter('L'), detector, 50_000, mag));
    expect(bright).toBeLessThan(faint);
    expect(faint / bright).toBeCloseTo(10 ** (0.4 * 4), 0);
  });
});

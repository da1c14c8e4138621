import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { airmass } from './airmass.ts';
import { darkSkyNanolamberts, magVOf, moonlightChangeMag, moonlightNanolamberts, nanolambertsOf } from './moonlight.ts';
import { geometricAltitudeDeg, pressureAtElevationHpa, refractionDeg } from './refraction.ts';

const AIR = { pressureHpa: 1010, temperatureC: 10 };

describe('airmass', () => {
  it('is 1 at the zenith, grows towards the horizon, and is endless below it', () => {
    expect(airmass(90)).toBeCloseTo(1, 4);
    const falling = [80, 60, 40, 20, 10, 5, 1].map(airmass);
    expect([...falling].sort((a, b) => a - b)).toEqual(falling);
    expect(airmass(0)).toBe(Infinity);
    expect(airmass(-10)).toBe(Infinity);
  });
});

describe('refraction', () => {
  it('lifts by half a degree at the horizon and by nothing at the zenith', () => {
    expect(refractionDeg(0, AIR) * 60).toBeGreaterThan(24);
    expect(refractionDeg(0, AIR) * 60).toBeLessThan(36);
    expect(Math.abs(refractionDeg(90, AIR))).toBeLessThan(0.001);
  });
  it('goes there and back', () => {
    fc.assert(
      fc.property(fc.double({ min: 2, max: 89, noNaN: true }), (geometric) => {
        expect(Math.abs(geometricAltitudeDeg(geometric + refractionDeg(geometric, AIR), AIR) - geometric)).toBeLessThan(
          0.002,
        );
      }),
    );
  });
  it('is less in thin air', () => {
    const high = { pressureHpa: pressureAtElevationHpa(4000), temperatureC: 10 };
    expect(refractionDeg(20, high)).toBeLessThan(0.7 * refractionDeg(20, AIR));
  });
});

describe('moonlight', () => {
  const at = {
    phaseAngleDeg: 30,
    moonZenithDistanceDeg: 40,
    targetZenithDistanceDeg: 30,
    separationDeg: 60,
    extinctionMagPerAirmass: 0.172,
    zenithMagV: 21.8,
  };
  it('brightens and never darkens', () => {
    const angle = (max: number) => fc.double({ min: 0, max, noNaN: true });
    fc.assert(
      fc.property(
        angle(180),
        angle(120),
        angle(85),
        angle(180),
        (phaseAngleDeg, moonZenithDistanceDeg, targetZenithDistanceDeg, separationDeg) => {
          expect(
            moonlightChangeMag({ ...at, phaseAngleDeg, moonZenithDistanceDeg, targetZenithDistanceDeg, separationDeg }),
          ).toBeLessThanOrEqual(1e-9);
        },
      ),
    );
  });
  it('is none with the moon down, most when full, the same waxing and waning', () => {
    expect(moonlightNanolamberts({ ...at, moonZenithDistanceDeg: 90 })).toBe(0);
    expect(moonlightNanolamberts({ ...at, phaseAngleDeg: 0 })).toBeGreaterThan(
      moonlightNanolamberts({ ...at, phaseAngleDeg: 90 }),
    );
    expect(moonlightNanolamberts({ ...at, phaseAngleDeg: -30 })).toBe(moonlightNanolamberts(at));
  });
  it('turns magnitudes into nanolamberts and back', () => {
    fc.assert(
      fc.property(fc.double({ min: 12, max: 23, noNaN: true }), (mag) =>
        expect(magVOf(nanolambertsOf(mag))).toBeCloseTo(mag, 9),
      ),
    );
  });
  it('leaves the dark zenith at its own brightness', () =>
    expect(magVOf(darkSkyNanolamberts({ ...at, targetZenithDistanceDeg: 0 }))).toBeCloseTo(21.8, 9));
});

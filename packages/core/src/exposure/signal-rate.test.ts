import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import type { FilterSky } from './filter-sky.ts';
import {
  brighteningMag,
  darkRatio,
  moonBrighteningMag,
  moonlightRatio,
  skyRatio,
  twilightRatio,
} from './filter-sky.ts';
import type { Detector } from './signal-rate.ts';
import {
  bestRate,
  cameraNoisePerSec,
  darkSkyElectronsPerSec,
  imageScaleArcsec,
  rateModel,
  signalRate,
  tabulatedRate,
  transparency,
} from './signal-rate.ts';

const filter: FilterSky = {
  class: 'broadband',
  centreNm: 550,
  widthNm: 88,
  extinctionMagPerAirmass: 0.172,
  zenithMag: 21.8,
  moonFactor: 1,
};
const detector: Detector = {
  apertureMm: 100,
  obstructionShare: 0,
  focalLengthMm: 500,
  pixelUm: 3.76,
  throughput: 0.5,
  readNoiseE: 1.5,
  darkCurrentEPerSec: 0.002,
  binning: 1,
};
const dark = { moonRatioV: 0, twilightRatioV: 0 };
const altitude = fc.double({ min: 5, max: 90, noNaN: true });
const ratio = fc.double({ min: 0, max: 100, noNaN: true });

describe('sky brightness', () => {
  it('is 1 at the dark zenith', () => expect(skyRatio(filter, 90, dark)).toBeCloseTo(1, 9));
  it('adds in flux, so light never darkens', () => {
    fc.assert(
      fc.property(altitude, ratio, ratio, (h, moonRatioV, twilightRatioV) =>
        expect(skyRatio(filter, h, { moonRatioV, twilightRatioV })).toBeGreaterThanOrEqual(darkRatio(filter, h)),
      ),
    );
  });
  it('brightens by nothing without moon and twilight', () => expect(brighteningMag(filter, 50, dark)).toBe(0));
  it('counts scattered moonlight by the filter’s own factor', () => {
    const blue = moonBrighteningMag({ ...filter, moonFactor: 4 }, 60, 5);
    const red = moonBrighteningMag({ ...filter, moonFactor: 0.35 }, 60, 5);
    expect(blue).toBeGreaterThan(moonBrighteningMag(filter, 60, 5));
    expect(red).toBeLessThan(moonBrighteningMag(filter, 60, 5));
  });
  // Start values of the model: a zenith of 21.8 becomes 21.3 at −15° and 19.7 at −12°.
  it.each([
    [-15, 21.3],
    [-12, 19.7],
  ])('has a zenith of V with the sun at %d° near %d', (sun, expected) => {
    expect(21.8 - 2.5 * Math.log10(1 + twilightRatio(sun, 21.8))).toBeCloseTo(expected, 1);
  });
  it('is hardly touched by the sun at −18°', () => expect(twilightRatio(-18, 21.8)).toBeLessThan(0.07));
  it('knows no moonlight from a moon that is down', () => {
    expect(
      moonlightRatio({ phaseAngleDeg: 10, moonAltitudeDeg: -1, altitudeDeg: 50, separationDeg: 60, zenithMagV: 21.8 }),
    ).toBe(0);
  });
});

describe('signal rate', () => {
  const model = rateModel(filter, detector, 120);
  it('is 1 at the dark zenith and 0 below the horizon', () => {
    expect(signalRate(model, 90, dark)).toBeCloseTo(1, 3);
    expect(signalRate(model, -3, dark)).toBe(0);
  });
  it('falls with every light and never leaves [0, 1]', () => {
    fc.assert(
      fc.property(altitude, ratio, ratio, (h, moonRatioV, twilightRatioV) => {
        const lit = signalRate(model, h, { moonRatioV, twilightRatioV });
        expect(lit).toBeLessThanOrEqual(signalRate(model, h, dark) + 1e-12);
        expect(lit).toBeGreaterThanOrEqual(0);
        expect(lit).toBeLessThanOrEqual(1.001);
      }),
    );
  });
  it('rises with altitude under one sky', () => {
    const rates = [20, 30, 45, 60, 90].map((h) => signalRate(model, h, dark));
    expect([...rates].sort((a, b) => a - b)).toEqual(rates);
  });
  it('is best on the meridian', () => {
    expect(bestRate(model, -31, -31)).toBeCloseTo(1, 3);
    expect(bestRate(model, -31, 25)).toBeLessThan(0.6);
  });
  it('is the same by table, for any altitude and light', () => {
    const rateAt = tabulatedRate(model);
    fc.assert(
      fc.property(
        fc.double({ min: 5, max: 90, noNaN: true }),
        fc.double({ min: 0, max: 30, noNaN: true }),
        (altitudeDeg, moonRatioV) => {
          const light = { moonRatioV, twilightRatioV: moonRatioV / 7 };
          expect(Math.abs(rateAt(altitudeDeg, light) - signalRate(model, altitudeDeg, light))).toBeLessThan(0.0005);
        },
      ),
    );
    expect([rateAt(0, dark), rateAt(-4, dark)]).toEqual([0, 0]);
  });
  it('suffers less from the moon the more the camera’s own noise counts', () => {
    const noisy = rateModel(filter, { ...detector, readNoiseE: 12 }, 10);
    const moonlit = { moonRatioV: 8, twilightRatioV: 0 };
    expect(signalRate(noisy, 70, moonlit)).toBeGreaterThan(signalRate(model, 70, moonlit));
  });
});

describe('electrons', () => {
  it('grow with aperture and filter width, and with the square of the pixel', () => {
    const base = darkSkyElectronsPerSec(filter, detector);
    expect(darkSkyElectronsPerSec(filter, { ...detector, apertureMm: 200 }) / base).toBeCloseTo(4, 6);
    expect(darkSkyElectronsPerSec({ ...filter, widthNm: 176 }, detector) / base).toBeCloseTo(2, 6);
    expect(darkSkyElectronsPerSec(filter, { ...detector, binning: 2 }) / base).toBeCloseTo(4, 3);
  });
  it('lose the shadow of an obstruction', () => {
    expect(
      darkSkyElectronsPerSec(filter, { ...detector, obstructionShare: 0.5 }) / darkSkyElectronsPerSec(filter, detector),
    ).toBeCloseTo(0.75, 9);
  });
  it('of camera noise shrink with longer exposures', () =>
    expect(cameraNoisePerSec(detector, 300)).toBeLessThan(cameraNoisePerSec(detector, 30)));
  // 206.265 × µm ÷ mm
  it('have an image scale', () => expect(imageScaleArcsec(detector)).toBeCloseTo((206.265 * 3.76) / 500, 3));
  it('pass clear air best at the zenith', () => expect(transparency(filter, 90)).toBeCloseTo(1, 4));
});

// How much an exposure is worth under a given sky: r = T² (B0 + N) / (B + N), 1 for a dark sky at the zenith.
import { airmass } from '../sky/airmass.ts';
import { tenTo, toDeg } from '../units.ts';
import type { FilterSky, SkyLight } from './filter-sky.ts';
import { darkRatio, skyRatio } from './filter-sky.ts';

/** What light-gathering needs of a telescope and camera. */
export interface Detector {
  readonly apertureMm: number;
  /** Linear central obstruction, share of the aperture, [0, 1). */
  readonly obstructionShare: number;
  readonly focalLengthMm: number;
  readonly pixelUm: number;
  /** Light that ends as electrons: optics × filter × quantum efficiency, (0, 1]. */
  readonly throughput: number;
  readonly readNoiseE: number;
  readonly darkCurrentEPerSec: number;
  readonly binning: number;
}

/** Photons per second, square centimetre and nanometre from magnitude 0 in V. Source: Bessell 1979, PASP 91, 589 (rounded). */
const ZERO_MAG_PHOTONS = 1e4;

/** Image scale of binned pixels.
 * @returns arcseconds per pixel */
export const imageScaleArcsec = (detector: Pick<Detector, 'pixelUm' | 'binning' | 'focalLengthMm'>): number =>
  toDeg(Math.atan((detector.pixelUm * detector.binning) / 1000 / detector.focalLengthMm)) * 3600;

/** Dark zenith sky in one pixel.
 * @returns electrons per second and pixel */
export function darkSkyElectronsPerSec(filter: FilterSky, detector: Detector): number {
  const areaCm2 = (Math.PI / 400) * detector.apertureMm ** 2 * (1 - detector.obstructionShare ** 2);
  const perArcsec2 =
    ZERO_MAG_PHOTONS * areaCm2 * filter.widthNm * detector.throughput * 10 ** (-0.4 * filter.zenithMag);
  return perArcsec2 * imageScaleArcsec(detector) ** 2;
}

/** Camera noise as if it were background: read noise spread over the exposure, and dark current.
 * @returns electrons per second and pixel */
export const cameraNoisePerSec = (detector: Detector, exposureSec: number): number =>
  detector.readNoiseE ** 2 / exposureSec + detector.darkCurrentEPerSec;

/** What a rate calculation carries from goal to goal: the filter, its dark sky and the camera's noise. */
export interface RateModel {
  readonly filter: FilterSky;
  readonly darkSkyPerSec: number;
  readonly noisePerSec: number;
}

export const rateModel = (filter: FilterSky, detector: Detector, exposureSec: number): RateModel => ({
  filter,
  darkSkyPerSec: darkSkyElectronsPerSec(filter, detector),
  noisePerSec: cameraNoisePerSec(detector, exposureSec),
});

/** Transparency of the air relative to the zenith: signal lost to extinction, T in the rate. */
export const transparency = (filter: FilterSky, altitudeDeg: number): number =>
  tenTo(-0.4 * filter.extinctionMagPerAirmass * (airmass(altitudeDeg) - 1));

/** Signal rate of a direction: seconds at a dark zenith that one second here is worth.
 * @returns 0 on or below the horizon, 1 at a dark zenith */
export function signalRate(
  { filter, darkSkyPerSec, noisePerSec }: RateModel,
  altitudeDeg: number,
  light: SkyLight,
): number {
  if (!(altitudeDeg > 0)) return 0;
  const background = darkSkyPerSec * skyRatio(filter, altitudeDeg, light);
  return (transparency(filter, altitudeDeg) ** 2 * (darkSkyPerSec + noisePerSec)) / (background + noisePerSec);
}

/** Altitudes of a tabulated rate are this far apart. */
const TABLE_STEP_DEG = 0.25;

/** The signal rate by a table of altitudes, for many places under one filter: within 0.0005 of `signalRate` above 5°. */
export function tabulatedRate({
  filter,
  darkSkyPerSec,
  noisePerSec,
}: RateModel): (altitudeDeg: number, light: SkyLight) => number {
  const length = Math.ceil(90 / TABLE_STEP_DEG) + 2;
  const altitudeOf = (i: number): number => Math.min(90, Math.max(0.01, i * TABLE_STEP_DEG));
  const signal = Float64Array.from(
    { length },
    (_, i) => transparency(filter, altitudeOf(i)) ** 2 * (darkSkyPerSec + noisePerSec),
  );
  const dark = Float64Array.from({ length }, (_, i) => darkRatio(filter, altitudeOf(i)));
  return (altitudeDeg, light) => {
    if (!(altitudeDeg > 0)) return 0;
    const at = altitudeDeg / TABLE_STEP_DEG;
    const before = Math.floor(at);
    const share = at - before;
    const ratio =
      dark[before] +
      share * (dark[before + 1] - dark[before]) +
      filter.moonFactor * light.moonRatioV +
      light.twilightRatioV;
    return (signal[before] + share * (signal[before + 1] - signal[before])) / (darkSkyPerSec * ratio + noisePerSec);
  };
}

const NO_LIGHT: SkyLight = { moonRatioV: 0, twilightRatioV: 0 };

/** The best rate a target reaches from a site: highest on the meridian in a dark sky. */
export function bestRate(model: RateModel, latitudeDeg: number, decDeg: number): number {
  const highestDeg = 90 - Math.abs(latitudeDeg - decDeg);
  return signalRate(model, highestDeg, NO_LIGHT);
}

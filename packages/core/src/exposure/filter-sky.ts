// How bright the sky is in a filter, as a multiple of that filter's own dark zenith: airmass, moonlight and twilight, all added in flux.
import type { NightTable, TargetSamples } from '../sky/night-table.ts';
import { moonlightNanolamberts, nanolambertsOf, scatteringAirmass } from '../sky/moonlight.ts';
import { tenTo } from '../units.ts';

export type FilterClass = 'broadband' | 'narrowband' | 'colour';

/** What the sky model needs of a filter. */
export interface FilterSky {
  readonly class: FilterClass;
  readonly centreNm: number;
  readonly widthNm: number;
  readonly extinctionMagPerAirmass: number;
  /** Dark zenith sky through this filter, magnitudes per square arcsecond. */
  readonly zenithMag: number;
  /** Colour of scattered moonlight over the colour of the dark sky, 1 in V. An editable estimate. */
  readonly moonFactor: number;
}

/** Starting values of the moon factor by filter letter. */
export const DEFAULT_MOON_FACTORS: Readonly<Record<string, number>> = {
  L: 1,
  V: 1,
  G: 1,
  B: 4,
  R: 0.35,
  Ha: 0.4,
  SII: 0.35,
  OIII: 1.6,
};

/** Extinction in V at a good site. */
const EXTINCTION_V_MAG_PER_AIRMASS = 0.172;
/** Zenith sky from twilight alone, V magnitudes per square arcsecond: with a dark sky of 21.8 this gives 21.3 at −15° and 19.7 at −12°. */
const TWILIGHT_MAG_AT_MINUS_15 = 22.38;
const TWILIGHT_MAG_PER_DEG = 0.837;

/** Sky contributions of one direction in V, as multiples of the dark zenith. */
export interface SkyLight {
  readonly moonRatioV: number;
  readonly twilightRatioV: number;
}

/** Twilight over the dark zenith in V.
 * @param zenithMagV dark zenith, V magnitudes per square arcsecond */
export const twilightRatio = (sunAltitudeDeg: number, zenithMagV: number): number =>
  tenTo(0.4 * (zenithMagV - TWILIGHT_MAG_AT_MINUS_15 + TWILIGHT_MAG_PER_DEG * (Math.min(sunAltitudeDeg, 0) + 15)));

/** Moonlight over the dark zenith in V. */
export function moonlightRatio(at: {
  phaseAngleDeg: number;
  moonAltitudeDeg: number;
  altitudeDeg: number;
  separationDeg: number;
  zenithMagV: number;
}): number {
  const moonlight = moonlightNanolamberts({
    phaseAngleDeg: at.phaseAngleDeg,
    moonZenithDistanceDeg: 90 - at.moonAltitudeDeg,
    targetZenithDistanceDeg: 90 - at.altitudeDeg,
    separationDeg: at.separationDeg,
    extinctionMagPerAirmass: EXTINCTION_V_MAG_PER_AIRMASS,
  });
  return moonlight / nanolambertsOf(at.zenithMagV);
}

/** Moonlight and twilight of a target at every sample of a night, shared by all its filters. */
export function skyLightSamples(
  table: NightTable,
  target: TargetSamples,
  zenithMagV: number,
): { moonRatioV: Float64Array; twilightRatioV: Float64Array } {
  const moonRatioV = new Float64Array(table.length);
  const twilightRatioV = new Float64Array(table.length);
  for (let i = 0; i < table.length; i++) {
    twilightRatioV[i] = twilightRatio(table.sunAltitudeDeg[i], zenithMagV);
    if (!(target.altitudeDeg[i] > 0)) continue;
    moonRatioV[i] = moonlightRatio({
      phaseAngleDeg: table.moonPhaseAngleDeg[i],
      moonAltitudeDeg: table.moonAltitudeDeg[i],
      altitudeDeg: target.altitudeDeg[i],
      separationDeg: target.moonSeparationDeg[i],
      zenithMagV,
    });
  }
  return { moonRatioV, twilightRatioV };
}

/** The dark sky at an altitude over the dark zenith. Source: Krisciunas & Schaefer 1991, eq. 2, with the filter's own extinction. */
export function darkRatio(filter: FilterSky, altitudeDeg: number): number {
  const x = scatteringAirmass(90 - altitudeDeg);
  return tenTo(-0.4 * filter.extinctionMagPerAirmass * (x - 1)) * x;
}

/** Sky brightness B_f / B0_f in a filter. */
export const skyRatio = (filter: FilterSky, altitudeDeg: number, light: SkyLight): number =>
  darkRatio(filter, altitudeDeg) + filter.moonFactor * light.moonRatioV + light.twilightRatioV;

/** Sky in a filter over its dark sky, at the zenith, under a moon that brightens V there by so many magnitudes. */
export const skyOverDark = ({ moonFactor }: Pick<FilterSky, 'moonFactor'>, zenithBrighteningMagV: number): number =>
  1 + moonFactor * (10 ** (0.4 * zenithBrighteningMagV) - 1);

/** By how many magnitudes moon and twilight brighten the sky in a filter against the same direction without them; 0 or more. */
export const brighteningMag = (filter: FilterSky, altitudeDeg: number, light: SkyLight): number =>
  2.5 * Math.log10(skyRatio(filter, altitudeDeg, light) / darkRatio(filter, altitudeDeg));

/** By how many magnitudes the moon alone brightens the sky in a filter; 0 or more: what a moonlight tolerance bounds. */
export const moonBrighteningMag = (filter: FilterSky, altitudeDeg: number, moonRatioV: number): number =>
  brighteningMag(filter, altitudeDeg, { moonRatioV, twilightRatioV: 0 });

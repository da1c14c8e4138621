// Brightness of the sky in V with the moon in it. Model: Krisciunas & Schaefer 1991, PASP 103, 1033.
import { tenTo, toRad } from '../units.ts';

/** Above this zenith distance the moon lights nothing. */
const HORIZON_ZENITH_DISTANCE_DEG = 90;

/** The air that scattered light passes. Source: Krisciunas & Schaefer 1991, eq. 3. */
export const scatteringAirmass = (zenithDistanceDeg: number): number =>
  1 / Math.sqrt(0.04 + 0.96 * square(Math.cos(toRad(zenithDistanceDeg))));

const square = (value: number): number => value * value;

/** Surface brightness in nanolamberts. Source: Krisciunas & Schaefer 1991, eq. 1. */
export const nanolambertsOf = (magV: number): number => 34.08 * Math.exp(20.7233 - 0.92104 * magV);
/** Surface brightness in V magnitudes per square arcsecond. */
export const magVOf = (nanolamberts: number): number => (20.7233 - Math.log(nanolamberts / 34.08)) / 0.92104;

export interface MoonlitDirection {
  /** Sun–moon–observer angle; its sign is ignored. */
  readonly phaseAngleDeg: number;
  readonly moonZenithDistanceDeg: number;
  readonly targetZenithDistanceDeg: number;
  readonly separationDeg: number;
  readonly extinctionMagPerAirmass: number;
  /** Dark sky at the zenith, V magnitudes per square arcsecond. */
  readonly zenithMagV: number;
}

/** The dark sky at a zenith distance. Source: Krisciunas & Schaefer 1991, eq. 2.
 * @returns nanolamberts */
export function darkSkyNanolamberts(
  at: Pick<MoonlitDirection, 'targetZenithDistanceDeg' | 'extinctionMagPerAirmass' | 'zenithMagV'>,
): number {
  const x = scatteringAirmass(at.targetZenithDistanceDeg);
  return nanolambertsOf(at.zenithMagV) * tenTo(-0.4 * at.extinctionMagPerAirmass * (x - 1)) * x;
}

const RAYLEIGH = tenTo(5.36);

/** What the moon adds. Source: Krisciunas & Schaefer 1991, eq. 15, 20 and 21; no opposition surge.
 * @returns nanolamberts, 0 with the moon on or below the horizon */
export function moonlightNanolamberts(at: Omit<MoonlitDirection, 'zenithMagV'>): number {
  if (!(at.moonZenithDistanceDeg < HORIZON_ZENITH_DISTANCE_DEG)) return 0;
  const alpha = Math.abs(at.phaseAngleDeg);
  const rho = at.separationDeg;
  const moonIlluminance = tenTo(-0.4 * (3.84 + 0.026 * alpha + 4e-9 * square(square(alpha))));
  const rayleigh = RAYLEIGH * (1.06 + square(Math.cos(toRad(rho))));
  const mie = tenTo(6.15 - rho / 40);
  const k = at.extinctionMagPerAirmass;
  const onTheWayIn = tenTo(-0.4 * k * scatteringAirmass(at.moonZenithDistanceDeg));
  const scattered = 1 - tenTo(-0.4 * k * scatteringAirmass(at.targetZenithDistanceDeg));
  return (rayleigh + mie) * moonIlluminance * onTheWayIn * scattered;
}

/** By how much the moon changes the V sky at a direction.
 * @returns magnitudes, negative = brighter, 0 with the moon down */
export function moonlightChangeMag(at: MoonlitDirection): number {
  const dark = darkSkyNanolamberts(at);
  return magVOf(dark + moonlightNanolamberts(at)) - magVOf(dark);
}

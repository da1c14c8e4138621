// Geometric altitude to the altitude seen through air and back, for pointing limits that were measured by eye or mount.
import { clamp, toDeg, toRad } from '../units.ts';

export interface Air {
  readonly pressureHpa: number;
  readonly temperatureC: number;
}

/** Pressure of a standard atmosphere with scale height 8434 m. */
export const pressureAtElevationHpa = (elevationM: number): number => 1013.25 * Math.exp(-elevationM / 8434);

/** Below the first altitude only the empirical formula is trusted, above the second only the two-term series; blended between. */
const BLEND_FROM_DEG = 7;
const BLEND_TO_DEG = 15;

/** How much air lifts an object: a two-term series high up, an empirical formula near the horizon.
 * @param geometricAltitudeDeg above about −1
 * @returns degrees, positive upwards */
export function refractionDeg(geometricAltitudeDeg: number, air: Air): number {
  const seriesShare = clamp((geometricAltitudeDeg - BLEND_FROM_DEG) / (BLEND_TO_DEG - BLEND_FROM_DEG), 0, 1);
  const low = seriesShare < 1 ? empiricalRefractionDeg(geometricAltitudeDeg, air) : 0;
  const high = seriesShare > 0 ? seriesRefractionDeg(geometricAltitudeDeg, air) : 0;
  return low + seriesShare * (high - low);
}

/** The geometric altitude of what is seen at an altitude through air: horizon profiles are converted by this once, at entry. */
export function geometricAltitudeDeg(apparentAltitudeDeg: number, air: Air): number {
  let geometric = apparentAltitudeDeg;
  for (let round = 0; round < 4; round++) geometric = apparentAltitudeDeg - refractionDeg(geometric, air);
  return geometric;
}

/** Source: Saemundsson 1986 (Meeus, Astronomical Algorithms, 2nd ed., eq. 16.4), scaled by pressure and temperature. */
function empiricalRefractionDeg(altitudeDeg: number, air: Air): number {
  const h = Math.max(altitudeDeg, -1.9);
  const arcmin = 1.02 / Math.tan(toRad(h + 10.3 / (h + 5.11)));
  return (arcmin / 60) * (air.pressureHpa / 1010) * (283 / (273 + air.temperatureC));
}

/** A tan z + B tan³ z in dry air at 0.55 µm, z as seen. Source: Explanatory Supplement to the Astronomical Almanac, 3rd ed., 7.2.2;
 * refractivity of Hohenkerk & Sinclair 1985. */
function seriesRefractionDeg(altitudeDeg: number, air: Air): number {
  const kelvin = air.temperatureC + 273.15;
  const micronsSquared = 0.55 ** 2;
  const refractivity =
    ((77.53484e-6 + (4.39108e-7 + 3.666e-9 / micronsSquared) / micronsSquared) * air.pressureHpa) / kelvin;
  const scaleHeightRatio = 4.4474e-6 * kelvin;
  const a = refractivity * (1 - scaleHeightRatio);
  const b = -refractivity * (scaleHeightRatio - refractivity / 2);
  let liftedDeg = 0;
  for (let round = 0; round < 3; round++) {
    const tanZ = Math.tan(toRad(90 - altitudeDeg - liftedDeg));
    liftedDeg = toDeg(a * tanZ + b * tanZ ** 3);
  }
  return liftedDeg;
}

// Altitude to the air that light passes.
import { toRad } from '../units.ts';

/** Airmass. Source: Pickering 2002, The Southern Limits of the Ancient Star Catalog, DIO 12, note 39.
 * @param apparentAltitudeDeg above the horizon, (0, 90]
 * @returns multiples of the zenith's air, 1 at 90°; infinite at and below the horizon */
export function airmass(apparentAltitudeDeg: number): number {
  if (!(apparentAltitudeDeg > 0)) return Infinity;
  const h = apparentAltitudeDeg;
  return 1 / Math.sin(toRad(h + 244 / (165 + 47 * h ** 1.1)));
}

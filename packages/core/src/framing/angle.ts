// Angles that frame the sky.
import { wrap360 } from '../units.ts';

/** Difference of two framing angles modulo 180: upside down, a sensor frames the same sky.
 * @returns degrees, [0, 90] */
export function angleApartDeg(aDeg: number, bDeg: number): number {
  const apart = wrap360(aDeg - bDeg) % 180;
  return Math.min(apart, 180 - apart);
}

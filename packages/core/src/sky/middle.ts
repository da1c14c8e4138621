// The middle of several places on the sky.
import { toDeg, wrap360 } from '../units.ts';
import { unitVector } from './frame-of-date.ts';
import type { SkyPosition } from './site.ts';

/** The mean direction of places.
 * @returns null where there are none, or they lie all around */
export function middleOf(places: readonly SkyPosition[]): SkyPosition | null {
  const [x, y, z] = places
    .map(unitVector)
    .reduce((sum, direction) => [sum[0] + direction[0], sum[1] + direction[1], sum[2] + direction[2]], [0, 0, 0]);
  if (Math.hypot(x, y, z) < 1e-9) return null;
  return { raDeg: wrap360(toDeg(Math.atan2(y, x))), decDeg: toDeg(Math.atan2(z, Math.hypot(x, y))) };
}

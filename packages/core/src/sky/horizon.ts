// The outline of what stands around a site: altitude by azimuth, linear between points, closed over north.
import { wrap360 } from '../units.ts';

export interface HorizonPoint {
  readonly azimuthDeg: number;
  readonly altitudeDeg: number;
}

/** A horizon ready to be asked; points sorted by azimuth in [0, 360), one a direction. */
export interface HorizonProfile {
  readonly points: readonly HorizonPoint[];
}

/** A profile from points in any order. Of two points in one direction the higher is kept; no points means a flat horizon at 0°. */
export function horizonProfile(points: readonly HorizonPoint[]): HorizonProfile {
  const highest = new Map<number, number>();
  for (const { azimuthDeg, altitudeDeg } of points) {
    const azimuth = wrap360(azimuthDeg);
    highest.set(azimuth, Math.max(altitudeDeg, highest.get(azimuth) ?? -90));
  }
  const sorted = [...highest].map(([azimuthDeg, altitudeDeg]) => ({ azimuthDeg, altitudeDeg }));
  return { points: sorted.sort((a, b) => a.azimuthDeg - b.azimuthDeg) };
}

/** Altitude of the horizon in a direction.
 * @returns degrees */
export function horizonAltitudeDeg({ points }: HorizonProfile, azimuthDeg: number): number {
  if (points.length === 0) return 0;
  const azimuth = wrap360(azimuthDeg);
  const after = points[upperIndex(points, azimuth) % points.length];
  const before = points[(upperIndex(points, azimuth) - 1 + points.length) % points.length];
  const span = wrap360(after.azimuthDeg - before.azimuthDeg);
  if (span === 0) return before.altitudeDeg;
  const share = wrap360(azimuth - before.azimuthDeg) / span;
  return before.altitudeDeg + share * (after.altitudeDeg - before.altitudeDeg);
}

/** Index of the first point past an azimuth, possibly one past the end. */
function upperIndex(points: readonly HorizonPoint[], azimuthDeg: number): number {
  let low = 0;
  let high = points.length;
  while (low < high) {
    const middle = (low + high) >> 1;
    if (points[middle].azimuthDeg <= azimuthDeg) low = middle + 1;
    else high = middle;
  }
  return low;
}

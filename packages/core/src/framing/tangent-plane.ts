// The gnomonic projection: great circles become straight lines on the plane that touches the sphere at one point.
// Source: Calabretta & Greisen 2002, A&A 395, 1077, section 5.1.3.
import type { SkyPosition } from '../sky/site.ts';
import { toDeg, toRad, wrap360 } from '../units.ts';

/** A place on the tangent plane: x towards east, y towards north, in degrees of the plane's own scale (180/π per radius). */
export interface PlanePoint {
  readonly xDeg: number;
  readonly yDeg: number;
}

/** @returns null for places 90° or more from the tangent point */
export function toTangentPlane(tangent: SkyPosition, place: SkyPosition): PlanePoint | null {
  const [dec0, dec, dRa] = [toRad(tangent.decDeg), toRad(place.decDeg), toRad(place.raDeg - tangent.raDeg)];
  const cosine = Math.sin(dec0) * Math.sin(dec) + Math.cos(dec0) * Math.cos(dec) * Math.cos(dRa);
  if (cosine <= 1e-9) return null;
  return {
    xDeg: toDeg((Math.cos(dec) * Math.sin(dRa)) / cosine),
    yDeg: toDeg((Math.cos(dec0) * Math.sin(dec) - Math.sin(dec0) * Math.cos(dec) * Math.cos(dRa)) / cosine),
  };
}

/** The inverse of `toTangentPlane`; works at the poles and across 0 h. */
export function fromTangentPlane(tangent: SkyPosition, { xDeg, yDeg }: PlanePoint): SkyPosition {
  const [x, y, dec0] = [toRad(xDeg), toRad(yDeg), toRad(tangent.decDeg)];
  const north = Math.cos(dec0) - y * Math.sin(dec0);
  return {
    raDeg: wrap360(tangent.raDeg + toDeg(Math.atan2(x, north))),
    decDeg: toDeg(Math.atan2(Math.sin(dec0) + y * Math.cos(dec0), Math.hypot(x, north))),
  };
}

// The sky on the screen: a gnomonic plane around a centre, north up and east left, in pixels of a drawing.
import type { SkyPosition, Vector3 } from '@meridiem/core';
import { fromTangentPlane, toDeg, toRad, toTangentPlane, unitVector } from '@meridiem/core';

export interface SkyView {
  readonly centre: SkyPosition;
  /** Degrees of the plane across the drawing's width. */
  readonly widthDeg: number;
  readonly widthPx: number;
  readonly heightPx: number;
}

export interface ScreenPoint {
  readonly x: number;
  readonly y: number;
}

const pxPerDeg = ({ widthPx, widthDeg }: SkyView): number => widthPx / widthDeg;

/** Null for what lies behind the plane. */
export function toScreen(view: SkyView, position: SkyPosition): ScreenPoint | null {
  const plane = toTangentPlane(view.centre, position);
  if (plane === null) return null;
  return { x: view.widthPx / 2 - plane.xDeg * pxPerDeg(view), y: view.heightPx / 2 - plane.yDeg * pxPerDeg(view) };
}

/** The same for many directions: what the view alone decides is worked out once. */
export function screenOf(view: SkyView): (direction: Vector3) => ScreenPoint | null {
  const [ra, dec] = [toRad(view.centre.raDeg), toRad(view.centre.decDeg)];
  const [fx, fy, fz] = unitVector(view.centre);
  const [ex, ey] = [-Math.sin(ra), Math.cos(ra)];
  const [nx, ny, nz] = [-Math.sin(dec) * Math.cos(ra), -Math.sin(dec) * Math.sin(ra), Math.cos(dec)];
  const scale = toDeg(1) * pxPerDeg(view);
  const [halfWidth, halfHeight] = [view.widthPx / 2, view.heightPx / 2];
  return ([x, y, z]) => {
    const depth = x * fx + y * fy + z * fz;
    if (depth <= 1e-9) return null;
    return {
      x: halfWidth - (scale * (x * ex + y * ey)) / depth,
      y: halfHeight - (scale * (x * nx + y * ny + z * nz)) / depth,
    };
  };
}

export const toSky = (view: SkyView, { x, y }: ScreenPoint): SkyPosition =>
  fromTangentPlane(view.centre, {
    xDeg: (view.widthPx / 2 - x) / pxPerDeg(view),
    yDeg: (view.heightPx / 2 - y) / pxPerDeg(view),
  });

/** The view after the sky has been pulled along by some pixels. */
export const pulled = (view: SkyView, { x, y }: ScreenPoint): SkyView => ({
  ...view,
  centre: toSky(view, { x: view.widthPx / 2 - x, y: view.heightPx / 2 - y }),
});

/** Degrees from the view's centre to its corners. */
export const reachOf = ({ widthDeg, widthPx, heightPx }: SkyView): number =>
  toDeg(Math.atan(toRad((Math.hypot(widthPx, heightPx) / widthPx / 2) * widthDeg)));

/** Pixels that an angle near the centre takes. */
export const pixelsOf = (view: SkyView, degrees: number): number => degrees * pxPerDeg(view);

/** Position angle of a screen point seen from another, east of north. */
export function screenAngleDeg(from: ScreenPoint, to: ScreenPoint): number {
  const degrees = (Math.atan2(from.x - to.x, from.y - to.y) * 180) / Math.PI;
  return (degrees + 360) % 360;
}

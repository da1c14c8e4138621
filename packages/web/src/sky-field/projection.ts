// The sky on the screen: a gnomonic plane around a centre, north up and east left, in pixels of a drawing.
import type { SkyPosition } from '@meridiem/core';
import { fromTangentPlane, toTangentPlane } from '@meridiem/core';

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

export const toSky = (view: SkyView, { x, y }: ScreenPoint): SkyPosition =>
  fromTangentPlane(view.centre, {
    xDeg: (view.widthPx / 2 - x) / pxPerDeg(view),
    yDeg: (view.heightPx / 2 - y) / pxPerDeg(view),
  });

/** Pixels that an angle near the centre takes. */
export const pixelsOf = (view: SkyView, degrees: number): number => degrees * pxPerDeg(view);

/** Position angle of a screen point seen from another, east of north. */
export function screenAngleDeg(from: ScreenPoint, to: ScreenPoint): number {
  const degrees = (Math.atan2(from.x - to.x, from.y - to.y) * 180) / Math.PI;
  return (degrees + 360) % 360;
}

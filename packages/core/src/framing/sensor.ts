// A sensor on the sky: pixels to positions and back, by the gnomonic projection around the field's centre.
import type { SkyPosition } from '../sky/site.ts';
import { toDeg, toRad } from '../units.ts';
import { fromTangentPlane, toTangentPlane } from './tangent-plane.ts';

/** Pixel coordinates are continuous: (0, 0) is the outer lower left corner, (width, height) the upper right one; x grows right, y up. */
export interface PixelPlace {
  readonly x: number;
  readonly y: number;
}

export interface SensorOnSky {
  readonly centre: SkyPosition;
  /** Position angle of the upward side at the centre, east of north; east is left where it is 0. */
  readonly positionAngleDeg: number;
  /** Arcseconds a pixel at the centre. */
  readonly scaleArcsecPerPx: number;
  readonly widthPx: number;
  readonly heightPx: number;
}

/** Where a pixel looks. Source: Calabretta & Greisen 2002, A&A 395, 1077, with a rotation and no distortion. */
export function pixelToSky(sensor: SensorOnSky, { x, y }: PixelPlace): SkyPosition {
  const [right, up] = [x - sensor.widthPx / 2, y - sensor.heightPx / 2];
  const [sine, cosine] = [Math.sin(toRad(sensor.positionAngleDeg)), Math.cos(toRad(sensor.positionAngleDeg))];
  const degPerPx = sensor.scaleArcsecPerPx / 3600;
  return fromTangentPlane(sensor.centre, {
    xDeg: degPerPx * (-cosine * right + sine * up),
    yDeg: degPerPx * (sine * right + cosine * up),
  });
}

/** The pixel of a position, inside the frame or beyond it.
 * @returns null for positions 90° or more from the centre */
export function skyToPixel(sensor: SensorOnSky, position: SkyPosition): PixelPlace | null {
  const plane = toTangentPlane(sensor.centre, position);
  if (plane === null) return null;
  const [sine, cosine] = [Math.sin(toRad(sensor.positionAngleDeg)), Math.cos(toRad(sensor.positionAngleDeg))];
  const pxPerDeg = 3600 / sensor.scaleArcsecPerPx;
  return {
    x: sensor.widthPx / 2 + pxPerDeg * (-cosine * plane.xDeg + sine * plane.yDeg),
    y: sensor.heightPx / 2 + pxPerDeg * (sine * plane.xDeg + cosine * plane.yDeg),
  };
}

/** Sides of a sensor as lengths on its tangent plane, degrees × (180/π per radius): what steps between panels are measured in. */
export const planeSides = (optics: {
  readonly focalLengthMm: number;
  readonly pixelUm: number;
  readonly widthPx: number;
  readonly heightPx: number;
}): { widthDeg: number; heightDeg: number } => {
  const side = (pixels: number): number => toDeg((pixels * optics.pixelUm) / 1000 / optics.focalLengthMm);
  return { widthDeg: side(optics.widthPx), heightDeg: side(optics.heightPx) };
};

// What a camera sees through a telescope, and whether the numbers are plausible.
import { imageScaleArcsec } from '../exposure/signal-rate.ts';
import { toDeg } from '../units.ts';

export interface Optics {
  readonly apertureMm: number;
  readonly focalLengthMm: number;
  readonly pixelUm: number;
  readonly widthPx: number;
  readonly heightPx: number;
}

export interface Field {
  readonly widthDeg: number;
  readonly heightDeg: number;
  readonly imageScaleArcsecPerPx: number;
  readonly focalRatio: number;
}

/** Field of view and image scale of unbinned pixels. */
export function fieldOf(optics: Optics): Field {
  const side = (pixels: number): number =>
    2 * toDeg(Math.atan((pixels * optics.pixelUm) / 2000 / optics.focalLengthMm));
  return {
    widthDeg: side(optics.widthPx),
    heightDeg: side(optics.heightPx),
    imageScaleArcsecPerPx: imageScaleArcsec({ ...optics, binning: 1 }),
    focalRatio: optics.focalLengthMm / optics.apertureMm,
  };
}

/** Doubts about a rig's numbers, in words; empty where nothing looks wrong. */
export function implausibleOptics(optics: Optics): string[] {
  const { focalRatio, imageScaleArcsecPerPx } = fieldOf(optics);
  const doubts: string[] = [];
  if (focalRatio < 1.4 || focalRatio > 20)
    doubts.push(`The focal ratio would be f/${focalRatio.toFixed(1)}: check focal length and aperture, both in mm.`);
  if (optics.pixelUm < 1.5 || optics.pixelUm > 24)
    doubts.push(`A pixel of ${optics.pixelUm} µm is unusual: the value is in micrometres, one side.`);
  if (imageScaleArcsecPerPx < 0.15 || imageScaleArcsecPerPx > 12)
    doubts.push(
      `The image scale would be ${imageScaleArcsecPerPx.toFixed(2)} ″ per pixel: check focal length and pixel size.`,
    );
  return doubts;
}

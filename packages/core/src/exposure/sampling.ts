// What binning and reading a part of the sensor make of a camera: pixels, scale, field, and how wide a star is.
import { toDeg } from '../units.ts';
import { imageScaleArcsec } from './signal-rate.ts';

export interface SampledCamera {
  readonly focalLengthMm: number;
  readonly pixelUm: number;
  readonly widthPx: number;
  readonly heightPx: number;
}

export interface Sampling {
  /** Pixels of a frame, after binning. */
  readonly widthPx: number;
  readonly heightPx: number;
  readonly scaleArcsecPerPx: number;
  readonly widthDeg: number;
  readonly heightDeg: number;
  /** Full width of a star at half its height, in pixels of the frame. */
  readonly starPx: number;
  /** Share of the sensor's area that is read. */
  readonly shareRead: number;
}

/** Seeing of a usual night, full width at half maximum, arcseconds. */
export const USUAL_SEEING_ARCSEC = 2.5;

/** Pixels along the sides of a sensor, or of a part of it. */
export interface SensorSides {
  readonly widthPx: number;
  readonly heightPx: number;
}

/** Share of a sensor's area that is read; 1 where all of it is. */
export const shareRead = (sensor: SensorSides, region: SensorSides | null): number =>
  region ? (region.widthPx * region.heightPx) / (sensor.widthPx * sensor.heightPx) : 1;

/** The part of a sensor that a picture shows; null where it is all of it but for a narrow edge, no part of it, or of unknown size.
 * @param sensor unbinned @param picture as it lies in its file */
export function regionRead(sensor: SensorSides, picture: SensorSides, binning: number): SensorSides | null {
  const [widthPx, heightPx] = [picture.widthPx * binning, picture.heightPx * binning];
  const isWhole = widthPx > WHOLE_SHARE * sensor.widthPx && heightPx > WHOLE_SHARE * sensor.heightPx;
  const isPart = widthPx > 0 && heightPx > 0 && widthPx <= sensor.widthPx && heightPx <= sensor.heightPx;
  return isPart && !isWhole ? { widthPx, heightPx } : null;
}
/** Data sheets count pixels at the edge that no picture shows. */
const WHOLE_SHARE = 0.97;

/** A camera, or a whole rig, as if its sensor were no larger than the part that is read. */
export const readingPart = <T extends SensorSides>(sensor: T, region: SensorSides | null): T =>
  region ? { ...sensor, widthPx: region.widthPx, heightPx: region.heightPx } : sensor;

/** @param region the middle of the sensor that is read, in unbinned pixels; null for all of it */
export function samplingOf(
  camera: SampledCamera,
  binning: number,
  region: SensorSides | null,
  seeingArcsec = USUAL_SEEING_ARCSEC,
): Sampling {
  const read = readingPart(camera, region);
  const [widthPx, heightPx] = [Math.floor(read.widthPx / binning), Math.floor(read.heightPx / binning)];
  const scaleArcsecPerPx = imageScaleArcsec({ ...camera, binning });
  const side = (pixels: number): number =>
    2 * toDeg(Math.atan((pixels * binning * camera.pixelUm) / 2000 / camera.focalLengthMm));
  return {
    widthPx,
    heightPx,
    scaleArcsecPerPx,
    widthDeg: side(widthPx),
    heightDeg: side(heightPx),
    starPx: seeingArcsec / scaleArcsecPerPx,
    shareRead: shareRead(camera, region),
  };
}

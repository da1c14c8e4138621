// A picture calibrated: what the sensor adds is taken away, and what dust and optics keep from it is given back.
import { CoreError } from '../errors.ts';
import type { Picture } from '../pixels/background.ts';
import { sortedMedian } from '../pixels/background.ts';

/** A picture of real numbers. */
export interface RealPicture extends Picture {
  readonly pixels: Float32Array;
}

export interface Masters {
  /** What the sensor gives without light: a mean of darks, or of bias where there are none. */
  readonly dark: RealPicture;
  /** The share of light that each pixel gets, 1 in the middle of all. */
  readonly flat?: RealPicture;
}

/** So many frames can spare their highest and lowest value of every pixel: a cosmic ray, a star in a flat of the sky. */
const FEWEST_TO_SPARE = 5;
/** Darker pixels of a flat say nothing. */
const LEAST_SHARE = 0.05;
const SAMPLE = 4096;

const isLike = (a: Picture, b: Picture): boolean => a.widthPx === b.widthPx && a.heightPx === b.heightPx;

/** Frames added one by one: three pictures are held, however many there are. */
export class MeanFrame {
  #sum: Float64Array | null = null;
  #least: Float32Array | null = null;
  #most: Float32Array | null = null;
  #size: Pick<Picture, 'widthPx' | 'heightPx'> | null = null;
  #count = 0;

  /** @throws CALIBRATION_UNUSABLE where it is not as large as the others */
  add(picture: Picture): void {
    const { widthPx, heightPx, pixels } = picture;
    if (this.#size && !isLike(picture, { ...this.#size, pixels }))
      throw new CoreError('CALIBRATION_UNUSABLE', 'Calibration frames of one set are not of one size', {
        widthPx,
        heightPx,
      });
    this.#size ??= { widthPx, heightPx };
    const sum = (this.#sum ??= new Float64Array(pixels.length));
    const least = (this.#least ??= new Float32Array(pixels.length).fill(Infinity));
    const most = (this.#most ??= new Float32Array(pixels.length).fill(-Infinity));
    this.#count++;
    for (let i = 0; i < pixels.length; i++) {
      const value = pixels[i];
      sum[i] += value;
      if (value < least[i]) least[i] = value;
      if (value > most[i]) most[i] = value;
    }
  }

  /** @throws CALIBRATION_UNUSABLE where none was added */
  mean(): RealPicture {
    const [size, sum, least, most] = [this.#size, this.#sum, this.#least, this.#most];
    if (!size || !sum || !least || !most) throw new CoreError('CALIBRATION_UNUSABLE', 'There is no calibration frame to average'); // prettier-ignore
    const spares = this.#count >= FEWEST_TO_SPARE;
    const pixels = new Float32Array(sum.length);
    for (let i = 0; i < pixels.length; i++)
      pixels[i] = spares ? (sum[i] - least[i] - most[i]) / (this.#count - 2) : sum[i] / this.#count;
    return { ...size, pixels };
  }
}

/** A flat on its way into the mean of its set: without what the sensor adds, its middle brightness 1, for those of the sky each
 * have another. */
export function levelledFlat(flat: Picture, dark: RealPicture | null): RealPicture {
  if (dark && !isLike(flat, dark))
    throw new CoreError('CALIBRATION_UNUSABLE', 'Flats and their darks are not of one size');
  const pixels = new Float32Array(flat.pixels.length);
  for (let i = 0; i < pixels.length; i++) pixels[i] = flat.pixels[i] - (dark ? dark.pixels[i] : 0);
  const middle = middleOf(pixels);
  if (!(middle > 0)) throw new CoreError('CALIBRATION_UNUSABLE', 'A flat has no light');
  for (let i = 0; i < pixels.length; i++) pixels[i] /= middle;
  return { widthPx: flat.widthPx, heightPx: flat.heightPx, pixels };
}

function middleOf(pixels: Float32Array): number {
  const step = Math.max(1, Math.floor(pixels.length / SAMPLE));
  return sortedMedian(Float64Array.from({ length: Math.ceil(pixels.length / step) }, (_, i) => pixels[i * step]));
}

/** @throws CALIBRATION_UNUSABLE where the frames are not of one size */
export function calibrated(light: Picture, { dark, flat }: Masters): RealPicture {
  if (!isLike(light, dark) || (flat && !isLike(light, flat)))
    throw new CoreError('CALIBRATION_UNUSABLE', 'The calibration frames are not as large as the exposure');
  const pixels = new Float32Array(light.pixels.length);
  for (let i = 0; i < pixels.length; i++)
    pixels[i] = (light.pixels[i] - dark.pixels[i]) / (flat ? Math.max(LEAST_SHARE, flat.pixels[i]) : 1);
  return { widthPx: light.widthPx, heightPx: light.heightPx, pixels };
}

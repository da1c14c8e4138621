// The picture in a FITS file: whole or real numbers, scaled or packed in tiles.
import { CoreError } from '../errors.ts';
import type { Picture } from '../pixels/background.ts';
import type { FitsCard } from './fits-header.ts';
import { readFitsHeaders } from './fits-header.ts';
import { pixelParts } from './fits-pixels.ts';
import { headerReader } from './header-reader.ts';
import type { PixelSource } from './stored-numbers.ts';
import { unreadable } from './stored-numbers.ts';

/** Rows from the bottom, as the file has them. */
export interface FramePicture extends Picture {
  readonly pixels: Float32Array;
}

/** No picture larger than this is read: a sensor of the largest kind has half of it. */
const MOST_PIXELS = 300_000_000;

/** The first picture of two axes in the file.
 * @param bytes the whole uncompressed file
 * @param unzip undoes gzip, for pictures packed so
 * @throws FITS_UNREADABLE where there is none, or its data end too soon */
export async function readFramePicture(
  bytes: Uint8Array,
  unzip: PixelSource['unzip'] = () => Promise.reject(unreadable('A picture packed by gzip is not read here')),
): Promise<{ readonly picture: FramePicture; readonly cards: readonly FitsCard[] }> {
  for (const { cards, dataStart, dataLength } of readFitsHeaders(bytes).units) {
    const size = sizeOf(cards);
    if (!size || dataLength === 0) continue;
    const pixels = new Float32Array(size.widthPx * size.heightPx);
    const read = async (offset: number, length: number): Promise<Uint8Array> =>
      bytes.subarray(dataStart + offset, dataStart + offset + length);
    let filled = 0;
    for await (const part of pixelParts(cards, { read, unzip })) {
      pixels.set(part.subarray(0, pixels.length - filled), filled);
      filled += part.length;
    }
    return { picture: { ...size, pixels }, cards };
  }
  throw new CoreError('FITS_UNREADABLE', 'There is no picture in this file', {});
}

function sizeOf(cards: readonly FitsCard[]): { widthPx: number; heightPx: number } | null {
  const { number, value } = headerReader(cards);
  const prefix = value('ZIMAGE') === true ? 'Z' : '';
  if (prefix === '' && value('XTENSION') !== undefined && value('XTENSION') !== 'IMAGE') return null;
  const [axes, widthPx, heightPx] = ['NAXIS', 'NAXIS1', 'NAXIS2'].map((name) => number(prefix + name) ?? 0);
  if (axes < 2 || widthPx < 1 || heightPx < 1 || widthPx * heightPx > MOST_PIXELS) return null;
  return { widthPx, heightPx };
}

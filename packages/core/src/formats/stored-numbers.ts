// The numbers of a data unit as its bytes write them, before scale and zero. Source: FITS Standard 4.0, section 5.
import { CoreError } from '../errors.ts';

/** What lies outside the header: bytes of the data unit, and gzip undone. */
export interface PixelSource {
  /** @param start counted from the beginning of the data unit */
  readonly read: (start: number, length: number) => Promise<Uint8Array>;
  readonly unzip: (packed: Uint8Array) => Promise<Uint8Array>;
}

/** Numbers as they are stored, before scale and zero. */
export interface StoredNumbers {
  readonly length: number;
  readonly at: (index: number) => number;
}

/** Numbers as the bytes write them, the highest byte first.
 * @param bitpix 8 (without sign), 16, 32, 64 with sign; −32 and −64 real */
export function storedNumbers(bytes: Uint8Array, bitpix: number): StoredNumbers {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const length = bytes.length / (Math.abs(bitpix) / 8);
  switch (bitpix) {
    case 8:
      return { length, at: (i) => bytes[i] };
    case 16:
      return { length, at: (i) => view.getInt16(2 * i) };
    case 32:
      return { length, at: (i) => view.getInt32(4 * i) };
    case 64:
      return { length, at: (i) => Number(view.getBigInt64(8 * i)) };
    case -32:
      return { length, at: (i) => view.getFloat32(4 * i) };
    case -64:
      return { length, at: (i) => view.getFloat64(8 * i) };
    default:
      throw unreadable(`BITPIX ${bitpix} is no kind of number`);
  }
}

export const unreadable = (words: string): CoreError => new CoreError('FITS_UNREADABLE', words, {});

// Grey levels as a PNG file.
import { PNG } from 'pngjs';

/** @param levels px × px bytes, row by row */
export function pngOf(levels: Uint8Array, px: number): Buffer {
  const png = new PNG({ width: px, height: px, colorType: 0, inputColorType: 0, bitDepth: 8, inputHasAlpha: false });
  png.data = Buffer.from(levels);
  return PNG.sync.write(png, { colorType: 0, inputColorType: 0, inputHasAlpha: false, deflateLevel: 3 });
}

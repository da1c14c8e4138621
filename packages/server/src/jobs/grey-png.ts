import type { GreyPicture } from '@meridiem/core';
import { PNG } from 'pngjs';

/** @returns the file: eight bits a pixel, grey */
export function greyPng({ widthPx, heightPx, levels }: GreyPicture): Buffer {
  const png = new PNG({ width: widthPx, height: heightPx });
  png.data = Buffer.from(levels);
  return PNG.sync.write(png, { colorType: 0, inputColorType: 0, inputHasAlpha: false, deflateLevel: 3 });
}

import { describe, expect, it } from '@jest/globals';
import { writeFits } from './fits-writer.ts';
import { readFramePicture } from './frame-picture.ts';

const picture = { widthPx: 3, heightPx: 2, pixels: Uint16Array.from([0, 1, 2, 40_000, 65_535, 5]) };

describe('a frame’s picture', () => {
  it('is read as it was written, unsigned sixteen-bit values included', async () => {
    const { picture: read, cards } = await readFramePicture(writeFits(picture, [{ keyword: 'FILTER', value: 'L' }]));
    expect([read.widthPx, read.heightPx, [...read.pixels]]).toEqual([3, 2, [0, 1, 2, 40_000, 65_535, 5]]);
    expect(cards.find(({ keyword }) => keyword === 'FILTER')!.value).toBe('L');
  });

  it('is refused in words where the data end too soon or there is none', async () => {
    const bytes = writeFits(picture, []);
    await expect(readFramePicture(bytes.subarray(0, 2884))).rejects.toThrow('The pixels end before the last one');
    await expect(readFramePicture(new TextEncoder().encode('no fits at all'))).rejects.toThrow('no FITS file');
  });
});

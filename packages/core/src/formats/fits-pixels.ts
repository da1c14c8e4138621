// The values of an image's pixels, whatever the file does to them: whole or real numbers, scaled, packed in tiles. Source: FITS Standard 4.0, sections 4.4.2, 5 and 10.
import type { FitsCard } from './fits-header.ts';
import type { HeaderReader } from './header-reader.ts';
import { headerReader } from './header-reader.ts';
import { packedTiles } from './packed-tiles.ts';
import type { PixelSource, StoredNumbers } from './stored-numbers.ts';
import { storedNumbers, unreadable } from './stored-numbers.ts';

/** Pixels in one part but the last. */
export const PART_PIXELS = 1 << 20;
/** Stands for a pixel without a value: blank, or not a number. */
const NO_VALUE = -3.4028234663852886e38;

/** Physical values in the order of the file, rounded to single precision, in parts of PART_PIXELS: the same for every lossless way to write them.
 * @throws FITS_UNREADABLE where the packing loses something or is one that isn't read, or the data end too soon */
export async function* pixelParts(cards: readonly FitsCard[], source: PixelSource): AsyncGenerator<Float32Array> {
  const header = headerReader(cards);
  const isPacked = header.value('ZIMAGE') === true;
  const scaled = scaling(header);
  let part = new Float32Array(PART_PIXELS);
  let filled = 0;
  for await (const stored of isPacked ? packedTiles(header, source) : plainRuns(header, source)) {
    for (let i = 0; i < stored.length; i++) {
      part[filled++] = scaled(stored.at(i));
      if (filled < PART_PIXELS) continue;
      yield part;
      part = new Float32Array(PART_PIXELS);
      filled = 0;
    }
  }
  if (filled > 0) yield part.subarray(0, filled);
}

function scaling({ number }: HeaderReader): (stored: number) => number {
  const [scale, zero, blank] = [number('BSCALE') ?? 1, number('BZERO') ?? 0, number('BLANK') ?? number('ZBLANK')];
  // Zero is added, so that a negative zero is one.
  return (stored) => (stored === blank || Number.isNaN(stored) ? NO_VALUE : stored * scale + zero + 0);
}

/** The data unit as it lies there, in runs of a part each. */
async function* plainRuns({ number }: HeaderReader, { read }: PixelSource): AsyncGenerator<StoredNumbers> {
  const bitpix = number('BITPIX') ?? 0;
  const axes = Array.from({ length: number('NAXIS') ?? 0 }, (_, axis) => number(`NAXIS${axis + 1}`) ?? 0);
  const count = axes.reduce((product, length) => product * length, 1);
  const bytesEach = Math.abs(bitpix) / 8;
  for (let from = 0; from < count; from += PART_PIXELS) {
    const length = Math.min(PART_PIXELS, count - from) * bytesEach;
    const bytes = await read(from * bytesEach, length);
    if (bytes.length < length) throw unreadable('The pixels end before the last one');
    yield storedNumbers(bytes, bitpix);
  }
}

// Images packed tile by tile into the rows of a table, unpacked. Source: FITS Standard 4.0, sections 7.3 (tables, descriptors) and 10 (tiles, RICE_1, GZIP_1, GZIP_2).
import type { HeaderReader } from './header-reader.ts';
import { unpackRice } from './rice.ts';
import type { PixelSource, StoredNumbers } from './stored-numbers.ts';
import { storedNumbers, unreadable } from './stored-numbers.ts';

/** Bytes of a table's element by the letter of its TFORM. */
const ELEMENT_BYTES: Readonly<Record<string, number>> = { L: 1, B: 1, A: 1, I: 2, J: 4, E: 4, K: 8, D: 8, C: 8, M: 16, P: 8, Q: 16 }; // prettier-ignore
/** Where a tile may lie, in the order in which a row is asked. */
const PACKED = 'COMPRESSED_DATA';
const ZIPPED = 'GZIP_COMPRESSED_DATA';
const PLAIN = 'UNCOMPRESSED_DATA';

const MOST_TILES = 1_000_000;

interface Column {
  readonly name: string;
  /** From the beginning of a row. */
  readonly offset: number;
  /** Descriptors of 64 bits instead of 32. */
  readonly isWide: boolean;
  /** Bytes of one of the elements that a descriptor counts. */
  readonly elementBytes: number;
}

interface Packing {
  readonly bitpix: number;
  readonly kind: string;
  readonly blockLength: number;
  readonly bytesEach: number;
}

/** The stored numbers of each tile in turn, which is the image's order as long as tiles are whole in all axes but one.
 * @throws FITS_UNREADABLE for packings that lose something, other packings and other tiles */
export async function* packedTiles(header: HeaderReader, source: PixelSource): AsyncGenerator<StoredNumbers> {
  const packing = packingOf(header);
  const columns = columnsOf(header);
  const lengths = tileLengths(header);
  const [rowBytes, rows] = [header.number('NAXIS1') ?? 0, header.number('NAXIS2') ?? 0];
  const heapStart = header.number('THEAP') ?? rowBytes * rows;
  if (rows !== lengths.length) throw unreadable(`${rows} rows hold ${lengths.length} tiles`);
  for (let row = 0; row < rows; row++) {
    const cells = await source.read(row * rowBytes, rowBytes);
    const found = columns.map((column) => ({ column, ...placeIn(cells, column) })).find(({ length }) => length > 0);
    if (!found) throw unreadable(`Tile ${row + 1} is empty`);
    const bytes = await source.read(heapStart + found.start, found.length);
    yield await unpacked(bytes, found.column.name, lengths[row], packing, source);
  }
}

function packingOf({ number, text }: HeaderReader): Packing {
  const kind = text('ZCMPTYPE') ?? '';
  const bitpix = number('ZBITPIX') ?? 0;
  // ZQUANTIZ alone says nothing: some packers write it where every tile is whole. A scale does.
  if (number('ZSCALE') !== null || (bitpix < 0 && kind === 'RICE_1'))
    throw unreadable('The packing loses something of each pixel');
  if (!['RICE_1', 'GZIP_1', 'GZIP_2', 'NOCOMPRESS'].includes(kind)) throw unreadable(`Packing ${kind} is not read`);
  const set = (name: string): number | null => {
    for (let i = 1; text(`ZNAME${i}`) !== null; i++) if (text(`ZNAME${i}`) === name) return number(`ZVAL${i}`);
    return null;
  };
  return { bitpix, kind, blockLength: set('BLOCKSIZE') ?? 32, bytesEach: set('BYTEPIX') ?? 4 };
}

function columnsOf({ number, text }: HeaderReader): Column[] {
  const columns: Column[] = [];
  let offset = 0;
  for (let i = 1; i <= (number('TFIELDS') ?? 0); i++) {
    const [, repeat, letter, element] = /^(\d*)([A-Z])([A-Z])?/.exec(text(`TFORM${i}`) ?? '') ?? [];
    if (letter === undefined) throw unreadable(`TFORM${i} is no form of a column`);
    const name = text(`TTYPE${i}`) ?? '';
    if (name === 'ZSCALE') throw unreadable('The packing loses something of each pixel');
    if ([PACKED, ZIPPED, PLAIN].includes(name))
      columns.push({ name, offset, isWide: letter === 'Q', elementBytes: ELEMENT_BYTES[element] ?? 1 });
    const times = repeat === '' ? 1 : Number(repeat);
    offset += letter === 'X' ? Math.ceil(times / 8) : times * (ELEMENT_BYTES[letter] ?? 0);
  }
  return columns;
}

/** Pixels of each tile. */
function tileLengths({ number }: HeaderReader): number[] {
  const axes = Array.from({ length: number('ZNAXIS') ?? 0 }, (_, i) => ({
    length: number(`ZNAXIS${i + 1}`) ?? 0,
    tile: number(`ZTILE${i + 1}`) ?? (i === 0 ? (number('ZNAXIS1') ?? 0) : 1),
  }));
  const cut = axes.findIndex(({ length, tile }) => tile < length);
  if (cut < 0) return [axes.reduce((product, { length }) => product * length, 1)];
  if (axes.slice(cut + 1).some(({ tile }) => tile !== 1)) throw unreadable('Tiles of this shape are not read');
  const below = axes.slice(0, cut).reduce((product, { length }) => product * length, 1);
  const above = axes.slice(cut + 1).reduce((product, { length }) => product * length, 1);
  const { length, tile } = axes[cut];
  if (Math.ceil(length / tile) * above > MOST_TILES)
    throw unreadable('The image has more tiles than a camera has rows');
  const along = Array.from({ length: Math.ceil(length / tile) }, (_, i) => below * Math.min(tile, length - i * tile));
  return Array.from({ length: above }, () => along).flat();
}

/** Where a tile lies in the heap, in bytes. */
function placeIn(cells: Uint8Array, { offset, isWide, elementBytes }: Column): { length: number; start: number } {
  const view = new DataView(cells.buffer, cells.byteOffset, cells.byteLength);
  const [count, start] = isWide
    ? [Number(view.getBigInt64(offset)), Number(view.getBigInt64(offset + 8))]
    : [view.getInt32(offset), view.getInt32(offset + 4)];
  return { length: count * elementBytes, start };
}

async function unpacked(
  bytes: Uint8Array,
  column: string,
  count: number,
  { bitpix, kind, blockLength, bytesEach }: Packing,
  { unzip }: PixelSource,
): Promise<StoredNumbers> {
  if (column === PACKED && kind === 'RICE_1') {
    const values = unpackRice(bytes, count, { bytesEach, blockLength });
    return { length: count, at: (i) => values[i] };
  }
  const isPlain = column === PLAIN || kind === 'NOCOMPRESS';
  const plain = isPlain ? bytes : await unzip(bytes);
  const whole = kind === 'GZIP_2' && column === PACKED ? unshuffled(plain, Math.abs(bitpix) / 8) : plain;
  const numbers = storedNumbers(whole, bitpix);
  if (numbers.length !== count) throw unreadable(`A tile holds ${numbers.length} pixels instead of ${count}`);
  return numbers;
}

/** GZIP_2 writes the highest byte of all numbers first, then the next one of all. */
function unshuffled(shuffled: Uint8Array, bytesEach: number): Uint8Array {
  const count = shuffled.length / bytesEach;
  const whole = new Uint8Array(shuffled.length);
  for (let byte = 0; byte < bytesEach; byte++)
    for (let i = 0; i < count; i++) whole[i * bytesEach + byte] = shuffled[byte * count + i];
  return whole;
}

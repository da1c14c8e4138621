// An archive whose every byte has a known place, so that a download that was cut goes on where it ended. Source: POSIX.1-2017,
// pax interchange format, ustar header block.
import { CoreError } from '../errors.ts';

export interface TarEntry {
  /** Path inside the archive, ASCII, with "/" between folders. */
  readonly name: string;
  readonly sizeBytes: number;
  readonly modifiedUtcMs: number;
}

/** Where an entry's header and data lie, in bytes from the archive's beginning. */
export interface PlacedEntry extends TarEntry {
  readonly headerAt: number;
  readonly dataAt: number;
}

export interface TarLayout {
  readonly entries: readonly PlacedEntry[];
  readonly sizeBytes: number;
}

const BLOCK = 512;
const LONGEST_NAME = 100;
const LONGEST_PREFIX = 155;
/** Eleven octal digits. */
const MOST_BYTES = 8 ** 11 - 1;

export const padded = (bytes: number): number => Math.ceil(bytes / BLOCK) * BLOCK;

/** Places of all entries, the two empty blocks of the end included.
 * @throws ARCHIVE_UNWRITABLE where a name is too long or a file too large for the format */
export function tarLayout(entries: readonly TarEntry[]): TarLayout {
  let at = 0;
  const placed = entries.map((entry): PlacedEntry => {
    const [headerAt, dataAt] = [at, at + BLOCK];
    at = dataAt + padded(entry.sizeBytes);
    return { ...entry, headerAt, dataAt };
  });
  placed.forEach(tarHeader);
  return { entries: placed, sizeBytes: at + 2 * BLOCK };
}

/** The block before an entry's data. */
export function tarHeader({ name, sizeBytes, modifiedUtcMs }: TarEntry): Uint8Array {
  const [prefix, own] = splitName(name);
  if (sizeBytes > MOST_BYTES)
    throw new CoreError('ARCHIVE_UNWRITABLE', `${name} is too large for the archive`, { name });
  const block = new Uint8Array(BLOCK);
  const text = (at: number, words: string): void => {
    for (let i = 0; i < words.length; i++) block[at + i] = words.charCodeAt(i);
  };
  const octal = (at: number, digits: number, value: number): void => text(at, value.toString(8).padStart(digits, '0'));
  text(0, own);
  octal(100, 7, 0o644);
  octal(108, 7, 0);
  octal(116, 7, 0);
  octal(124, 11, sizeBytes);
  octal(136, 11, Math.max(0, Math.floor(modifiedUtcMs / 1000)));
  text(148, '        ');
  text(156, '0');
  text(257, 'ustar\0' + '00');
  text(345, prefix);
  const sum = block.reduce((total, byte) => total + byte, 0);
  text(148, `${sum.toString(8).padStart(6, '0')}\0 `);
  return block;
}

/** Long paths are cut at a folder. */
function splitName(name: string): [prefix: string, own: string] {
  if (name.length <= LONGEST_NAME) return ['', name];
  const cut = name.lastIndexOf('/', LONGEST_PREFIX);
  const [prefix, own] = [name.slice(0, cut), name.slice(cut + 1)];
  if (cut <= 0 || own.length > LONGEST_NAME)
    throw new CoreError('ARCHIVE_UNWRITABLE', `The path ${name} is too long for the archive`, { name });
  return [prefix, own];
}

/** A run of bytes of the archive: a header, data of an entry from somewhere on, or zeros. */
export type TarPiece =
  | { readonly kind: 'header'; readonly entry: PlacedEntry; readonly from: number; readonly to: number }
  | { readonly kind: 'data'; readonly entry: PlacedEntry; readonly from: number; readonly to: number }
  | { readonly kind: 'zeros'; readonly length: number };

/** What the archive holds from one byte up to, not including, another. */
export function* tarPieces({ entries, sizeBytes }: TarLayout, start = 0, end = sizeBytes): Generator<TarPiece> {
  const cut = (at: number, length: number): [from: number, to: number] => [
    Math.max(0, start - at),
    Math.min(length, end - at),
  ];
  let last = 0;
  for (const entry of entries) {
    const [headerFrom, headerTo] = cut(entry.headerAt, BLOCK);
    if (headerFrom < headerTo) yield { kind: 'header', entry, from: headerFrom, to: headerTo };
    const [from, to] = cut(entry.dataAt, entry.sizeBytes);
    if (from < to) yield { kind: 'data', entry, from, to };
    const rest = padded(entry.sizeBytes) - entry.sizeBytes;
    const [zeroFrom, zeroTo] = cut(entry.dataAt + entry.sizeBytes, rest);
    if (zeroFrom < zeroTo) yield { kind: 'zeros', length: zeroTo - zeroFrom };
    last = entry.dataAt + padded(entry.sizeBytes);
  }
  const [zeroFrom, zeroTo] = cut(last, 2 * BLOCK);
  if (zeroFrom < zeroTo) yield { kind: 'zeros', length: zeroTo - zeroFrom };
}

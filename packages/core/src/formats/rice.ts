// Rice packing of whole numbers, undone. Source: FITS Standard 4.0, section 10.4.1; Rice, Yeh and Miller 1993 (differences of neighbours, in blocks with one split each).
import { CoreError } from '../errors.ts';

export interface RicePacking {
  /** Bytes of one number: 1, 2 or 4. */
  readonly bytesEach: number;
  /** Numbers of a block, which share a split. */
  readonly blockLength: number;
}

/** By bytes of a number: bits that write a block's split, the split that says "not packed", bits of a number. */
const WIDTHS: Readonly<Record<number, { splitBits: number; plainSplit: number; bits: number }>> = {
  1: { splitBits: 3, plainSplit: 6, bits: 8 },
  2: { splitBits: 4, plainSplit: 14, bits: 16 },
  4: { splitBits: 5, plainSplit: 25, bits: 32 },
};

/** @returns `count` numbers, signed except those of one byte
 * @throws FITS_UNREADABLE where the packed bytes end too soon or numbers of that width are never packed so */
export function unpackRice(packed: Uint8Array, count: number, { bytesEach, blockLength }: RicePacking): Int32Array {
  const width = WIDTHS[bytesEach];
  if (!width) throw new CoreError('FITS_UNREADABLE', `Numbers of ${bytesEach} bytes are never packed by Rice`, {});
  const bits = new BitReader(packed);
  const values = new Int32Array(count);
  const fold = folding(bytesEach);
  let last = bits.take(width.bits);
  for (let from = 0; from < count; from += blockLength) {
    const split = bits.take(width.splitBits) - 1;
    for (let i = from; i < Math.min(from + blockLength, count); i++) {
      last = fold(last + differenceOf(bits, split, width));
      values[i] = last;
    }
  }
  return values;
}

/** A difference with its sign in its lowest bit. A split below zero means a block of equal numbers. */
function differenceOf(
  bits: BitReader,
  split: number,
  { plainSplit, bits: plainBits }: (typeof WIDTHS)[number],
): number {
  if (split < 0) return 0;
  const mapped = split === plainSplit ? bits.take(plainBits) : ((bits.zeros() << split) | bits.take(split)) >>> 0;
  return mapped & 1 ? ~(mapped >>> 1) : mapped >>> 1;
}

/** Sums run over at the width of a number. */
function folding(bytesEach: number): (value: number) => number {
  if (bytesEach === 1) return (value) => value & 0xff;
  if (bytesEach === 2) return (value) => (value << 16) >> 16;
  return (value) => value | 0;
}

/** Bits from the highest of each byte on. */
class BitReader {
  readonly #bytes: Uint8Array;
  #at = 0;
  /** Bits of the byte before `#at` that are still to come. */
  #left = 0;

  constructor(bytes: Uint8Array) {
    this.#bytes = bytes;
  }

  take(count: number): number {
    let value = 0;
    for (let wanted = count; wanted > 0;) {
      if (this.#left === 0) this.#next();
      const some = Math.min(wanted, this.#left);
      this.#left -= some;
      value = (value << some) | ((this.#bytes[this.#at - 1] >> this.#left) & ((1 << some) - 1));
      wanted -= some;
    }
    return value >>> 0;
  }

  /** Zeros before the next one, which is taken as well. */
  zeros(): number {
    for (let count = 0; ;) {
      if (this.#left === 0) this.#next();
      const rest = this.#bytes[this.#at - 1] & ((1 << this.#left) - 1);
      if (rest === 0) {
        count += this.#left;
        this.#left = 0;
        continue;
      }
      const before = this.#left - (32 - Math.clz32(rest));
      this.#left -= before + 1;
      return count + before;
    }
  }

  #next(): void {
    if (this.#at >= this.#bytes.length)
      throw new CoreError('FITS_UNREADABLE', 'The packed pixels end before the last one', {});
    this.#at += 1;
    this.#left = 8;
  }
}

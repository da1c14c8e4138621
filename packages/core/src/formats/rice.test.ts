import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { unpackRice } from './rice.ts';

/** The packing as the standard tells it, with one split for all: slow and plain, for numbers of 16 bits. */
function pack(values: readonly number[], blockLength: number, split: number): Uint8Array {
  let bits = '';
  const write = (value: number, width: number): void => {
    bits += (value >>> 0).toString(2).padStart(width, '0').slice(-width);
  };
  write(values[0] & 0xffff, 16);
  values.forEach((value, i) => {
    if (i % blockLength === 0) write(split + 1, 4);
    const difference = ((value - values[Math.max(0, i - 1)]) << 16) >> 16;
    const mapped = difference < 0 ? ~(difference << 1) : difference << 1;
    if (split === 14) return write(mapped, 16);
    bits += '0'.repeat(mapped >>> split) + '1';
    if (split > 0) write(mapped & ((1 << split) - 1), split);
  });
  return Uint8Array.from(bits.match(/.{1,8}/g)!, (byte) => parseInt(byte.padEnd(8, '0'), 2));
}

describe('numbers packed by Rice', () => {
  it('come back, whatever block, split and numbers', () => {
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: -32768, max: 32767 }), { minLength: 1, maxLength: 100 }),
        fc.integer({ min: 1, max: 40 }),
        fc.constantFrom(6, 9, 12, 14),
        (values, blockLength, split) => {
          const packed = pack(values, blockLength, split);
          expect([...unpackRice(packed, values.length, { bytesEach: 2, blockLength })]).toEqual(values);
        },
      ),
    );
  });

  it('come back from a block that says they are all equal', () => {
    const packed = Uint8Array.from([0x12, 0x34, 0x00]);
    expect([...unpackRice(packed, 32, { bytesEach: 2, blockLength: 32 })]).toEqual(new Array(32).fill(0x1234));
  });

  it('that end too soon, or have a width that never is, are refused', () => {
    const packed = pack([1, 200, -3000, 5], 32, 9);
    expect(() => unpackRice(packed.subarray(0, 5), 4, { bytesEach: 2, blockLength: 32 })).toThrow(/end before/);
    expect(() => unpackRice(packed, 4, { bytesEach: 3, blockLength: 32 })).toThrow(/3 bytes/);
  });
});

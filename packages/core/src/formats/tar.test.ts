import { describe, expect, it } from '@jest/globals';
import { seededRandom } from '../random.ts';
import { padded, tarHeader, tarLayout, tarPieces } from './tar.ts';

const entries = [
  { name: 'list.csv', sizeBytes: 37, modifiedUtcMs: 1e12 },
  { name: 'night/one.fits', sizeBytes: 512, modifiedUtcMs: 1.1e12 },
  { name: 'night/empty.fits', sizeBytes: 0, modifiedUtcMs: 1.2e12 },
  { name: `${'long/'.repeat(25)}two.fits`, sizeBytes: 1300, modifiedUtcMs: 1.3e12 },
];
const data = entries.map(({ sizeBytes }, e) => Uint8Array.from({ length: sizeBytes }, (_, i) => (7 * i + e) % 256));

/** The archive's bytes from one place to another. */
function bytesOf(start?: number, end?: number): Uint8Array {
  const layout = tarLayout(entries);
  const parts = [...tarPieces(layout, start, end)].map((piece) => {
    if (piece.kind === 'zeros') return new Uint8Array(piece.length);
    const whole = piece.kind === 'header' ? tarHeader(piece.entry) : data[layout.entries.indexOf(piece.entry)];
    return whole.subarray(piece.from, piece.to);
  });
  return Uint8Array.from(parts.flatMap((part) => [...part]));
}

describe('an archive', () => {
  it('is as long as it says, in whole blocks, with a sum over each header', () => {
    const { sizeBytes, entries: placed } = tarLayout(entries);
    const whole = bytesOf();
    expect([whole.length, sizeBytes % 512, padded(37)]).toEqual([sizeBytes, 0, 512]);
    for (const { headerAt } of placed) {
      const header = whole.slice(headerAt, headerAt + 512);
      const told = parseInt(String.fromCharCode(...header.slice(148, 154)), 8);
      expect(header.fill(32, 148, 156).reduce((sum, byte) => sum + byte, 0)).toBe(told);
    }
    expect(whole.slice(-1024).every((byte) => byte === 0)).toBe(true);
  });

  it('goes on from any byte exactly where it was cut', () => {
    const whole = bytesOf();
    const random = seededRandom(2);
    for (let round = 0; round < 200; round++) {
      const start = Math.floor(random() * whole.length);
      const end = start + Math.floor(random() * (whole.length - start));
      expect(bytesOf(start, end)).toEqual(whole.slice(start, end));
    }
  });

  it('cuts long paths at a folder, and refuses what does not fit', () => {
    const header = tarHeader(entries[3]);
    const text = (from: number, to: number): string =>
      String.fromCharCode(...header.slice(from, to)).replace(/\0+$/, '');
    expect(`${text(345, 500)}/${text(0, 100)}`).toBe(entries[3].name);
    expect(() => tarLayout([{ name: 'x'.repeat(101), sizeBytes: 1, modifiedUtcMs: 0 }])).toThrow('too long');
    expect(() => tarLayout([{ name: 'x', sizeBytes: 9e10, modifiedUtcMs: 0 }])).toThrow('too large');
  });
});

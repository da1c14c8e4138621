import { describe, expect, it } from '@jest/globals';
import { readFitsHeaders } from './fits-header.ts';
import { pixelParts } from './fits-pixels.ts';
import { writeFits } from './fits-writer.ts';

const picture = { widthPx: 3, heightPx: 2, pixels: Uint16Array.from([0, 1, 32_767, 32_768, 65_534, 65_535]) };

describe('a written picture', () => {
  const bytes = writeFits(picture, [
    { keyword: 'OBJECT', value: "O'Neill’s étoile" },
    { keyword: 'EXPTIME', value: 12.5, comment: 's' },
    { keyword: 'SIMULATE', value: true },
  ]);
  const [unit] = readFitsHeaders(bytes).units;
  const value = (keyword: string) => unit.cards.find((card) => card.keyword === keyword)?.value;

  it('is whole blocks, with its cards as they were given in plain letters', () => {
    expect(bytes.length % 2880).toBe(0);
    expect([value('OBJECT'), value('EXPTIME'), value('SIMULATE'), value('NAXIS1'), value('BZERO')]).toEqual(["O'Neill?s etoile", 12.5, true, 3, 32_768]); // prettier-ignore
  });
  it('has its pixels again, the whole range of them', async () => {
    const data = bytes.subarray(2880);
    const source = { read: async (from: number, length: number) => data.subarray(from, from + length) };
    const read: number[] = [];
    for await (const part of pixelParts(unit.cards, source as never)) read.push(...part);
    expect(read).toEqual([...picture.pixels]);
  });
  it('refuses what no header can hold', () => {
    expect(() => writeFits(picture, [{ keyword: 'too long a word', value: 1 }])).toThrow('is no FITS keyword');
    expect(() => writeFits(picture, [{ keyword: 'X', value: Number.NaN }])).toThrow('finite');
    expect(() => writeFits(picture, [{ keyword: 'OBJECT', value: 'x'.repeat(90) }])).toThrow('too long');
  });
});

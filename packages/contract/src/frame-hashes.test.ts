// Files in fixtures/pixels, and what their pixels hash to, are written by an independent library and packer (scripts/pixel-fixtures.py).
import { describe, expect, it } from '@jest/globals';
import { gzipSync } from 'node:zlib';
import { readdirSync, readFileSync } from 'node:fs';
import { readFrameFile } from './frame-file.ts';
import { hashesOf } from './frame-hashes.ts';

const folder = new URL('../fixtures/pixels/', import.meta.url);
const expected = JSON.parse(readFileSync(new URL('expected.json', folder), 'utf8')) as Record<string, string | null>;
const names = readdirSync(folder).filter((name) => name.endsWith('.fits'));

const bytesOf = (name: string): Uint8Array<ArrayBuffer> => new Uint8Array(readFileSync(new URL(name, folder)));
const hashesIn = async (name: string, bytes: Uint8Array<ArrayBuffer>) => {
  const [{ data }] = await readFrameFile(name, new Blob([bytes]), 'UTC');
  return hashesOf(data!);
};

describe('the hash of the pixels', () => {
  it('is tried on every file there is', () => {
    expect(names.toSorted()).toEqual(Object.keys(expected).toSorted());
    expect(Object.values(expected).filter((hash) => hash === null)).toHaveLength(3);
  });

  it.each(names)('is what the independent library makes of %s, or none', async (name) => {
    expect((await hashesIn(name, bytesOf(name))).pixelsSha256).toBe(expected[name]);
  });

  it('is one for all lossless ways to write a frame, while the bytes differ', async () => {
    const unsigned = names.filter((name) => expected[name] === expected['unsigned.fits']);
    expect(unsigned.length).toBeGreaterThanOrEqual(12);
    const hashes = await Promise.all(unsigned.map(async (name) => hashesIn(name, bytesOf(name))));
    expect(new Set(hashes.map(({ pixelsSha256 }) => pixelsSha256)).size).toBe(1);
    expect(new Set(hashes.map(({ dataSha256 }) => dataSha256)).size).toBeGreaterThan(8);
  });

  it('is the same for a file gzipped whole', async () => {
    const zipped = await hashesIn('unsigned.fits.gz', new Uint8Array(gzipSync(bytesOf('unsigned.fits'))));
    expect(zipped).toEqual(await hashesIn('unsigned.fits', bytesOf('unsigned.fits')));
  });

  it.each(['unsigned.fits', 'unsigned-rice_1.fits', 'unsigned-gzip_1.fits', 'wide-rice.fits'])(
    'changes with one pixel, and is none where %s is cut off',
    async (name) => {
      const whole = bytesOf(name);
      const other = whole.slice();
      other[whole.findLastIndex((byte) => byte !== 0) - 3] ^= 0x10;
      expect((await hashesIn(name, other)).pixelsSha256).not.toBe(expected[name]);
      // After a whole pixel, whatever its size.
      const short = whole.slice(0, (whole.findLastIndex((byte) => byte !== 0) & ~7) - 200);
      expect((await hashesIn(name, short)).pixelsSha256).toBeNull();
    },
  );
});

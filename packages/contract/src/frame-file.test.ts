import { describe, expect, it } from '@jest/globals';
import { gzipSync } from 'node:zlib';
import { createHash } from 'node:crypto';
import { LEDGER_COLUMNS } from '@meridiem/core';
import { readFrameFile } from './frame-file.ts';
import { hashesOf } from './frame-hashes.ts';

const BLOCK = 2880;
const padded = (text: string): string => text.padEnd(Math.ceil(text.length / BLOCK) * BLOCK);
const header = (cards: readonly string[]): string => padded([...cards, 'END'].map((card) => card.padEnd(80)).join(''));
const IMAGE = ['BITPIX  = 16', 'NAXIS   = 2', 'NAXIS1  = 30', 'NAXIS2  = 20'];
const FACTS = [
  "IMAGETYP= 'Light Frame'",
  "OBJECT  = 'NGC 55'",
  "FILTER  = 'Ha'",
  'EXPTIME = 300.0',
  "DATE-OBS= '2026-10-11T02:03:04.500'",
];
const data = Uint8Array.from({ length: 1200 }, (_, i) => (i * 7) % 251);
const fits = (cards: readonly string[], before = ''): Blob =>
  new Blob([before, header(cards), data, new Uint8Array(Math.ceil(1200 / BLOCK) * BLOCK - 1200)]);
const light = fits(['SIMPLE  =                    T', ...IMAGE, ...FACTS]);
const hashOf = (bytes: Uint8Array): string => createHash('sha256').update(bytes).digest('hex');

const only = async (name: string, source: Blob) => {
  const read = await readFrameFile(name, source, 'America/Santiago');
  expect(read).toHaveLength(1);
  return read[0];
};

describe('a frame', () => {
  it('is read from its header, with the bytes whose hash names it', async () => {
    const { file, data: unit } = await only('a.fits', light);
    expect(file).toMatchObject({ name: 'a.fits', sizeBytes: light.size, refused: null, verdict: null });
    expect(file.facts).toMatchObject({ kind: 'light', objectName: 'NGC 55', filterName: 'Ha', exposureSec: 300 });
    expect(file.facts!.startUtcMs).toBe(Date.parse('2026-10-11T02:03:04.500Z'));
    expect((await hashesOf(unit!)).dataSha256).toBe(hashOf(data));
  });

  it('is the same frame compressed', async () => {
    const packed = new Blob([gzipSync(new Uint8Array(await light.arrayBuffer()))]);
    const [plain, zipped] = [await only('a.fits', light), await only('a.fits.gz', packed)];
    expect(zipped.file.facts).toEqual(plain.file.facts);
    expect(await hashesOf(zipped.data!)).toEqual(await hashesOf(plain.data!));
  });

  it('is found behind a first unit without an image, however far on it stands', async () => {
    const empty = header([
      'SIMPLE  =                    T',
      'BITPIX  = 8',
      'NAXIS   = 0',
      'EXTEND  =                    T',
    ]);
    const far = header([
      "XTENSION= 'BINTABLE'",
      'BITPIX  = 8',
      'NAXIS   = 2',
      'NAXIS1  = 2880',
      'NAXIS2  = 60',
      'PCOUNT  = 0',
      'GCOUNT  = 1',
      'TFIELDS = 0',
    ]);
    const table = ' '.repeat(60 * BLOCK);
    const image = ["XTENSION= 'IMAGE   '", ...IMAGE, 'PCOUNT  = 0', 'GCOUNT  = 1', ...FACTS];
    for (const before of [empty, empty + far + table]) {
      const { file, data: unit } = await only('b.fits', fits(image, before));
      expect(file.facts).toMatchObject({ objectName: 'NGC 55', widthPx: 30, heightPx: 20 });
      expect((await hashesOf(unit!)).dataSha256).toBe(hashOf(data));
    }
  });

  it('that can’t be read is refused in words, and keeps its name and size', async () => {
    const rubbish = new Blob(['this is a letter to my aunt']);
    const { file, data: unit } = await only('letter.fits', rubbish);
    expect(file).toMatchObject({ name: 'letter.fits', sizeBytes: rubbish.size, facts: null });
    expect(file.refused).toMatch(/\w+ \w+/);
    expect(unit).toBeNull();
    const torn = new Blob([gzipSync(new Uint8Array(await light.arrayBuffer())).subarray(0, 40)]);
    expect((await only('torn.fits.gz', torn)).file.refused).not.toBeNull();
    expect((await only('none.fits', new Blob([]))).file.refused).not.toBeNull();
    const bare = new Blob([header(['SIMPLE  =                    T', 'BITPIX  = 8', 'NAXIS   = 0'])]);
    expect((await only('bare.fits', bare)).file.refused).toBe('The file holds no image');
  });
});

describe('a table', () => {
  const names = LEDGER_COLUMNS.map(({ name }) => name);
  const row = (values: Readonly<Record<string, string>>): string => names.map((name) => values[name] ?? '').join(',');
  const whole = {
    start_utc: '2026-10-11T02:03:04Z',
    kind: 'light',
    filter: 'R',
    exposure_s: '120',
    binning: '1',
    verdict: 'rejected',
    data_sha256: 'ab'.repeat(32),
    header_key: 'wren 12',
  };
  const table = (...rows: Readonly<Record<string, string>>[]): Blob =>
    new Blob([[names.join(','), ...rows.map(row)].join('\n')]);

  it('gives a frame a row, each with what identifies it', async () => {
    const read = await readFrameFile(
      'old.csv',
      table(whole, { ...whole, verdict: 'perhaps', data_sha256: 'short' }),
      'UTC',
    );
    expect(read.map(({ file }) => file.name)).toEqual(['old.csv, row 1', 'old.csv, row 2']);
    expect(read[0].file).toMatchObject({ dataSha256: whole.data_sha256, headerKey: 'wren 12', verdict: 'rejected' });
    expect(read[0].file.facts).toMatchObject({ filterName: 'R', exposureSec: 120 });
    expect(read[1].file).toMatchObject({ dataSha256: null, verdict: null, refused: null });
  });

  it('refuses a row that can’t be read and takes the others', async () => {
    const read = await readFrameFile('old.csv', table({ ...whole, exposure_s: 'long' }, whole), 'UTC');
    expect(read[0].file).toMatchObject({ facts: null, refused: 'Row 1: exposure_s "long" is no number' });
    expect(read[1].file.refused).toBeNull();
  });

  it('that is none is refused whole', async () => {
    const [{ file }] = await readFrameFile('old.xml', new Blob(['<?xml version="1.0"?><letter/>']), 'UTC');
    expect(file.facts).toBeNull();
    expect(file.refused).not.toBeNull();
  });
});

it('a packed file that unpacks to far more than a frame is refused before it fills the memory', async () => {
  const zeros = new Blob([new Uint8Array(16 * 1_048_576)]);
  const many = new Blob(Array.from({ length: 8 }, () => zeros));
  const packed = await new Response(many.stream().pipeThrough(new CompressionStream('gzip'))).blob();
  const [{ file }] = await readFrameFile('bomb.fits.gz', packed, 'UTC');
  expect(file.refused).toMatch(/far larger/);
}, 60_000);

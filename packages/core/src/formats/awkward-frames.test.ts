// Every awkward frame of fixtures/frames with what is made of it; docs/formats.md tells the same in words.
import { describe, expect, it } from '@jest/globals';
import { readFileSync, readdirSync } from 'node:fs';
import { gunzipSync } from 'node:zlib';
import { CoreError } from '../errors.ts';
import { cardOf, readFitsHeaders } from './fits-header.ts';
import type { FrameFacts } from './frame-facts.ts';
import { frameFacts } from './frame-facts.ts';

const FOLDER = new URL('../../fixtures/frames/', import.meta.url);
const FORMATS = readFileSync(new URL('../../../../docs/formats.md', import.meta.url), 'utf8');
const START = Date.parse('2026-10-10T12:34:56.789Z');

const bytesOf = (name: string): Uint8Array => {
  const bytes = readFileSync(new URL(name, FOLDER));
  return name.endsWith('.gz') ? gunzipSync(bytes) : bytes;
};
const factsOf = (name: string): FrameFacts =>
  frameFacts(readFitsHeaders(bytesOf(name)), { timeZone: 'Australia/Adelaide' })!;

const PLAIN = {
  kind: 'light',
  objectName: 'NGC 7090',
  filterName: 'L',
  exposureSec: 120,
  gain: 100,
  startUtcMs: START,
  widthPx: 8,
  heightPx: 6,
  isTruncated: false,
} as const;

/** name, facts that differ from a plain frame's or matter here, a word of the doubt (none: no doubt at all) */
const OUTCOMES: readonly [string, Partial<FrameFacts>, RegExp | null][] = [
  ['w-plain.fits', { offset: 30, sensorC: -10, cameraName: 'Heron camera' }, /RA 324|^$/],
  ['w-ra-hours-comment.fits', {}, null],
  ['w-ra-sexagesimal.fits', {}, null],
  ['w-only-objctra.fits', {}, null],
  ['w-exposure-differs.fits', {}, /EXPTIME is used/],
  ['w-only-exposure.fits', {}, null],
  ['w-date-and-ut.fits', {}, null],
  ['w-two-digit-year.fits', { startUtcMs: START - 789, startStepMs: 1000 }, /two-digit year, read as 2026/],
  ['w-local-time.fits', {}, /10\.50 h ahead/],
  ['w-gain-is-egain.fits', { gain: null }, /electrons per ADU/],
  ['w-filter-blank.fits', { filterName: null }, null],
  ['w-filter-padded-lower.fits', { filterName: 'ha' }, null],
  ['w-flat-variant.fits', { kind: 'flat' }, null],
  ['w-bias-variant.fits', { kind: 'bias', exposureSec: 0 }, null],
  ['w-unsigned.fits', {}, null],
  ['w-continue.fits', {}, null],
  ['w-hierarch.fits', {}, null],
  ['w-compressed.fits', { widthPx: 32, heightPx: 24 }, null],
  ['w-multi-extension.fits', { filterName: 'OIII' }, null],
  ['w-second-a.fits', { startUtcMs: Date.parse('2026-10-10T12:40:00Z'), startStepMs: 1000, sequence: 41 }, null],
  ['w-second-b.fits', { startUtcMs: Date.parse('2026-10-10T12:40:00Z'), startStepMs: 1000, sequence: 42 }, null],
  ['w-new-header.fits', { objectName: 'NGC7090 renamed', filterName: 'Lum' }, null],
  ['d-exponent.fits', {}, /no IMAGETYP|^$/],
  ['duplicate-card.fits', {}, /FILTER appears twice, as L and R; the first is used/],
  ['not-ascii.fits', {}, /OBSERVER holds characters outside ASCII/],
  ['not-padded.fits', {}, /not padded/],
  ['data-short.fits', { isTruncated: true }, /shorter than announced: 60 of 96 bytes/],
  ['gzipped.fits.gz', {}, null],
];
const SOLVED: readonly [string, Partial<FrameFacts>][] = [
  ['w-cd-matrix.fits', { positionAngleDeg: 30, isMirrored: false }],
  ['w-pc-cdelt.fits', { positionAngleDeg: 30, isMirrored: false }],
  ['w-cdelt-crota.fits', { positionAngleDeg: 30, isMirrored: false }],
  ['w-mirrored.fits', { positionAngleDeg: 0, isMirrored: true }],
  ['w-off-centre-wcs.fits', { positionAngleDeg: 0, isMirrored: false }],
];
const REFUSED: readonly [string, RegExp][] = [
  ['no-end.fits', /no END card/],
  ['empty.fits', /empty/],
  ['not-fits.fits', /no FITS file/],
];

describe('awkward frames', () => {
  it.each(OUTCOMES)('%s', (name, expected, doubt) => {
    const facts = factsOf(name);
    expect(facts).toMatchObject({ ...PLAIN, ...expected });
    expect(facts.centre?.raDeg).toBeCloseTo(324.12, 3);
    expect(facts.centre?.decDeg).toBeCloseTo(-54.557, 3);
    if (doubt) expect(facts.doubts.join('; ')).toMatch(doubt);
    else expect(facts.doubts).toEqual([]);
  });

  it.each(SOLVED)('%s carries a solution', (name, expected) => {
    const { positionAngleDeg, isMirrored, scaleArcsecPerPx, centre } = factsOf(name);
    expect(isMirrored).toBe(expected.isMirrored);
    expect(positionAngleDeg).toBeCloseTo(expected.positionAngleDeg!, 6);
    expect(scaleArcsecPerPx).toBeCloseTo(0.72, 6);
    const shift = name === 'w-off-centre-wcs.fits' ? (500 * 2e-4) / Math.cos((54.557 * Math.PI) / 180) : 0;
    expect(centre!.raDeg).toBeCloseTo(324.12 + shift, 4);
  });

  it.each(REFUSED)('%s is refused with the reason', (name, words) => {
    expect(() => readFitsHeaders(bytesOf(name))).toThrow(CoreError);
    expect(() => readFitsHeaders(bytesOf(name))).toThrow(words);
  });

  it('joins a text that CONTINUE cards carry, and keeps HIERARCH keywords', () => {
    expect(factsOf('w-continue.fits').observerName).toHaveLength(148);
    const { units } = readFitsHeaders(bytesOf('w-hierarch.fits'));
    expect(cardOf(units[0].cards, 'STATION SKY QUALITY')?.value).toBe(21.6);
  });

  it('finds the same data unit behind different headers, and different data behind the same second', () => {
    const data = (name: string): string => {
      const { dataStart, dataLength } = factsOf(name);
      return Buffer.from(bytesOf(name).subarray(dataStart, dataStart + dataLength)).toString('hex');
    };
    expect(data('w-new-header.fits')).toBe(data('w-plain.fits'));
    expect(data('not-padded.fits')).toBe(data('w-plain.fits'));
    expect(data('w-second-a.fits')).not.toBe(data('w-second-b.fits'));
  });

  it('reads a header from the file’s beginning alone', () => {
    const bytes = bytesOf('w-plain.fits');
    const facts = frameFacts(readFitsHeaders(bytes.subarray(0, 2880), bytes.length), { timeZone: 'UTC' })!;
    expect(facts).toMatchObject({ ...PLAIN, dataStart: 2880, dataLength: 96 });
  });

  it('are all told in docs/formats.md', () => {
    const files = readdirSync(FOLDER);
    const known = [...OUTCOMES, ...SOLVED, ...REFUSED].map(([name]) => name);
    expect([...known].sort()).toEqual(files.sort());
    for (const name of files) expect(FORMATS).toContain(`\`${name}\``);
  });
});

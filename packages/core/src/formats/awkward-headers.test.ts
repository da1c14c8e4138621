// A hundred headers as writers write them, each with what is made of it: the fact, and the doubt where one had to be guessed.
import { describe, expect, it } from '@jest/globals';
import type { FitsCard } from './fits-header.ts';
import type { FrameFacts } from './frame-facts.ts';
import { frameFacts } from './frame-facts.ts';
import { combinedName } from './frame-settings.ts';

type Written = Readonly<Record<string, string | number | boolean | null | readonly [string | number, string]>>;

const PLAIN: Written = {
  SIMPLE: true,
  BITPIX: 16,
  NAXIS: 2,
  NAXIS1: 800,
  NAXIS2: 600,
  IMAGETYP: 'Light Frame',
  'DATE-OBS': '2026-10-10T12:34:56.789',
  EXPTIME: 120,
  FILTER: 'L',
  GAIN: 100,
  RA: [324.12, 'degrees'],
  DEC: [-54.557, 'degrees'],
};
const START = Date.parse('2026-10-10T12:34:56.789Z');

/** @param changes null takes a card away; a pair is a value with its comment */
function read(changes: Written): FrameFacts {
  const cards = Object.entries({ ...PLAIN, ...changes }).flatMap(([keyword, written]): FitsCard[] => {
    if (written === null) return [];
    const [value, comment] = Array.isArray(written) ? (written as [string | number, string]) : [written, ''];
    return [{ keyword, value: value as FitsCard['value'], comment }];
  });
  const units = [{ cards, dataStart: 2880, dataLength: 960_000, dataPresent: 960_000 }];
  return frameFacts({ units, doubts: [] }, { timeZone: 'Australia/Adelaide' })!;
}

type Row = readonly [string, Written, Partial<FrameFacts>, RegExp | null];
const check = (_: string, changes: Written, expected: Partial<FrameFacts>, doubt: RegExp | null): void => {
  const facts = read(changes);
  expect(facts).toMatchObject(expected);
  if (doubt) expect(facts.doubts.join('; ')).toMatch(doubt);
  else expect(facts.doubts).toEqual([]);
};
const at = (iso: string): number => Date.parse(iso);

describe('the moment', () => {
  const none = { 'DATE-OBS': null };
  it.each<Row>([
    ['plain', {}, { startUtcMs: START, startStepMs: 1 }, null],
    ['with Z', { 'DATE-OBS': '2026-10-10T12:34:56.789Z' }, { startUtcMs: START }, null],
    ['with a blank for T', { 'DATE-OBS': '2026-10-10 12:34:56.789' }, { startUtcMs: START }, null],
    ['with two blanks for T', { 'DATE-OBS': '2026-10-10  12:34:56' }, { startUtcMs: at('2026-10-10T12:34:56Z') }, null],
    ['in DATE-BEG', { ...none, 'DATE-BEG': '2026-10-10T12:34:56.789' }, { startUtcMs: START }, null],
    [
      'in DATE-BEG beside another DATE-OBS',
      { 'DATE-BEG': '2026-10-10T12:30:00' },
      { startUtcMs: at('2026-10-10T12:30:00Z') },
      null,
    ],
    [
      'as the middle in DATE-AVG',
      { ...none, 'DATE-AVG': '2026-10-10T12:35:56.789' },
      { startUtcMs: START },
      /half an exposure before/,
    ],
    [
      'as the middle, with XPOSURE',
      { ...none, EXPTIME: null, XPOSURE: 60, 'DATE-AVG': '2026-10-10T12:35:00' },
      { startUtcMs: at('2026-10-10T12:34:30Z'), exposureSec: 60 },
      /half an exposure/,
    ],
    ['in MJD-OBS', { ...none, 'MJD-OBS': 61_323.5 }, { startUtcMs: at('2026-10-10T12:00:00Z') }, null],
    ['in MJD-BEG', { ...none, 'MJD-BEG': 61_323.5 }, { startUtcMs: at('2026-10-10T12:00:00Z') }, null],
    ['in JD', { ...none, JD: 2_461_324 }, { startUtcMs: at('2026-10-10T12:00:00Z') }, null],
    ['on TAI', { TIMESYS: 'TAI' }, { startUtcMs: START - 37_000 }, /TAI runs 37 s ahead/],
    ['on TT', { TIMESYS: 'TT' }, { startUtcMs: START - 69_184 }, /TT runs 69.184 s/],
    ['on TDB', { TIMESYS: 'TDB' }, { startUtcMs: START - 69_184 }, /TDB/],
    ['on GPS time', { TIMESYS: 'GPS' }, { startUtcMs: START - 18_000 }, /GPS/],
    ['on UTC, said', { TIMESYS: 'UTC' }, { startUtcMs: START }, null],
    ['as a date and UT', { 'DATE-OBS': '2026-10-10', UT: '12:34:56.789' }, { startUtcMs: START }, null],
    ['as a date and TIME-OBS', { 'DATE-OBS': '2026-10-10', 'TIME-OBS': '12:34:56.789' }, { startUtcMs: START }, null],
    ['as a date alone', { 'DATE-OBS': '2026-10-10' }, { startUtcMs: null }, /no time of day/],
    ['with a day that is none', { 'DATE-OBS': '2026-02-30T12:00:00' }, { startUtcMs: null }, /can't be read/],
    ['beyond all nights', { 'DATE-OBS': null, 'MJD-OBS': 9e9 }, { startUtcMs: null }, /can’t be/],
    ['nowhere', none, { startUtcMs: null }, null],
  ])('%s', check);
});

describe('the length', () => {
  const none = { EXPTIME: null };
  it.each<Row>([
    ['in EXPOSURE', { ...none, EXPOSURE: 90 }, { exposureSec: 90 }, null],
    ['in XPOSURE', { ...none, XPOSURE: 90 }, { exposureSec: 90 }, null],
    ['as text', { EXPTIME: '120.0' }, { exposureSec: 120 }, null],
    [
      'in milliseconds, says its comment',
      { EXPTIME: [120_000, '[ms] shutter open'] },
      { exposureSec: 120 },
      /another unit; read as 120 s/,
    ],
    ['in minutes, says its comment', { EXPTIME: [2, 'minutes'] }, { exposureSec: 120 }, /another unit/],
    ['in seconds, says its comment', { EXPTIME: [120, 'seconds'] }, { exposureSec: 120 }, null],
    ['twice, differently', { EXPOSURE: 60 }, { exposureSec: 120 }, /EXPTIME says 120 s, EXPOSURE 60/],
    ['twice, in two units that agree', { EXPOSURE: [120_000, '[ms]'] }, { exposureSec: 120 }, /read as 120 s/],
    ['negative', { EXPTIME: -1 }, { exposureSec: null }, /exposureSec -1 can’t be/],
    ['longer than a day', { EXPTIME: 1e6 }, { exposureSec: null }, /can’t be/],
    ['nowhere', none, { exposureSec: null }, null],
  ])('%s', check);
});

describe('binning', () => {
  it.each<Row>([
    ['unsaid', {}, { binning: 1 }, null],
    ['an axis each', { XBINNING: 2, YBINNING: 2 }, { binning: 2 }, null],
    ['one axis', { XBINNING: 3 }, { binning: 3 }, null],
    ['2x2', { BINNING: '2x2' }, { binning: 2 }, null],
    ['2 x 2', { BINNING: '2 x 2' }, { binning: 2 }, null],
    ['2 2 in CCDSUM', { CCDSUM: '2 2' }, { binning: 2 }, null],
    ['4,4', { BIN: '4,4' }, { binning: 4 }, null],
    ['a number', { BINNING: 2 }, { binning: 2 }, null],
    ['CCDBIN1', { CCDBIN1: 2, CCDBIN2: 2 }, { binning: 2 }, null],
    ['CCDXBIN', { CCDXBIN: 2, CCDYBIN: 2 }, { binning: 2 }, null],
    ['2 by 1', { XBINNING: 2, YBINNING: 1 }, { binning: null }, /2 × 1 is none/],
    ['0', { XBINNING: 0 }, { binning: null }, /unknown/],
    ['words', { BINNING: 'none' }, { binning: null }, /unknown/],
  ])('%s', check);
});

describe('the filter', () => {
  it.each<Row>([
    ['in FILTER1 of one wheel', { FILTER: null, FILTER1: 'Ha' }, { filterName: 'Ha' }, null],
    ['in the second of two wheels', { FILTER: null, FILTER1: 'Clear', FILTER2: 'Ha' }, { filterName: 'Ha' }, null],
    ['in the first of two wheels', { FILTER: null, FILTER1: 'OIII', FILTER2: 'Empty' }, { filterName: 'OIII' }, null],
    [
      'in both wheels',
      { FILTER: null, FILTER1: 'Ha', FILTER2: 'Polariser' },
      { filterName: 'Ha + Polariser' },
      /two wheels hold glass/,
    ],
    ['twice the same', { FILTER1: 'L' }, { filterName: 'L' }, null],
    ['clear in all', { FILTER: null, FILTER1: 'Clear', FILTER2: 'None' }, { filterName: 'Clear' }, null],
    ['in FILTER beside an empty wheel', { FILTER: 'R', FILTER1: 'Empty' }, { filterName: 'R' }, null],
    ['with control characters', { FILTER: 'H\u0007a' }, { filterName: 'H a' }, null],
    ['blank', { FILTER: '   ' }, { filterName: null }, null],
    ['very long', { FILTER: 'x'.repeat(400) }, { filterName: 'x'.repeat(300) }, null],
  ])('%s', check);
});

describe('the position', () => {
  const solved = {
    CRVAL1: 324.12,
    CRVAL2: -54.557,
    CRPIX1: 400.5,
    CRPIX2: 300.5,
    CD1_1: -2e-4,
    CD1_2: 0,
    CD2_1: 0,
    CD2_2: 2e-4,
  };
  const sky = { CTYPE1: 'RA---TAN', CTYPE2: 'DEC--TAN' };
  const bare = { RA: null, DEC: null };
  it.each<Row>([
    ['solved', { ...solved, ...sky }, { centre: { raDeg: 324.12, decDeg: -54.557 }, positionAngleDeg: 0 }, null],
    [
      'solved, with distortion',
      { ...solved, CTYPE1: 'RA---TAN-SIP', CTYPE2: 'DEC--TAN-SIP' },
      { positionAngleDeg: 0 },
      null,
    ],
    [
      'of a linear axis',
      { ...bare, ...solved, CTYPE1: 'LINEAR', CTYPE2: 'LINEAR' },
      { centre: null, positionAngleDeg: null },
      /no place on the sky/,
    ],
    ['of a detector', { ...bare, ...solved, CTYPE1: 'DETX', CTYPE2: 'DETY' }, { centre: null }, /no place on the sky/],
    [
      'in galactic coordinates',
      { ...bare, ...solved, CTYPE1: 'GLON-TAN', CTYPE2: 'GLAT-TAN' },
      { centre: null },
      /GLON-TAN/,
    ],
    ['of a spectrum', { ...bare, ...solved, CTYPE1: 'WAVE', CTYPE2: 'DEC--TAN' }, { centre: null }, /WAVE/],
    ['0, 0', { RA: 0, DEC: 0 }, { centre: null }, /0, 0/],
    ['0, 0 in CRVAL', { ...bare, CRVAL1: 0, CRVAL2: 0 }, { centre: null }, /0, 0/],
    ['00 00 00 in OBJCTRA', { ...bare, OBJCTRA: '00 00 00', OBJCTDEC: '+00 00 00' }, { centre: null }, /0, 0/],
    ['on the equator', { RA: [10.5, 'deg'], DEC: 0 }, { centre: { raDeg: 10.5, decDeg: 0 } }, null],
    ['in hours by its comment', { RA: [21.608, 'hours'] }, { centre: { raDeg: 324.12, decDeg: -54.557 } }, null],
    ['as text', { RA: '21:36:28.8', DEC: '-54:33:25.2' }, {}, null],
    ['for 2000, said', { EQUINOX: 2000 }, { centre: { raDeg: 324.12, decDeg: -54.557 } }, null],
    ['for J2000, in words', { EQUINOX: 'J2000' }, { centre: { raDeg: 324.12, decDeg: -54.557 } }, null],
    ['on ICRS', { RADESYS: 'ICRS' }, { centre: { raDeg: 324.12, decDeg: -54.557 } }, null],
    ['beyond the pole', { DEC: 97 }, { centre: null }, null],
    ['beyond the circle', { RA: [720, 'deg'] }, { centre: null }, null],
    ['without a declination', { DEC: null }, { centre: null }, null],
  ])('%s', check);

  // Reference: astropy, FK5 of 2026.775 and FK4 of 1950 to FK5 of 2000, to 0.001°; ours adds nutation.
  it.each([
    ['JNOW in EQUINOX', { EQUINOX: 'JNOW' }, 323.653, -54.677],
    ['of date in RADESYS', { RADESYS: 'GAPPT' }, 323.653, -54.677],
    ['a year in EQUINOX', { EQUINOX: 2026.775 }, 323.653, -54.677],
    ['1950', { EQUINOX: 1950 }, 324.987, -54.33],
    ['FK4 alone', { RADESYS: 'FK4' }, 324.987, -54.33],
  ] as const)('for another equinox, %s, is turned to J2000', (_, changes, raDeg, decDeg) => {
    const { centre, doubts } = read(changes);
    expect(Math.abs(centre!.raDeg - raDeg)).toBeLessThan(0.01);
    expect(Math.abs(centre!.decDeg - decDeg)).toBeLessThan(0.01);
    expect(doubts.join()).toMatch(/equinox/);
  });
  it('for the equinox of a date that nobody knows is unknown', () => {
    expect(read({ EQUINOX: 'JNOW', 'DATE-OBS': null }).centre).toBeNull();
  });
});

describe('what is no single exposure', () => {
  it.each([
    ['a master flat', { IMAGETYP: 'Master Flat' }],
    ['a stack by its kind', { IMAGETYP: 'Stacked Light' }],
    ['an integration', { IMAGETYP: 'integration' }],
    ['twenty combined', { NCOMBINE: 20 }],
    ['a stack count', { STACKCNT: 12 }],
    ['a list of parts', { IMCMB001: 'light_0001.fits' }],
  ])('%s says so', (_, changes) => expect(read(changes).combined).toMatch(/exposure/));
  it.each(['master_flat_L.fits', 'NGC7090 stacked.fits', 'Ha-integration-60x300.xisf.fits', 'folder/Stack_001.fit'])(
    '%s says so by its name',
    (name) => expect(combinedName(name)).toMatch(/several/),
  );
  it.each(['light_0001.fits', 'mastery lane.fits', 'haystack.fits', 'NGC 7090 L 0007.fit'])('%s does not', (name) =>
    expect(combinedName(name)).toBeNull(),
  );
  it('one exposure of one is one', () => expect(read({ NCOMBINE: 1 }).combined).toBeNull());
});

describe('the rest', () => {
  it.each<Row>([
    ['a sensor in kelvin by its comment', { 'CCD-TEMP': [263.15, '[K]'] }, { sensorC: -10 }, /kelvin/],
    ['a sensor in kelvin by its size', { 'CCD-TEMP': 263.15 }, { sensorC: -10 }, /kelvin/],
    ['a sensor colder than can be', { 'CCD-TEMP': -400 }, { sensorC: null }, /can’t be/],
    ['a gain beyond all', { GAIN: 1e9 }, { gain: null }, /can’t be/],
    ['a negative gain', { GAIN: -3 }, { gain: null }, /can’t be/],
    ['a sequence beyond all', { SEQNUM: 1e30 }, { sequence: null }, /can’t be/],
    [
      'a site',
      { SITELAT: '-31 12 30', SITELONG: '138 30 00' },
      { site: { latitudeDeg: -31.208333333333332, longitudeDeg: 138.5 } },
      null,
    ],
    [
      'a site in numbers',
      { 'LAT-OBS': -31.2, 'LONG-OBS': 221.5 },
      { site: { latitudeDeg: -31.2, longitudeDeg: -138.5 } },
      null,
    ],
    [
      'a site with letters',
      { SITELAT: '31:12:30 S', SITELONG: '138:30:00 W' },
      { site: { latitudeDeg: -31.208333333333332, longitudeDeg: -138.5 } },
      null,
    ],
    ['a site of zeros', { SITELAT: 0, SITELONG: 0 }, { site: null }, null],
    ['half characters in a name', { OBJECT: 'NGC\ud800 7090' }, { objectName: 'NGC\ufffd 7090' }, null],
  ])('%s', check);
});

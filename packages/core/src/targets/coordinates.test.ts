import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import {
  formatDeclination,
  formatRightAscension,
  parseDeclinationDeg,
  parsePosition,
  parseRightAscensionDeg,
} from './coordinates.ts';
import { designationKey } from './designations.ts';

describe('right ascension', () => {
  it.each([
    ['5h 34m 32s', 83.633333],
    ['05:34:32', 83.633333],
    ['05 34 32', 83.633333],
    ['5 34.5', 83.625],
    ['83.633d', 83.633],
    ['83.633°', 83.633],
    ['183.5', 183.5],
    ['0', 0],
  ])('reads %s', (text, expected) => expect(parseRightAscensionDeg(text)).toBeCloseTo(expected, 5));

  it.each(['25h', '-3 00 00', '400°'])('refuses %s as out of range', (text) => {
    expect(() => parseRightAscensionDeg(text)).toThrow(expect.objectContaining({ code: 'COORDINATE_OUT_OF_RANGE' }));
  });
  it.each(['', 'orion', '5h 61m'])('refuses %s', (text) => expect(() => parseRightAscensionDeg(text)).toThrow());
});

describe('declination', () => {
  it.each([
    ['−31.2', -31.2],
    ['-31:12:00', -31.2],
    ['-00 30 00', -0.5],
    ['31 12 00 S', -31.2],
    ['+12° 30′ 36″', 12.51],
  ])('reads %s', (text, expected) => expect(parseDeclinationDeg(text)).toBeCloseTo(expected, 6));
  it('refuses −91°', () => expect(() => parseDeclinationDeg('-91')).toThrow(/outside/));
});

describe('a position', () => {
  it('is none when nothing is typed, never zero', () => expect(parsePosition(' ', '')).toBeNull());
  it('needs both coordinates', () => {
    expect(() => parsePosition('5h', '')).toThrow(/declination is missing/);
    expect(() => parsePosition('', '-5')).toThrow(/right ascension is missing/);
  });

  it('comes back from its own text', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0, max: 359.999, noNaN: true }),
        fc.double({ min: -89.99, max: 89.99, noNaN: true }),
        (raDeg, decDeg) => {
          const ra = parseRightAscensionDeg(formatRightAscension(raDeg));
          expect(Math.min(Math.abs(ra - raDeg), 360 - Math.abs(ra - raDeg))).toBeLessThan(0.00022);
          expect(Math.abs(parseDeclinationDeg(formatDeclination(decDeg)) - decDeg)).toBeLessThan(0.00015);
        },
      ),
    );
  });
});

describe('designations', () => {
  it.each([
    ['ngc0104', 'NGC104'],
    ['NGC 104', 'NGC104'],
    ['n104', 'NGC104'],
    ['messier 8', 'M8'],
    ['IC  434', 'IC434'],
    ['sh2-264', 'Sh2-264'],
    ['Cr 399', 'Cr399'],
    ['Eta Carinae', 'etacarinae'],
  ])('read %s as %s', (text, key) => expect(designationKey(text)).toBe(key));
});

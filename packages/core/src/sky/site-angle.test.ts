import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { formatSiteAngle, parseSiteAngle } from './site-angle.ts';

describe('a latitude', () => {
  it.each([
    ['-31.62', -31.62],
    ['−31,62', -31.62],
    ['31.62 S', -31.62],
    ['31.62s', -31.62],
    ['S 31.62', -31.62],
    ['31° 37′ 12″ S', -31.62],
    ['31°37\'12" S', -31.62],
    ["31 37 12'' S", -31.62],
    ['31:37:12 S', -31.62],
    ['31d37m12s S', -31.62],
    ['31d 37m 12s', 31.62],
    ['S31 37.2', -31.62],
    ['+31 37.2', 31.62],
    ['0 S', 0],
    ['90 N', 90],
  ])('%s', (text, expected) => expect(parseSiteAngle(text, 'latitude')).toBeCloseTo(expected, 9));

  it.each([
    ['31.62 E', /E is no letter of a latitude/],
    ['W 31', /W is no letter of a latitude/],
    ['-31.62 S', /either the sign or the letter/],
    ['90.01 S', /between 90° S and 90° N/],
    ['31 60 S', /below 60/],
    ['', /can’t be read/],
    ['somewhere', /can’t be read/],
  ])('%s is refused in words', (text, words) => expect(() => parseSiteAngle(text, 'latitude')).toThrow(words));
});

describe('a longitude', () => {
  it.each([
    ['137° 51′ E', 137.85],
    ['137.85', 137.85],
    ['W 70.5', -70.5],
    ['180', 180],
  ])('%s', (text, expected) => expect(parseSiteAngle(text, 'longitude')).toBeCloseTo(expected, 9));

  it('with a letter of the other axis is refused', () =>
    expect(() => parseSiteAngle('137 S', 'longitude')).toThrow(/ends with E or W/));
});

it('what is written in degrees, minutes and seconds is read as it was', () =>
  fc.assert(
    fc.property(fc.integer({ min: -324_000, max: 324_000 }), (seconds) => {
      const text = formatSiteAngle(seconds / 3600, 'latitude');
      expect(parseSiteAngle(text, 'latitude')).toBeCloseTo(seconds / 3600, 9);
    }),
  ));

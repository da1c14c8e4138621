import { describe, expect, it } from '@jest/globals';
import type { Worth } from '@meridiem/core';
import type { FinderTarget } from './components/ChosenTarget.tsx';
import { passing } from './filters.ts';

const target = (designation: string, changes: Partial<FinderTarget>): FinderTarget => ({
  designation,
  name: null,
  kind: 'galaxy',
  mag: 9,
  sizeArcmin: 10,
  constellation: 'Scl',
  raDeg: 30,
  decDeg: -30,
  ...changes,
});
const TARGETS = [
  target('plain', {}),
  target('elsewhere', { constellation: 'Cet', kind: 'open cluster' }),
  target('unknown', { mag: null, sizeArcmin: null }),
  target('large', { sizeArcmin: 90, decDeg: -80 }),
  target('worthless', {}),
];
const ranked = TARGETS.map((_, index) => ({ index, worth: index === 4 ? 0 : 10 - index }) as Worth);
const at = { site: { latitudeDeg: -31, longitudeDeg: 138, elevationM: 0 }, night: { startUtcMs: Date.UTC(2026, 10, 24, 10), endUtcMs: Date.UTC(2026, 10, 24, 19) } }; // prettier-ignore
const shown = (address: string): string[] =>
  passing(ranked, TARGETS, new URLSearchParams(address), at).map((one) => one.target.designation);

describe('what of a ranking is shown', () => {
  it('is everything worth anything, in its order', () => {
    expect(shown('')).toEqual(['plain', 'elsewhere', 'unknown', 'large']);
  });
  it('is narrowed by kind, constellation, brightness and size; what is not known does not pass', () => {
    expect(shown('kind=open+cluster')).toEqual(['elsewhere']);
    expect(shown('in=Scl')).toEqual(['plain', 'unknown', 'large']);
    expect(shown('mag=9')).toEqual(['plain', 'elsewhere', 'large']);
    expect(shown('from=20')).toEqual(['large']);
    expect(shown('to=20')).toEqual(['plain', 'elsewhere']);
    expect(shown('robust=1')).toEqual(['elsewhere']);
    expect(shown('in=Scl&to=20&mag=10')).toEqual(['plain']);
  });
  it('is narrowed to a side of the sky by where things stand in the middle of the night', () => {
    expect(shown('side=south')).toContain('large');
    expect(shown('side=north')).not.toContain('large');
    expect(['north', 'east', 'south', 'west'].flatMap((side) => shown(`side=${side}`)).sort()).toEqual(
      shown('').sort(),
    );
  });
});

import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { designationKey } from './designations.ts';

const spelt = (prefix: string, number: string): fc.Arbitrary<string> =>
  fc
    .record({
      gap: fc.constantFrom('', ' ', '-', '  '),
      zeros: fc.constantFrom('', '0', '00'),
      upper: fc.boolean(),
      around: fc.constantFrom('', ' '),
    })
    .map(({ gap, zeros, upper, around }) => {
      const text = `${prefix}${gap}${zeros}${number}`;
      return `${around}${upper ? text.toUpperCase() : text}${around}`;
    });

describe('designations', () => {
  it.each([
    ['messier', 'M', '31'],
    ['m', 'M', '104'],
    ['ngc', 'NGC', '55'],
    ['n', 'NGC', '7293'],
    ['ic', 'IC', '434'],
    ['caldwell', 'C', '49'],
    ['sh2', 'Sh2-', '155'],
    ['rcw', 'RCW', '108'],
    ['barnard', 'B', '33'],
    ['melotte', 'Mel', '15'],
    ['collinder', 'Cr', '399'],
  ])('%s in any spelling is %s', (prefix, key, number) =>
    fc.assert(
      fc.property(spelt(prefix, number), (text) => expect(designationKey(text)).toBe(`${key}${number}`)),
      { numRuns: 40 },
    ),
  );
  it('keep the letter of a part', () => expect(designationKey('ngc 4038a')).toBe('NGC4038A'));
  it('of two catalogues stay apart', () => {
    const keys = ['M 31', 'NGC 31', 'IC 31', 'C 31', 'Sh2-31', 'RCW 31', 'PGC 31', 'B 31', 'Mel 31', 'Cr 31'].map(
      designationKey,
    );
    expect(new Set(keys).size).toBe(keys.length);
  });
  it('that are names give themselves, whatever their spaces, dots and case', () => {
    expect(designationKey('Witch’s  Broom')).toBe('witchsbroom');
    expect(designationKey("WITCH'S BROOM.")).toBe('witchsbroom');
    fc.assert(fc.property(fc.string(), (text) => expect(designationKey(text)).toMatch(/^[A-Za-z0-9-]*$/)));
  });
});

import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { proposedOf, settingOf } from './limit-setting.ts';

describe('a limit as it is typed', () => {
  it.each([
    ['30', { value: 30 }],
    [' 2,5 ', { value: 2.5 }],
    ['−12', { value: -12 }],
    ['', { off: true }],
    ['off', { off: true }],
    [' OFF ', { off: true }],
  ])('reads "%s"', (text, setting) => expect(settingOf(text)).toEqual(setting));

  it('names what is no number, in the words that were typed', () => {
    expect(() => settingOf('thirty')).toThrow('"thirty" is no number; write one, or off');
  });

  it('is a number, off, or not there yet while it is typed', () => {
    expect(proposedOf('30')).toBe(30);
    expect(proposedOf('off')).toBeNull();
    expect(proposedOf('3o')).toBeUndefined();
    fc.assert(
      fc.property(fc.double({ min: -1e6, max: 1e6, noNaN: true }), (value) =>
        expect(proposedOf(String(value))).toBeCloseTo(value, 9),
      ),
    );
  });
});

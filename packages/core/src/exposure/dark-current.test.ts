import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { darkCurrentAt } from './dark-current.ts';

const camera = { darkCurrentEPerSec: 0.004, darkAtC: -10, darkDoublingC: 6 };

describe('dark current', () => {
  it.each([
    [-10, 0.004],
    [-4, 0.008],
    [2, 0.016],
    [-16, 0.002],
    [-7, 0.004 * Math.SQRT2],
  ])('at %s °C', (sensorC, expected) => expect(darkCurrentAt(camera, sensorC)).toBeCloseTo(expected, 12));

  it('doubles with each step, wherever it was measured', () =>
    fc.assert(
      fc.property(
        fc.double({ min: -60, max: 40, noNaN: true }),
        fc.double({ min: 2, max: 20, noNaN: true }),
        (at, by) => {
          const one = darkCurrentAt({ ...camera, darkDoublingC: by }, at);
          expect(darkCurrentAt({ ...camera, darkDoublingC: by }, at + by) / one).toBeCloseTo(2, 9);
        },
      ),
    ));
});

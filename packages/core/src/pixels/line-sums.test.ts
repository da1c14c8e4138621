import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { lineCells, lineSums } from './line-sums.ts';

const SIDE = 16;
const square = fc.array(fc.integer({ min: -9, max: 9 }), { minLength: SIDE * SIDE, maxLength: SIDE * SIDE });

describe('sums along lines', () => {
  it('are what is met cell by cell, for every line at once', () =>
    fc.assert(
      fc.property(square, (values) => {
        const cells = Float32Array.from(values);
        const sums = lineSums(cells, SIDE);
        for (let rise = 0; rise < SIDE; rise++)
          for (let startRow = -SIDE; startRow < SIDE; startRow++) {
            let sum = 0;
            lineCells(SIDE, startRow, rise).forEach((row, column) => {
              if (row >= 0 && row < SIDE) sum += cells[row * SIDE + column];
            });
            expect(sums.values[sums.placeOf(startRow, rise)]).toBe(sum);
          }
      }),
      { numRuns: 20 },
    ));

  it('go along lines that are straight to within a cell', () => {
    for (let rise = 0; rise < SIDE; rise++)
      lineCells(SIDE, 0, rise).forEach((row, column) =>
        expect(Math.abs(row - (rise * column) / (SIDE - 1))).toBeLessThan(1.5),
      );
  });
});

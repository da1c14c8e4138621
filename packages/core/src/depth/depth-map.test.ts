import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import type { DeepExposure } from './depth-map.ts';
import {
  cellPlace,
  depthGrid,
  depthMap,
  depthSummary,
  limitingMag,
  shareAsDeep,
  surfaceNoise,
  timesForDepth,
} from './depth-map.ts';

const field = {
  centre: { raDeg: 350, decDeg: 40 },
  positionAngleDeg: 30,
  scaleArcsecPerPx: 2,
  widthPx: 900,
  heightPx: 600,
};
const exposure: DeepExposure = { field, noise: 20, exposureSec: 100, zeroPointMag: 24 };
const depthOf = (exposures: readonly DeepExposure[]): number => limitingMag(exposures.reduce((sum, one) => sum + surfaceNoise(one) ** -2, 0))!; // prettier-ignore

describe('limiting surface brightness', () => {
  it('is three times the noise of a square of 10 arcseconds', () => {
    // 25 pixels of noise 20: 100 units in 100 s, 1 a second over 100 square arcseconds; three of it are 0.03 of magnitude 24.
    expect(depthOf([exposure])).toBeCloseTo(24 - 2.5 * Math.log10(0.03), 6);
  });

  it('gains 0.75 mag by four times the exposures, or by half the noise', () => {
    const gain = 2.5 * Math.log10(2);
    expect(depthOf([exposure, exposure, exposure, exposure]) - depthOf([exposure])).toBeCloseTo(gain, 6);
    expect(depthOf([{ ...exposure, noise: 10 }]) - depthOf([exposure])).toBeCloseTo(gain, 6);
  });

  it('never falls by an exposure more, however poor, and is none without any', () => {
    const any = fc.record({ noise: fc.double({ min: 1, max: 1e4, noNaN: true }), zeroPointMag: fc.double({ min: 15, max: 27, noNaN: true }) }); // prettier-ignore
    fc.assert(fc.property(any, (more) => depthOf([exposure, { ...exposure, ...more }]) >= depthOf([exposure])));
    expect(limitingMag(0)).toBeNull();
  });
});

describe('a map of depth', () => {
  const east = { ...field, centre: { raDeg: 350.5, decDeg: 40 }, positionAngleDeg: 0 };
  const west = { ...field, centre: { raDeg: 349.9, decDeg: 40 }, positionAngleDeg: 0 };

  it('is as deep where panels overlap as both together, and empty where none looks', () => {
    const grid = depthGrid([east, west], 60)!;
    const cells = depthMap([{ ...exposure, field: east }, { ...exposure, field: west }], grid); // prettier-ignore
    const values = new Set(cells.map((mag) => (mag === null ? null : Number(mag.toFixed(6)))));
    const alone = Number(depthOf([exposure]).toFixed(6));
    const both = Number(depthOf([exposure, exposure]).toFixed(6));
    // Turned against each other by the curvature of the sky, the two leave no more than slivers of the grid empty.
    expect([...values].filter((mag) => mag !== null).toSorted()).toEqual([alone, both]);
    const rows = Array.from({ length: grid.down }, (_, row) => cells.slice(row * grid.across, (row + 1) * grid.across));
    const middle = rows[grid.down >> 1].map((mag) => (mag === null ? 0 : mag > alone + 0.1 ? 2 : 1));
    expect(middle.join('')).toMatch(/^0?1+2+1+0?$/);
  });

  it('has its first cell in the north-east, and its middle in the middle', () => {
    const grid = depthGrid([field], 40)!;
    const [first, last] = [cellPlace(grid, 0), cellPlace(grid, grid.across * grid.down - 1)];
    expect([first.xDeg > 0, first.yDeg > 0]).toEqual([true, true]);
    expect([first.xDeg + last.xDeg, first.yDeg + last.yDeg].map((value) => Math.abs(value) < 1e-9)).toEqual([
      true,
      true,
    ]);
    expect(Math.abs(grid.centre.raDeg - 350)).toBeLessThan(1e-9);
  });

  it('covers as much sky as its field, whichever way it is turned', () =>
    fc.assert(
      fc.property(fc.double({ min: 0, max: 360, noNaN: true }), (positionAngleDeg) => {
        const turned = { ...field, positionAngleDeg };
        const grid = depthGrid([turned], 80)!;
        const covered = depthMap([{ ...exposure, field: turned }], grid).filter((mag) => mag !== null).length;
        const squareDeg = (900 * 600 * 4) / 3600 ** 2;
        expect(Math.abs((covered * grid.stepDeg ** 2) / squareDeg - 1)).toBeLessThan(0.03);
      }),
    ));

  it('is none without fields, and none over fields half a sky apart', () => {
    expect(depthGrid([], 60)).toBeNull();
    expect(depthGrid([field, { ...field, centre: { raDeg: 170, decDeg: -20 } }], 60)).toBeNull();
  });

  it('is summed up by its deepest, its middle and its shallow tenth, and by the share that is as deep as wanted', () => {
    const cells = [null, ...Array.from({ length: 20 }, (_, i) => 25 + i / 20)];
    expect(depthSummary(cells)).toEqual({ deepestMag: 25.95, medianMag: 25.45, shallowTenthMag: 25.05 });
    expect([shareAsDeep(cells, 25.5), shareAsDeep(cells, 24), shareAsDeep([null], 20)]).toEqual([0.5, 1, 0]);
    expect(depthSummary([null])).toBeNull();
  });
});

describe('the exposure that a depth takes', () => {
  const cells = [null, ...Array.from({ length: 20 }, (_, i) => 25 + i / 20)];

  it('is as much as is there where it is as deep already, and ten times for 1.25 mag more', () => {
    expect(timesForDepth(cells, 25, 1)).toBeCloseTo(1, 9);
    expect(timesForDepth(cells, 26.25, 1)).toBeCloseTo(10, 9);
    expect(timesForDepth([null], 25, 1)).toBeNull();
  });

  it('makes just the share as deep that was wanted, when every part of the field gets so many times its exposure', () =>
    fc.assert(
      fc.property(
        fc.double({ min: 24, max: 28, noNaN: true }),
        fc.integer({ min: 1, max: 20 }).map((n) => n / 20),
        (wantedMag, share) => {
          const times = timesForDepth(cells, wantedMag, share)!;
          const after = cells.map((mag) => mag && mag + 1.25 * Math.log10(times));
          expect(shareAsDeep(after, wantedMag - 1e-9)).toBeGreaterThanOrEqual(share - 1e-9);
          expect(shareAsDeep(after, wantedMag + 1e-6)).toBeLessThan(share);
        },
      ),
    ));

  it('is what so many exposures more of the same really give', () => {
    const grid = depthGrid([field], 30)!;
    const times = Math.round(timesForDepth(depthMap([exposure], grid), limitingMag(surfaceNoise(exposure) ** -2)! + 1, 0.5)! * 100); // prettier-ignore
    const many = depthMap(
      Array.from({ length: times }, () => ({ ...exposure, noise: 10 * exposure.noise })),
      grid,
    );
    // A hundred exposures of ten times the noise are as deep as one.
    const [one] = depthMap([exposure], grid).filter((mag) => mag !== null);
    const [all] = many.filter((mag) => mag !== null);
    expect(all! - one!).toBeCloseTo(1, 2);
  });
});

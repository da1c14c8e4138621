import { describe, expect, it } from '@jest/globals';
import type { Project, Rig } from '@meridiem/contract';
import { mosaicOf, planeSides } from '@meridiem/core';
import fc from 'fast-check';
import { framingOfProject, framingOfTarget } from './framing-address.ts';

const rig = { focalLengthMm: 500, pixelUm: 3.76, widthPx: 6248, heightPx: 4176 } as unknown as Rig;
const read = (address: string): Record<string, string> =>
  Object.fromEntries(new URLSearchParams(address.slice(address.indexOf('?') + 1)));
const projectWith = (panels: unknown[], composition: string | null = null) =>
  ({ id: 'p', rigId: 'r', targetName: 'NGC 55', composition, panels }) as unknown as Project;

describe('the address that frames a target', () => {
  it('carries its place, its name and its size', () => {
    const target = { designation: 'NGC 253 & more', raDeg: 11.8880612, decDeg: -25.2882, sizeArcmin: 26.8 };
    expect(read(framingOfTarget('r', target))).toEqual({
      rig: 'r',
      target: 'NGC 253 & more',
      ra: '11.88806',
      dec: '-25.2882',
      sra: '11.88806',
      sdec: '-25.2882',
      size: '26.8',
    });
    expect(read(framingOfTarget('r', { ...target, sizeArcmin: null })).size).toBe('');
  });
});

describe('the address that frames a project again', () => {
  it('is none where no panel has a place', () => {
    expect(framingOfProject(projectWith([{ raDeg: null, decDeg: null, positionAngleDeg: 0 }]), rig)).toBeNull();
  });

  it('has rows, columns, angle and overlap of a mosaic, whatever the panels’ order', () => {
    const grids = fc.record({
      rows: fc.integer({ min: 1, max: 3 }),
      cols: fc.integer({ min: 1, max: 3 }),
      raDeg: fc.double({ min: 0, max: 360, noNaN: true }),
      decDeg: fc.double({ min: -60, max: 60, noNaN: true }),
      positionAngleDeg: fc.integer({ min: 0, max: 359 }),
      layout: fc.constantFrom('one_plane' as const, 'one_angle' as const),
    });
    fc.assert(
      fc.property(grids, ({ raDeg, decDeg, rows, cols, ...wish }) => {
        const centre = { raDeg, decDeg };
        const mosaic = mosaicOf({ ...wish, rows, cols, centre, overlapShare: 0.15, ...planeSides(rig) })!;
        const stored = mosaic.panels.map((panel) => ({
          ...panel.centre,
          positionAngleDeg: panel.positionAngleDeg,
        }));
        const address = read(framingOfProject(projectWith(stored.reverse()), rig)!);
        expect(Number(address.rows) * Number(address.cols)).toBe(rows * cols);
        if (rows * cols > 1) expect(Number(address.overlap)).toBeCloseTo(15, 0);
        expect(address).toMatchObject({ rig: 'r', project: 'p', target: 'NGC 55' });
      }),
    );
  });

  it('keeps the subject that it was framed for', () => {
    const panel = { raDeg: 10, decDeg: -30, positionAngleDeg: 40 };
    const address = read(framingOfProject(projectWith([panel], 'target=NGC+55&size=32&sra=3.7&sdec=-39.2'), rig)!);
    expect(address).toMatchObject({ size: '32', sra: '3.7', sdec: '-39.2', angle: '40', ra: '10', dec: '-30' });
  });
});

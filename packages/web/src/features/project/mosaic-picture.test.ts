import { describe, expect, it } from '@jest/globals';
import type { Panel, Rig } from '@meridiem/contract';
import { mosaicPicture } from './mosaic-picture.ts';

const rig = { apertureMm: 100, focalLengthMm: 500, pixelUm: 5, widthPx: 4000, heightPx: 2000 } as Rig;
const goal = (acceptedHours: number, wanted: number | null) => ({
  enabled: true,
  wanted,
  tally: { acceptedHours, wantedHours: wanted },
});
const panel = (number: number, raDeg: number | null, goals: object[]): Panel =>
  ({
    id: `${number}`,
    name: `Veil, panel ${number}`,
    raDeg,
    decDeg: 0,
    positionAngleDeg: 0,
    goals,
  }) as unknown as Panel;
const drawn = (panels: Panel[]) => mosaicPicture('Veil', panels, rig, 200, 100);

describe('the picture of a mosaic', () => {
  it('lies as on the sky: the eastern panel on the left, upright, within its room', () => {
    const picture = drawn([panel(1, 12, [goal(2, 4)]), panel(2, 10, [goal(0, 4)])])!;
    const [east, west] = picture.shapes;
    expect(Math.max(...east.corners.map(({ x }) => x))).toBeLessThan(Math.max(...west.corners.map(({ x }) => x)));
    expect(picture.widthPx).toBeLessThanOrEqual(201);
    expect(picture.heightPx).toBeLessThanOrEqual(101);
    for (const { x, y } of picture.shapes.flatMap(({ corners }) => corners)) {
      expect(x >= 0 && x <= picture.widthPx).toBe(true);
      expect(y >= 0 && y <= picture.heightPx).toBe(true);
    }
    expect([east.depth, west.depth, east.number]).toEqual([0.5, 0, '1']);
    expect(east.words).toBe('panel 1: 2.0 of 4.0 h');
  });
  it('lets no goal hide another: one with twice its hours counts once', () => {
    const [shape] = drawn([panel(1, 12, [goal(8, 4), goal(0, 4)]), panel(2, 10, [])])!.shapes;
    expect(shape.depth).toBe(0.5);
  });
  it('has no share where no end is wanted', () => {
    const [open, none] = drawn([panel(1, 12, [goal(3, null)]), panel(2, 10, [])])!.shapes;
    expect([open.depth, open.words, none.depth]).toEqual([null, 'panel 1: 3.0 h', 0]);
  });
  it('is not drawn of one panel, nor while a place is open', () => {
    expect(drawn([panel(1, 12, [])])).toBeNull();
    expect(drawn([panel(1, 12, []), panel(2, null, [])])).toBeNull();
  });
});

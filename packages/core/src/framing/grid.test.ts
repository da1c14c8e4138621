import { describe, expect, it } from '@jest/globals';
import { seededRandom } from '../random.ts';
import { gridOf } from './grid.ts';
import { mosaicOf } from './mosaic.ts';

describe('rows and columns behind listed panels', () => {
  const random = seededRandom(77);
  const sides = { widthDeg: 1.6, heightDeg: 1.1 };

  it('are found again, in either layout, wherever the list begins', () => {
    for (let i = 0; i < 60; i++) {
      const wish = {
        centre: { raDeg: 360 * random(), decDeg: -60 + 120 * random() },
        positionAngleDeg: 360 * random(),
        rows: 1 + Math.floor(4 * random()),
        cols: 1 + Math.floor(4 * random()),
        overlapShare: 0.1 + 0.2 * random(),
        layout: random() < 0.5 ? ('one_plane' as const) : ('one_angle' as const),
        ...sides,
      };
      const mosaic = mosaicOf(wish)!;
      const listed = mosaic.panels.map(({ centre, positionAngleDeg }) => ({ centre, positionAngleDeg }));
      const found = gridOf([...listed].reverse(), sides);
      expect(found && found.rows * found.cols).toBe(wish.rows * wish.cols);
      if (listed.length > 1) expect(found!.overlapShare).toBeCloseTo(mosaic.overlapShare, 3);
    }
  });

  it('are not invented where panels stand otherwise', () => {
    const panel = (raDeg: number, decDeg: number) => ({ centre: { raDeg, decDeg }, positionAngleDeg: 0 });
    expect(gridOf([panel(10, 0), panel(11, 0), panel(10.4, 0.7)], sides)).toBeNull();
    expect(gridOf([panel(10, 0), panel(190, 0)], sides)).toBeNull();
    expect(gridOf([], sides)).toBeNull();
  });
});

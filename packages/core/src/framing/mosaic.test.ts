import { describe, expect, it } from '@jest/globals';
import { seededRandom } from '../random.ts';
import type { MosaicWish } from './mosaic.ts';
import { isInsidePanel, largestTurnDeg, mosaicOf } from './mosaic.ts';
import { fromTangentPlane, toTangentPlane } from './tangent-plane.ts';

const wish: MosaicWish = {
  centre: { raDeg: 10, decDeg: -40 },
  positionAngleDeg: 20,
  rows: 2,
  cols: 3,
  overlapShare: 0.15,
  widthDeg: 1.5,
  heightDeg: 1,
  layout: 'one_angle',
};

describe('one camera angle', () => {
  it('keeps the camera’s angle at every panel, and the wished overlap where that closes', () => {
    const { panels, overlapShare } = mosaicOf(wish)!;
    expect(panels.length).toBe(6);
    expect(new Set(panels.map(({ positionAngleDeg }) => positionAngleDeg))).toEqual(new Set([20]));
    expect(overlapShare).toBe(0.15);
    expect(largestTurnDeg(mosaicOf({ ...wish, layout: 'one_plane' })!.panels, 20)).toBeGreaterThan(0.3);
  });

  it('overlaps more near the pole, and says when even that is not enough', () => {
    const polar = { ...wish, centre: { raDeg: 10, decDeg: -79 }, overlapShare: 0.01 };
    expect(mosaicOf(polar)!.overlapShare).toBeGreaterThan(0.02);
    expect(mosaicOf({ ...wish, centre: { raDeg: 0, decDeg: -89.5 }, rows: 3, cols: 5 })).toBeNull();
  });

  it('leaves no gap on the sphere between panels, at a thousand places down to declination −80', () => {
    const random = seededRandom(5_150);
    let closed = 0;
    for (let i = 0; i < 1000; i++) {
      const one: MosaicWish = {
        ...wish,
        centre: { raDeg: 360 * random(), decDeg: -80 + 120 * random() },
        positionAngleDeg: 360 * random(),
        rows: 1 + Math.floor(3 * random()),
        cols: 2 + Math.floor(2 * random()),
        overlapShare: 0.05 + 0.2 * random(),
        widthDeg: 0.3 + 1.7 * random(),
        heightDeg: 0.3 + 1.2 * random(),
      };
      const mosaic = mosaicOf(one);
      if (!mosaic) continue;
      closed += 1;
      // Random places between random neighbours: inside the plane's rectangle that their centres and sides span.
      for (let k = 0; k < 20; k++) {
        const a = mosaic.panels[Math.floor(random() * mosaic.panels.length)];
        const b =
          mosaic.panels.find(({ row, col }) => row === a.row && col === a.col + 1) ??
          mosaic.panels.find(({ row, col }) => row === a.row + 1 && col === a.col);
        if (!b) continue;
        const to = toTangentPlane(a.centre, b.centre)!;
        const [share, side] = [random(), (random() - 0.5) * 0.9];
        const length = Math.hypot(to.xDeg, to.yDeg);
        const sideways = (a.row === b.row ? one.heightDeg : one.widthDeg) * side;
        const place = fromTangentPlane(a.centre, {
          xDeg: share * to.xDeg - (sideways * to.yDeg) / length,
          yDeg: share * to.yDeg + (sideways * to.xDeg) / length,
        });
        expect([i, k, mosaic.panels.some((panel) => isInsidePanel(panel, place, one))]).toEqual([i, k, true]);
      }
    }
    expect(closed).toBeGreaterThan(950);
  });
});

describe('a plane', () => {
  it('refuses what is too wide for it', () => {
    expect(mosaicOf({ ...wish, layout: 'one_plane', rows: 60, cols: 80 })).toBeNull();
  });
});

import { describe, expect, it } from '@jest/globals';
import { pixelToSky } from './sensor.ts';
import { shotOffset } from './test-shot.ts';

const intended = {
  centre: { raDeg: 83.6, decDeg: -69 },
  positionAngleDeg: 40,
  scaleArcsecPerPx: 3,
  widthPx: 1600,
  heightPx: 1200,
};

describe('a test shot beside the intention', () => {
  it('is off by as many pixels as it was moved, along the frame’s own sides', () => {
    const centre = pixelToSky(intended, { x: 800 + 120, y: 600 - 50 });
    const offset = shotOffset(intended, { centre, positionAngleDeg: 42.5 })!;
    expect(offset.rightPx).toBeCloseTo(120, 6);
    expect(offset.upPx).toBeCloseTo(-50, 6);
    expect(offset.arcmin).toBeCloseTo((Math.hypot(120, 50) * 3) / 60, 6);
    expect(offset.turnedDeg).toBeCloseTo(2.5, 9);
  });
  it('upside down it frames the same sky, and on the other side of the sky there is nothing to compare', () => {
    expect(shotOffset(intended, { ...intended, positionAngleDeg: 219 })!.turnedDeg).toBeCloseTo(-1, 9);
    expect(shotOffset(intended, { centre: { raDeg: 263.6, decDeg: 60 }, positionAngleDeg: 0 })).toBeNull();
  });
});

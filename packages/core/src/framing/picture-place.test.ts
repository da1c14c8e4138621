import { describe, expect, it } from '@jest/globals';
import { seededRandom } from '../random.ts';
import { angleBetweenDeg, unitVector } from '../sky/frame-of-date.ts';
import { placedPicture } from './picture-place.ts';
import { pixelToSky } from './sensor.ts';

const SIZE = { widthPx: 1200, heightPx: 800 };

describe('a picture placed by two stars', () => {
  const random = seededRandom(31);
  it('lies where it was taken, anywhere on the sky', () => {
    for (let i = 0; i < 100; i++) {
      const sensor = {
        centre: { raDeg: 360 * random(), decDeg: -85 + 170 * random() },
        positionAngleDeg: 360 * random(),
        scaleArcsecPerPx: 1 + 9 * random(),
        widthPx: 1200,
        heightPx: 800,
      };
      const pair = () => {
        const at = { x: 1200 * random(), y: 800 * random() };
        return { at, star: pixelToSky(sensor, at) };
      };
      const placed = placedPicture([pair(), pair()], SIZE)!;
      expect(3600 * angleBetweenDeg(unitVector(placed.centre), unitVector(sensor.centre))).toBeLessThan(0.5);
      expect(Math.abs(((placed.positionAngleDeg - sensor.positionAngleDeg + 540) % 360) - 180)).toBeLessThan(0.01);
      expect(placed.scaleArcsecPerPx / sensor.scaleArcsecPerPx).toBeCloseTo(1, 4);
    }
  });
  it('is none with one star twice', () => {
    const pair = { at: { x: 10, y: 10 }, star: { raDeg: 10, decDeg: 10 } };
    expect(placedPicture([pair, pair], SIZE)).toBeNull();
    expect(placedPicture([pair, { ...pair, at: { x: 90, y: 10 } }], SIZE)).toBeNull();
  });
});

import { describe, expect, it } from '@jest/globals';
import { fieldOf } from '../index.ts';
import { regionRead, samplingOf } from './sampling.ts';

/** 530 mm and 9 µm: 206265 × 0.009 / 530 = 3.5026″ a pixel. */
const camera = { focalLengthMm: 530, pixelUm: 9, widthPx: 1600, heightPx: 1200, apertureMm: 106 };

describe('sampling', () => {
  it('of the whole sensor is the rig’s own field and scale', () => {
    const { widthDeg, heightDeg, imageScaleArcsecPerPx } = fieldOf(camera);
    const whole = samplingOf(camera, 1, null);
    expect(whole).toMatchObject({ widthPx: 1600, heightPx: 1200, shareRead: 1 });
    expect(whole.scaleArcsecPerPx).toBeCloseTo(imageScaleArcsecPerPx, 9);
    expect([whole.widthDeg, whole.heightDeg]).toEqual([expect.closeTo(widthDeg, 9), expect.closeTo(heightDeg, 9)]);
    expect(whole.starPx).toBeCloseTo(2.5 / 3.5026, 3);
  });

  it('binned two by two has half the pixels a side, twice the scale, and the same field', () => {
    const [whole, binned] = [samplingOf(camera, 1, null), samplingOf(camera, 2, null)];
    expect(binned).toMatchObject({ widthPx: 800, heightPx: 600 });
    expect(binned.scaleArcsecPerPx / whole.scaleArcsecPerPx).toBeCloseTo(2, 6);
    expect(binned.widthDeg).toBeCloseTo(whole.widthDeg, 9);
    expect(binned.starPx).toBeCloseTo(whole.starPx / 2, 6);
  });

  it('of a part has its pixels and its field', () => {
    const part = samplingOf(camera, 1, { widthPx: 800, heightPx: 600 });
    expect(part).toMatchObject({ widthPx: 800, heightPx: 600, shareRead: 0.25 });
    // 800 px × 9 µm = 7.2 mm on 530 mm: 2 atan(3.6 / 530) = 0.77834°.
    expect(part.widthDeg).toBeCloseTo(0.77834, 4);
  });

  it('counts whole pixels where a side does not divide', () =>
    expect(samplingOf({ ...camera, widthPx: 1601 }, 2, null).widthPx).toBe(800));

  it('is told by a picture’s own size: a part of the sensor, or all of it but for an edge', () => {
    const read = (widthPx: number, heightPx: number, binning = 1) => regionRead(camera, { widthPx, heightPx }, binning);
    // A row of a table has no size.
    for (const [widthPx, heightPx, binning] of [
      [1600, 1200, 1],
      [1584, 1190, 1],
      [800, 600, 2],
      [799, 600, 2],
      [1700, 1200, 1],
      [0, 0, 1],
    ])
      // prettier-ignore
      expect(read(widthPx, heightPx, binning)).toBeNull();
    expect(read(400, 300, 2)).toEqual({ widthPx: 800, heightPx: 600 });
    expect(read(1600, 600)).toEqual({ widthPx: 1600, heightPx: 600 });
  });
});

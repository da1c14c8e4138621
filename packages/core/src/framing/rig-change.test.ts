import { describe, expect, it } from '@jest/globals';
import { fieldOf } from './field.ts';
import { angleServes, leastShared } from './rig-change.ts';

const optics = { apertureMm: 100, focalLengthMm: 500, pixelUm: 5, widthPx: 4000, heightPx: 3000 };
const { widthDeg } = fieldOf(optics);
const panel = (raDeg: number) => ({ position: { raDeg, decDeg: 0 }, positionAngleDeg: 0 });

describe('panels under other optics', () => {
  it('share what their distance leaves of the field', () => {
    const row = [panel(10), panel(10 + 0.8 * widthDeg), panel(10 + 1.6 * widthDeg)];
    expect(leastShared(row, optics)).toBeCloseTo(0.2, 2);
    expect(leastShared(row, { ...optics, focalLengthMm: 625 })).toBeLessThan(0.01);
    expect(leastShared(row, { ...optics, focalLengthMm: 1000 })).toBe(0);
    expect(leastShared([panel(10)], optics)).toBeNull();
  });
});

describe('the camera’s angle', () => {
  const turning = { rotatorKind: 'hand', skyAngleDeg: 30, angleToleranceDeg: 3 } as const;
  it('serves panels within tolerance, upside down too', () => {
    expect(angleServes(turning, 32)).toBe(true);
    expect(angleServes(turning, 211)).toBe(true);
    expect(angleServes(turning, 40)).toBe(false);
  });
  it('serves every panel by motor and none while it is not measured', () => {
    expect(angleServes({ ...turning, rotatorKind: 'motor' }, 100)).toBe(true);
    expect(angleServes({ ...turning, skyAngleDeg: null }, 30)).toBe(false);
  });
});

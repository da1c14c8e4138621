import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { pixelsOf, screenAngleDeg, toScreen, toSky } from './projection.ts';

const view = { centre: { raDeg: 359.9, decDeg: -60 }, widthDeg: 4, widthPx: 800, heightPx: 500 };

describe('the sky on the screen', () => {
  it('has north up and east left', () => {
    expect(toScreen(view, view.centre)).toEqual({ x: 400, y: 250 });
    expect(toScreen(view, { raDeg: 359.9, decDeg: -59 })!.y).toBeLessThan(250);
    expect(toScreen(view, { raDeg: 0.2, decDeg: -60 })!.x).toBeLessThan(400);
    expect(toScreen(view, { raDeg: 180, decDeg: 60 })).toBeNull();
    expect(pixelsOf(view, 1)).toBe(200);
  });
  it('goes there and back, over the pole and across 0 h', () => {
    fc.assert(
      fc.property(
        fc.record({ x: fc.integer({ min: 0, max: 800 }), y: fc.integer({ min: 0, max: 500 }) }),
        fc.record({
          raDeg: fc.double({ min: 0, max: 359.9, noNaN: true }),
          decDeg: fc.double({ min: -90, max: 90, noNaN: true }),
        }),
        (point, centre) => {
          const back = toScreen({ ...view, centre }, toSky({ ...view, centre }, point))!;
          expect(Math.hypot(back.x - point.x, back.y - point.y)).toBeLessThan(1e-6);
        },
      ),
    );
  });
  it('measures angles east of north', () => {
    const middle = { x: 100, y: 100 };
    expect(screenAngleDeg(middle, { x: 100, y: 50 })).toBe(0);
    expect(screenAngleDeg(middle, { x: 50, y: 100 })).toBe(90);
    expect(screenAngleDeg(middle, { x: 100, y: 150 })).toBe(180);
    expect(screenAngleDeg(middle, { x: 150, y: 100 })).toBe(270);
  });
});

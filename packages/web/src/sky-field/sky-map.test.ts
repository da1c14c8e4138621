import { describe, expect, it } from '@jest/globals';
import { faintStarsAround } from '@meridiem/core';
import { screenOf, toScreen } from './projection.ts';
import { contentOf, faintStarsFor, gridLines } from './sky-map.ts';
import { unitVector } from '@meridiem/core';

const view = (raDeg: number, decDeg: number, widthDeg: number) => ({
  centre: { raDeg, decDeg },
  widthDeg,
  widthPx: 860,
  heightPx: 600,
});

describe('the drawn map', () => {
  it('has the rendered stars of the core, deeper the less sky it shows', () => {
    const [wide, narrow] = [faintStarsFor(view(80, -20, 6)), faintStarsFor(view(80, -20, 1))];
    const faintest = (stars: readonly { mag: number }[]): number => Math.max(...stars.map(({ mag }) => mag));
    expect(faintest(narrow)).toBeGreaterThan(faintest(wide));
    const [star] = wide;
    expect(faintStarsAround(star, 0.01, 17)).toContainEqual(star);
    expect(faintStarsFor(view(80, -20, 40))).toEqual([]);
  });
  it('puts directions where positions are', () => {
    for (const at of [view(0, 0, 5), view(359.9, 89.9, 5), view(120, -60, 0.5)]) {
      const star = { raDeg: at.centre.raDeg + 0.1, decDeg: at.centre.decDeg - 0.05 };
      const [fast, plain] = [screenOf(at)(unitVector(star))!, toScreen(at, star)!];
      expect(fast.x).toBeCloseTo(plain.x, 6);
      expect(fast.y).toBeCloseTo(plain.y, 6);
    }
    expect(screenOf(view(0, 0, 5))(unitVector({ raDeg: 180, decDeg: 0 }))).toBeNull();
  });
  it('has a handful of grid lines anywhere, over the pole and across 0 h too', () => {
    for (const at of [
      view(0.1, 0, 4),
      view(200, 89.8, 4),
      view(83, -69, 15),
      view(10, -89.99, 0.5),
      view(50, 40, 0.2),
    ]) {
      const lines = gridLines(at);
      expect(lines.length).toBeGreaterThan(3);
      expect(lines.length).toBeLessThan(30);
      for (const { label, points } of lines) {
        expect(label).toMatch(/^([+−]\d\d° \d\d′|\d\dh \d\dm( \d\d\.\ds)?)( \d\d″)?$/);
        expect(points.every(({ decDeg }) => Math.abs(decDeg) <= 90)).toBe(true);
      }
    }
  });
  it('names objects and knows sizes that nobody measured as none', () => {
    const { objects, stars } = contentOf(
      { stars: [[1, 2, 3]], objects: [{ raDeg: 1, decDeg: 2, sizeArcmin: null, designation: 'NGC 1' }] },
      [],
    );
    expect(objects).toMatchObject([{ radiusDeg: 0, name: 'NGC 1' }]);
    expect(stars).toHaveLength(1);
  });
});

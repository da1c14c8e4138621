import { describe, expect, it } from '@jest/globals';
import { randomFitWish } from '../../fixtures/fit-wishes.ts';
import { seededRandom } from '../random.ts';
import type { SkyPosition } from '../sky/site.ts';
import { toRad } from '../units.ts';
import type { FitWish, Subject } from './fit.ts';
import { alternatives, fitPanels, samplesOf, shareInside } from './fit.ts';
import { mosaicOf } from './mosaic.ts';
import { fromTangentPlane, toTangentPlane } from './tangent-plane.ts';

const random = seededRandom(2_024);

/** The plain way: every subject's rim as points, every quarter of a degree, every side counted up. */
function bruteForce(wish: FitWish, tangent: SkyPosition): { panels: number; marginShare: number } {
  const points = wish.subjects.flatMap((subject) =>
    'outline' in subject
      ? subject.outline
      : Array.from({ length: 360 }, (_, i) => {
          const [x, y] = [Math.cos(toRad(i)), Math.sin(toRad(i))];
          const radius = (180 / Math.PI) * Math.tan(toRad(subject.radiusDeg));
          return fromTangentPlane(subject.centre, { xDeg: radius * x, yDeg: radius * y });
        }),
  );
  const plane = points.map((point) => toTangentPlane(tangent, point)!);
  const shorter = Math.min(wish.widthDeg, wish.heightDeg);
  let best = { panels: Infinity, marginShare: 0 };
  for (let angle = 0; angle < 180; angle += 0.25) {
    const across = (turn: number): number => {
      const along = plane.map(({ xDeg, yDeg }) => xDeg * Math.sin(toRad(turn)) + yDeg * Math.cos(toRad(turn)));
      return along.reduce((a, b) => Math.max(a, b)) - along.reduce((a, b) => Math.min(a, b));
    };
    const [width, height] = [across(angle + 90), across(angle)];
    const count = (length: number, side: number): number => {
      let n = 1;
      while (side + (n - 1) * side * (1 - wish.overlapShare) < length + 2 * wish.marginShare * shorter) n += 1;
      return n;
    };
    const [cols, rows] = [count(width, wish.widthDeg), count(height, wish.heightDeg)];
    const room = (n: number, side: number, length: number): number => side * (1 + (n - 1) * (1 - wish.overlapShare)) - length; // prettier-ignore
    const margin = Math.min(room(cols, wish.widthDeg, width), room(rows, wish.heightDeg, height)) / 2 / shorter;
    if (rows * cols < best.panels || (rows * cols === best.panels && margin > best.marginShare))
      best = { panels: rows * cols, marginShare: margin };
  }
  return best;
}

describe('fit for me', () => {
  it('finds as few panels as trying every quarter of a degree, with a margin within half a percent, in 200 cases', () => {
    let checked = 0;
    for (let i = 0; i < 200; i++) {
      const wish = randomFitWish(random);
      const fit = fitPanels(wish)!;
      const plain = bruteForce(wish, fit.centre);
      expect([i, fit.rows * fit.cols]).toEqual([i, plain.panels]);
      expect(fit.marginShare).toBeGreaterThan(plain.marginShare - 0.005);
      const mosaic = mosaicOf({ ...wish, ...fit });
      if (!mosaic) continue;
      checked += 1;
      expect(shareInside(samplesOf(wish.subjects), mosaic.panels, wish)).toBeGreaterThan(0.999);
    }
    expect(checked).toBeGreaterThan(190);
  });

  const one: FitWish = {
    subjects: [{ centre: { raDeg: 80, decDeg: -30 }, radiusDeg: 0.3 }],
    widthDeg: 1.5,
    heightDeg: 1,
    overlapShare: 0.15,
    marginShare: 0.1,
    layout: 'one_angle',
    mostSide: 10,
  };
  const beside = (xDeg: number, yDeg: number): Subject => ({
    centre: fromTangentPlane({ raDeg: 80, decDeg: -30 }, { xDeg, yDeg }),
    radiusDeg: 0.1,
  });

  it('holds what one panel can hold in one', () => {
    const fit = fitPanels(one)!;
    expect([fit.rows, fit.cols]).toEqual([1, 1]);
    expect(fit.centre.raDeg).toBeCloseTo(80, 6);
    expect(fit.centre.decDeg).toBeCloseTo(-30, 6);
  });

  it('turns the camera so that two neighbours are in one field, or says that it takes two panels', () => {
    const near = fitPanels({ ...one, subjects: [beside(0, 0.5), beside(0, -0.5)] })!;
    expect([near.rows, near.cols]).toEqual([1, 1]);
    expect(Math.abs(Math.sin(toRad(near.positionAngleDeg)))).toBeGreaterThan(0.5);
    const far = fitPanels({ ...one, subjects: [beside(0, 0.9), beside(0, -0.9)] })!;
    expect(far.rows * far.cols).toBe(2);
  });

  it('keeps to the one angle of a camera that nobody turns', () => {
    const fit = fitPanels({ ...one, subjects: [beside(0, 0.5), beside(0, -0.5)], fixedAngleDeg: 0 })!;
    expect([fit.rows, fit.cols, fit.positionAngleDeg]).toEqual([2, 1, 0]);
  });

  it('gives no answer past the most rows and columns, for nothing, and for opposite sides of the sky', () => {
    expect(fitPanels({ ...one, subjects: [beside(0, 5), beside(0, -5)], mostSide: 3 })).toBeNull();
    expect(fitPanels({ ...one, subjects: [] })).toBeNull();
    expect(
      fitPanels({ ...one, subjects: [beside(0, 0), { centre: { raDeg: 260, decDeg: 30 }, radiusDeg: 0.1 }] }),
    ).toBeNull();
  });

  it('works across 0 h and at a pole', () => {
    const pole: Subject = { centre: { raDeg: 0, decDeg: -90 }, radiusDeg: 0.35 };
    expect(fitPanels({ ...one, subjects: [pole] })).toMatchObject({ rows: 1, cols: 1 });
    const seam: Subject[] = [359.8, 0.2].map((raDeg) => ({ centre: { raDeg, decDeg: 0 }, radiusDeg: 0.2 }));
    const fit = fitPanels({ ...one, subjects: seam })!;
    expect(Math.abs(Math.sin(toRad(fit.centre.raDeg)))).toBeLessThan(1e-6);
  });

  it('says what fewer panels would hold: more panels never hold less, all hold what the fit holds', () => {
    const wide = { ...one, subjects: [beside(1.4, 0.3), beside(-1.4, -0.3), beside(0, 0)] };
    const tried = alternatives(wide, [
      [1, 1],
      [1, 2],
      [2, 2],
      [3, 3],
    ]);
    const shares = tried.map(({ insideShare }) => insideShare);
    expect(shares[0]).toBeLessThan(0.9);
    expect(shares[1]).toBeGreaterThanOrEqual(shares[0]);
    expect(shares[3]).toBe(1);
    expect(alternatives({ ...wide, subjects: [] }, [[1, 1]])).toEqual([]);
  });
});

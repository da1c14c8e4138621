import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { toRad } from '../units.ts';
import { edgeStars, roomShareOf, sharedStars } from './edges.ts';
import { mosaicOf } from './mosaic.ts';
import { fromTangentPlane } from './tangent-plane.ts';

const sides = { widthDeg: 1.5, heightDeg: 1 };
const centre = { raDeg: 120, decDeg: -47 };
const panel = (positionAngleDeg = 0) => ({ centre, positionAngleDeg });
/** A star so far to the camera's right and up. */
const starAt = (right: number, up: number, mag: number, angleDeg = 0) => {
  const [sine, cosine] = [Math.sin(toRad(angleDeg)), Math.cos(toRad(angleDeg))];
  return { ...fromTangentPlane(centre, { xDeg: -cosine * right + sine * up, yDeg: sine * right + cosine * up }), mag };
};

describe('stars at the edges', () => {
  it('are told with their place, the worst first', () => {
    const stars = [starAt(0.74, 0, 5), starAt(0, 0.53, 1), starAt(0, 0, 2), starAt(0.3, 0.1, 6), starAt(0.9, 0.7, 6)];
    const found = edgeStars([panel()], stars, sides);
    expect(found.map(({ star, place }) => [star.mag, place])).toEqual([
      [1, 'just outside'],
      [2, 'inside'],
      [5, 'at the edge'],
    ]);
    expect(found[0].fromEdgeDeg).toBeCloseTo(-0.03, 6);
  });

  it('are as many and as bad whatever the camera’s angle', () =>
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 359 }), (angle) => {
        const found = edgeStars([panel(angle)], [starAt(0.74, 0.2, 3, angle)], sides);
        expect(found.map(({ place }) => place)).toEqual(['at the edge']);
        expect(found[0].fromEdgeDeg).toBeCloseTo(0.01, 6);
      }),
    ));

  it('get their room by the shift that is proposed', () =>
    fc.assert(
      fc.property(
        fc.double({ min: -0.95, max: 0.95, noNaN: true }),
        fc.double({ min: -0.7, max: 0.7, noNaN: true }),
        fc.double({ min: -1, max: 7, noNaN: true }),
        fc.integer({ min: 0, max: 359 }),
        (right, up, mag, angle) => {
          const [trouble] = edgeStars([panel(angle)], [starAt(right, up, mag, angle)], sides);
          if (!trouble?.nudge) return;
          const { rightDeg, upDeg } = trouble.nudge;
          const [sine, cosine] = [Math.sin(toRad(angle)), Math.cos(toRad(angle))];
          const moved = fromTangentPlane(centre, {
            xDeg: -cosine * rightDeg + sine * upDeg,
            yDeg: sine * rightDeg + cosine * upDeg,
          });
          const after = edgeStars(
            [{ centre: moved, positionAngleDeg: angle }],
            [starAt(right, up, mag, angle)],
            sides,
          )[0];
          // What little is left comes from the plane of the moved frame.
          const room = roomShareOf(mag) * sides.heightDeg;
          expect(after?.nudge ? Math.abs(after.fromEdgeDeg) : room).toBeGreaterThan(0.95 * room);
        },
      ),
    ));
});

describe('stars that neighbours share', () => {
  const { panels } = mosaicOf({
    ...sides,
    centre,
    positionAngleDeg: 30,
    rows: 2,
    cols: 2,
    overlapShare: 0.2,
    layout: 'one_angle',
  })!;
  it('are counted for each pair side by side or one over the other', () => {
    const everywhere = Array.from({ length: 4000 }, (_, i) => starAt(-1.6 + (i % 80) * 0.04, -1.1 + Math.floor(i / 80) * 0.044, 10, 30)); // prettier-ignore
    const bands = sharedStars(panels, everywhere, sides);
    expect(bands.map(({ panels: [a, b] }) => `${a}${b}`)).toEqual(['01', '02', '13', '23']);
    // A band of 0.2 × 1.5° by 1°, or 1.5° by 0.2°, at 568 stars in a square degree.
    for (const { stars } of bands) expect(Math.abs(stars - 170)).toBeLessThan(25);
    expect(sharedStars(panels, [], sides).every(({ stars }) => stars === 0)).toBe(true);
    expect(sharedStars(panels.slice(0, 1), everywhere, sides)).toEqual([]);
  });
});

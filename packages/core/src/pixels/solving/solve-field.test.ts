import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { pixelToSky, skyToPixel } from '../../framing/sensor.ts';
import { normalFrom, seededRandom } from '../../random.ts';
import { faintStarsAround } from '../../sky/faint-stars.ts';
import { angleBetweenDeg, unitVector } from '../../sky/frame-of-date.ts';
import type { SkyPosition } from '../../sky/site.ts';
import { fitPlate, plateToSky, skyToPlate } from './plate-fit.ts';
import { neighbourGrid, quadOf, quadsAt } from './quads.ts';
import type { Solved } from './solve-field.ts';
import { solveField } from './solve-field.ts';
import { zeroPointOf } from './zero-point.ts';

const RANDOM = { min: 1, max: 1_000_000 };
const arcsecApart = (a: SkyPosition, b: SkyPosition): number => 3600 * angleBetweenDeg(unitVector(a), unitVector(b));
const catalogue = faintStarsAround;

interface Seen {
  readonly centre: SkyPosition;
  readonly positionAngleDeg: number;
  readonly isMirrored?: boolean;
  readonly scaleArcsecPerPx?: number;
  /** Of the catalogue's stars that are not seen, and of the seen that are none of the catalogue's. */
  readonly missing?: number;
  readonly strange?: number;
  readonly seed: number;
}
const SIDE = { widthPx: 1200, heightPx: 900 };

/** A field's brightest stars as a picture has them, a fifth of a pixel off. */
function picture({
  centre,
  positionAngleDeg,
  isMirrored = false,
  scaleArcsecPerPx = 3.5,
  missing = 0.15,
  strange = 10,
  seed,
}: Seen) {
  const random = seededRandom(seed);
  const sensor = { ...SIDE, centre, positionAngleDeg, scaleArcsecPerPx };
  const stars = catalogue(centre, (scaleArcsecPerPx * 760) / 3600, 13.5)
    .filter(() => random() >= missing)
    .flatMap((star) => {
      const at = skyToPixel(sensor, star)!;
      const isIn = at.x > 0 && at.y > 0 && at.x < SIDE.widthPx && at.y < SIDE.heightPx;
      const x = isMirrored ? SIDE.widthPx - at.x : at.x;
      return isIn
        ? [
            {
              x: x - 0.5 + 0.2 * normalFrom(random),
              y: at.y - 0.5 + 0.2 * normalFrom(random),
              mag: star.mag + 0.2 * normalFrom(random),
            },
          ]
        : [];
    });
  for (let i = 0; i < strange; i++)
    stars.push({ x: SIDE.widthPx * random(), y: SIDE.heightPx * random(), mag: 9.5 + 4 * random() });
  return { sensor, field: { ...SIDE, stars: stars.sort((a, b) => a.mag - b.mag) } };
}

const anywhere = fc.record({
  raDeg: fc.double({ min: 0, max: 359.99, noNaN: true }),
  decDeg: fc.double({ min: -88, max: 88, noNaN: true }),
});
const degPerRa = (decDeg: number): number => 1 / Math.cos((decDeg * Math.PI) / 180);

describe('a field', () => {
  it('is known by its stars wherever it is, however it is turned, though some are missing and some are none', () =>
    fc.assert(
      fc.property(
        anywhere,
        fc.double({ min: 0, max: 359, noNaN: true }),
        fc.boolean(),
        fc.integer(RANDOM),
        (centre, positionAngleDeg, isMirrored, seed) => {
          const { sensor, field } = picture({ centre, positionAngleDeg, isMirrored, seed });
          const near = { raDeg: centre.raDeg, decDeg: centre.decDeg > 0 ? centre.decDeg - 2 : centre.decDeg + 2 };
          const solved = solveField(field, { near, radiusDeg: 5, scaleArcsecPerPx: 3.55 }, catalogue) as Solved;
          expect(solved).toMatchObject({ isSolved: true, isMirrored });
          expect(arcsecApart(solved.centre, centre)).toBeLessThan(1);
          expect(Math.abs(((solved.positionAngleDeg - positionAngleDeg + 540) % 360) - 180)).toBeLessThan(0.02);
          expect(solved.scaleArcsecPerPx).toBeCloseTo(sensor.scaleArcsecPerPx, 2);
          expect(solved.meanResidualArcsec).toBeLessThan(1.5);
        },
      ),
      { numRuns: 12 },
    ));

  it('is not known elsewhere: beyond the search, by another scale, or of stars that are none of the catalogue’s', () => {
    const centre = { raDeg: 80, decDeg: -30 };
    const { field } = picture({ centre, positionAngleDeg: 30, seed: 3 });
    const hint = { near: centre, radiusDeg: 2, scaleArcsecPerPx: 3.5 };
    expect(solveField(field, hint, catalogue).isSolved).toBe(true);
    const far = { raDeg: 80 + 3 * degPerRa(-30), decDeg: -30 };
    for (const wrong of [
      solveField(field, { ...hint, near: far }, catalogue),
      solveField(field, { ...hint, scaleArcsecPerPx: 2.9 }, catalogue),
      solveField(picture({ centre, positionAngleDeg: 0, missing: 1, strange: 80, seed: 4 }).field, hint, catalogue),
    ])
      expect(wrong).toEqual({ isSolved: false, words: 'no field like it within 2° of where it should be' });
  });

  it('says where the catalogue knows too few stars to know a field by', () => {
    const centre = { raDeg: 80, decDeg: -30 };
    const { field } = picture({ centre, positionAngleDeg: 30, seed: 3, scaleArcsecPerPx: 0.7 });
    const onlyBright = (at: SkyPosition, radiusDeg: number, mag: number) => catalogue(at, radiusDeg, Math.min(mag, 10));
    const solved = solveField(field, { near: centre, radiusDeg: 2, scaleArcsecPerPx: 0.7 }, onlyBright);
    expect(solved).toMatchObject({
      isSolved: false,
      words: expect.stringMatching(/^\d\.\d catalogue stars in a field/),
    });
  });

  it('of five stars says that they are too few', () => {
    const stars = [1, 2, 3, 4, 5].map((n) => ({ x: 100 * n, y: 77 * ((n * 3) % 5) }));
    const hint = { near: { raDeg: 0, decDeg: 0 }, radiusDeg: 1, scaleArcsecPerPx: 3 };
    expect(solveField({ ...SIDE, stars }, hint, catalogue)).toEqual({
      isSolved: false,
      words: '5 stars are too few to know a field by',
    });
  });
});

describe('a shape of four stars', () => {
  const coordinate = fc.integer({ min: 0, max: 1000 });
  const places = fc.array(fc.record({ x: coordinate, y: coordinate }), { minLength: 4, maxLength: 4 });

  it('has the same numbers shifted, turned, scaled, and in whichever order it is met', () =>
    fc.assert(
      fc.property(
        places,
        fc.double({ min: 0, max: 6.28, noNaN: true }),
        fc.shuffledSubarray([0, 1, 2, 3], { minLength: 4 }),
        (stars, turn, order) => {
          const quad = quadOf(stars, [0, 1, 2, 3]);
          fc.pre(
            quad.length > 1 &&
              Math.abs(quad.code[0] + quad.code[2] - 1) > 1e-6 &&
              Math.abs(quad.code[0] - quad.code[2]) > 1e-6,
          );
          const lengths = [0, 1, 2, 3].flatMap((i) =>
            [0, 1, 2, 3].filter((j) => j > i).map((j) => Math.hypot(stars[i].x - stars[j].x, stars[i].y - stars[j].y)),
          );
          const [longest, next] = [...lengths].sort((a, b) => b - a);
          fc.pre(longest > next);
          const moved = order.map((n) => ({
            x: 7 + 3 * (stars[n].x * Math.cos(turn) - stars[n].y * Math.sin(turn)),
            y: 2 + 3 * (stars[n].x * Math.sin(turn) + stars[n].y * Math.cos(turn)),
          }));
          const again = quadOf(moved, [0, 1, 2, 3]);
          again.code.forEach((value, n) => expect(value).toBeCloseTo(quad.code[n], 5));
          expect(again.stars.map((n) => order[n])).toEqual(quad.stars);
          expect(again.length / quad.length).toBeCloseTo(3, 6);
        },
      ),
    ));

  it('is made of a star and three of its six nearest', () => {
    const stars = Array.from({ length: 60 }, (_, i) => ({ x: (37 * i) % 101, y: (53 * i) % 97 }));
    const quads = quadsAt(stars, neighbourGrid(stars, 12), 7);
    expect(quads).toHaveLength(20);
    const apart = (n: number): number => Math.hypot(stars[n].x - stars[7].x, stars[n].y - stars[7].y);
    const nearest = stars.map((_, n) => n).sort((a, b) => apart(a) - apart(b)).slice(0, 7); // prettier-ignore
    for (const { stars: four } of quads) expect([four.includes(7), four.every((n) => nearest.includes(n))]).toEqual([true, true]); // prettier-ignore
  });
});

describe('a plate', () => {
  it('leads to the sky as the sensor it was fitted to, and back', () => {
    const sensor = {
      centre: { raDeg: 359.9, decDeg: -71 },
      positionAngleDeg: 63,
      scaleArcsecPerPx: 2,
      widthPx: 2000,
      heightPx: 1500,
    };
    const at = [[-900, -600], [700, -650], [100, 700], [-300, 200]].map(([x, y]) => ({ x, y })); // prettier-ignore
    const skyOf = ({ x, y }: { x: number; y: number }) => pixelToSky(sensor, { x: x + 1000, y: y + 750 });
    const plate = fitPlate(at.map((place) => ({ at: place, sky: skyOf(place) })), sensor.centre)!; // prettier-ignore
    const place = { x: 512, y: -333 };
    expect(arcsecApart(plateToSky(plate, place), skyOf(place))).toBeLessThan(1e-3);
    const back = skyToPlate(plate, skyOf(place))!;
    expect([back.x, back.y]).toEqual([expect.closeTo(512, 3), expect.closeTo(-333, 3)]);
  });

  it('is none of stars on one line', () => {
    const pairs = [0, 1, 2].map((n) => ({ at: { x: n, y: 2 * n }, sky: { raDeg: n, decDeg: 0 } }));
    expect(fitPlate(pairs, { raDeg: 0, decDeg: 0 })).toBeNull();
  });
});

describe('a zero point', () => {
  const star = (mag: number, more = {}) => ({ mag, flux: 60 * 10 ** (-0.4 * (mag - 22)), isSaturated: false, ...more });

  it('is the magnitude of one unit a second, whatever a saturated or a wrong star says', () => {
    const stars = [...[10, 11, 12, 13, 14].map((mag) => star(mag)), star(9, { flux: 1, isSaturated: true }), star(12, { flux: 9e9 })]; // prettier-ignore
    expect(zeroPointOf(stars, 60)).toEqual({
      mag: expect.closeTo(22, 9),
      scatterMag: expect.closeTo(0, 9),
      starCount: 6,
    });
  });

  it('is none by four stars', () => expect(zeroPointOf([10, 11, 12, 13].map((mag) => star(mag)), 60)).toBeNull()); // prettier-ignore
});

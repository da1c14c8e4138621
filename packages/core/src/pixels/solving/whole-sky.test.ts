import { describe, expect, it } from '@jest/globals';
import { skyToPixel } from '../../framing/sensor.ts';
import { normalFrom, seededRandom } from '../../random.ts';
import { faintStarsAround } from '../../sky/faint-stars.ts';
import { angleBetweenDeg, unitVector } from '../../sky/frame-of-date.ts';
import type { SkyPosition } from '../../sky/site.ts';
import type { Solved } from './solve-field.ts';
import { skyPieces, solveAnywhere } from './whole-sky.ts';

const SCALE = 12;
const SIDE = { widthPx: 1200, heightPx: 900 };
const random = seededRandom(11);
const anywhere = (): SkyPosition => ({
  raDeg: 360 * random(),
  decDeg: (180 / Math.PI) * Math.asin(2 * random() - 1),
});
const apartDeg = (a: SkyPosition, b: SkyPosition): number => angleBetweenDeg(unitVector(a), unitVector(b));

/** Four degrees of the rendered sky, a fifth of a pixel off, some of its stars missing. */
function fieldAt(centre: SkyPosition) {
  const sensor = { ...SIDE, centre, positionAngleDeg: 360 * random(), scaleArcsecPerPx: SCALE };
  const stars = faintStarsAround(centre, 3, 11).flatMap((star) => {
    const at = skyToPixel(sensor, star)!;
    const isIn = at.x > 0 && at.y > 0 && at.x < SIDE.widthPx && at.y < SIDE.heightPx && random() > 0.15;
    return isIn ? [{ x: at.x - 0.5 + 0.2 * normalFrom(random), y: at.y - 0.5 + 0.2 * normalFrom(random), mag: star.mag + 0.2 * normalFrom(random) }] : []; // prettier-ignore
  });
  return { ...SIDE, stars: stars.sort((a, b) => a.mag - b.mag) };
}

describe('a field that may be anywhere', () => {
  it('is found over the whole sky, and never where it is not', () => {
    for (let i = 0; i < (process.env.MERIDIEM_LONG === '1' ? 20 : 1); i++) {
      const centre = anywhere();
      const solved = solveAnywhere(fieldAt(centre), { scaleArcsecPerPx: SCALE * 1.01 }, faintStarsAround) as Solved;
      expect(solved.isSolved).toBe(true);
      expect(3600 * apartDeg(solved.centre, centre)).toBeLessThan(3);
    }
    const noise = { ...SIDE, stars: Array.from({ length: 80 }, () => ({ x: 1200 * random(), y: 900 * random() })) };
    const onlyHalf = (near: SkyPosition, radiusDeg: number, mag: number) => (near.decDeg < -75 ? faintStarsAround(near, radiusDeg, mag) : []); // prettier-ignore
    expect(solveAnywhere(noise, { scaleArcsecPerPx: SCALE }, onlyHalf)).toEqual({ isSolved: false, words: 'no field like it over the whole sky' }); // prettier-ignore
  }, 600_000);

  it('is not looked for where it is small, or shows hardly any stars', () => {
    const field = { ...SIDE, stars: Array.from({ length: 30 }, (_, i) => ({ x: 31 * i, y: (47 * i) % 900 })) };
    expect(solveAnywhere(field, { scaleArcsecPerPx: 3 }, faintStarsAround)).toMatchObject({ words: 'a field of 0.8° is not looked for over the whole sky' }); // prettier-ignore
    expect(solveAnywhere({ ...field, stars: field.stars.slice(0, 9) }, { scaleArcsecPerPx: SCALE }, faintStarsAround)).toMatchObject({ words: expect.stringMatching(/^9 stars/) }); // prettier-ignore
  });

  it('lies in a piece, wherever it is', () => {
    for (const radiusDeg of [4, 6, 10]) {
      const pieces = skyPieces(radiusDeg);
      for (let i = 0; i < 500; i++) {
        const place = anywhere();
        const nearest = Math.min(...pieces.filter(({ decDeg }) => Math.abs(decDeg - place.decDeg) < radiusDeg + 1).map((piece) => apartDeg(piece, place))); // prettier-ignore
        expect(nearest).toBeLessThan(radiusDeg);
      }
    }
  });
});

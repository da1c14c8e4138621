import { describe, expect, it } from '@jest/globals';
import {
  FAINT_FROM_MAG,
  faintestShown,
  faintStarsAround,
  frameOfTile,
  seededRandom,
  sharedStars,
  surveyTiles,
} from '@meridiem/core';
import { PNG } from 'pngjs';
import type { SurveySky } from './survey.ts';
import { loadSurveySky, pixelOf, renderSky, starsShown } from './survey.ts';
import { pngOf } from './survey-png.ts';

const PX = 384;
const empty: SurveySky = { stars: [], objects: [] };
const random = seededRandom(50);
const places = Array.from({ length: 50 }, () => ({ raDeg: 360 * random(), decDeg: -90 + 180 * random() }));

describe('the rendered survey', () => {
  it('shows the same faint stars as the sky drawing and the star counts, at 50 places', () => {
    for (const centre of places) {
      const frame = { centre, widthDeg: 0.9 };
      const faintest = faintestShown(frame.widthDeg);
      const drawn = faintStarsAround(centre, 0.3, faintest);
      const levels = renderSky(empty, frame, PX);
      const ground = [...levels].toSorted((a, b) => a - b)[Math.floor(levels.length * 0.2)];
      for (const star of drawn.filter(({ mag }) => mag < faintest - 1)) {
        const at = pixelOf(frame, PX, star)!;
        // Each drawn star is a light of the picture.
        expect(levels[Math.floor(at.y) * PX + Math.floor(at.x)]).toBeGreaterThan(ground + 15);
      }
      // And the picture has no star of its own: those counted in a band between two panels are among those shown.
      const shown = new Set(starsShown(empty, frame).map(({ raDeg, decDeg }) => `${raDeg} ${decDeg}`));
      for (const { raDeg, decDeg } of drawn) expect(shown.has(`${raDeg} ${decDeg}`)).toBe(true);
      const panel = { centre, positionAngleDeg: 0 };
      const sides = { widthDeg: 0.4, heightDeg: 0.4 };
      const [band] = sharedStars(
        [
          { ...panel, row: 0, col: 0 },
          { ...panel, row: 0, col: 1 },
        ],
        drawn,
        sides,
      );
      const within = drawn.filter((star) => {
        const at = pixelOf(frame, PX, star)!;
        return Math.max(Math.abs(at.x - PX / 2), Math.abs(at.y - PX / 2)) <= (0.2 / 0.9) * PX;
      });
      expect(band.stars).toBe(within.length);
    }
  });

  it('has the catalogue’s stars where they are, brighter ones larger, and objects soft', () => {
    const sky: SurveySky = {
      stars: [
        { raDeg: 100, decDeg: -20, mag: 2 },
        { raDeg: 100.3, decDeg: -20, mag: 8 },
      ],
      objects: [{ designation: 'X 1', kind: 'galaxy', mag: 8, sizeArcmin: 20, raDeg: 99.7, decDeg: -20 }],
    };
    const frame = { centre: { raDeg: 100, decDeg: -20 }, widthDeg: 1 };
    const levels = renderSky(sky, frame, PX);
    const lit = (x: number): number => Array.from({ length: 15 }, (_, i) => levels[(PX / 2 - 7 + i) * PX + Math.round(x)]).filter((level) => level > 120).length; // prettier-ignore
    expect(lit(PX / 2)).toBeGreaterThan(lit(pixelOf(frame, PX, sky.stars[1])!.x));
    const galaxy = pixelOf(frame, PX, sky.objects[0])!;
    expect(levels[(PX / 2) * PX + Math.round(galaxy.x)]).toBeGreaterThan(levels[40 * PX + Math.round(galaxy.x)]);
  });

  it('is one sky across tiles: a star of two pictures stands at one place', () => {
    const centre = { raDeg: 266, decDeg: -29 };
    const frames = surveyTiles(centre, 0.5, 5).map(frameOfTile);
    const bright = frames.map((frame) => starsShown(empty, frame).filter(({ mag }) => mag < FAINT_FROM_MAG + 1));
    const keys = bright.map((stars) => new Set(stars.map(({ raDeg, decDeg }) => `${raDeg} ${decDeg}`)));
    const twice = [...keys[0]].filter((key) => keys.slice(1).some((other) => other.has(key)));
    expect(twice.length).toBeGreaterThan(0);
  });

  it('comes as a PNG that another decoder reads', () => {
    const levels = renderSky(empty, { centre: places[0], widthDeg: 1 }, 64);
    const read = PNG.sync.read(pngOf(levels, 64));
    expect([read.width, read.height]).toEqual([64, 64]);
    expect(Array.from({ length: 64 }, (_, i) => read.data[4 * (i * 65)])).toEqual(Array.from({ length: 64 }, (_, i) => levels[i * 65])); // prettier-ignore
  });

  it('reads the tables that ship with the application', () => {
    const sky = loadSurveySky(decodeURIComponent(new URL('../../server/catalogue', import.meta.url).pathname));
    expect(sky.stars.length).toBeGreaterThan(100_000);
    expect(sky.objects.length).toBeGreaterThan(10_000);
    expect(Math.min(...sky.stars.slice(0, 2000).map(({ mag }) => mag))).toBeGreaterThan(-2);
  });
});

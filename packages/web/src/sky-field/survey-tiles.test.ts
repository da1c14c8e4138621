import { describe, expect, it } from '@jest/globals';
import { frameOfTile, fromTangentPlane, seededRandom, surveyTiles } from '@meridiem/core';
import { toScreen } from './projection.ts';
import { cornersOnScreen, laidTiles, projective } from './survey-tiles.ts';

describe('survey pictures on the drawing', () => {
  it('have every pixel where the drawing has its place, near the poles and across 0 h too', () => {
    const random = seededRandom(9);
    for (let i = 0; i < 200; i++) {
      const centre = { raDeg: 360 * random(), decDeg: -90 + 180 * random() };
      const view = { centre, widthDeg: 4, widthPx: 800, heightPx: 600 };
      const [tile] = surveyTiles(centre, 2, 3);
      const m = projective(cornersOnScreen(view, tile)!, 384);
      const [px, py] = [384 * random(), 384 * random()];
      const frame = frameOfTile(tile);
      const place = fromTangentPlane(frame.centre, {
        xDeg: (0.5 - px / 384) * frame.widthDeg,
        yDeg: (0.5 - py / 384) * frame.widthDeg,
      });
      const drawn = toScreen(view, place)!;
      const w = m[3] * px + m[7] * py + m[15];
      expect((m[0] * px + m[4] * py + m[12]) / w).toBeCloseTo(drawn.x, 4);
      expect((m[1] * px + m[5] * py + m[13]) / w).toBeCloseTo(drawn.y, 4);
    }
  });
  it('are few enough to fetch and fine enough to see', () => {
    for (const widthDeg of [0.5, 2, 8, 30]) {
      const tiles = laidTiles(
        { centre: { raDeg: 80, decDeg: -69 }, widthDeg, widthPx: 860, heightPx: 600 },
        384,
        'key',
      );
      expect(tiles.length).toBeGreaterThan(1);
      expect(tiles.length).toBeLessThan(45);
    }
  });
});

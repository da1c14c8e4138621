import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { fromTangentPlane, toTangentPlane } from '../framing/tangent-plane.ts';
import { faintestShown, FINEST_LEVEL, frameOfTile, isSurveyTile, levelFor, surveyTiles } from './survey-grid.ts';

const anywhere = fc.record({
  raDeg: fc.double({ min: 0, max: 359.99, noNaN: true }),
  decDeg: fc.double({ min: -90, max: 90, noNaN: true }),
});

describe('survey tiles', () => {
  it('leave no place of a circle without a picture, at every level, over the poles and across 0 h', () => {
    fc.assert(
      fc.property(
        anywhere,
        fc.integer({ min: 0, max: FINEST_LEVEL }),
        fc.double({ min: 0, max: 1, noNaN: true }),
        fc.double({ min: 0, max: 6.28, noNaN: true }),
        (centre, level, share, around) => {
          const radiusDeg = (2 * 16) / 2 ** level;
          const place = fromTangentPlane(centre, {
            xDeg: share * radiusDeg * 0.9 * Math.cos(around),
            yDeg: share * radiusDeg * 0.9 * Math.sin(around),
          });
          const shown = surveyTiles(centre, radiusDeg, level).some((tile) => {
            const frame = frameOfTile(tile);
            const at = toTangentPlane(frame.centre, place);
            return at !== null && Math.max(Math.abs(at.xDeg), Math.abs(at.yDeg)) <= frame.widthDeg / 2;
          });
          expect(shown).toBe(true);
        },
      ),
      { numRuns: 400 },
    );
  });
  it('are named by whole numbers that exist', () => {
    for (const tile of surveyTiles({ raDeg: 0, decDeg: -89 }, 3, 4)) expect(isSurveyTile(tile)).toBe(true);
    expect(isSurveyTile({ level: 7, strip: 0, piece: 0 })).toBe(false);
    expect(isSurveyTile({ level: 0, strip: 12, piece: 0 })).toBe(false);
    expect(isSurveyTile({ level: 0, strip: 0, piece: 0.5 })).toBe(false);
  });
  it('are fine enough for the drawing, and no finer than there are', () => {
    expect(levelFor(1, 384)).toBe(0);
    expect(levelFor(200, 384)).toBe(4);
    expect(levelFor(1e6, 384)).toBe(FINEST_LEVEL);
    expect(faintestShown(0.3)).toBeGreaterThan(faintestShown(10));
  });
});

import { describe, expect, it } from '@jest/globals';
import { pictureLight } from '@meridiem/core';
import type { Passing } from './passing.ts';
import { passingDuring } from './passing.ts';
import { renderFrame } from './render.ts';

const FACTS = { widthPx: 700, heightPx: 520, pixelUm: 3.8, focalLengthMm: 400, apertureMm: 80, readNoiseE: 3, ePerAdu: 0.5 } as never; // prettier-ignore
const picture = (passing: readonly Passing[], seed: number, exposureSec = 120) =>
  renderFrame(
    FACTS,
    {
      isOpen: true,
      pointing: { raDeg: 20 + 30 * seed, decDeg: -40 + 5 * seed },
      positionAngleDeg: 17 * seed,
      ...{ widthNm: 100, seeingArcsec: 3, defocusPx: 0, trailPx: 0, transparency: 1, skyMagV: 21, stars: [], passing },
    },
    { exposureSec, offset: 30, gain: 100, seed, startX: 0, startY: 0, widthPx: 700, heightPx: 520, binning: 1 },
  );
const trailsIn = (shot: ReturnType<typeof picture>) => pictureLight(shot).trails;

describe('what passes over a field', () => {
  it('comes once in three quarters of an hour, and is the same for whoever asks', () => {
    const night = passingDuring(5, Date.parse('2026-10-11T12:00:00Z'), 100 * 3600);
    expect(Math.abs(night.length - 133)).toBeLessThan(35);
    const later = passingDuring(5, Date.parse('2026-10-11T13:00:00Z'), 99 * 3600);
    expect(night.slice(-later.length)).toEqual(later);
  });

  it('is not seen in pictures of nothing but the sky, however many', () => {
    for (let seed = 1; seed <= 25; seed++) expect(trailsIn(picture([], seed, 300))).toEqual([]);
  });

  it('draws a line that is found wherever it crosses, and none is found without it', () => {
    for (let seed = 1; seed <= 8; seed++) {
      const passing = { x: 0.05 * (seed - 4), y: 0.04 * (seed - 3), angleRad: 0.12 + 0.37 * seed, mag: 7, arcsecPerSec: 1500 }; // prettier-ignore
      const [trail, more] = trailsIn(picture([passing], seed));
      expect(more).toBeUndefined();
      const [dx, dy] = [trail.toX - trail.fromX, trail.toY - trail.fromY];
      const turned = Math.abs(Math.sin(Math.atan2(dy, dx) - passing.angleRad));
      expect(turned).toBeLessThan(0.02);
      expect(trailsIn(picture([], seed))).toEqual([]);
    }
  });
});

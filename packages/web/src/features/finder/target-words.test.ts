import { describe, expect, it } from '@jest/globals';
import type { NightSky } from '@meridiem/contract';
import { DEFAULT_BOUNDS, horizonProfile, limitsInForce, STANDARD_FILTERS } from '@meridiem/core';
import { haloStars, haloWords, isRobust, moonWords, seasonWords, sideOf, tonightWords } from './target-words.ts';

const filter = STANDARD_FILTERS[0];
const setting = {
  site: { latitudeDeg: -30, longitudeDeg: 20, elevationM: 1000 },
  timeZone: 'utc',
  horizon: horizonProfile([]),
  bounds: DEFAULT_BOUNDS,
  zenithMagV: 21.5,
  detector: { apertureMm: 80, obstructionShare: 0, focalLengthMm: 400, pixelUm: 4, throughput: 0.5, readNoiseE: 2, darkCurrentEPerSec: 0, binning: 1 },
  classes: [{ class: filter.class, filter, exposureSec: 60, limits: limitsInForce([], filter.class) }],
}; // prettier-ignore
const night = { startUtcMs: Date.UTC(2026, 10, 24, 10), endUtcMs: Date.UTC(2026, 10, 25, 10) };
const words = (
  decDeg: number,
  usable = [{ startUtcMs: night.startUtcMs + 1e7, endUtcMs: night.startUtcMs + 2e7 }],
): string => tonightWords({ setting, position: { raDeg: 60, decDeg }, night, usable, zone: 'utc' });

describe('a target in words', () => {
  it('says when and where it is highest, and when it can be used', () => {
    expect(words(-5)).toMatch(/^Highest at \d\d:\d\d due north at 65°; usable 12:46–15:33 \(2\.8 h\)\.$/);
    expect(words(-60)).toContain('due south at 60°');
    expect(words(-5, [])).toContain('not usable tonight');
  });
  it('says at once what is never high enough, and what never rises', () => {
    expect(words(45)).toBe('Never high enough here: at most 15°, and 30° is asked for.');
    expect(words(80)).toBe('Never rises here.');
  });
  it('names the sides of the sky', () =>
    expect([0, 44, 100, 181, 359].map(sideOf)).toEqual(['north', 'north-east', 'east', 'south', 'north']));
  it('says how long it stays well placed, or from when', () => {
    const year = (from: number, to: number) =>
      Array.from({ length: 365 }, (_, i) => ({ hours: [i >= from && i < to ? 6 : 0], moonLitShare: 0, darkHours: 9 }));
    expect(seasonWords(year(0, 60), 0, '2026-11-24')).toBe('Well placed until early February.');
    expect(seasonWords(year(100, 200), 0, '2026-11-24')).toBe('Well placed from early March.');
    expect(seasonWords(year(0, 365), 0, '2026-11-24')).toBe('Well placed all year.');
    expect(seasonWords(year(0, 0), 0, '2026-11-24')).toBe('No night of the coming year has usable hours.');
  });
  it('knows what bears a bright night', () => {
    expect(isRobust({ kind: 'open cluster', mag: 6 })).toBe(true);
    expect(isRobust({ kind: 'galaxy', mag: 8 })).toBe(false);
    expect(isRobust({ kind: 'open cluster', mag: null })).toBe(false);
  });
});

describe('the Moon beside a target', () => {
  const sky = {
    viewStartUtcMs: night.startUtcMs,
    viewEndUtcMs: night.endUtcMs,
    moonIlluminatedShare: 0.996,
    moonriseUtcMs: Date.UTC(2026, 10, 24, 17, 40),
    moonsetUtcMs: null,
  } as NightSky;
  it('is said with days to full, rising, and how far it is through the night', () => {
    // Full on 24 November 2026 at 14:54 UTC, near right ascension 60°, declination 20°.
    const words = moonWords(setting.site, { raDeg: 60, decDeg: 20 }, sky, 'utc');
    expect(words).toMatch(/^Moon 100 % lit, full today, rises 17:40; \d+° to \d+° away tonight\.$/);
    const opposite = moonWords(setting.site, { raDeg: 240, decDeg: -20 }, sky, 'utc');
    expect(Number(/(\d+)° to/.exec(opposite)![1])).toBeGreaterThan(165);
  });
  it('says how long ago it was full', () => {
    const later = { ...sky, viewStartUtcMs: night.startUtcMs + 3 * 864e5, viewEndUtcMs: night.endUtcMs + 3 * 864e5 };
    expect(moonWords(setting.site, { raDeg: 60, decDeg: 20 }, later, 'utc')).toContain('full 3 days ago');
  });
});

describe('bright stars in the field', () => {
  const around = {
    stars: [
      [96, -52.7, -0.6],
      [97, -52.7, 7],
      [96, -52.4, 5.1],
      [99, -52.7, 1],
    ] as [number, number, number][],
    starNames: [[95.99, -52.6957, 'Canopus']] as [number, number, string][],
  };
  it('are named, with brightness and distance; dim ones and far ones are left out', () => {
    const stars = haloStars({ raDeg: 96, decDeg: -52.4 }, around, 1);
    expect(stars.map(({ mag }) => mag)).toEqual([-0.6, 5.1]);
    expect(haloWords(stars)).toContain(
      'Canopus (magnitude −0.6, 18′ away) and a star (magnitude 5.1, 0′ away). Expect a halo',
    );
  });
  it('are not spoken of where there are none', () => expect(haloWords([])).toBeNull());
});

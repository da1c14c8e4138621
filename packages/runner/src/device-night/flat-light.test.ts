// The exposure of flats, looked for by tests against a light of which only its pictures are known.
import { describe, expect, it } from '@jest/globals';
import { flatExposure } from './flat-light.ts';

const FULL = 65_535;

/** A light that brings so many counts a second at its brightest. */
function lightOf(countsPerSec: number) {
  let share = 1;
  const tests: number[] = [];
  return {
    tests,
    get share() {
      return share;
    },
    light: { dim: async (byShare: number) => (share *= byShare) },
    expose: async (sec: number) => {
      tests.push(sec);
      const level = Math.min(FULL, 300 + countsPerSec * share * sec);
      return { widthPx: 10, heightPx: 10, pixels: new Uint16Array(100).fill(level) };
    },
  };
}

const levelAt = (countsPerSec: number, share: number, sec: number): number => (300 + countsPerSec * share * sec) / FULL;

describe('the exposure of flats', () => {
  it.each([{ counts: 30_000 }, { counts: 1000 }, { counts: 400 }])(
    'reaches its level at $counts counts a second',
    async ({ counts }) => {
      // prettier-ignore
      const by = lightOf(counts);
      const sec = (await flatExposure({ firstSec: 1, levelShare: 0.45, ...by }))!;
      expect(Math.abs(levelAt(counts, by.share, sec) / 0.45 - 1)).toBeLessThan(0.1);
      expect(by.tests.length).toBeLessThanOrEqual(6);
      expect(by.share).toBe(1);
    },
  );

  it('dims a light that is too bright for any even exposure', async () => {
    const by = lightOf(2_000_000);
    const sec = (await flatExposure({ firstSec: 1, levelShare: 0.45, ...by }))!;
    expect(sec).toBeGreaterThanOrEqual(0.5);
    expect(by.share).toBeLessThan(0.1);
    expect(Math.abs(levelAt(2_000_000, by.share, sec) / 0.45 - 1)).toBeLessThan(0.1);
  });

  it('begins where it is told, and takes one test where that is right', async () => {
    const by = lightOf(1000);
    expect(await flatExposure({ firstSec: 29, levelShare: 0.45, ...by })).toBe(29);
    expect(by.tests).toEqual([29]);
  });

  it('is none where the light is too faint, or no time is left', async () => {
    expect(await flatExposure({ firstSec: 1, levelShare: 0.45, ...lightOf(5) })).toBeNull();
    expect(
      await flatExposure({ firstSec: 1, levelShare: 0.45, ...lightOf(1000), expose: async () => false }),
    ).toBeNull();
  });
});

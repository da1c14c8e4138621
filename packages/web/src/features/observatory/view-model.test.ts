import type { NightSky } from '@meridiem/contract';
import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import {
  adviceWords,
  tonightsMoonMag,
  previewWords,
  RIG_TEXTS,
  rigFacts,
  rigFrom,
  sigmasOf,
  wheelAsTyped,
  wheelFrom,
} from './view-model.ts';

const rig = {
  focalLengthMm: 1000,
  apertureMm: 200,
  obstructionShare: 0.3,
  pixelUm: 5,
  widthPx: 6000,
  heightPx: 4000,
  mountKind: 'german_equatorial' as const,
  flipAfterSec: 300,
  mountLimitAfterSec: 900,
};

describe('what a rig’s numbers amount to', () => {
  it('is its field, image scale and focal ratio, in units that suit them', () => {
    const { field, scale, focalRatio, doubts } = rigFacts(rig);
    // 30 × 20 mm at 1000 mm, 206.265″ · 5 µm / 1000 mm.
    expect(field).toBe('1.72° × 1.15°');
    expect(scale).toBe('1.03');
    expect(focalRatio).toBe('f/5.0');
    expect(doubts).toEqual([]);
    expect(rigFacts({ ...rig, focalLengthMm: 2600 }).field).toBe('39.7′ × 26.4′');
  });
  it('doubts optics that nobody has, and a flip at the mount’s own limit', () => {
    expect(rigFacts({ ...rig, focalLengthMm: 100 }).doubts.length).toBeGreaterThan(0);
    const late = rigFacts({ ...rig, flipAfterSec: 850 });
    expect(late.doubts).toEqual(['The flip comes within a minute of the mount’s own limit.']);
    expect(rigFacts({ ...rig, flipAfterSec: 850, mountKind: 'alt_azimuth' }).doubts).toEqual([]);
  });
});

describe('rejection rules as typed', () => {
  it.each([
    ['3', 3],
    [' 2,5 ', 2.5],
    ['OFF', null],
    ['0.5', undefined],
    ['21', undefined],
    ['', undefined],
    ['three', undefined],
  ])('%j', (text, sigmas) => expect(sigmasOf(text)).toBe(sigmas));

  it('are tried in a sentence that names only what rejects', () => {
    const byFigure = { starSize: 20, starCount: 0, guiding: 32, background: 0, elongation: 0, starlight: 0 };
    expect(previewWords({ exposures: 812, rejectedNow: 37, wouldReject: 52, byFigure })).toBe(
      'Of the newest 812 exposures 37 are rejected by rule now; these rules would reject 52: 20 for star size, 32 for guiding.',
    );
    const none = { starSize: 0, starCount: 0, guiding: 0, background: 0, elongation: 0, starlight: 0 };
    expect(previewWords({ exposures: 9, rejectedNow: 1, wouldReject: 0, byFigure: none })).toMatch(/would reject 0\.$/);
  });
});

describe('the wheel', () => {
  const slot = fc.record({
    slot: fc.integer({ min: 1, max: 12 }),
    filterId: fc.uuid(),
    focusOffsetSteps: fc.option(fc.integer({ min: -9999, max: 9999 })),
  });
  it('comes back from the form as it was put in, whatever its slots', () =>
    fc.assert(
      fc.property(fc.uniqueArray(slot, { selector: (one) => one.slot, maxLength: 10 }), (slots) => {
        const typed = wheelAsTyped({ slots, filterPlaces: 12 });
        expect(typed).toHaveLength(12);
        expect(typed.map((one) => one.slot)).toEqual(typed.map((_, i) => i + 1));
        expect(wheelFrom(typed)).toEqual([...slots].sort((a, b) => a.slot - b.slot));
      }),
    ));
  it('takes a true minus, and says what an offset may be', () => {
    const typed = (offset: string) => [{ slot: 2, filterId: 'f', offset }];
    expect(wheelFrom(typed('−45'))[0].focusOffsetSteps).toBe(-45);
    expect(wheelFrom(typed('  '))[0].focusOffsetSteps).toBeNull();
    expect(() => wheelFrom(typed('4.5'))).toThrow('The offset of place 2 is whole steps');
  });
});

describe('a new rig as typed', () => {
  const typed = {
    ...RIG_TEXTS,
    name: ' Heron ',
    focalLengthMm: '1000',
    apertureMm: '200',
    pixelUm: '3,76',
    widthPx: '6000',
    heightPx: '4000',
    obstructionShare: '30',
    modeName: ' High ',
    gain: '120',
    readNoiseE: '1.8',
    fullWellE: '50000',
  };
  it('is read with the times of its mount', () => {
    expect(rigFrom(typed)).toMatchObject({ name: 'Heron', pixelUm: 3.76, flipAfterSec: 600, mountLimitAfterSec: 900 });
    const fork = rigFrom({ ...typed, mountKind: 'fork_equatorial' });
    expect(fork).toMatchObject({ flipAfterSec: 0, mountLimitAfterSec: 0 });
    expect(fork).toMatchObject({
      skyAngleDeg: null,
      obstructionShare: 0.3,
      mode: { name: 'High', gain: 120 },
      filterPlaces: 7,
    });
    expect(rigFrom({ ...typed, skyAngleDeg: '12,5' }).skyAngleDeg).toBe(12.5);
    expect(rigFrom({ ...typed, filterHolder: 'drawer' })).toMatchObject({ filterHolder: 'drawer', filterPlaces: 1 });
  });
  it.each([
    'focalLengthMm',
    'apertureMm',
    'pixelUm',
    'widthPx',
    'heightPx',
    'gain',
    'readNoiseE',
    'fullWellE',
  ] as const)('names the field %s where it is no number', (field) => {
    for (const wrong of ['', 'long']) {
      let met: (Error & { field?: string }) | null = null;
      try {
        rigFrom({ ...typed, [field]: wrong });
      } catch (error) {
        met = error as Error;
      }
      expect(met?.field).toBe(field);
      expect(met?.message).toContain('write a number like');
    }
  });
});

describe('advice on an exposure', () => {
  it('gives its numbers, and says where it is cut', () => {
    const advice = {
      shortestSec: 87.4,
      longestSec: 6.25,
      skyPerSec: 1.234,
      mode: { gain: 100, readNoiseE: 1.8, fullWellE: 50_000 },
      isBounded: false,
    } as unknown as Parameters<typeof adviceWords>[0];
    expect(adviceWords(advice)).toBe(
      'The dark sky gives 1.2 e⁻/s a pixel; with 1.8 e⁻ read noise, 87 s keep its share of the noise to 5 %. A star of magnitude 9 saturates after about 6.3 s.',
    );
    expect(adviceWords({ ...advice, isBounded: true, longestSec: 61.2 })).toMatch(
      /so it is cut\. A star of magnitude 9 saturates after about 61 s\.$/,
    );
  });
});

describe('tonight’s Moon', () => {
  const sky = { viewStartUtcMs: 0, stepMs: 10, duskUtcMs: 10, dawnUtcMs: 30, moonBrighteningMag: [4, 0.5, 1.2, 1, 3] };
  it('counts from dusk to dawn alone', () => expect(tonightsMoonMag(sky as NightSky)).toBe(1.2));
  it('is nothing where it is never dark', () =>
    expect(tonightsMoonMag({ ...sky, duskUtcMs: null } as NightSky)).toBe(0));
});

import { describe, expect, it } from '@jest/globals';
import { seededRandom } from '../random.ts';
import type { NamedFrame, NamePart } from './delivery-names.ts';
import { DEFAULT_NAME_RULE, deliveryNames, deliveryWithCalibration, NAME_PARTS } from './delivery-names.ts';

const frame = (more: Partial<NamedFrame> = {}): NamedFrame => ({
  project: 'Haze near NGC 55',
  panel: 'Haze near NGC 55, panel 2',
  filter: 'Hα',
  exposureSec: 300,
  nightDate: '2026-10-11',
  startUtcMs: Date.parse('2026-10-11T14:03:09.500Z'),
  kind: 'light',
  rig: 'Wren, the wide refractor',
  verdict: 'accepted',
  ...more,
});

describe('names of delivered frames', () => {
  it('say what they are made of', () => {
    expect(deliveryNames([frame()], DEFAULT_NAME_RULE)).toEqual([
      '2026-10-11/Ha/Haze-near-NGC-55-panel-2_Ha_300s_2026-10-11T14-03-09.fits',
    ]);
    expect(deliveryNames([frame()], { folders: [], name: [] })).toEqual(['2026-10-11T14-03-09.fits']);
  });

  it('differ where a disk ignores case, and keep clear of what systems keep for themselves', () => {
    const rule = { folders: [], name: ['panel'] as const };
    expect(deliveryNames([frame({ panel: 'Veil' }), frame({ panel: 'VEIL' }), frame({ panel: 'veil' })], rule)).toEqual(
      ['Veil.fits', 'VEIL_2.fits', 'veil_3.fits'],
    );
    expect(deliveryNames([frame({ panel: 'aux' }), frame({ panel: '…' })], rule)).toEqual([
      'aux-.fits',
      'unnamed.fits',
    ]);
  });

  it('are legal and different for any words in any order of parts', () => {
    const random = seededRandom(11);
    const signs = 'aAzZ09 ._-/\\:*?"<>|éüß漢字\n\t%$';
    const words = (): string =>
      Array.from({ length: Math.floor(60 * random()) }, () => signs[Math.floor(signs.length * random())]).join('');
    for (let round = 0; round < 100; round++) {
      const some = (): NamePart[] => NAME_PARTS.filter(() => random() < 0.4);
      const rule = { folders: some(), name: some() };
      const frames = Array.from({ length: 30 }, () =>
        frame({
          project: words(),
          panel: words(),
          filter: words(),
          rig: words(),
          startUtcMs: 1e12 + Math.floor(5 * random()) * 1000,
        }),
      );
      const names = deliveryNames(frames, rule);
      expect(new Set(names.map((name) => name.toLowerCase())).size).toBe(30);
      for (const name of names) expect(name).toMatch(/^([A-Za-z0-9-]+\/)*[A-Za-z0-9_-]+\.fits$/);
    }
  });

  it('put calibration beside the lights, different from them and from each other', () => {
    const dark = frame({ kind: 'dark', filter: '', panel: '', project: '' });
    const bias = { ...dark, kind: 'bias', exposureSec: 0 };
    const flat = frame({ kind: 'flat', exposureSec: 2.4 });
    const named = deliveryWithCalibration(
      [frame({ project: 'Calibration', panel: 'flat' })],
      [flat, { ...flat }, dark, bias],
      { folders: ['project'], name: ['panel'] },
    );
    expect(named.lights).toEqual(['Calibration/flat.fits']);
    expect(named.calibration).toEqual([
      'calibration/flat/Wren-the-wide-refractor_Ha_2-4s_2026-10-11T14-03-09.fits',
      'calibration/flat/Wren-the-wide-refractor_Ha_2-4s_2026-10-11T14-03-09_2.fits',
      'calibration/dark/Wren-the-wide-refractor_300s_2026-10-11T14-03-09.fits',
      'calibration/bias/Wren-the-wide-refractor_0s_2026-10-11T14-03-09.fits',
    ]);
  });
});

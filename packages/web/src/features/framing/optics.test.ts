import { describe, expect, it } from '@jest/globals';
import type { Recipe, Rig } from '@meridiem/contract';
import { fieldOf } from '@meridiem/core';
import { focalAddress, opticsFrom, partsRead } from './optics.ts';

const rig = { id: 'r', apertureMm: 100, focalLengthMm: 500, pixelUm: 5, widthPx: 4000, heightPx: 3000 } as Rig;
const framedWith = (address: string) => opticsFrom(new URLSearchParams(address), rig);

describe('what is framed with', () => {
  it('is the rig as it is where nothing else is asked, or what is asked can’t be', () => {
    for (const address of ['', 'part=', 'part=5000x10', 'part=0x10', 'part=ax2', 'focal=x', 'focal=500', 'focal=-3'])
      expect(framedWith(address)).toEqual({ rig, part: null, triedFocalMm: null });
  });
  it('is a part of the sensor: half the pixels along each side are half the field', () => {
    // 2000 px of 5 µm are 10 mm: at 500 mm they see 2 · atan(5 / 500) = 1.1459°.
    const { widthDeg, heightDeg } = fieldOf(framedWith('part=2000x1500').rig);
    expect([widthDeg, heightDeg].map((side) => side.toFixed(4))).toEqual(['1.1459', '0.8594']);
  });
  it('is another focal length to see what it would be like, marked as such', () => {
    const tried = framedWith('focal=250');
    expect(tried.triedFocalMm).toBe(250);
    expect(fieldOf(tried.rig).widthDeg).toBeCloseTo((2 * Math.atan(10 / 250) * 180) / Math.PI, 10);
  });
  it('is typed with or without its unit', () => {
    expect(focalAddress('360 mm', rig)).toEqual({ focal: '360' });
    expect(focalAddress('500', rig)).toEqual({ focal: null });
    expect(() => focalAddress('long', rig)).toThrow('5 to 30000 mm');
  });
  it('offers each part that this rig’s light recipes read once, the largest first', () => {
    const recipe = (region: Recipe['region'], more: Partial<Recipe> = {}) =>
      ({ rigId: 'r', kind: 'light', region, ...more }) as Recipe;
    const [small, large] = [
      { widthPx: 800, heightPx: 600 },
      { widthPx: 2000, heightPx: 1500 },
    ];
    const recipes = [
      recipe(null),
      recipe(small),
      recipe(large),
      recipe({ ...small }),
      recipe({ widthPx: 10, heightPx: 10 }, { rigId: 'other' }),
      recipe({ widthPx: 20, heightPx: 20 }, { kind: 'flat' }),
    ];
    expect(partsRead(rig, recipes)).toEqual([large, small]);
  });
});

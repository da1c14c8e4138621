import { describe, expect, it } from '@jest/globals';
import type { Rig } from '@meridiem/contract';
import type { Composition } from './view-model.ts';
import { addressOf, amountsOf, compositionFrom, framed, subjectAddress } from './view-model.ts';

const rig = {
  apertureMm: 106,
  focalLengthMm: 530,
  pixelUm: 9,
  widthPx: 1600,
  heightPx: 1200,
  rotatorKind: 'hand',
  skyAngleDeg: 12,
  angleToleranceDeg: 4,
} as Rig;
const from = (address: string) => compositionFrom(new URLSearchParams(address))!;
const amounts = (composition: Composition, by: Rig = rig) => amountsOf(composition, framed(composition, by), by);
const BASE = 'target=NGC 1&ra=20&dec=-70&sra=20&sdec=-70&size=40&angle=12';

describe('a composition in the address', () => {
  it('is read with usual values where nothing stands, and not at all without a place', () => {
    expect(from('ra=10&dec=-30')).toMatchObject({
      rows: 1,
      cols: 1,
      overlapPercent: 15,
      layout: 'one_angle',
      positionAngleDeg: 0,
    });
    for (const address of ['', 'ra=10', 'dec=5', 'ra=x&dec=5', 'ra=400&dec=0', 'ra=1&dec=91'])
      expect(compositionFrom(new URLSearchParams(address))).toBeNull();
    expect(from('ra=1&dec=2&rows=99&cols=0&overlap=80')).toMatchObject({ rows: 10, cols: 1, overlapPercent: 60 });
  });
  it('goes into the address and back', () => {
    const wanted = {
      centre: { raDeg: 20.12345, decDeg: -70.5 },
      positionAngleDeg: 359.5,
      rows: 2,
      cols: 3,
      overlapPercent: 20,
      layout: 'one_plane' as const,
    };
    expect(from(new URLSearchParams(addressOf(wanted) as Record<string, string>).toString())).toMatchObject(wanted);
    expect(addressOf({ positionAngleDeg: -1 })).toEqual({ angle: '359' });
  });
});

describe('subjects in the address', () => {
  it('are discs, outlines, and others beside the first', () => {
    const outlined = from(`${BASE}&outline=19,-70;21,-70;20,-69&also=${JSON.stringify([['NGC 2', 22, -70, 8]])}`);
    expect(outlined.subject.outline).toHaveLength(3);
    expect(outlined.others).toEqual([{ name: 'NGC 2', raDeg: 22, decDeg: -70, sizeArcmin: 8, outline: null }]);
    expect(amounts(outlined).facts.join('. ')).toMatch(/\d+ % of NGC 1 inside. \d+ % of NGC 2 inside/);
    const address = { ...subjectAddress(outlined.subject), ...addressOf({ others: outlined.others }) } as Record<
      string,
      string
    >;
    const again = from(new URLSearchParams({ ra: '20', dec: '-70', ...address }).toString());
    expect([again.subject, again.others]).toEqual([outlined.subject, outlined.others]);
  });
  it('are left out where they can’t be read', () => {
    for (const bad of ['outline=1,2;3,4', 'outline=1,2;3,4;5', 'outline=a,b;c,d;e,f', 'outline=1,2;3,4;400,5'])
      expect(from(`${BASE}&${bad}`).subject.outline).toBeNull();
    for (const bad of ['{', '7', '[[1,2,3,4]]', '[["x",400,0,1]]', '[["x"]]', '[7]'])
      expect(from(`${BASE}&also=${encodeURIComponent(bad)}`).others).toEqual([]);
  });
});

describe('what a composition amounts to', () => {
  it('names field, panels, hours and the share of the subject', () => {
    const { facts, problem, remarks } = amounts(from(`${BASE}&rows=2&cols=2`));
    expect(facts.join('. ')).toMatch(/1\.56° × 1\.17°.*4 panels.*4 times the hours.*100 % of NGC 1 inside/);
    expect([problem, remarks]).toEqual([null, []]);
  });
  it('says what is cut off', () => {
    expect(amounts(from('target=NGC 1&ra=20&dec=-70&size=120&angle=12')).facts.join()).toMatch(
      /[5-7]\d % of NGC 1 inside/,
    );
  });
  it('warns of a gamble, of a turned camera, and of overlap that had to grow', () => {
    expect(amounts(from(`${BASE}&rows=1&cols=2&overlap=8`)).remarks.join()).toMatch(/gamble/);
    expect(amounts(from('ra=20&dec=-70&angle=60')).remarks.join()).toMatch(/is at 12°: 48\.0° away/);
    expect(amounts(from('ra=20&dec=-78&angle=12&rows=2&cols=3&overlap=1')).remarks.join()).toMatch(/more than asked/);
  });
  it('refuses what can not be taken, with numbers and the other way', () => {
    const onePlane = `${BASE}&rows=3&cols=6&layout=one_plane`;
    expect(amounts(from(onePlane)).problem).toMatch(/turned by up to \d+\.\d°.*4° of tolerance/);
    expect(amounts(from(onePlane), { ...rig, rotatorKind: 'motor' }).problem).toBeNull();
    expect(amounts(from('ra=0&dec=-89.6&rows=3&cols=3&angle=12')).problem).toMatch(/near a pole/);
    const tooWide = amounts(from(`${BASE}&rows=10&cols=10&layout=one_plane`), { ...rig, focalLengthMm: 53 });
    expect(tooWide.problem).toBe('These panels are too wide for one plane: frame them as two projects.');
    expect(tooWide.remarks.join()).toContain('The focal ratio would be');
  });
});

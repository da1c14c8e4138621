import { describe, expect, it } from '@jest/globals';
import type { Rig, RigWish } from '@meridiem/contract';
import { DEFAULT_STEP_COSTS } from '@meridiem/core';
import type { RigChoice, RigField } from './rig-fields.ts';
import { holderWords, isChoice, RIG_GROUPS, measuredTimes } from './rig-fields.ts';

const rig = {
  apertureMm: 305,
  focalLengthMm: 1830,
  obstructionShare: 0.42,
  throughput: 0.5,
  cameraName: '',
  cameraSerial: 'HE-1',
  sensor: 'mono',
  widthPx: 1600,
  heightPx: 1200,
  pixelUm: 7.4,
  darkCurrentEPerSec: 0.006,
  darkAtC: -10,
  darkDoublingC: 6,
  coolingBelowC: null,
  mountKind: 'german_equatorial',
  flipBeforeSec: 0,
  flipAfterSec: 600,
  mountLimitAfterSec: 900,
  stow: null,
  roofClears: 'any',
  rotatorKind: 'hand',
  skyAngleDeg: 12,
  angleToleranceDeg: 4,
  drawtubeMm: null,
  correctedCircleMm: null,
  mirrors: 'even',
  filterHolder: 'wheel',
  filterPlaces: 7,
  slots: [],
  costs: DEFAULT_STEP_COSTS,
} as unknown as Rig;

const itemsOf = (of: Rig): (RigField | RigChoice)[] => RIG_GROUPS.flatMap(({ items }) => [...items(of)]);
const field = (name: string, of = rig): RigField => itemsOf(of).find((item) => item.name === name) as RigField;
const wish = (name: string, text: string, of = rig): RigWish => field(name, of).wish(text, of);

describe('fields of a rig', () => {
  it('read back what they show', () => {
    for (const item of itemsOf(rig)) {
      const changed = isChoice(item) ? item.wish(item.value(rig), rig) : item.wish(item.text(rig), rig);
      expect({ ...rig, ...changed }).toEqual(rig);
    }
  });

  it.each([
    ['Focal length', '1 464,5', /no focal length/],
    ['Parked at', '20', /altitude and azimuth/],
    ['Download of a frame', 'soon', /no download of a frame/],
  ])('%s %s is refused in words', (name, text, expected) => expect(() => wish(name, text)).toThrow(expected));

  it('are typed in the unit they are shown in', () => {
    expect(wish('Obstruction', '33')).toEqual({ obstructionShare: 0.33 });
    expect(field('Obstruction').text(rig)).toBe('42');
    expect(wish('Flip past the meridian', '12,5')).toEqual({ flipAfterSec: 750 });
    expect(wish('Dark current measured at', '−15')).toEqual({ darkAtC: -15 });
    expect(wish('Parked at', '20°, 180°')).toEqual({ stow: { altitudeDeg: 20, azimuthDeg: 180 } });
    expect(wish('Parked at', ' ')).toEqual({ stow: null });
    expect(wish('Cooler reaches below the air', '')).toEqual({ coolingBelowC: null });
    expect(wish('Meridian flip', '200')).toEqual({ costs: { ...DEFAULT_STEP_COSTS, flipSec: 200 } });
  });

  it('ask about a flip only where the mount flips', () => {
    const names = (mountKind: Rig['mountKind']) => itemsOf({ ...rig, mountKind }).map(({ name }) => name);
    expect(names('german_equatorial')).toContain('Flip past the meridian');
    expect(names('fork_equatorial')).not.toContain('Flip past the meridian');
    const mount = itemsOf(rig).find(({ name }) => name === 'Mount') as RigChoice;
    expect(mount.wish('alt_azimuth', rig)).toMatchObject({ mountKind: 'alt_azimuth', flipAfterSec: 0 });
    const fork = { ...rig, mountKind: 'fork_equatorial', flipAfterSec: 0, mountLimitAfterSec: 0 } as Rig;
    expect(mount.wish('german_equatorial', fork)).toMatchObject({ flipAfterSec: 600, mountLimitAfterSec: 900 });
  });

  it('say of a motor no present angle, of a fixed camera no tube', () => {
    const names = (rotatorKind: Rig['rotatorKind']) => itemsOf({ ...rig, rotatorKind }).map(({ name }) => name);
    expect(names('motor')).not.toContain('Camera angle on the sky now');
    expect(names('motor')).not.toContain('Tolerance of the angle');
    expect(names('none')).not.toContain('Tube that turns with the camera');
  });
});

describe('what a rig is, in sentences', () => {
  const summaries = RIG_GROUPS.map(({ summary }) => summary(rig));
  it('names its numbers with their units', () => {
    expect(summaries[0]).toBe(
      '305 mm aperture, 1830 mm focal length, 42 % obstructed; 50 % of the light becomes electrons',
    );
    expect(summaries[1]).toBe('HE-1, mono, 1600 × 1200 px of 7.4 µm; no cooler');
    expect(summaries[2]).toBe('German equatorial, flips 10 min past the meridian; park position not said');
    expect(summaries[3]).toBe('turned by hand; at 12° now, panels within 4° of it are planned');
    expect(summaries[4]).toMatch(/^3°\/s slew, then 77 s until guided; 4 s download/);
  });

  it('says what the wheel holds', () => {
    const slot = { slot: 1, filterId: 'f', focusOffsetSteps: null };
    expect(holderWords(rig)).toBe('a wheel of 7, 0 filled');
    expect(holderWords({ ...rig, filterPlaces: 1, slots: [slot] })).toBe('a wheel of 1, full');
    expect(holderWords({ ...rig, filterHolder: 'drawer', slots: [slot] })).toBe('a drawer, changed on site');
    expect(holderWords({ ...rig, filterHolder: 'drawer' })).toBe('an empty drawer');
  });
});

it('measured times are said by the names of the set ones', () =>
  expect(
    measuredTimes([
      { key: 'autofocusSec', sec: 96.4, count: 24 },
      { key: 'unheard of', sec: 1, count: 9 },
    ]),
  ).toEqual(['Autofocus: 96 s, median of 24']));

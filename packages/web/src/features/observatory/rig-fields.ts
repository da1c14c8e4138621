// A rig's settings as its sheet shows them: groups of fields, each with its unit, what it means, and how it is read back.
import type { Rig, RigWish } from '@meridiem/contract';
import type { StepCosts } from '@meridiem/core';
import { typedNumber } from '../../words/typed.ts';
import { MOUNT_WORDS, ROTATOR_WORDS } from './view-model.ts';

/** A number or text edited in place. */
export interface RigField {
  readonly name: string;
  readonly unit?: string;
  readonly help?: string;
  readonly shown: (rig: Rig) => string;
  readonly text: (rig: Rig) => string;
  /** @throws Error with what would be accepted */
  readonly wish: (text: string, rig: Rig) => RigWish;
}

/** One of a few. */
export interface RigChoice {
  readonly name: string;
  readonly help?: string;
  readonly options: readonly { value: string; words: string }[];
  readonly value: (rig: Rig) => string;
  readonly wish: (value: string, rig: Rig) => RigWish;
}

export const isChoice = (item: RigField | RigChoice): item is RigChoice => 'options' in item;

export interface RigGroup {
  readonly title: string;
  readonly summary: (rig: Rig) => string;
  readonly items: (rig: Rig) => readonly (RigField | RigChoice)[];
}

type Named<V> = { [K in keyof Rig]: Rig[K] extends V ? K : never }[keyof Rig] & keyof RigWish;
type NumberKey = Named<number>;
type NullableKey = 'drawtubeMm' | 'correctedCircleMm' | 'coolingBelowC' | 'skyAngleDeg';
interface Told {
  readonly unit?: string;
  readonly help?: string;
}

/** Figures with a true minus. */
const figure = (value: number): string => String(Math.round(value * 1e6) / 1e6).replace('-', '−');

const number = (key: NumberKey, name: string, { factor = 1, ...told }: Told & { factor?: number } = {}): RigField => {
  const text = (rig: Rig): string => figure(rig[key] / factor);
  return {
    name,
    ...told,
    shown: text,
    text,
    wish: (typed) => ({ [key]: typedNumber(typed, name.toLowerCase()) * factor }),
  };
};

const orNothing = (key: NullableKey, name: string, nothing: string, told: Told = {}): RigField => ({
  name,
  ...told,
  shown: (rig) => (rig[key] === null ? nothing : figure(rig[key])),
  text: (rig) => (rig[key] === null ? '' : figure(rig[key])),
  wish: (typed) => ({ [key]: typed.trim() === '' ? null : typedNumber(typed, name.toLowerCase()) }),
});

const words = (key: 'cameraName' | 'cameraSerial', name: string, nothing: string, told: Told = {}): RigField => ({
  name,
  ...told,
  shown: (rig) => rig[key] || nothing,
  text: (rig) => rig[key],
  wish: (typed) => ({ [key]: typed.trim() }),
});

const cost = (key: keyof StepCosts, name: string, told: Told): RigField => ({
  name,
  ...told,
  shown: ({ costs }) => figure(costs[key]),
  text: ({ costs }) => figure(costs[key]),
  wish: (typed, { costs }) => ({ costs: { ...costs, [key]: typedNumber(typed, name.toLowerCase()) } }),
});

const choice = <K extends 'mountKind' | 'rotatorKind' | 'mirrors' | 'sensor' | 'roofClears'>(
  key: K,
  name: string,
  of: Readonly<Record<Rig[K], string>>,
  help?: string,
): RigChoice => ({
  name,
  help,
  options: Object.entries<string>(of).map(([value, said]) => ({ value, words: said })),
  value: (rig) => rig[key],
  wish: (value, rig) => ({ [key]: value, ...(key === 'mountKind' ? flipOf(value as Rig['mountKind'], rig) : {}) }),
});

/** Only a German mount flips. */
const flipOf = (kind: Rig['mountKind'], rig: Rig): RigWish =>
  kind === 'german_equatorial'
    ? { flipAfterSec: rig.flipAfterSec || 600, mountLimitAfterSec: rig.mountLimitAfterSec || 900 }
    : { flipBeforeSec: 0, flipAfterSec: 0, mountLimitAfterSec: 0 };

const MINUTES = { unit: 'min', factor: 60 };
const SENSORS = { mono: 'mono, light comes through filters', colour: 'colour, with its own colour matrix' } as const;
const MIRRORS = { even: 'none or an even number', odd: 'an odd number' } as const;
const ROOFS = { any: 'in any pose', stowed: 'only when it is parked' } as const;

const TELESCOPE: RigGroup = {
  title: 'Telescope',
  summary: ({ apertureMm, focalLengthMm, obstructionShare, throughput }) =>
    `${apertureMm} mm aperture, ${focalLengthMm} mm focal length, ${obstructionShare > 0 ? `${figure(obstructionShare * 100)} % obstructed` : 'unobstructed'}; ${figure(throughput * 100)} % of the light becomes electrons`,
  items: () => [
    number('focalLengthMm', 'Focal length', { unit: 'mm', help: 'with reducer or corrector' }),
    number('apertureMm', 'Aperture', { unit: 'mm' }),
    number('obstructionShare', 'Obstruction', { unit: '%', factor: 0.01, help: 'of the diameter' }),
    number('throughput', 'Light that becomes electrons', { unit: '%', factor: 0.01, help: 'optics × filter × sensor' }),
    choice('mirrors', 'Mirrors before the sensor', MIRRORS, 'an odd number turns the sky the other way round'),
    orNothing('correctedCircleMm', 'Circle of sharp stars', 'not known', {
      unit: 'mm',
      help: 'diameter on the sensor',
    }),
  ],
};

const CAMERA: RigGroup = {
  title: 'Camera',
  summary: (rig) =>
    `${rig.cameraName || rig.cameraSerial}, ${rig.sensor}, ${rig.widthPx} × ${rig.heightPx} px of ${figure(rig.pixelUm)} µm; ${rig.coolingBelowC === null ? 'no cooler' : `cools ${figure(rig.coolingBelowC)} °C below the air`}`,
  items: () => [
    words('cameraName', 'Model', 'not said'),
    words('cameraSerial', 'Serial number', '', {
      help: 'another number is another camera: goals with frames of both are marked',
    }),
    choice('sensor', 'Sensor', SENSORS),
    number('pixelUm', 'Pixel', { unit: 'µm' }),
    number('widthPx', 'Sensor width', { unit: 'px' }),
    number('heightPx', 'Sensor height', { unit: 'px' }),
    number('darkCurrentEPerSec', 'Dark current', { unit: 'e⁻/s', help: 'of a pixel' }),
    number('darkAtC', 'Dark current measured at', { unit: '°C', help: 'sensor temperature' }),
    number('darkDoublingC', 'Dark current doubles every', { unit: '°C' }),
    orNothing('coolingBelowC', 'Cooler reaches below the air', 'no cooler', { unit: '°C' }),
  ],
};

const parked = ({ stow }: Rig): string => (stow ? `${figure(stow.altitudeDeg)}°, ${figure(stow.azimuthDeg)}°` : '');

const MOUNT: RigGroup = {
  title: 'Mount',
  summary: (rig) =>
    `${MOUNT_WORDS[rig.mountKind]}${rig.mountKind === 'german_equatorial' ? `, flips ${figure(rig.flipAfterSec / 60)} min past the meridian` : ''}; ${rig.stow ? `parked at ${parked(rig)}` : 'park position not said'}`,
  items: (rig) => [
    choice('mountKind', 'Mount', MOUNT_WORDS),
    ...(rig.mountKind === 'german_equatorial'
      ? [
          number('flipBeforeSec', 'Flip may begin before the meridian', MINUTES),
          number('flipAfterSec', 'Flip past the meridian', {
            ...MINUTES,
            help: 'at the latest; before the mount’s own limit',
          }),
          number('mountLimitAfterSec', 'The mount’s own limit', { ...MINUTES, help: 'past the meridian' }),
        ]
      : []),
    {
      name: 'Parked at',
      help: 'altitude, azimuth',
      shown: (of) => parked(of) || 'not said',
      text: parked,
      wish: (typed) => ({ stow: stowFrom(typed) }),
    },
    choice('roofClears', 'The roof clears the rig', ROOFS),
  ],
};

/** @throws Error where it is no pair of angles */
function stowFrom(text: string): Rig['stow'] {
  if (text.trim() === '') return null;
  const parts = text
    .replaceAll('°', ' ')
    .split(/[,;\s]+/)
    .filter((part) => part !== '');
  if (parts.length !== 2)
    throw new Error('Write altitude and azimuth in degrees, like 20°, 180°; empty where it is not known');
  const [altitudeDeg, azimuthDeg] = parts.map((part) => typedNumber(part, 'angle'));
  return { altitudeDeg, azimuthDeg };
}

const ROTATION: RigGroup = {
  title: 'Camera angle',
  summary: (rig) =>
    rig.rotatorKind === 'motor'
      ? 'turned by a motor'
      : `${rig.rotatorKind === 'hand' ? 'turned by hand' : 'fixed'}; ${rig.skyAngleDeg === null ? 'not measured' : `at ${figure(rig.skyAngleDeg)}° now`}, panels within ${figure(rig.angleToleranceDeg)}° of it are planned`,
  items: (rig) => [
    choice('rotatorKind', 'Camera is turned', ROTATOR_WORDS),
    ...(rig.rotatorKind === 'motor'
      ? []
      : [
          orNothing('skyAngleDeg', 'Camera angle on the sky now', 'not measured', {
            unit: '°',
            help: 'from north through east',
          }),
          number('angleToleranceDeg', 'Tolerance of the angle', {
            unit: '°',
            help: 'panels up to this far from the camera’s angle are planned',
          }),
        ]),
    ...(rig.rotatorKind === 'none'
      ? []
      : [
          orNothing('drawtubeMm', 'Tube that turns with the camera', 'not measured', {
            unit: 'mm',
            help: 'outer diameter, for turning by a ruler',
          }),
        ]),
  ],
};

/** Times of steps by their key, as they are called. */
const TIME_NAMES = new Map([
  ['centreSec', 'Solve and centre'],
  ['guidingStartSec', 'Start guiding'],
  ['filterChangeSec', 'Change of filter'],
  ['autofocusSec', 'Autofocus'],
  ['ditherSec', 'Dither'],
  ['downloadSec', 'Download of a frame'],
]);

const TIMES: RigGroup = {
  title: 'Times',
  summary: ({ costs }) =>
    `${costs.slewDegPerSec}°/s slew, then ${costs.slewSettleSec + costs.centreSec + costs.guidingStartSec} s until guided; ${costs.downloadSec} s download, ${costs.ditherSec} s dither; ${costs.autofocusEveryMin > 0 ? `autofocus ${costs.autofocusSec} s every ${costs.autofocusEveryMin} min` : 'no regular autofocus'}`,
  items: () => [
    cost('slewDegPerSec', 'Slew', { unit: '°/s' }),
    cost('slewSettleSec', 'Settle after a slew', { unit: 's' }),
    cost('centreSec', 'Solve and centre', { unit: 's' }),
    cost('guidingStartSec', 'Start guiding', { unit: 's' }),
    cost('filterChangeSec', 'Change of filter', { unit: 's' }),
    cost('autofocusSec', 'Autofocus', { unit: 's' }),
    cost('autofocusEveryMin', 'Autofocus every', { unit: 'min', help: '0 is never' }),
    cost('ditherSec', 'Dither', { unit: 's', help: 'until guiding has settled' }),
    cost('downloadSec', 'Download of a frame', { unit: 's' }),
    cost('flipSec', 'Meridian flip', { unit: 's', help: 'until guided again' }),
  ],
};

/** "focus: 96 s, median of 24" for each time that was measured. */
export const measuredTimes = (
  measured: readonly { readonly key: string; readonly sec: number; readonly count: number }[],
): string[] =>
  measured.flatMap(({ key, sec, count }) => {
    const name = TIME_NAMES.get(key);
    return name ? [`${name}: ${sec.toFixed(0)} s, median of ${count}`] : [];
  });

export const RIG_GROUPS: readonly RigGroup[] = [TELESCOPE, CAMERA, MOUNT, ROTATION, TIMES];

/** What is in the wheel or drawer, in a sentence. */
export function holderWords({ filterHolder, filterPlaces, slots }: Rig): string {
  if (filterHolder === 'drawer') return slots.length > 0 ? 'a drawer, changed on site' : 'an empty drawer';
  return `a wheel of ${filterPlaces}, ${slots.length === filterPlaces ? 'full' : `${slots.length} filled`}`;
}

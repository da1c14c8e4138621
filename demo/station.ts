// The made-up station: a site, two rigs, seven filters, recipes and limits.
import type { addCameraMode, BodyOf } from '@meridiem/contract';
import type { FilterClass, HorizonPoint, LimitKey, MountKind, RotatorKind, StepCosts } from '@meridiem/core';
import { DEFAULT_STEP_COSTS, nightDatePlus, STANDARD_FILTERS } from '@meridiem/core';

export const STATION = {
  name: 'Saltbush Rise Station',
  latitudeDeg: -31.62,
  longitudeDeg: 137.85,
  elevationM: 610,
  timeZone: 'Australia/Adelaide',
  zenithMagV: 21.8,
} as const;

export const HORIZON: readonly HorizonPoint[] = [
  [0, 14],
  [30, 12],
  [55, 9],
  [80, 8],
  [100, 11],
  [120, 18],
  [135, 22],
  [150, 17],
  [180, 12],
  [215, 10],
  [240, 13],
  [262, 24],
  [275, 26],
  [290, 19],
  [320, 13],
  [340, 15],
].map(([azimuthDeg, altitudeDeg]) => ({ azimuthDeg, altitudeDeg }));

export const FILTERS = STANDARD_FILTERS;

export interface DemoRig {
  readonly key: 'wide' | 'long';
  readonly name: string;
  readonly cameraName: string;
  readonly cameraSerial: string;
  readonly sensor: 'mono' | 'colour';
  readonly apertureMm: number;
  readonly obstructionShare: number;
  readonly focalLengthMm: number;
  readonly throughput: number;
  readonly pixelUm: number;
  readonly widthPx: number;
  readonly heightPx: number;
  readonly darkCurrentEPerSec: number;
  readonly darkAtC: number;
  readonly darkDoublingC: number;
  readonly coolingBelowC: number | null;
  readonly mountKind: MountKind;
  readonly flipBeforeSec: number;
  readonly flipAfterSec: number;
  readonly mountLimitAfterSec: number;
  readonly rotatorKind: RotatorKind;
  readonly skyAngleDeg: number | null;
  readonly angleToleranceDeg: number;
  readonly drawtubeMm: number | null;
  readonly correctedCircleMm: number | null;
  readonly mirrors: 'even' | 'odd';
  readonly filterHolder: 'wheel' | 'drawer';
  readonly filterPlaces: number;
  readonly stow: { altitudeDeg: number; azimuthDeg: number } | null;
  readonly roofClears: 'any' | 'stowed';
  readonly costs: StepCosts;
  readonly modes: readonly BodyOf<typeof addCameraMode>[];
  /** Filters whose focus offset was never measured. */
  readonly offsetsUnknown: readonly string[];
}

const mode = (
  name: string,
  gain: number,
  [readNoiseE, fullWellE, ePerAdu]: readonly [number, number, number],
): BodyOf<typeof addCameraMode> => ({
  name,
  gain,
  gainKind: 'gain',
  readNoiseE,
  fullWellE,
  ePerAdu,
  typicalOffset: 30,
});

export const WIDE_ANGLE_DEG = 12;

export const RIGS: readonly DemoRig[] = [
  {
    key: 'wide',
    name: 'Wren, the wide refractor',
    cameraName: 'Wren camera, 1.9 megapixels',
    cameraSerial: 'WR-0117',
    sensor: 'mono',
    apertureMm: 106,
    obstructionShare: 0,
    focalLengthMm: 530,
    throughput: 0.55,
    pixelUm: 9,
    widthPx: 1600,
    heightPx: 1200,
    darkCurrentEPerSec: 0.004,
    darkAtC: -10,
    darkDoublingC: 6,
    coolingBelowC: 35,
    mountKind: 'german_equatorial',
    flipBeforeSec: 0,
    flipAfterSec: 600,
    mountLimitAfterSec: 900,
    rotatorKind: 'hand',
    skyAngleDeg: WIDE_ANGLE_DEG,
    angleToleranceDeg: 4,
    drawtubeMm: 92,
    correctedCircleMm: 16,
    mirrors: 'even',
    filterHolder: 'wheel',
    filterPlaces: 7,
    stow: { altitudeDeg: 0, azimuthDeg: 180 },
    roofClears: 'stowed',
    costs: DEFAULT_STEP_COSTS,
    modes: [mode('Broadband', 75, [2.1, 50_000, 0.78]), mode('Narrowband', 180, [1.5, 18_000, 0.28])],
    offsetsUnknown: [],
  },
  {
    key: 'long',
    name: 'Heron, the long reflector',
    cameraName: 'Heron camera, 1.9 megapixels',
    cameraSerial: 'HE-0302',
    sensor: 'mono',
    apertureMm: 305,
    obstructionShare: 0.42,
    focalLengthMm: 1830,
    throughput: 0.5,
    pixelUm: 7.4,
    widthPx: 1600,
    heightPx: 1200,
    darkCurrentEPerSec: 0.006,
    darkAtC: -10,
    darkDoublingC: 6.5,
    coolingBelowC: 40,
    mountKind: 'fork_equatorial',
    flipBeforeSec: 0,
    flipAfterSec: 0,
    mountLimitAfterSec: 0,
    rotatorKind: 'motor',
    skyAngleDeg: 0,
    angleToleranceDeg: 2,
    drawtubeMm: null,
    correctedCircleMm: 30,
    mirrors: 'even',
    filterHolder: 'wheel',
    filterPlaces: 8,
    stow: { altitudeDeg: 20, azimuthDeg: 0 },
    roofClears: 'any',
    costs: { ...DEFAULT_STEP_COSTS, slewDegPerSec: 2, centreSec: 60, downloadSec: 6, flipSec: 0 },
    modes: [mode('Broadband', 100, [2.6, 42_000, 0.65]), mode('Narrowband', 200, [1.8, 16_000, 0.25])],
    offsetsUnknown: ['OIII', 'SII'],
  },
];

export const exposureSecOf = (filterClass: FilterClass): number => (filterClass === 'narrowband' ? 300 : 120);

/** The station's own limits by class; null = all classes. */
export const LIMITS: readonly { class: FilterClass | null; key: LimitKey; value: number }[] = [
  { class: null, key: 'minAltitudeDeg', value: 32 },
  { class: 'broadband', key: 'sunAltitudeMaxDeg', value: -17 },
  { class: 'narrowband', key: 'sunAltitudeMaxDeg', value: -14 },
  { class: 'broadband', key: 'moonSeparationMinDeg', value: 50 },
  { class: 'narrowband', key: 'moonSeparationMinDeg', value: 25 },
  { class: 'broadband', key: 'moonlightToleranceMag', value: 1.2 },
];

/** Odds of a clear night from January on, and where they are said to come from. */
export const CLEAR_ODDS = [0.68, 0.66, 0.62, 0.55, 0.48, 0.44, 0.46, 0.5, 0.54, 0.58, 0.62, 0.66] as const;
export const CLIMATE_SOURCE = 'counted from the station’s own cloud record, 2019 to 2025';

/** Three nights some weeks ahead. */
export const closedNights = (tonight: string): { firstNight: string; lastNight: string } => ({
  firstNight: nightDatePlus(tonight, 17),
  lastNight: nightDatePlus(tonight, 19),
});

// Telescopes, cameras, filters and recipes: what exposures are taken with.
import { STEP_MOMENTS } from '@meridiem/core';
import type { Static } from 'typebox';
import { Type } from 'typebox';
import { FilterClass, Id, Nullable, oneOf, UtcMs, Version, Words } from './common.ts';

export const StepCostsBody = Type.Object({
  slewDegPerSec: Type.Number({ exclusiveMinimum: 0, maximum: 100 }),
  slewSettleSec: Type.Number({ minimum: 0, maximum: 600 }),
  centreSec: Type.Number({ minimum: 0, maximum: 900 }),
  guidingStartSec: Type.Number({ minimum: 0, maximum: 900 }),
  filterChangeSec: Type.Number({ minimum: 0, maximum: 300 }),
  autofocusSec: Type.Number({ minimum: 0, maximum: 1800 }),
  autofocusEveryMin: Type.Number({ minimum: 0, maximum: 720 }),
  ditherSec: Type.Number({ minimum: 0, maximum: 300 }),
  downloadSec: Type.Number({ minimum: 0, maximum: 300 }),
  flipSec: Type.Number({ minimum: 0, maximum: 1800 }),
});

/** What is known of a camera; another serial number is another camera. */
const CameraNumbers = {
  /** Model, as people call it; empty where nobody has said it. */
  cameraName: Type.String({ maxLength: 80 }),
  cameraSerial: Words(60),
  sensor: oneOf(['mono', 'colour'] as const),
  pixelUm: Type.Number({ minimum: 0.1, maximum: 50 }),
  widthPx: Type.Integer({ minimum: 1, maximum: 20000 }),
  heightPx: Type.Integer({ minimum: 1, maximum: 20000 }),
  darkCurrentEPerSec: Type.Number({ minimum: 0, maximum: 100 }),
  /** Sensor temperature at which that dark current was measured, and how many degrees double it. */
  darkAtC: Type.Number({ minimum: -80, maximum: 40 }),
  darkDoublingC: Type.Number({ minimum: 2, maximum: 20 }),
  /** How far below the air the cooler reaches; null without a cooler. */
  coolingBelowC: Nullable(Type.Number({ minimum: 0, maximum: 80 })),
};

/** Dated numbers of a camera mode. */
export const ModeNumbers = {
  /** Gain, or the sensitivity number of an everyday camera. */
  gain: Type.Integer({ minimum: 0, maximum: 100_000 }),
  gainKind: oneOf(['gain', 'sensitivity'] as const),
  readNoiseE: Type.Number({ minimum: 0.01, maximum: 1000 }),
  fullWellE: Type.Number({ exclusiveMinimum: 0, maximum: 10_000_000 }),
  /** Electrons a count; null while nobody has measured it. */
  ePerAdu: Nullable(Type.Number({ exclusiveMinimum: 0, maximum: 1000 })),
  /** Offset that recipes of this mode begin with. */
  typicalOffset: Type.Integer({ minimum: 0, maximum: 10_000 }),
};

export const RigNumbers = {
  apertureMm: Type.Number({ minimum: 1, maximum: 5000 }),
  obstructionShare: Type.Number({ minimum: 0, exclusiveMaximum: 0.9 }),
  focalLengthMm: Type.Number({ minimum: 1, maximum: 30000 }),
  throughput: Type.Number({ minimum: 0.001, maximum: 1 }),
  ...CameraNumbers,
  mountKind: oneOf(['german_equatorial', 'fork_equatorial', 'alt_azimuth'] as const),
  flipBeforeSec: Type.Number({ minimum: 0, maximum: 7200 }),
  flipAfterSec: Type.Number({ minimum: 0, maximum: 7200 }),
  mountLimitAfterSec: Type.Number({ minimum: 0, maximum: 14400 }),
  rotatorKind: oneOf(['motor', 'hand', 'none'] as const),
  skyAngleDeg: Nullable(Type.Number({ minimum: 0, exclusiveMaximum: 360 })),
  angleToleranceDeg: Type.Number({ minimum: 0, maximum: 90 }),
  /** Outer diameter of the tube that turns with the camera; diameter of the circle on the sensor within which stars are sharp. */
  drawtubeMm: Nullable(Type.Number({ exclusiveMinimum: 0, maximum: 1000 })),
  correctedCircleMm: Nullable(Type.Number({ exclusiveMinimum: 0, maximum: 500 })),
  /** Whether the light meets an even or odd number of mirrors before the sensor. */
  mirrors: oneOf(['even', 'odd'] as const),
  /** A wheel turned by a motor, or a drawer that somebody changes on site; how many filters it holds. */
  filterHolder: oneOf(['wheel', 'drawer'] as const),
  filterPlaces: Type.Integer({ minimum: 1, maximum: 24 }),
  /** Where the telescope is parked; null while nobody has said it. */
  stow: Nullable(
    Type.Object({
      altitudeDeg: Type.Number({ minimum: -10, maximum: 90 }),
      azimuthDeg: Type.Number({ minimum: 0, maximum: 360 }),
    }),
  ),
  /** Whether the roof may close over the rig in any pose, or only when it is parked. */
  roofClears: oneOf(['any', 'stowed'] as const),
  costs: StepCostsBody,
};

export const OwnStep = Type.Object({ moment: oneOf(STEP_MOMENTS), words: Words(200) });

export const CameraMode = Type.Object({
  id: Id,
  /** As the camera names it. */
  name: Words(60),
  revisionSeq: Type.Integer(),
  since: UtcMs,
  ...ModeNumbers,
});
export type CameraMode = Static<typeof CameraMode>;

/** none: exposures are made up as wholes; simulated: devices of the simulated observatory; address: devices that answer there. */
export const DEVICE_KINDS = ['none', 'simulated', 'address'] as const;

export const Rig = Type.Object({
  id: Id,
  name: Type.String(),
  revisionId: Id,
  revisionSeq: Type.Integer(),
  since: UtcMs,
  ...RigNumbers,
  cameraModes: Type.Array(CameraMode),
  slots: Type.Array(Type.Object({ slot: Type.Integer(), filterId: Id, focusOffsetSteps: Nullable(Type.Integer()) })),
  /** How its devices are reached. */
  devices: oneOf(DEVICE_KINDS),
  /** Whether its times are set anew, after each night by devices, by what its steps have taken. */
  learnsTimes: Type.Boolean(),
  /** Steps that people have added around stays and waits. */
  steps: Type.Array(OwnStep),
});
export type Rig = Static<typeof Rig>;

export const Filter = Type.Object({
  id: Id,
  letter: Type.String(),
  name: Type.String(),
  class: FilterClass,
  centreNm: Type.Number(),
  widthNm: Type.Number(),
  extinctionMagPerAirmass: Type.Number(),
  zenithMag: Type.Number(),
  moonFactor: Type.Number(),
  version: Version,
});
export type Filter = Static<typeof Filter>;

export const RECIPE_KINDS = ['light', 'dark', 'flat', 'bias', 'test'] as const;

export const RecipeNumbers = {
  cameraModeId: Id,
  exposureSec: Type.Number({ exclusiveMinimum: 0, maximum: 7200 }),
  offset: Type.Integer({ minimum: 0, maximum: 10000 }),
  binning: Type.Integer({ minimum: 1, maximum: 4 }),
  sensorC: Type.Number({ minimum: -60, maximum: 40 }),
  pauseSec: Type.Number({ minimum: 0, maximum: 600 }),
  ditherEvery: Type.Integer({ minimum: 0, maximum: 100 }),
  /** How far a dither moves the field, in pixels as the sensor has them. */
  ditherPx: Type.Number({ minimum: 0, maximum: 200 }),
  /** The middle of the sensor that is read; null for all of it. */
  region: Nullable(
    Type.Object({
      widthPx: Type.Integer({ minimum: 1, maximum: 20_000 }),
      heightPx: Type.Integer({ minimum: 1, maximum: 20_000 }),
    }),
  ),
};

export const Recipe = Type.Object({
  id: Id,
  revisionId: Id,
  revisionSeq: Type.Integer(),
  rigId: Id,
  name: Type.String(),
  kind: oneOf(RECIPE_KINDS),
  /** Null where no light comes in: dark and bias. */
  filterId: Nullable(Id),
  /** The member whose own recipe it is; null for everybody's. */
  ownerId: Nullable(Id),
  ownerName: Nullable(Type.String()),
  gain: Type.Integer(),
  ...RecipeNumbers,
});
export type Recipe = Static<typeof Recipe>;

export const FilterSlots = Type.Array(
  Type.Object({
    slot: Type.Integer({ minimum: 1, maximum: 24 }),
    filterId: Id,
    focusOffsetSteps: Nullable(Type.Integer({ minimum: -100_000, maximum: 100_000 })),
  }),
  { maxItems: 24 },
);

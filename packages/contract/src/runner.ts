import { NIGHT_END_KINDS } from '@meridiem/core';
import type { Static } from 'typebox';
import { Type } from 'typebox';
import { FilterClass, Id, IdParams, Nullable, oneOf, UtcMs } from './common.ts';
import { DeviceRun, RunAction } from './device-run.ts';
import { RecipeNumbers } from './equipment.ts';
import { StandingOrders } from './hand-orders.ts';
import { operation } from './operation.ts';
import { SiteReading } from './watch.ts';

/** One exposure to take. */
export const RunStep = Type.Object({
  id: Id,
  seq: Type.Integer(),
  plannedStartUtcMs: UtcMs,
  exposureSec: Type.Number(),
  panelId: Id,
  panelName: Type.String(),
  filterLetter: Type.String(),
  filterClass: FilterClass,
  raDeg: Type.Number(),
  decDeg: Type.Number(),
  positionAngleDeg: Type.Number(),
  gain: Type.Integer(),
  offset: Type.Integer(),
  binning: Type.Integer(),
  region: RecipeNumbers.region,
  sensorC: Type.Number(),
  ditherEvery: Type.Integer(),
  ditherPx: Type.Number(),
  /** What the project asks for on arriving. */
  guide: Type.Boolean(),
  centre: Type.Boolean(),
  focus: Type.Boolean(),
  rateShare: Type.Number(),
  /** As predicted for the planned start: see `ExposureConditions` of the core. */
  airmass: Type.Number(),
  transparency: Type.Number(),
  skyRatio: Type.Number(),
});
export type RunStep = Static<typeof RunStep>;

export const claimRun = operation({
  method: 'POST',
  path: '/runner/claim',
  summary: 'Take the lease of a night that waits for a runner, or take over one whose lease has expired.',
  access: 'runner',
  body: Type.Object({
    holder: Type.String({ maxLength: 80 }),
    /** Where the holder stands, beside the devices, by a name that outlives its process: no other may claim its nights before
     * they are closed. */
    site: Type.Optional(Type.String({ minLength: 1, maxLength: 80 })),
    /** Runs that the holder is carrying out already: a lease that has expired behind a cut link is renewed, not claimed again. */
    playing: Type.Optional(Type.Array(Id, { maxItems: 100 })),
  }),
  response: Type.Object({
    run: Nullable(
      Type.Object({
        id: Id,
        fence: Type.Integer(),
        speed: Type.Number(),
        /** Without a word within this another may claim the night; null: it is this site’s to the end of closing. */
        leaseSec: Nullable(Type.Number()),
        nightDate: Type.String(),
        /** By day, limits lifted: never on a real rig. */
        rehearsal: Type.Boolean(),
        rig: Type.Object({ id: Id, name: Type.String(), imageScaleArcsec: Type.Number() }),
        /** null: exposures are asked of the simulator as wholes. */
        deviceRun: Nullable(DeviceRun),
        steps: Type.Array(RunStep),
      }),
    ),
  }),
});
export type ClaimedRun = NonNullable<Static<(typeof claimRun)['response']>['run']>;

export const beginStep = operation({
  method: 'POST',
  path: '/runner/runs/:id/begin',
  summary: 'Write the intent of a step before its command; renews the lease.',
  access: 'runner',
  params: IdParams,
  body: Type.Object({ fence: Type.Integer(), stepId: Id }),
  response: Type.Object({ goOn: Type.Boolean() }),
});

/** A path of plain names: nothing leads out of its folder. */
export const FRAME_NAME = '^[A-Za-z0-9_-]+(/[A-Za-z0-9_-]+)*/[A-Za-z0-9_-]+\\.fits$';

const FrameFacts = Type.Object({
  /** Under the folder for frames. */
  name: Type.String({ maxLength: 300, pattern: FRAME_NAME }),
  sizeBytes: Type.Integer({ minimum: 1 }),
  /** Hexadecimal. */
  sha256: Type.String({ pattern: '^[0-9a-f]{64}$' }),
});

/** Of the camera on the telescope, as the rotator that turned it says; left out where none does. */
const MechanicalAngle = Type.Optional(Type.Number({ minimum: 0, maximum: 360 }));

export const StepOutcome = Type.Object({
  fence: Type.Integer(),
  stepId: Id,
  outcome: oneOf(['done', 'lost'] as const),
  words: Type.String({ maxLength: 300 }),
  exposure: Nullable(
    Type.Object({
      startUtcMs: UtcMs,
      exposureSec: Type.Number(),
      gain: Type.Integer(),
      sensorC: Type.Number(),
      /** Null where it was not measured, here and below. */
      halfFluxRadiusPx: Nullable(Type.Number()),
      starCount: Type.Integer(),
      guidingRmsArcsec: Nullable(Type.Number()),
      backgroundE: Type.Number(),
      /** Longer over shorter axis of stars; left out where nobody measures it. */
      elongation: Type.Optional(Nullable(Type.Number())),
      temperatureC: Nullable(Type.Number()),
      afterMove: Type.Boolean(),
      mechanicalAngleDeg: MechanicalAngle,
      /** Signal rate over the target's best; null where nobody has measured it. */
      rateMeasured: Nullable(Type.Number()),
      /** Its file; left out where there is none. */
      frame: Type.Optional(FrameFacts),
    }),
  ),
});
export type StepOutcome = Static<typeof StepOutcome>;

export const finishStep = operation({
  method: 'POST',
  path: '/runner/runs/:id/finish',
  summary: 'Report a step’s outcome; reporting the same step again changes nothing.',
  access: 'runner',
  params: IdParams,
  body: StepOutcome,
  response: Type.Object({ goOn: Type.Boolean() }),
});

export const keepRun = operation({
  method: 'POST',
  path: '/runner/runs/:id/keep',
  summary: 'Renew the lease of a night, and hear whether it goes on and what people have said to it.',
  access: 'runner',
  params: IdParams,
  body: Type.Object({
    fence: Type.Integer(),
    /** Orders to leave a target that have been carried out. */
    carriedOut: Type.Optional(Type.Array(Id, { maxItems: 100 })),
    /** How the site stands, as its devices last said. */
    reading: Type.Optional(SiteReading),
  }),
  response: Type.Object({ goOn: Type.Boolean(), orders: StandingOrders }),
});

export const replanRun = operation({
  method: 'POST',
  path: '/runner/runs/:id/replan',
  summary:
    'Plan what is left of the night again: exposures not begun are replaced by what is best from this moment on.',
  access: 'runner',
  params: IdParams,
  body: Type.Object({
    fence: Type.Integer(),
    fromUtcMs: UtcMs,
    /** Panels that can't be had tonight. */
    withoutPanelIds: Type.Array(Id, { maxItems: 1000 }),
  }),
  response: Type.Object({ steps: Type.Array(RunStep) }),
});

/** As many steps by devices are reported together. */
export const MOST_ACTIONS_TOGETHER = 100;

export const reportActions = operation({
  method: 'POST',
  path: '/runner/runs/:id/actions',
  summary:
    'Report steps by devices in their order, each with its intent and again with its outcome; renews the lease. Repeating it changes nothing.',
  access: 'runner',
  params: IdParams,
  body: Type.Object({
    fence: Type.Integer(),
    actions: Type.Array(RunAction, { minItems: 1, maxItems: MOST_ACTIONS_TOGETHER }),
  }),
  response: Type.Object({ goOn: Type.Boolean() }),
});

/** As many bytes of a frame go together, as base64 within a body. */
export const FRAME_PIECE_BYTES = 700_000;

export const copyFrame = operation({
  method: 'POST',
  path: '/runner/frames/:id',
  summary:
    'Copy the file of a step’s exposure, or of a calibration frame, to the server, piece after piece; without a piece it says how far the copy has come. A piece that does not follow changes nothing.',
  access: 'runner',
  params: IdParams,
  body: Type.Object({
    piece: Type.Optional(
      Type.Object({
        fromByte: Type.Integer({ minimum: 0 }),
        base64: Type.String({
          minLength: 4,
          maxLength: 4 * Math.ceil(FRAME_PIECE_BYTES / 3),
          pattern: '^[A-Za-z0-9+/]+={0,2}$',
        }),
      }),
    ),
  }),
  response: Type.Object({
    /** Here already. */
    bytes: Type.Integer(),
    /** Whether there is more to send: not where it is whole, or where the server keeps no frames. */
    isWanted: Type.Boolean(),
  }),
});

export const endRun = operation({
  method: 'POST',
  path: '/runner/runs/:id/end',
  summary: 'Give the lease back: the night has ended or was stopped.',
  access: 'runner',
  params: IdParams,
  body: Type.Object({
    fence: Type.Integer(),
    /** How it ended, where devices carried it out. */
    end: Type.Optional(oneOf(NIGHT_END_KINDS)),
  }),
  response: Type.Object({ state: Type.String() }),
});

const CALIBRATION = ['flat', 'dark', 'bias'] as const;

/** Calibration that a night's lights lack. */
const SetToTake = Type.Object({
  kind: oneOf(CALIBRATION),
  /** Of flats; null for the others. */
  filterId: Nullable(Id),
  filterLetter: Nullable(Type.String()),
  /** 0 for bias; of flats what served last, where any has. */
  exposureSec: Type.Number(),
  gain: Type.Integer(),
  offset: Type.Integer(),
  binning: Type.Integer(),
  /** The middle of the sensor that is read; null for all of it. */
  region: RecipeNumbers.region,
  /** Null where any temperature serves. */
  sensorC: Nullable(Type.Number()),
  /** Of flats: the camera's angle as their lights have it; a rig whose motor turns it goes there. */
  mechanicalAngleDeg: Nullable(Type.Number()),
  count: Type.Integer(),
});
export type SetToTake = Static<typeof SetToTake>;

const CalibrationToTake = Type.Object({
  sets: Type.Array(SetToTake),
  /** Whether the guide camera's darks are older than the rig keeps them, or there are none. */
  areGuideDarksDue: Type.Boolean(),
});
export type CalibrationToTake = Static<typeof CalibrationToTake>;

export const readCalibrationToTake = operation({
  method: 'POST',
  path: '/runner/runs/:id/calibration-to-take',
  summary:
    'Which flats, darks and bias the lights of a night lack; before its first light, those of the nights before it.',
  access: 'runner',
  params: IdParams,
  body: Type.Object({ fence: Type.Integer() }),
  response: CalibrationToTake,
});

/** A calibration frame that was taken; its id is the runner's, so that it is recorded once. */
export const TakenCalibration = Type.Object({
  id: Id,
  kind: oneOf(CALIBRATION),
  filterId: Nullable(Id),
  startUtcMs: UtcMs,
  exposureSec: Type.Number({ minimum: 0, maximum: 86_400 }),
  gain: Type.Integer(),
  offset: Type.Integer(),
  binning: Type.Integer({ minimum: 1 }),
  sensorC: Type.Number(),
  mechanicalAngleDeg: MechanicalAngle,
  /** Left out where all of the sensor was read. */
  region: Type.Optional(RecipeNumbers.region),
  frame: FrameFacts,
});
export type TakenCalibration = Static<typeof TakenCalibration>;

export const reportCalibration = operation({
  method: 'POST',
  path: '/runner/runs/:id/calibration',
  summary: 'Record a calibration frame that was taken; reporting it again changes nothing.',
  access: 'runner',
  params: IdParams,
  body: TakenCalibration,
  response: Type.Object({ goOn: Type.Boolean() }),
});

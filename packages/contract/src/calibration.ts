import { CALIBRATION_KINDS } from '@meridiem/core';
import type { Static } from 'typebox';
import { Type } from 'typebox';
import { Id, NightDateText, Nullable, oneOf, UtcMs } from './common.ts';
import { RecipeNumbers } from './equipment.ts';
import { EVERYONE, operation } from './operation.ts';

export const NEED_STATES = ['matched', 'few', 'aged', 'changed', 'owed'] as const;

/** One set of calibration frames that lights of a period need, and what there is for it. */
export const CalibrationNeed = Type.Object({
  kind: oneOf(CALIBRATION_KINDS),
  /** Of flats; null where there was none, and for the others. */
  filterLetter: Nullable(Type.String()),
  gain: Nullable(Type.Integer()),
  offset: Nullable(Type.Integer()),
  binning: Type.Integer(),
  /** The middle of the sensor that is read; null for all of it. */
  region: RecipeNumbers.region,
  /** Of darks and flat-darks. */
  exposureSec: Nullable(Type.Number()),
  sensorC: Nullable(Type.Number()),
  /** Of flats: of the camera, degrees modulo 360; null where nobody knows it. */
  mechanicalAngleDeg: Nullable(Type.Number()),
  /** Exposures that need it; of a flat-dark: sets of flats. */
  lights: Type.Integer(),
  newestUtcMs: UtcMs,
  state: oneOf(NEED_STATES),
  /** The frames that fit best. */
  set: Nullable(Type.Object({ count: Type.Integer(), utcMs: UtcMs })),
  /** Why it is not matched; empty where it is. */
  words: Type.String(),
});
export type CalibrationNeed = Static<typeof CalibrationNeed>;

const PerKind = Type.Object({ flat: Type.Number(), dark: Type.Number(), bias: Type.Number() });

/** What makes frames fit, as the rig's own numbers have it; see CalibrationRules of the core. */
const CalibrationRules = Type.Object({
  angleToleranceDeg: Type.Number(),
  temperatureToleranceC: Type.Number(),
  fewest: PerKind,
  keepsDays: PerKind,
});
export type CalibrationRules = Static<typeof CalibrationRules>;

/** When a guider has taken darks last, and whether they have become old. */
const GuideDarks = Type.Object({ takenUtcMs: Nullable(UtcMs), isDue: Type.Boolean() });
export type GuideDarks = Static<typeof GuideDarks>;

export const readCalibration = operation({
  method: 'GET',
  path: '/calibration',
  summary: 'What calibration the lights of a period need, rig by rig, which frames on the shelf fit, and what is owed.',
  access: EVERYONE,
  query: Type.Object({ from: NightDateText, to: NightDateText }),
  response: Type.Object({
    timeZone: Type.String(),
    rigs: Type.Array(
      Type.Object({
        rigId: Id,
        rigName: Type.String(),
        rules: CalibrationRules,
        /** Of the guide camera; null where the rig lets its guider take none. */
        guideDarks: Nullable(GuideDarks),
        needs: Type.Array(CalibrationNeed),
      }),
    ),
  }),
});

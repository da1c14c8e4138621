import { CALIBRATION_KINDS } from '@meridiem/core';
import type { Static } from 'typebox';
import { Type } from 'typebox';
import { Id, NightDateText, Nullable, oneOf, UtcMs } from './common.ts';
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

export const readCalibration = operation({
  method: 'GET',
  path: '/calibration',
  summary: 'What calibration the lights of a period need, rig by rig, which frames on the shelf fit, and what is owed.',
  access: EVERYONE,
  query: Type.Object({ from: NightDateText, to: NightDateText }),
  response: Type.Object({
    timeZone: Type.String(),
    rigs: Type.Array(Type.Object({ rigId: Id, rigName: Type.String(), needs: Type.Array(CalibrationNeed) })),
  }),
});

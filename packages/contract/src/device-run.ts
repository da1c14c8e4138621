// What a runner needs to carry out a night with devices, and what it says of each step.
import type { NightRuleName } from '@meridiem/core';
import { NIGHT_RULE_NAMES, STEP_KINDS } from '@meridiem/core';
import type { Static, TNumber } from 'typebox';
import { Type } from 'typebox';
import { Id, Nullable, oneOf, UtcMs } from './common.ts';
import { OwnStep, StepCostsBody } from './equipment.ts';
import { HorizonPoints } from './observatory.ts';

const NightRulesBody = Type.Object(
  Object.fromEntries(NIGHT_RULE_NAMES.map((name) => [name, Type.Number()])) as Record<NightRuleName, TNumber>,
);

const Direction = Type.Object({ altitudeDeg: Type.Number(), azimuthDeg: Type.Number() });

/** The rig's devices and everything that holds of them tonight. */
export const DeviceRun = Type.Object({
  isSimulated: Type.Boolean(),
  /** Where its devices answer. */
  baseUrl: Type.String(),
  site: Type.Object({ latitudeDeg: Type.Number(), longitudeDeg: Type.Number(), elevationM: Type.Number() }),
  horizon: HorizonPoints,
  bounds: Type.Object({
    sunAltitudeMaxDeg: Type.Number(),
    mountAltitudeMinDeg: Type.Number(),
    mountZenithHoleDeg: Type.Number(),
  }),
  /** When the night ends whatever is left. */
  endUtcMs: UtcMs,
  optics: Type.Object({
    apertureMm: Type.Number(),
    focalLengthMm: Type.Number(),
    pixelUm: Type.Number(),
    widthPx: Type.Integer(),
    heightPx: Type.Integer(),
  }),
  readNoiseE: Type.Number(),
  ePerAdu: Type.Number(),
  coolingBelowC: Type.Number(),
  rotatorKind: oneOf(['motor', 'hand', 'none'] as const),
  angleToleranceDeg: Type.Number(),
  skyAngleDeg: Nullable(Type.Number()),
  drawtubeMm: Nullable(Type.Number()),
  mirrors: oneOf(['even', 'odd'] as const),
  /** Whether the mount has to change sides at the meridian, and how long after it at the latest. */
  flips: Type.Boolean(),
  flipAfterSec: Type.Number(),
  mountLimitAfterSec: Type.Number(),
  /** null: wherever the mount itself parks. */
  park: Nullable(Direction),
  /** Whether the roof closes over the telescope wherever it points. */
  roofClears: Type.Boolean(),
  costs: StepCostsBody,
  nightRules: NightRulesBody,
  /** Steps that people have added; each is said at its moment, once a stay. */
  ownSteps: Type.Array(OwnStep),
  wheel: Type.Array(
    Type.Object({
      /** From 0, as the device counts. */
      place: Type.Integer(),
      letter: Type.String(),
      widthNm: Type.Number(),
      /** null where nobody has measured it: the focus is found again after this filter is set. */
      focusOffsetSteps: Nullable(Type.Number()),
    }),
  ),
});
export type DeviceRun = Static<typeof DeviceRun>;

/** Star sizes on both sides of a focus, in the order they were tried. */
export const FocusCurve = Type.Object({
  points: Type.Array(Type.Object({ positionSteps: Type.Integer(), halfFluxRadiusPx: Type.Number({ minimum: 0 }) }), {
    maxItems: 50,
  }),
  /** Where it was found; null where it was not. */
  bestSteps: Nullable(Type.Integer()),
});
export type FocusCurve = Static<typeof FocusCurve>;

/** A step of a night by devices: sent with its intent, and again with its outcome. */
export const RunAction = Type.Object({
  id: Id,
  seq: Type.Integer({ minimum: 1 }),
  kind: oneOf(STEP_KINDS),
  /** What it is about. */
  words: Type.String({ maxLength: 300 }),
  attempt: Type.Integer({ minimum: 1 }),
  startUtcMs: UtcMs,
  endUtcMs: Nullable(UtcMs),
  /** unknown: whoever did it was lost before it could be said. */
  outcome: Nullable(oneOf(['done', 'failed', 'interrupted', 'unknown'] as const)),
  /** What came of it: a figure, or why it failed. */
  remark: Nullable(Type.String({ maxLength: 500 })),
  /** Of a focus. */
  curve: Type.Optional(FocusCurve),
});
export type RunAction = Static<typeof RunAction>;

// Exposures as people look at them: the picture, its figures against what is usual, verdicts and notes.
import { FIGURES, PARTS } from '@meridiem/core';
import type { Static } from 'typebox';
import { Type } from 'typebox';
import { Id, IdParams, Nullable, Ok, oneOf, UtcMs, Words } from './common.ts';
import { LedgerRow, VERDICTS } from './ledger.ts';
import { EVERYONE, MEMBERS, operation } from './operation.ts';

/** Longest sides that pictures are drawn with. */
export const PICTURE_PX = [220, 440, 900] as const;

/** How far a picture is calibrated for looking at it. */
export const CALIBRATION_DEGREES = ['none', 'darks', 'full'] as const;
export type CalibrationDegree = (typeof CALIBRATION_DEGREES)[number];

export const framePicture = operation({
  method: 'GET',
  path: '/exposures/:id/picture',
  media: ['image/png'],
  summary: 'The exposure brightened for looking at, whole or a part at its own pixels (PNG). The file stays as it is.',
  access: EVERYONE,
  params: IdParams,
  query: Type.Object({
    part: Type.Optional(oneOf(PARTS)),
    px: Type.Optional(Type.Integer({ enum: [...PICTURE_PX] })),
    /** Calibrated for looking at; none where left out. */
    calibration: Type.Optional(oneOf(CALIBRATION_DEGREES)),
  }),
  response: Type.Unsafe<Uint8Array>(Type.Any()),
});

/** A straight line of light across a picture, in its pixels, rows counted from its first one. */
export const FrameTrail = Type.Object({
  fromX: Type.Number(),
  fromY: Type.Number(),
  toX: Type.Number(),
  toY: Type.Number(),
  /** Its light over the noise of as much empty sky. */
  sigmas: Type.Number(),
});

/** What its pixels say. */
export const FrameFigures = Type.Object({
  widthPx: Type.Integer(),
  heightPx: Type.Integer(),
  /** In the file's units. */
  background: Type.Number(),
  noise: Type.Number(),
  starCount: Type.Integer(),
  halfFluxRadiusPx: Nullable(Type.Number()),
  elongation: Nullable(Type.Number()),
  histogram: Type.Object({
    to: Type.Number(),
    counts: Type.Array(Type.Integer()),
    saturatedShare: Type.Number(),
  }),
  /** Of satellites and aircraft, the brightest first. */
  trails: Type.Array(FrameTrail),
  /** Where it points, by its stars; null where they do not say. */
  pointing: Nullable(
    Type.Object({
      /** Its stars, the coordinates written in its file, or a program of the site's own. */
      by: oneOf(['stars', 'header', 'solver'] as const),
      raDeg: Type.Number(),
      decDeg: Type.Number(),
      /** Of the direction in which rows are counted up, east of north. */
      positionAngleDeg: Type.Number(),
      scaleArcsecPerPx: Type.Number(),
      isMirrored: Type.Boolean(),
      starCount: Type.Integer(),
      meanResidualArcsec: Type.Number(),
    }),
  ),
  /** Why it is not solved. */
  notSolved: Nullable(Type.String()),
  zeroPoint: Nullable(
    Type.Object({
      /** The magnitude of a star that gives one unit of the file a second. */
      mag: Type.Number(),
      scatterMag: Type.Number(),
      starCount: Type.Integer(),
    }),
  ),
});
export type FrameFigures = Static<typeof FrameFigures>;

export const Deviation = Type.Object({
  figure: oneOf(FIGURES),
  /** As they would be at the zenith of a dark night. */
  value: Type.Number(),
  usual: Type.Number(),
  /** Robust sigmas to the bad side. */
  sigmas: Type.Number(),
});
export type Deviation = Static<typeof Deviation>;

export const GivenVerdictBody = Type.Object({
  verdict: oneOf(VERDICTS),
  reason: Type.String(),
  /** null: by a rule. */
  by: Nullable(Type.String()),
  byCoordinator: Type.Boolean(),
  givenUtcMs: UtcMs,
});
export type GivenVerdictBody = Static<typeof GivenVerdictBody>;

/** Whether it can be looked at calibrated, by what, or what is missing. */
const QuickLook = Type.Object({ isPossible: Type.Boolean(), words: Type.String() });

export const ExposurePage = Type.Object({
  row: LedgerRow,
  file: Nullable(Type.Object({ name: Type.String(), sizeBytes: Type.Integer() })),
  /** null where there is no file, or it can’t be read. */
  figures: Nullable(FrameFigures),
  measuredUtcMs: Nullable(UtcMs),
  /** How far it points from its panel, and how it is turned against it; null where either is not known. */
  offIntended: Nullable(Type.Object({ arcmin: Type.Number(), turnedDeg: Type.Number() })),
  /** null where there is no file. */
  calibrated: Nullable(Type.Object({ darks: QuickLook, full: QuickLook })),
  deviations: Type.Array(Deviation),
  /** The newest first. */
  verdicts: Type.Array(GivenVerdictBody),
  notes: Type.Array(Type.Object({ by: Type.String(), words: Type.String(), writtenUtcMs: UtcMs })),
  /** The exposures of the same panel and filter next in time. */
  beforeId: Nullable(Id),
  afterId: Nullable(Id),
  timeZone: Type.String(),
});
export type ExposurePage = Static<typeof ExposurePage>;

export const readExposure = operation({
  method: 'GET',
  path: '/exposures/:id',
  summary: 'One exposure: what was measured, how far that is from what is usual, every verdict and note.',
  access: EVERYONE,
  params: IdParams,
  response: ExposurePage,
});

export const frameFile = operation({
  method: 'GET',
  path: '/exposures/:id/file',
  media: ['application/fits'],
  summary: 'The exposure’s file as it was taken: for its owner and coordinators.',
  access: MEMBERS,
  params: IdParams,
  response: Type.Unsafe<Uint8Array>(Type.Any()),
});

export const noteExposure = operation({
  method: 'POST',
  path: '/exposures/:id/notes',
  summary: 'Write what eyes see and numbers do not: a halo, a gradient.',
  access: MEMBERS,
  params: IdParams,
  body: Type.Object({ words: Words(300) }),
  response: Ok,
});

export const measureExposure = operation({
  method: 'POST',
  path: '/exposures/:id/measure',
  summary: 'Measure the exposure’s file again: after the optics or the place of its panel were corrected.',
  access: MEMBERS,
  isDear: true,
  params: IdParams,
  body: Type.Object({}),
  response: Ok,
});

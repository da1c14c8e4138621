import { STEP_MOMENTS } from '@meridiem/core';
import type { Static } from 'typebox';
import { Type } from 'typebox';
import {
  FilterClass,
  Id,
  IdParams,
  NightDateText,
  Nullable,
  oneOf,
  optional,
  UtcMs,
  Version,
  Words,
} from './common.ts';
import { LimitRow } from './limits.ts';
import { COORDINATORS, EVERYONE, operation } from './operation.ts';

export const SiteFields = {
  name: Words(80),
  latitudeDeg: Type.Number({ minimum: -90, maximum: 90 }),
  longitudeDeg: Type.Number({ minimum: -180, maximum: 180 }),
  elevationM: Type.Number({ minimum: -450, maximum: 6500 }),
  timeZone: Words(60),
  zenithMagV: Type.Number({ minimum: 15, maximum: 22.5 }),
};

export const HorizonPoints = Type.Array(
  Type.Object({
    azimuthDeg: Type.Number({ minimum: 0, maximum: 360 }),
    altitudeDeg: Type.Number({ minimum: -10, maximum: 90 }),
  }),
  { maxItems: 3600 },
);

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

const RigNumbers = {
  apertureMm: Type.Number({ minimum: 1, maximum: 5000 }),
  obstructionShare: Type.Number({ minimum: 0, exclusiveMaximum: 0.9 }),
  focalLengthMm: Type.Number({ minimum: 1, maximum: 30000 }),
  throughput: Type.Number({ minimum: 0.001, maximum: 1 }),
  pixelUm: Type.Number({ minimum: 0.1, maximum: 50 }),
  widthPx: Type.Integer({ minimum: 1, maximum: 20000 }),
  heightPx: Type.Integer({ minimum: 1, maximum: 20000 }),
  darkCurrentEPerSec: Type.Number({ minimum: 0, maximum: 100 }),
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
  costs: StepCostsBody,
};

const OwnStep = Type.Object({ moment: oneOf(STEP_MOMENTS), words: Words(200) });

export const Rig = Type.Object({
  id: Id,
  name: Type.String(),
  revisionId: Id,
  revisionSeq: Type.Integer(),
  since: UtcMs,
  ...RigNumbers,
  cameraModes: Type.Array(
    Type.Object({
      id: Id,
      name: Type.String(),
      gain: Type.Integer(),
      readNoiseE: Type.Number(),
      fullWellE: Type.Number(),
    }),
  ),
  slots: Type.Array(Type.Object({ slot: Type.Integer(), filterId: Id, focusOffsetSteps: Nullable(Type.Integer()) })),
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

const RecipeNumbers = {
  exposureSec: Type.Number({ exclusiveMinimum: 0, maximum: 7200 }),
  offset: Type.Integer({ minimum: 0, maximum: 10000 }),
  binning: Type.Integer({ minimum: 1, maximum: 4 }),
  sensorC: Type.Number({ minimum: -60, maximum: 40 }),
  pauseSec: Type.Number({ minimum: 0, maximum: 600 }),
  ditherEvery: Type.Integer({ minimum: 0, maximum: 100 }),
};

export const Recipe = Type.Object({
  id: Id,
  revisionId: Id,
  revisionSeq: Type.Integer(),
  rigId: Id,
  name: Type.String(),
  filterId: Id,
  cameraModeId: Id,
  gain: Type.Integer(),
  ...RecipeNumbers,
});
export type Recipe = Static<typeof Recipe>;

const ClimateFields = {
  /** Correlation of a night being clear with the next one being clear. */
  weatherPersistence: Type.Number({ minimum: 0, maximum: 0.9 }),
  /** Where the odds of clear nights come from, in words. */
  climateSource: Words(300),
};

/** Odds that a night of a calendar month is clear. */
export const ClimateMonth = Type.Object({
  id: Id,
  month: Type.Integer(),
  clearOdds: Type.Number(),
  version: Version,
});
export type ClimateMonth = Static<typeof ClimateMonth>;

/** Nights on which the observatory, or one rig, is closed; first and last are closed too. */
export const Closure = Type.Object({
  id: Id,
  rigId: Nullable(Id),
  firstNight: Type.String(),
  lastNight: Type.String(),
  reason: Type.String(),
});
export type Closure = Static<typeof Closure>;

export const Observatory = Type.Object({
  id: Id,
  ...SiteFields,
  weatherPersistence: Type.Number(),
  climateSource: Type.String(),
  /** From January on. */
  climate: Type.Array(ClimateMonth),
  /** Those that are not over. */
  closures: Type.Array(Closure),
  version: Version,
  /** Local clock, minutes after midnight: from then on the evening’s published plan is changed only with a reason. */
  cutOffClockMin: Type.Integer(),
  horizon: HorizonPoints,
  bounds: Type.Object({
    sunAltitudeMaxDeg: Type.Number(),
    mountAltitudeMinDeg: Type.Number(),
    mountZenithHoleDeg: Type.Number(),
  }),
  limits: Type.Array(LimitRow),
  rigs: Type.Array(Rig),
  filters: Type.Array(Filter),
  recipes: Type.Array(Recipe),
  nowUtcMs: UtcMs,
  tonight: Type.String(),
});
export type Observatory = Static<typeof Observatory>;

export const readObservatory = operation({
  method: 'GET',
  path: '/observatory',
  summary: 'Site, horizon, bounds, limits, rigs, filters and recipes.',
  access: EVERYONE,
  response: Observatory,
});

export const editObservatory = operation({
  method: 'PATCH',
  path: '/observatory',
  summary: 'Change the site.',
  access: COORDINATORS,
  body: Type.Object({
    version: Version,
    ...optional(SiteFields),
    ...optional(ClimateFields),
    cutOffClockMin: Type.Optional(Type.Integer({ minimum: 0, maximum: 1439 })),
  }),
  response: Observatory,
});

export const editClimateMonth = operation({
  method: 'PATCH',
  path: '/climate-months/:id',
  summary: 'Change the odds that a night of a calendar month is clear.',
  access: COORDINATORS,
  params: IdParams,
  body: Type.Object({ version: Version, clearOdds: Type.Number({ minimum: 0, maximum: 1 }) }),
  response: Observatory,
});

export const addClosure = operation({
  method: 'POST',
  path: '/closures',
  summary: 'Close the observatory, or one rig, for some nights: no season plans anything in them.',
  access: COORDINATORS,
  body: Type.Object({
    rigId: Nullable(Id),
    firstNight: NightDateText,
    lastNight: NightDateText,
    reason: Words(),
  }),
  response: Observatory,
});

export const removeClosure = operation({
  method: 'DELETE',
  path: '/closures/:id',
  summary: 'Open nights again that were closed.',
  access: COORDINATORS,
  params: IdParams,
  response: Observatory,
});

export const checkSunset = operation({
  method: 'GET',
  path: '/observatory/sunset-check',
  summary: 'Tonight’s sunset for a place as typed, to confirm hemisphere and zone before saving.',
  access: COORDINATORS,
  query: Type.Object({
    latitudeDeg: SiteFields.latitudeDeg,
    longitudeDeg: SiteFields.longitudeDeg,
    elevationM: SiteFields.elevationM,
    timeZone: SiteFields.timeZone,
  }),
  response: Type.Object({
    sunsetUtcMs: Nullable(UtcMs),
    sunriseUtcMs: Nullable(UtcMs),
    noonSunAzimuthDeg: Type.Number(),
    darkHours: Type.Number(),
  }),
});

export const replaceHorizon = operation({
  method: 'PUT',
  path: '/observatory/horizon',
  summary: 'Replace the horizon profile; altitudes as seen are converted to geometric once, here.',
  access: COORDINATORS,
  body: Type.Object({ text: Type.String({ maxLength: 200000 }), asSeen: Type.Boolean() }),
  response: Observatory,
});

const FilterSlots = Type.Array(
  Type.Object({
    slot: Type.Integer({ minimum: 1, maximum: 24 }),
    filterId: Id,
    focusOffsetSteps: Nullable(Type.Integer({ minimum: -100_000, maximum: 100_000 })),
  }),
  { maxItems: 24 },
);

export const addRig = operation({
  method: 'POST',
  path: '/rigs',
  summary: 'A new rig with its camera and one camera mode; every filter is put into its wheel, offsets not measured.',
  access: COORDINATORS,
  body: Type.Object({
    name: Words(80),
    cameraSerial: Words(60),
    gain: Type.Integer({ minimum: 0, maximum: 100_000 }),
    readNoiseE: Type.Number({ minimum: 0.01, maximum: 1000 }),
    fullWellE: Type.Number({ exclusiveMinimum: 0, maximum: 10_000_000 }),
    ...RigNumbers,
  }),
  response: Observatory,
});

/** What of a rig is to be changed; what is left out stays. */
export const RigWish = Type.Object({ ...optional(RigNumbers), slots: Type.Optional(FilterSlots) });
export type RigWish = Static<typeof RigWish>;

/** One thing that a change of a rig touches and what becomes of it. */
export const RigEffect = Type.Object({
  about: oneOf(['framings', 'goals', 'flats', 'plans', 'exposures'] as const),
  projectId: Nullable(Id),
  projectName: Nullable(Type.String()),
  words: Type.String(),
  isLoss: Type.Boolean(),
});
export type RigEffect = Static<typeof RigEffect>;

export const previewRig = operation({
  method: 'POST',
  path: '/rigs/:id/revisions/preview',
  summary: 'What a change of a rig would touch and what would become of each; nothing is written.',
  access: COORDINATORS,
  isDear: true,
  params: IdParams,
  body: RigWish,
  response: Type.Object({ effects: Type.Array(RigEffect) }),
});

export const reviseRig = operation({
  method: 'POST',
  path: '/rigs/:id/revisions',
  summary: 'Change a rig’s numbers from now on; earlier exposures keep the revision they were taken with.',
  access: COORDINATORS,
  params: IdParams,
  body: Type.Object({ basedOnSeq: Type.Integer(), ...RigWish.properties }),
  response: Observatory,
});

export const setRigSteps = operation({
  method: 'PUT',
  path: '/rigs/:id/steps',
  summary: 'The steps that people add around a rig’s stays and waits, in order.',
  access: COORDINATORS,
  params: IdParams,
  body: Type.Object({ steps: Type.Array(OwnStep, { maxItems: 40 }) }),
  response: Observatory,
});

export const editFilter = operation({
  method: 'PATCH',
  path: '/filters/:id',
  summary: 'Change a filter’s numbers.',
  access: COORDINATORS,
  params: IdParams,
  body: Type.Object({
    version: Version,
    centreNm: Type.Optional(Type.Number({ minimum: 300, maximum: 1200 })),
    widthNm: Type.Optional(Type.Number({ exclusiveMinimum: 0, maximum: 800 })),
    extinctionMagPerAirmass: Type.Optional(Type.Number({ minimum: 0, maximum: 2 })),
    zenithMag: Type.Optional(Type.Number({ minimum: 14, maximum: 25 })),
    moonFactor: Type.Optional(Type.Number({ minimum: 0, maximum: 20 })),
  }),
  response: Observatory,
});

export const addRecipe = operation({
  method: 'POST',
  path: '/recipes',
  summary: 'A new named recipe; a definite filter and camera mode are needed.',
  access: COORDINATORS,
  body: Type.Object({ name: Words(60), rigId: Id, filterId: Id, cameraModeId: Id, ...RecipeNumbers }),
  response: Observatory,
});

export const reviseRecipe = operation({
  method: 'POST',
  path: '/recipes/:id/revisions',
  summary: 'A new revision of a recipe; goals keep the one they pin.',
  access: COORDINATORS,
  params: IdParams,
  body: Type.Object({ basedOnSeq: Type.Integer(), ...optional(RecipeNumbers) }),
  response: Observatory,
});

const CatalogueFields = {
  designation: Type.String(),
  name: Nullable(Type.String()),
  kind: Type.String(),
  mag: Nullable(Type.Number()),
  sizeArcmin: Nullable(Type.Number()),
  raDeg: Type.Number(),
  decDeg: Type.Number(),
  /** By its three letters; null for typed coordinates. */
  constellation: Nullable(Type.String()),
};

export const searchCatalogue = operation({
  method: 'GET',
  path: '/catalogue',
  summary: 'Objects by designation, name or typed coordinates.',
  access: EVERYONE,
  query: Type.Object({ q: Type.String({ maxLength: 120 }) }),
  response: Type.Object({
    objects: Type.Array(Type.Object({ ...CatalogueFields, highestDeg: Type.Number() })),
  }),
});

/** One object in a row, to keep the whole table small: designation, name, kind, magnitude, size in arcminutes, right ascension and declination in degrees, constellation by its three letters. */
export const CatalogueRow = Type.Tuple([
  Type.String(),
  Nullable(Type.String()),
  Type.String(),
  Nullable(Type.Number()),
  Nullable(Type.Number()),
  Type.Number(),
  Type.Number(),
  Type.String(),
]);
export type CatalogueRow = Static<typeof CatalogueRow>;

export const catalogueObjects = operation({
  method: 'GET',
  path: '/catalogue/objects',
  summary: 'Every object of the shipped catalogue, for ranking.',
  access: EVERYONE,
  response: Type.Object({ objects: Type.Array(CatalogueRow) }),
});

export const catalogueAround = operation({
  method: 'GET',
  path: '/catalogue/around',
  summary: 'Stars and objects around a place, for drawing: the brightest and the largest first.',
  access: EVERYONE,
  query: Type.Object({
    raDeg: Type.Number({ minimum: 0, exclusiveMaximum: 360 }),
    decDeg: Type.Number({ minimum: -90, maximum: 90 }),
    radiusDeg: Type.Number({ exclusiveMinimum: 0, maximum: 180 }),
  }),
  response: Type.Object({
    /** Right ascension and declination in degrees (J2000), magnitude. */
    stars: Type.Array(Type.Tuple([Type.Number(), Type.Number(), Type.Number()])),
    objects: Type.Array(Type.Object(CatalogueFields)),
  }),
});

export const readOpenApi = operation({
  method: 'GET',
  path: '/openapi.json',
  summary: 'This interface as OpenAPI.',
  access: 'public',
  response: Type.Object({}, { additionalProperties: true }),
});

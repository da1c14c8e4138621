import type { Static } from 'typebox';
import { Type } from 'typebox';
import { Id, IdParams, NightDateText, Nullable, oneOf, optional, UtcMs, Version, Words } from './common.ts';
import { Filter, Recipe, Rig } from './equipment.ts';
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

/** What no plan oversteps, whatever limits say. */
export const BoundFields = {
  sunAltitudeMaxDeg: Type.Number({ minimum: -18, maximum: 0 }),
  mountAltitudeMinDeg: Type.Number({ minimum: 0, maximum: 60 }),
  mountZenithHoleDeg: Type.Number({ minimum: 0, maximum: 20 }),
};

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
  /** Minutes of preparation before the first stay of a night. */
  preparationMin: Type.Integer(),
  horizon: HorizonPoints,
  bounds: Type.Object(BoundFields),
  limits: Type.Array(LimitRow),
  rigs: Type.Array(Rig),
  filters: Type.Array(Filter),
  recipes: Type.Array(Recipe),
  /** What is offered no longer, and can be brought back. */
  retired: Type.Array(
    Type.Object({
      id: Id,
      what: oneOf(['rig', 'filter', 'camera mode', 'recipe'] as const),
      name: Type.String(),
      /** Of which rig; null for rigs and filters. */
      rigName: Nullable(Type.String()),
      retiredUtcMs: UtcMs,
    }),
  ),
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
    preparationMin: Type.Optional(Type.Integer({ minimum: 0, maximum: 480 })),
    bounds: Type.Optional(Type.Partial(Type.Object(BoundFields))),
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

export const readOpenApi = operation({
  method: 'GET',
  path: '/openapi.json',
  summary: 'This interface as OpenAPI.',
  access: 'public',
  response: Type.Object({}, { additionalProperties: true }),
});

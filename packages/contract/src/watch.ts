// A night by devices as it is watched: how far it is, what was planned against what happened, and how the site stands.
import type { Static } from 'typebox';
import { Type } from 'typebox';
import { FilterClass, Id, NightDateText, Nullable, oneOf, UtcMs } from './common.ts';
import { DEVICE_KINDS } from './equipment.ts';
import { NightRun } from './nights.ts';
import { EVERYONE, operation } from './operation.ts';

/** How the site stood at a moment, as its devices said; what none of them measures is null. */
export const SiteReading = Type.Object({
  utcMs: UtcMs,
  isSafe: Type.Boolean(),
  temperatureC: Nullable(Type.Number()),
  humidityPercent: Nullable(Type.Number()),
  windMPerSec: Nullable(Type.Number()),
  cloudCoverPercent: Nullable(Type.Number()),
  sensorC: Nullable(Type.Number()),
  coolerPowerPercent: Nullable(Type.Number()),
  guidingRmsArcsec: Nullable(Type.Number()),
  /** Where the mount points. */
  altitudeDeg: Nullable(Type.Number()),
  azimuthDeg: Nullable(Type.Number()),
  isParked: Nullable(Type.Boolean()),
  roof: Nullable(oneOf(['open', 'closed', 'moving'] as const)),
});
export type SiteReading = Static<typeof SiteReading>;

/** One planned exposure and what came of it. */
export const WatchedStep = Type.Object({
  /** Exposures of one panel without another between share a number. */
  stay: Type.Integer(),
  panelName: Type.String(),
  filterLetter: Type.String(),
  filterClass: FilterClass,
  plannedUtcMs: UtcMs,
  exposureSec: Type.Number(),
  /** When it was really begun; null where it was not taken. */
  takenUtcMs: Nullable(UtcMs),
  outcome: Nullable(oneOf(['done', 'lost'] as const)),
  isUnderWay: Type.Boolean(),
  /** Why it was not taken. */
  words: Nullable(Type.String()),
  halfFluxRadiusPx: Nullable(Type.Number()),
});
export type WatchedStep = Static<typeof WatchedStep>;

export const WatchedRig = Type.Object({
  rigId: Id,
  rigName: Type.String(),
  devices: oneOf(DEVICE_KINDS),
  run: Nullable(NightRun),
  steps: Type.Array(WatchedStep),
  /** In their order, at most one a minute. */
  readings: Type.Array(SiteReading),
});
export type WatchedRig = Static<typeof WatchedRig>;

export const readWatch = operation({
  method: 'GET',
  path: '/nights/:nightDate/watch',
  summary: 'The night of one rig while its devices carry it out: small enough to be read again at every step.',
  access: EVERYONE,
  params: Type.Object({ nightDate: NightDateText }),
  query: Type.Object({
    /** Left out: the first rig that has a night under way or behind it. */
    rig: Type.Optional(Id),
  }),
  response: Type.Object({ timeZone: Type.String(), nowUtcMs: UtcMs, watched: Nullable(WatchedRig) }),
});

import type { Static } from 'typebox';
import { Type } from 'typebox';
import { FilterClass, Id, IdParams, Interval, NightDateText, Nullable, Ok, oneOf, UtcMs, Words } from './common.ts';
import { COORDINATORS, EVERYONE, HANDS, operation } from './operation.ts';
import { NIGHT_END_KINDS } from '@meridiem/core';
import { RunAction } from './device-run.ts';
import { DEVICE_KINDS } from './equipment.ts';
import { ShownOrder } from './hand-orders.ts';
import { ShownTestShot } from './test-shots.ts';
import { Reason } from './projects.ts';

/** The sky of a night for drawing: samples from sunset − 1 h to sunrise + 1 h. */
export const NightSky = Type.Object({
  nightDate: Type.String(),
  startUtcMs: UtcMs,
  endUtcMs: UtcMs,
  viewStartUtcMs: UtcMs,
  viewEndUtcMs: UtcMs,
  stepMs: Type.Number(),
  sunAltitudeDeg: Type.Array(Type.Number()),
  moonAltitudeDeg: Type.Array(Type.Number()),
  moonBrighteningMag: Type.Array(Type.Number()),
  sunsetUtcMs: Nullable(UtcMs),
  sunriseUtcMs: Nullable(UtcMs),
  duskUtcMs: Nullable(UtcMs),
  dawnUtcMs: Nullable(UtcMs),
  moonriseUtcMs: Nullable(UtcMs),
  moonsetUtcMs: Nullable(UtcMs),
  darkHours: Type.Number(),
  darkMoonlessHours: Type.Number(),
  moonIlluminatedShare: Type.Number(),
});
export type NightSky = Static<typeof NightSky>;

export const PlanRun = Type.Object({
  goalId: Id,
  filterLetter: Type.String(),
  filterClass: FilterClass,
  startUtcMs: UtcMs,
  endUtcMs: UtcMs,
  exposureSec: Type.Number(),
  count: Type.Integer(),
  taken: Type.Integer(),
  meanRateShare: Type.Number(),
});
export type PlanRun = Static<typeof PlanRun>;

export const PlanBlock = Type.Object({
  panelId: Id,
  panelName: Type.String(),
  projectId: Id,
  projectName: Type.String(),
  ownerName: Type.String(),
  startUtcMs: UtcMs,
  endUtcMs: UtcMs,
  altitudeDeg: Type.Array(Type.Number()),
  flipUtcMs: Nullable(UtcMs),
  /** What is done around the stay; empty where a page planned it by itself. */
  arriving: Type.Array(Type.String()),
  leaving: Type.Array(Type.String()),
  /** Whether its filters stand one after the other although they should alternate: they are not open together. */
  notAlternating: Type.Boolean(),
  runs: Type.Array(PlanRun),
});
export type PlanBlock = Static<typeof PlanBlock>;

export const LeftOut = Type.Object({
  projectId: Id,
  projectName: Type.String(),
  panelName: Type.String(),
  filterLetter: Type.String(),
  filterClass: FilterClass,
  goalId: Id,
  reason: Reason,
});
export type LeftOut = Static<typeof LeftOut>;

export const RUN_STATES = ['requested', 'running', 'stopping', 'stopped', 'finished'] as const;

export const NightRun = Type.Object({
  id: Id,
  kind: oneOf(['night', 'rehearsal'] as const),
  /** When a rehearsal ends by itself. */
  expiresUtcMs: Nullable(UtcMs),
  state: oneOf(RUN_STATES),
  speed: Type.Number(),
  /** The simulated observatory's clock: the end of the last thing that happened. */
  clockUtcMs: Nullable(UtcMs),
  heardUtcMs: Nullable(UtcMs),
  /** True where the runner should have spoken and has not. */
  silent: Type.Boolean(),
  /** How a night by devices ended. */
  endedAs: Nullable(oneOf(NIGHT_END_KINDS)),
  stepsDone: Type.Integer(),
  stepsLost: Type.Integer(),
  stepsAll: Type.Integer(),
  now: Nullable(
    Type.Object({ words: Type.String(), panelName: Type.String(), filterLetter: Type.String(), endsUtcMs: UtcMs }),
  ),
  next: Nullable(
    Type.Object({ words: Type.String(), panelName: Type.String(), filterLetter: Type.String(), startsUtcMs: UtcMs }),
  ),
});
export type NightRun = Static<typeof NightRun>;

/** A hand change as it is shown. */
export const ShownWish = Type.Object({
  id: Id,
  kind: oneOf(['pin', 'ban', 'not_before', 'not_after'] as const),
  panelId: Id,
  panelName: Type.String(),
  projectId: Id,
  goalId: Nullable(Id),
  filterLetter: Nullable(Type.String()),
  utcMs: Nullable(UtcMs),
  count: Nullable(Type.Integer()),
  /** Set where it can't be kept whole. */
  broken: Nullable(
    Type.Object({
      code: oneOf(['OUTSIDE_LIMITS', 'TIME_TAKEN', 'NOTHING_LEFT'] as const),
      kept: Type.Integer(),
      asked: Type.Integer(),
    }),
  ),
});
export type ShownWish = Static<typeof ShownWish>;

/** A published version of a plan. */
export const PlanVersion = Type.Object({
  seq: Type.Integer(),
  publishedUtcMs: UtcMs,
  by: Type.String(),
  reason: Nullable(Type.String()),
  value: Type.Number(),
});
export type PlanVersion = Static<typeof PlanVersion>;

/** A goal that waits in reserve for a kind of sky: what to turn to when the first choice can't be had. */
export const Reserve = Type.Object({
  goalId: Id,
  projectId: Id,
  projectName: Type.String(),
  panelName: Type.String(),
  filterLetter: Type.String(),
  filterClass: FilterClass,
  sky: oneOf(['dark', 'bright'] as const),
  perHour: Type.Number(),
  fromUtcMs: UtcMs,
  toUtcMs: UtcMs,
});
export type Reserve = Static<typeof Reserve>;

export const RigPlan = Type.Object({
  rigId: Id,
  rigName: Type.String(),
  /** How the rig's devices are reached. */
  devices: oneOf(DEVICE_KINDS),
  state: oneOf(['working', 'published', 'automatic', 'superseded'] as const),
  seq: Nullable(Type.Integer()),
  publishedUtcMs: Nullable(UtcMs),
  /** True where the sky or the ledger has moved on since publishing. */
  stale: Type.Boolean(),
  value: Type.Number(),
  exposingHours: Type.Number(),
  overheadHours: Type.Number(),
  blocks: Type.Array(PlanBlock),
  leftOut: Type.Array(LeftOut),
  /** Usable hours per filter class under the limits in force. */
  usable: Type.Array(Type.Object({ class: FilterClass, windows: Type.Array(Interval) })),
  run: Nullable(NightRun),
  /** Hand changes of this night. */
  wishes: Type.Array(ShownWish),
  /** Value of the plan without any hand change; null where there is none. */
  automaticValue: Nullable(Type.Number()),
  versions: Type.Array(PlanVersion),
  /** From then on a published plan is changed only with a reason. */
  cutOffUtcMs: UtcMs,
  reserve: Type.Array(Reserve),
});
export type RigPlan = Static<typeof RigPlan>;

export const readNight = operation({
  method: 'GET',
  path: '/nights/:nightDate',
  summary: 'A night’s sky and the plan of each rig; "tonight" names the current one.',
  access: EVERYONE,
  params: Type.Object({ nightDate: Type.Union([NightDateText, Type.Literal('tonight')]) }),
  query: Type.Object({
    /** Which plan: as published where there is one, the working one, the one without hand changes, or an earlier version ("v2"). */
    plan: Type.Optional(Type.String({ pattern: '^(working|published|automatic|v[0-9]{1,6})$' })),
  }),
  response: Type.Object({
    sky: NightSky,
    timeZone: Type.String(),
    nowUtcMs: UtcMs,
    isTonight: Type.Boolean(),
    isEstimate: Type.Boolean(),
    /** Minutes of preparation before the first stay. */
    preparationMin: Type.Integer(),
    horizon: Type.Array(Type.Object({ azimuthDeg: Type.Number(), altitudeDeg: Type.Number() })),
    rigs: Type.Array(RigPlan),
  }),
});
export type NightPage = Static<(typeof readNight)['response']>;

export const readNightSky = operation({
  method: 'GET',
  path: '/nights/:nightDate/sky',
  summary: 'The sky of a night, without plans: for the slim strip on every page.',
  access: EVERYONE,
  params: Type.Object({ nightDate: Type.Union([NightDateText, Type.Literal('tonight')]) }),
  response: Type.Object({ sky: NightSky, timeZone: Type.String(), nowUtcMs: UtcMs }),
});

/** What a night held, or holds, for a project: planned, taken, and why not where nothing is planned. */
export const NightStanding = Type.Object({
  projectId: Id,
  projectName: Type.String(),
  ownerName: Type.String(),
  rigName: Type.String(),
  planned: Type.Integer(),
  taken: Type.Integer(),
  rejected: Type.Integer(),
  reason: Nullable(Reason),
});
export type NightStanding = Static<typeof NightStanding>;

export const readNightStandings = operation({
  method: 'GET',
  path: '/nights/:nightDate/projects',
  summary: 'Every project on a night: planned, taken, and for those without a place the reason.',
  access: EVERYONE,
  params: Type.Object({ nightDate: Type.Union([NightDateText, Type.Literal('tonight')]) }),
  response: Type.Object({
    nightDate: Type.String(),
    /** As published, or as it would be planned today. */
    fromPublished: Type.Boolean(),
    standings: Type.Array(NightStanding),
  }),
});

export const publishPlan = operation({
  method: 'POST',
  path: '/nights/:nightDate/publish',
  summary: 'Freeze the working plan of a rig as the next version.',
  access: COORDINATORS,
  params: Type.Object({ nightDate: NightDateText }),
  body: Type.Object({ rigId: Id, reason: Type.Optional(Words(300)) }),
  response: Type.Object({ planId: Id, seq: Type.Integer() }),
});

export const playNight = operation({
  method: 'POST',
  path: '/nights/:nightDate/play',
  summary: 'Play the published plan of a rig on the simulated observatory.',
  access: HANDS,
  params: Type.Object({ nightDate: NightDateText }),
  body: Type.Object({ rigId: Id, speed: Type.Number({ minimum: 1, maximum: 6000 }) }),
  response: Type.Object({ runId: Id }),
});

export const rehearseNight = operation({
  method: 'POST',
  path: '/nights/:nightDate/rehearse',
  summary:
    'By day: run the published plan’s chain on the simulated observatory with limits lifted and short exposures that count for nothing; ends at sunset.',
  access: HANDS,
  params: Type.Object({ nightDate: NightDateText }),
  body: Type.Object({ rigId: Id, speed: Type.Number({ minimum: 1, maximum: 6000 }) }),
  response: Type.Object({ runId: Id, expiresUtcMs: UtcMs }),
});

export const readStepTimes = operation({
  method: 'GET',
  path: '/rigs/:id/step-times',
  summary:
    'What steps of a rig’s last nights by devices have taken, as medians in the terms in which plans count them.',
  access: EVERYONE,
  params: IdParams,
  response: Type.Object({
    measured: Type.Array(Type.Object({ key: Type.String(), sec: Type.Number(), count: Type.Integer() })),
  }),
});

export const readAlarms = operation({
  method: 'GET',
  path: '/alarms',
  summary: 'What only a person at the site can mend: open until the roof is confirmed closed.',
  access: EVERYONE,
  response: Type.Object({
    timeZone: Type.String(),
    alarms: Type.Array(
      Type.Object({
        rigId: Id,
        rigName: Type.String(),
        nightDate: Type.String(),
        words: Type.String(),
        sinceUtcMs: UtcMs,
      }),
    ),
  }),
});

export const readRunActions = operation({
  method: 'GET',
  path: '/runs/:id/actions',
  summary: 'What a night by devices did, the newest 300 steps first; panels of private projects without names.',
  access: EVERYONE,
  params: IdParams,
  response: Type.Object({
    endedAs: Nullable(oneOf(NIGHT_END_KINDS)),
    actions: Type.Array(RunAction),
    /** What people have said to it, the newest first. */
    orders: Type.Array(ShownOrder),
    /** The newest first. */
    testShots: Type.Array(ShownTestShot),
  }),
});

export const stopRun = operation({
  method: 'POST',
  path: '/runs/:id/stop',
  summary: 'Stop a night that plays.',
  access: HANDS,
  params: IdParams,
  response: Ok,
});

import { TIME_KINDS } from '@meridiem/core';
import type { Static } from 'typebox';
import { Type } from 'typebox';
import { Id, IdParams, NightDateText, Nullable, Ok, oneOf, UtcMs } from './common.ts';
import { COORDINATORS, EVERYONE, HANDS, operation } from './operation.ts';

export const TimeKind = oneOf(TIME_KINDS);
export type TimeKind = Static<typeof TimeKind>;
/** Kinds that a person may say of a stretch of a night. */
export const REMARKED_KINDS = ['weather', 'fault', 'visit', 'calibration', 'idle'] as const;
export const SkyClass = oneOf(['dark', 'bright', 'day'] as const);
export type SkyClass = Static<typeof SkyClass>;

/** ahead: not over yet; open: over and not closed; changed: closed, and something was recorded or remarked since. */
export const NightState = oneOf(['ahead', 'open', 'closed', 'changed'] as const);
export type NightState = Static<typeof NightState>;

export const AccountedNight = Type.Object({
  nightDate: Type.String(),
  state: NightState,
  closedUtcMs: Nullable(UtcMs),
  closedBy: Nullable(Type.String()),
  spent: Type.Array(Type.Object({ kind: TimeKind, skyClass: SkyClass, hours: Type.Number() })),
});
export type AccountedNight = Static<typeof AccountedNight>;

export const ChargeRow = Type.Object({
  memberId: Id,
  memberName: Type.String(),
  rigId: Id,
  rigName: Type.String(),
  skyClass: SkyClass,
  clockHours: Type.Number(),
  chargedHours: Type.Number(),
});
export type ChargeRow = Static<typeof ChargeRow>;

export const ChargingRule = Type.Object({
  dark: Type.Number({ minimum: 0, maximum: 10 }),
  bright: Type.Number({ minimum: 0, maximum: 10 }),
  /** Nothing where the observatory asks no dues. */
  duesPerHour: Nullable(Type.Number({ minimum: 0, maximum: 100_000 })),
  currency: Type.String({ maxLength: 12 }),
});
export type ChargingRule = Static<typeof ChargingRule>;

const Period = { from: NightDateText, to: NightDateText };

export const readTimeAccount = operation({
  method: 'GET',
  path: '/time-account',
  summary: 'Where the nights between two dates went, by rig, and what of closed ones is charged to whom.',
  access: EVERYONE,
  isDear: true,
  query: Type.Object(Period),
  response: Type.Object({
    rigs: Type.Array(Type.Object({ rigId: Id, rigName: Type.String(), nights: Type.Array(AccountedNight) })),
    charged: Type.Array(ChargeRow),
    rule: ChargingRule,
  }),
});

export const TimeRemarkRow = Type.Object({
  id: Id,
  kind: TimeKind,
  startUtcMs: UtcMs,
  endUtcMs: UtcMs,
  words: Type.String(),
  who: Type.String(),
});
export type TimeRemarkRow = Static<typeof TimeRemarkRow>;

const AccountedNightParams = Type.Object({ id: Id, nightDate: NightDateText });

export const readAccountedNight = operation({
  method: 'GET',
  path: '/rigs/:id/time-account/:nightDate',
  summary: 'One night of one rig, stretch after stretch.',
  access: EVERYONE,
  params: AccountedNightParams,
  response: Type.Object({
    rigName: Type.String(),
    startUtcMs: UtcMs,
    endUtcMs: UtcMs,
    state: NightState,
    stretches: Type.Array(
      Type.Object({
        kind: TimeKind,
        skyClass: SkyClass,
        startUtcMs: UtcMs,
        endUtcMs: UtcMs,
        projectId: Nullable(Id),
        projectName: Nullable(Type.String()),
      }),
    ),
    remarks: Type.Array(TimeRemarkRow),
  }),
});

export const closeNights = operation({
  method: 'POST',
  path: '/rigs/:id/time-account/close',
  summary: 'Close the nights of a rig between two dates that are over and open, or changed since they were closed.',
  access: HANDS,
  params: IdParams,
  body: Type.Object(Period),
  response: Type.Object({ closed: Type.Integer() }),
});

export const addTimeRemark = operation({
  method: 'POST',
  path: '/rigs/:id/time-account/:nightDate/remarks',
  summary: 'Remark on a stretch of a night; the remark overrides what was recorded.',
  access: HANDS,
  params: AccountedNightParams,
  body: Type.Object({
    kind: oneOf(REMARKED_KINDS),
    /** Clock times of the observatory, "23:10". */
    from: Type.String({ maxLength: 8 }),
    to: Type.String({ maxLength: 8 }),
    words: Type.String({ maxLength: 200 }),
  }),
  response: Ok,
});

export const withdrawTimeRemark = operation({
  method: 'POST',
  path: '/time-remarks/:id/withdraw',
  summary: 'Remove a remark.',
  access: HANDS,
  params: IdParams,
  response: Ok,
});

export const editCharging = operation({
  method: 'PUT',
  path: '/observatory/charging',
  summary: 'How hours are weighted and what one costs; nights closed already keep their weights.',
  access: COORDINATORS,
  body: ChargingRule,
  response: ChargingRule,
});

export const exportDues = operation({
  method: 'GET',
  path: '/exports/dues',
  media: ['text/csv'],
  summary: 'Charged hours and dues by member, rig and sky class between two dates, as CSV.',
  access: COORDINATORS,
  isDear: true,
  query: Type.Object(Period),
  response: Type.String(),
});

export const readProjectTime = operation({
  method: 'GET',
  path: '/projects/:id/time',
  summary: 'Where a project’s time went: what counts, what was lost to what, overheads, what was charged.',
  access: EVERYONE,
  params: IdParams,
  response: Type.Object({
    acceptedHours: Type.Number(),
    undecidedHours: Type.Number(),
    rejected: Type.Array(Type.Object({ reason: Type.String(), hours: Type.Number() })),
    effectiveHours: Type.Number(),
    /** From closed nights only. */
    overheadHours: Type.Number(),
    faultHours: Type.Number(),
    chargedHours: Type.Number(),
    closedNights: Type.Integer(),
    openNights: Type.Integer(),
  }),
});

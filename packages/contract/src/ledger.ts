import type { Static } from 'typebox';
import { Type } from 'typebox';
import { FilterClass, Id, NightDateText, Nullable, oneOf, UtcMs } from './common.ts';
import { EVERYONE, MEMBERS, operation } from './operation.ts';

export const VERDICTS = ['accepted', 'rejected', 'undecided'] as const;
export const VERDICT_REASONS = [
  'cloud',
  'low altitude',
  'trail',
  'guiding',
  'focus',
  'halo',
  'moonlight',
  'looked at',
  'other',
  'wind',
  'fault',
] as const;

export const LedgerRow = Type.Object({
  id: Id,
  startUtcMs: UtcMs,
  nightDate: Type.String(),
  projectId: Nullable(Id),
  projectName: Nullable(Type.String()),
  panelName: Nullable(Type.String()),
  /** The joined project that it counts for as well. */
  sharedWithName: Nullable(Type.String()),
  rigName: Type.String(),
  filterLetter: Type.String(),
  filterClass: FilterClass,
  exposureSec: Type.Number(),
  gain: Nullable(Type.Integer()),
  sensorC: Nullable(Type.Number()),
  halfFluxRadiusPx: Nullable(Type.Number()),
  starCount: Nullable(Type.Integer()),
  guidingRmsArcsec: Nullable(Type.Number()),
  backgroundE: Nullable(Type.Number()),
  ratePredicted: Nullable(Type.Number()),
  /** The first exposure after a slew, a flip or a dither: shaky more often than others. */
  afterMove: Type.Boolean(),
  /** Satellites and aircraft that crossed it; null where its pixels were not measured. */
  trailCount: Nullable(Type.Integer()),
  /** The file held fewer data than its header announces. */
  isTruncated: Type.Boolean(),
  /** Taken by the simulated observatory: no real sky fell on it. */
  isSimulated: Type.Boolean(),
  /** Whether its file was kept. */
  hasFrame: Type.Boolean(),
  creditShare: Nullable(Type.Number()),
  verdict: oneOf(VERDICTS),
  verdictReason: Nullable(Type.String()),
  verdictBy: Nullable(Type.String()),
  verdictOrigin: Nullable(Type.String()),
  mayJudge: Type.Boolean(),
});
export type LedgerRow = Static<typeof LedgerRow>;

export const LedgerQuery = Type.Object({
  project: Type.Optional(Id),
  filter: Type.Optional(Id),
  night: Type.Optional(NightDateText),
  verdict: Type.Optional(oneOf(VERDICTS)),
  /** Keyset: rows older than this one. */
  before: Type.Optional(Type.String({ maxLength: 80 })),
  limit: Type.Optional(Type.Integer({ minimum: 1, maximum: 500 })),
});

export const listExposures = operation({
  method: 'GET',
  path: '/exposures',
  summary: 'The ledger, newest first, by project, filter, night and verdict.',
  access: EVERYONE,
  query: LedgerQuery,
  response: Type.Object({
    rows: Type.Array(LedgerRow),
    next: Nullable(Type.String()),
    totals: Type.Object({
      accepted: Type.Integer(),
      undecided: Type.Integer(),
      rejected: Type.Integer(),
      acceptedHours: Type.Number(),
    }),
  }),
});

export const listLedgerNights = operation({
  method: 'GET',
  path: '/exposures/nights',
  summary: 'Nights that hold exposures, newest first.',
  access: EVERYONE,
  response: Type.Object({ nights: Type.Array(Type.Object({ nightDate: Type.String(), count: Type.Integer() })) }),
});

export const judgeExposures = operation({
  method: 'POST',
  path: '/verdicts',
  summary: 'One verdict with its reason for one or many exposures; earlier verdicts stay in the history.',
  access: MEMBERS,
  body: Type.Object({
    exposureIds: Type.Array(Id, { minItems: 1, maxItems: 1000 }),
    verdict: oneOf(VERDICTS),
    reason: oneOf(VERDICT_REASONS),
  }),
  response: Type.Object({ changed: Type.Integer() }),
});

export const undoLast = operation({
  method: 'POST',
  path: '/changes/undo',
  summary: 'Undo one’s own last change, as a change of its own.',
  access: MEMBERS,
  response: Type.Object({ words: Type.String() }),
});

export const listChanges = operation({
  method: 'GET',
  path: '/changes',
  summary: 'Who changed what, newest first.',
  access: EVERYONE,
  query: Type.Object({ project: Type.Optional(Id) }),
  response: Type.Object({
    changes: Type.Array(
      Type.Object({ id: Type.Integer(), at: UtcMs, who: Type.String(), words: Type.String(), undone: Type.Boolean() }),
    ),
  }),
});

import type { Static } from 'typebox';
import { Type } from 'typebox';
import { Id, IdParams, Nullable, Ok, oneOf, UtcMs } from './common.ts';
import { COORDINATORS, EVERYONE, MEMBERS, operation } from './operation.ts';
import { StandingRow } from './shares.ts';

export const REQUEST_STATES = ['open', 'queued', 'granted', 'returned', 'withdrawn'] as const;
/** What a remark is about. */
export const REMARK_FIELDS = ['hours', 'goals', 'framing', 'limits', 'deadline', 'words'] as const;

const Hours = Type.Number({ minimum: 0, maximum: 10_000 });

export const Request = Type.Object({
  id: Id,
  personName: Type.String(),
  /** Charged hours asked for, without the moon and with it. */
  darkHours: Type.Number(),
  brightHours: Type.Number(),
  words: Type.String(),
  state: oneOf(REQUEST_STATES),
  remark: Nullable(Type.String()),
  remarkField: Nullable(oneOf(REMARK_FIELDS)),
  queuePlace: Nullable(Type.Integer()),
  decidedByName: Nullable(Type.String()),
  decidedUtcMs: Nullable(UtcMs),
  createdUtcMs: UtcMs,
});
export type Request = Static<typeof Request>;

/** Hours that a project may be charged: granted, and what of it is used. */
export const Envelope = Type.Object({
  darkHours: Type.Number(),
  brightHours: Type.Number(),
  usedDarkHours: Type.Number(),
  usedBrightHours: Type.Number(),
});
export type Envelope = Static<typeof Envelope>;

const ProjectRequests = Type.Object({
  /** Newest first. */
  requests: Type.Array(Request),
  /** Null where it was granted without a bound, or not at all. */
  envelope: Nullable(Envelope),
  /** Charged hours that the goals as they are would take. */
  neededDarkHours: Type.Number(),
  neededBrightHours: Type.Number(),
  /** What an hour of its owner counts on its rig, and why. */
  standing: Type.Array(StandingRow),
  mayAsk: Type.Boolean(),
  mayDecide: Type.Boolean(),
  /** Why the viewer may not decide what they could otherwise. */
  mayNotDecideWhy: Nullable(Type.String()),
});
export type ProjectRequests = Static<typeof ProjectRequests>;

export const readProjectRequests = operation({
  method: 'GET',
  path: '/projects/:id/requests',
  summary: 'What was asked for a project, how it was decided, and what of its envelope is used.',
  access: EVERYONE,
  params: IdParams,
  response: ProjectRequests,
});

export const askForHours = operation({
  method: 'POST',
  path: '/projects/:id/requests',
  summary: 'Ask for charged hours: for a project not granted yet, or for more than was granted.',
  access: MEMBERS,
  params: IdParams,
  body: Type.Object({ darkHours: Hours, brightHours: Hours, words: Type.String({ maxLength: 1000 }) }),
  response: Type.Object({ id: Id }),
});

export const withdrawRequest = operation({
  method: 'POST',
  path: '/requests/:id/withdraw',
  summary: 'Withdraw one’s own request before it is decided.',
  access: MEMBERS,
  params: IdParams,
  response: Ok,
});

export const grantRequest = operation({
  method: 'POST',
  path: '/requests/:id/grant',
  summary: 'Grant hours; the project is planned from now on as far as they last.',
  access: COORDINATORS,
  params: IdParams,
  body: Type.Object({ darkHours: Hours, brightHours: Hours, remark: Type.String({ maxLength: 1000 }) }),
  response: Ok,
});

export const returnRequest = operation({
  method: 'POST',
  path: '/requests/:id/return',
  summary: 'Give a request back with a remark on what should be changed.',
  access: COORDINATORS,
  params: IdParams,
  body: Type.Object({
    remark: Type.String({ minLength: 1, maxLength: 1000 }),
    remarkField: oneOf(REMARK_FIELDS),
  }),
  response: Ok,
});

export const queueRequest = operation({
  method: 'POST',
  path: '/requests/:id/queue',
  summary: 'Let a request wait, last in the queue, and say why.',
  access: COORDINATORS,
  params: IdParams,
  body: Type.Object({ remark: Type.String({ minLength: 1, maxLength: 1000 }) }),
  response: Ok,
});

export const QueuedRequest = Type.Object({
  id: Id,
  projectId: Nullable(Id),
  projectName: Nullable(Type.String()),
  personName: Nullable(Type.String()),
  state: oneOf(['open', 'queued'] as const),
  queuePlace: Nullable(Type.Integer()),
  remark: Nullable(Type.String()),
  darkHours: Type.Number(),
  brightHours: Type.Number(),
  createdUtcMs: UtcMs,
});
export type QueuedRequest = Static<typeof QueuedRequest>;

export const listRequests = operation({
  method: 'GET',
  path: '/requests',
  summary: 'Requests that wait: undecided ones by age, then the queue by place.',
  access: EVERYONE,
  response: Type.Object({ requests: Type.Array(QueuedRequest) }),
});

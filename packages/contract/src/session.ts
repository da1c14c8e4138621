import type { Static } from 'typebox';
import { Type } from 'typebox';
import { Id, IdParams, Ok, oneOf, UtcMs } from './common.ts';
import { EVERYONE, operation, ROLES } from './operation.ts';

export const Account = Type.Object({
  personId: Id,
  name: Type.String(),
  role: oneOf(ROLES),
  timeZone: Type.String(),
  observatoryName: Type.String(),
});
export type Account = Static<typeof Account>;

export const readSession = operation({
  method: 'GET',
  path: '/session',
  summary: 'Who is signed in, if anyone, and the demo accounts of a demo observatory on loopback.',
  access: 'public',
  response: Type.Object({
    account: Type.Union([Account, Type.Null()]),
    demoAccounts: Type.Array(
      Type.Object({ email: Type.String(), name: Type.String(), role: oneOf(ROLES), password: Type.String() }),
    ),
  }),
});

export const signIn = operation({
  method: 'POST',
  path: '/session',
  summary: 'Sign in with address and password.',
  access: 'public',
  body: Type.Object({
    email: Type.String({ minLength: 3, maxLength: 200 }),
    password: Type.String({ minLength: 1, maxLength: 200 }),
  }),
  response: Account,
});

export const signOut = operation({
  method: 'DELETE',
  path: '/session',
  summary: 'Sign out.',
  access: EVERYONE,
  response: Ok,
});

/** Where one is signed in. */
export const OwnSession = Type.Object({
  id: Id,
  begunUtcMs: UtcMs,
  seenUtcMs: UtcMs,
  /** What the browser says of itself. */
  agent: Type.String(),
  address: Type.String(),
  isCurrent: Type.Boolean(),
});
export type OwnSession = Static<typeof OwnSession>;

export const listOwnSessions = operation({
  method: 'GET',
  path: '/account/sessions',
  summary: 'Where one is signed in, the latest used first.',
  access: EVERYONE,
  response: Type.Object({ sessions: Type.Array(OwnSession) }),
});

export const endOwnSession = operation({
  method: 'DELETE',
  path: '/account/sessions/:id',
  summary: 'Sign out elsewhere: ends one of one’s own sessions and its live stream.',
  access: EVERYONE,
  params: IdParams,
  response: Ok,
});

export const readHealth = operation({
  method: 'GET',
  path: '/health',
  summary: 'Whether the server and its database answer.',
  access: 'public',
  response: Type.Object({
    ok: Type.Boolean(),
    database: Type.Boolean(),
    version: Type.String(),
    /** Which installation this is. */
    instance: Type.String(),
  }),
});

export const followEvents = operation({
  method: 'GET',
  path: '/events',
  media: ['text/event-stream'],
  summary: 'Server-sent events: the topics that changed, so that pages fetch again.',
  access: EVERYONE,
});

export const LIVE_TOPICS = ['observatory', 'projects', 'ledger', 'plan', 'run', 'notices', 'forecast', 'jobs'] as const;
export type LiveTopic = (typeof LIVE_TOPICS)[number];

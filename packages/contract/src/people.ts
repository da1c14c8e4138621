import type { Static } from 'typebox';
import { Type } from 'typebox';
import { Id, IdParams, Nullable, Ok, oneOf, optional, UtcMs, Words } from './common.ts';
import { COORDINATORS, EVERYONE, operation, ROLES } from './operation.ts';
import { Account } from './session.ts';

export const MIN_PASSWORD_LENGTH = 10;
export const Email = Type.String({ format: 'email', maxLength: 200 });
export const Password = Type.String({ minLength: MIN_PASSWORD_LENGTH, maxLength: 200 });
export const Token = Type.Object({ token: Type.String({ pattern: '^[A-Za-z0-9_-]{20,80}$' }) });
const Link = Type.Object({ path: Type.String(), expiresUtcMs: UtcMs });

export const Person = Type.Object({
  id: Id,
  name: Type.String(),
  role: oneOf(ROLES),
  timeZone: Type.String(),
  /** For coordinators and the person alone. */
  email: Nullable(Type.String()),
  fitsObserver: Nullable(Type.String()),
  suspended: Type.Boolean(),
  sinceUtcMs: UtcMs,
  projects: Type.Integer(),
  isYou: Type.Boolean(),
});
export type Person = Static<typeof Person>;

export const Invitation = Type.Object({
  id: Id,
  name: Type.String(),
  email: Type.String(),
  role: oneOf(ROLES),
  expiresUtcMs: UtcMs,
});
export type Invitation = Static<typeof Invitation>;

export const listPeople = operation({
  method: 'GET',
  path: '/people',
  summary: 'Members with their roles; open invitations for coordinators.',
  access: EVERYONE,
  response: Type.Object({ people: Type.Array(Person), invitations: Type.Array(Invitation) }),
});

export const invitePerson = operation({
  method: 'POST',
  path: '/invitations',
  summary: 'Invite by a link that works once, for seven days; handed over by the coordinator.',
  access: COORDINATORS,
  body: Type.Object({
    name: Words(100),
    email: Email,
    role: oneOf(ROLES),
    timeZone: Words(60),
    fitsObserver: Nullable(Words(68)),
  }),
  response: Link,
});

export const withdrawInvitation = operation({
  method: 'DELETE',
  path: '/invitations/:id',
  summary: 'Make an invitation’s link worthless.',
  access: COORDINATORS,
  params: IdParams,
  response: Ok,
});

export const readJoin = operation({
  method: 'GET',
  path: '/join/:token',
  summary: 'For whom a one-time link is.',
  access: 'public',
  params: Token,
  response: Type.Object({
    kind: oneOf(['invite', 'reset'] as const),
    name: Type.String(),
    email: Type.String(),
    observatoryName: Type.String(),
  }),
});

export const acceptJoin = operation({
  method: 'POST',
  path: '/join/:token',
  summary: 'Use a one-time link: choose a password and be signed in.',
  access: 'public',
  params: Token,
  body: Type.Object({ password: Password }),
  response: Account,
});

export const resetPassword = operation({
  method: 'POST',
  path: '/people/:id/reset',
  summary: 'A one-time link with which a member chooses a new password, for a day.',
  access: COORDINATORS,
  params: IdParams,
  response: Link,
});

export const editMembership = operation({
  method: 'PATCH',
  path: '/people/:id',
  summary: 'Change a role, suspend or readmit; their sessions end.',
  access: COORDINATORS,
  params: IdParams,
  body: Type.Object(optional({ role: oneOf(ROLES), suspended: Type.Boolean() })),
  response: Ok,
});

export const endMembership = operation({
  method: 'POST',
  path: '/people/:id/leave',
  summary: 'Leave, or remove a member: projects are handed on or retired, what they gathered stays theirs.',
  access: EVERYONE,
  params: IdParams,
  body: Type.Object({ handOnTo: Nullable(Id) }),
  response: Type.Object({ projects: Type.Integer() }),
});

export const editAccount = operation({
  method: 'PATCH',
  path: '/account',
  summary: 'One’s own name, time zone and observer name.',
  access: EVERYONE,
  body: Type.Object(optional({ name: Words(100), timeZone: Words(60), fitsObserver: Nullable(Words(68)) })),
  response: Ok,
});

export const changePassword = operation({
  method: 'POST',
  path: '/account/password',
  summary: 'A new password for the old one; other sessions end.',
  access: EVERYONE,
  body: Type.Object({ current: Type.String({ minLength: 1, maxLength: 200 }), next: Password }),
  response: Ok,
});

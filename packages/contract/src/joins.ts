import type { Static } from 'typebox';
import { Type } from 'typebox';
import { Id, IdParams, Nullable, Ok, oneOf, UtcMs } from './common.ts';
import { EVERYONE, MEMBERS, operation } from './operation.ts';

/** Another member's project over the same sky. */
export const JoinCandidate = Type.Object({
  projectId: Id,
  /** Null where the project is private. */
  name: Nullable(Type.String()),
  ownerName: Nullable(Type.String()),
  /** How much of a panel's field it holds, and the other way round, whichever is less. */
  coverage: Type.Number(),
  /** Goals that ask for the same exposures; none where they can't be shared. */
  goals: Type.Integer(),
});
export type JoinCandidate = Static<typeof JoinCandidate>;

export const JOIN_STATES = ['open', 'accepted', 'declined', 'withdrawn', 'ended'] as const;

export const ProjectJoin = Type.Object({
  id: Id,
  state: oneOf(JOIN_STATES),
  otherProjectId: Id,
  /** Null where the viewer may not know it. */
  otherName: Nullable(Type.String()),
  otherOwnerName: Nullable(Type.String()),
  /** What of a shared exposure this project is charged. */
  ownShare: Type.Number(),
  /** Whether this project offered it. */
  isOffered: Type.Boolean(),
  sinceUtcMs: Nullable(UtcMs),
  untilUtcMs: Nullable(UtcMs),
  /** Exposures that both have been credited with. */
  exposures: Type.Integer(),
  /** Goals that share what is taken from now on. */
  goals: Type.Integer(),
  /** Nothing is shared before both projects are granted. */
  areBothGranted: Type.Boolean(),
});
export type ProjectJoin = Static<typeof ProjectJoin>;

const ProjectJoins = Type.Object({
  /** Newest first. */
  joins: Type.Array(ProjectJoin),
  candidates: Type.Array(JoinCandidate),
  mayChange: Type.Boolean(),
});
export type ProjectJoins = Static<typeof ProjectJoins>;

export const readProjectJoins = operation({
  method: 'GET',
  path: '/projects/:id/joins',
  summary: 'Other members’ projects over the same sky, and those it shares exposures with.',
  access: EVERYONE,
  params: IdParams,
  response: ProjectJoins,
});

export const offerJoin = operation({
  method: 'POST',
  path: '/projects/:id/joins',
  summary: 'Offer another project to share exposures, charged in stated shares.',
  access: MEMBERS,
  params: IdParams,
  body: Type.Object({
    otherProjectId: Id,
    /** What of a shared exposure the offering project is charged. */
    ownShare: Type.Number({ minimum: 0.05, maximum: 0.95 }),
  }),
  response: Type.Object({ id: Id }),
});

export const answerJoin = operation({
  method: 'POST',
  path: '/joins/:id/answer',
  summary: 'Accept or decline an offer, withdraw one’s own, or end sharing; credit stays.',
  access: MEMBERS,
  params: IdParams,
  body: Type.Object({ answer: oneOf(['accepted', 'declined', 'withdrawn', 'ended'] as const) }),
  response: Ok,
});

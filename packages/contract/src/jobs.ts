import type { Static } from 'typebox';
import { Type } from 'typebox';
import { Id, IdParams, Nullable, Ok, oneOf } from './common.ts';
import { EVERYONE, operation } from './operation.ts';

/** A long computation under way, or what became of it. */
export const JobShown = Type.Object({
  id: Id,
  kind: Type.String(),
  state: oneOf(['waiting', 'running', 'done', 'failed', 'stopped'] as const),
  /** From 0 to 1. */
  progress: Type.Number(),
  failure: Nullable(Type.String()),
});
export type JobShown = Static<typeof JobShown>;

export const stopJob = operation({
  method: 'POST',
  path: '/jobs/:id/stop',
  summary: 'Stop a computation that one has asked for; a coordinator may stop any.',
  access: EVERYONE,
  params: IdParams,
  response: Ok,
});

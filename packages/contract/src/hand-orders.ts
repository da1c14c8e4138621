// What helpers and coordinators say to a night by devices while it goes on, and what the runner hears of it.
import type { Static } from 'typebox';
import { Type } from 'typebox';
import { Id, IdParams, Nullable, Ok, oneOf, UtcMs } from './common.ts';
import { HANDS, operation } from './operation.ts';
import { TestShot } from './test-shots.ts';

/** hold: nothing new is begun; resume: go on; leave: this target is left for tonight; last: stop after the exposure under way. */
export const HAND_ORDERS = ['hold', 'resume', 'leave', 'last'] as const;
export type HandOrder = (typeof HAND_ORDERS)[number];

/** Orders that stand, as the runner hears them. */
export const StandingOrders = Type.Object({
  /** A hold that nobody has lifted. */
  holdId: Nullable(Id),
  /** A target to be left, which no runner has left yet. */
  leaveId: Nullable(Id),
  isLast: Type.Boolean(),
  /** Asked for in the hold that stands, and not taken yet. */
  testShot: Nullable(TestShot),
});
export type StandingOrders = Static<typeof StandingOrders>;

/** An order as people read it. */
export const ShownOrder = Type.Object({
  kind: oneOf(HAND_ORDERS),
  by: Type.String(),
  orderedUtcMs: UtcMs,
});
export type ShownOrder = Static<typeof ShownOrder>;

export const orderRun = operation({
  method: 'POST',
  path: '/runs/:id/orders',
  summary: 'Say to a night by devices that it shall hold, go on, leave its target, or stop after its exposure.',
  access: HANDS,
  params: IdParams,
  body: Type.Object({ kind: oneOf(HAND_ORDERS) }),
  response: Ok,
});

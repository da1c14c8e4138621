// Nights that may end at any time: the chance that plans allow for, and what a plan holds wherever it is cut.
import type { Static } from 'typebox';
import { Type } from 'typebox';
import { Id, NightDateText, Nullable, Ok, UtcMs } from './common.ts';
import { COORDINATORS, EVERYONE, operation } from './operation.ts';

/** Percent that a night under way ends within an hour; 0 where plans count on every night to last. */
const ChancePercent = Type.Integer({ minimum: 0, maximum: 50 });

export const EarlyEnds = Type.Object({
  chancePercent: ChancePercent,
  /** Full hours from the first stay on, and the end of the last. */
  cuts: Type.Array(
    Type.Object({
      utcMs: UtcMs,
      /** Exposures whole by then. */
      exposures: Type.Array(Type.Object({ filterLetter: Type.String(), count: Type.Integer() })),
      /** Of the best that was possible until then, [0, 1]. */
      heldShare: Type.Number(),
    }),
  ),
  /** Against the order that is best in a night that lasts; null where plans allow for no early end. */
  price: Nullable(
    Type.Object({
      /** Less in a night that lasts, [0, 1]. */
      lostShare: Type.Number(),
      /** More expected, ≥ 0. */
      gainShare: Type.Number(),
    }),
  ),
});
export type EarlyEnds = Static<typeof EarlyEnds>;

export const readEarlyEnds = operation({
  method: 'GET',
  path: '/rigs/:id/nights/:nightDate/early-ends',
  summary: 'What the working plan of a rig’s night holds hour by hour, should the night end then.',
  access: EVERYONE,
  isDear: true,
  params: Type.Object({ id: Id, nightDate: NightDateText }),
  response: EarlyEnds,
});

export const editEarlyEnds = operation({
  method: 'PUT',
  path: '/observatory/early-ends',
  summary: 'The chance, in an hour, that a night ends early: plans put first what holds most wherever they are cut.',
  access: COORDINATORS,
  body: Type.Object({ chancePercent: ChancePercent }),
  response: Ok,
});

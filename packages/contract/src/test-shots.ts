// Pointing and test shots by hand, in a night that is held: through the same limits, counted for nobody.
import type { Static } from 'typebox';
import { Type } from 'typebox';
import { Id, IdParams, Nullable, Ok, oneOf, UtcMs } from './common.ts';
import { HANDS, operation } from './operation.ts';

export const LONGEST_TEST_SHOT_SEC = 120;
const MOST_BINNING = 4;
/** Longest side of the picture that is kept of one. */
export const TEST_SHOT_PX = 440;

const Asked = {
  /** null: the telescope is pointed and no picture taken. */
  exposureSec: Nullable(Type.Number({ exclusiveMinimum: 0, maximum: LONGEST_TEST_SHOT_SEC })),
  /** null: whichever filter is in front. */
  filterLetter: Nullable(Type.String({ minLength: 1, maxLength: 20 })),
  /** Pixels read together, each way: a quick look needs few. */
  binning: Type.Integer({ minimum: 1, maximum: MOST_BINNING }),
  /** J2000; null: wherever the telescope points. */
  at: Nullable(
    Type.Object({
      raDeg: Type.Number({ minimum: 0, exclusiveMaximum: 360 }),
      decDeg: Type.Number({ minimum: -90, maximum: 90 }),
    }),
  ),
};

/** As the runner hears of it. */
export const TestShot = Type.Object({ id: Id, ...Asked });
export type TestShot = Static<typeof TestShot>;

const TEST_SHOT_OUTCOMES = ['done', 'refused'] as const;

/** As people read it. */
export const ShownTestShot = Type.Object({
  id: Id,
  ...Asked,
  by: Type.String(),
  orderedUtcMs: UtcMs,
  outcome: Nullable(oneOf(TEST_SHOT_OUTCOMES)),
  /** What its picture shows, or why there is none. */
  words: Nullable(Type.String()),
  hasPicture: Type.Boolean(),
});
export type ShownTestShot = Static<typeof ShownTestShot>;

export const orderTestShot = operation({
  method: 'POST',
  path: '/runs/:id/test-shots',
  summary:
    'Point a held night’s telescope by hand, take a test shot with it, or both: within the rig’s limits, one at a time.',
  access: HANDS,
  params: IdParams,
  body: Type.Object(Asked),
  response: Ok,
});

export const testShotPicture = operation({
  method: 'GET',
  path: '/runs/:id/test-shots/:shotId/picture',
  media: ['image/png'],
  summary: 'A test shot, small and brightened for looking at (PNG).',
  access: HANDS,
  params: Type.Object({ id: Id, shotId: Id }),
  response: Type.Unsafe<Uint8Array>(Type.Any()),
});

export const endTestShot = operation({
  method: 'POST',
  path: '/runner/runs/:id/test-shots',
  summary: 'Say what came of a test shot; saying it again changes nothing.',
  access: 'runner',
  params: IdParams,
  body: Type.Object({
    fence: Type.Integer(),
    shotId: Id,
    outcome: oneOf(TEST_SHOT_OUTCOMES),
    words: Type.String({ maxLength: 300 }),
    /** One byte a pixel, row after row from the top. */
    picture: Nullable(
      Type.Object({
        widthPx: Type.Integer({ minimum: 1, maximum: TEST_SHOT_PX }),
        heightPx: Type.Integer({ minimum: 1, maximum: TEST_SHOT_PX }),
        base64: Type.String({
          minLength: 4,
          maxLength: 4 * Math.ceil(TEST_SHOT_PX ** 2 / 3),
          pattern: '^[A-Za-z0-9+/]+={0,2}$',
        }),
      }),
    ),
  }),
  response: Ok,
});
export type TestShotEnd = Omit<Static<(typeof endTestShot)['body']>, 'fence'>;

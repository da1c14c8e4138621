// Pointing and test shots by hand: asked for while a night is held, taken by its runner, counted for nobody.
import type { BodyOf, endTestShot, orderTestShot, ParamsOf, testShotPicture } from '@meridiem/contract';
import { greyPng } from '../../jobs/grey-png.ts';
import { notFound, refused, ServiceError } from '../../errors.ts';
import { announce } from '../../plugins/live.ts';
import type { Viewer } from '../../plugins/sessions.ts';
import { hearingRun } from './hand-orders.ts';
import { heldRun } from './held-run.ts';
import { isHeld, standingOrders } from './orders-repository.ts';
import type { RunServiceParts } from './service.ts';
import { endOfTestShot, giveUpTestShots, pictureOfTestShot, storeTestShot } from './test-shots-repository.ts';

export const createTestShots = ({ database }: Pick<RunServiceParts, 'database'>) => ({
  async orderTestShot(
    { observatoryId, personId }: Viewer,
    runId: string,
    asked: BodyOf<typeof orderTestShot>,
  ): Promise<{ ok: true }> {
    if (asked.exposureSec === null && asked.at === null)
      throw refused('exposureSec', 'Give a place to point at, an exposure, or both');
    await database.transaction(async (queries) => {
      // One at a time, whoever asks.
      await queries.models.NightRun.findOne({ where: { id: runId, observatoryId }, lock: true });
      const { rigId } = await hearingRun(queries, observatoryId, runId);
      if (!(await isHeld(queries, runId)))
        throw new ServiceError('NOT_POSSIBLE', 'Hold the night first: nothing is pointed by hand while it goes on');
      if ((await standingOrders(queries, runId)).testShot)
        throw new ServiceError('CONFLICT', 'The test shot before this one is not done yet');
      await giveUpTestShots(queries, runId);
      await storeTestShot(queries, { id: runId, observatoryId }, asked, personId);
      await announce(queries, observatoryId, 'run', [rigId]);
    });
    return { ok: true };
  },

  async endTestShot(
    runId: string,
    { fence, shotId, outcome, words, picture }: BodyOf<typeof endTestShot>,
  ): Promise<{ ok: true }> {
    await database.transaction(async (queries) => {
      const { observatoryId, rigId } = await heldRun(queries, runId, fence);
      await endOfTestShot(queries, { runId, id: shotId }, { outcome, words, picture: picture && pngOf(picture) });
      await announce(queries, observatoryId, 'run', [rigId]);
    });
    return { ok: true };
  },

  async testShotPicture(
    { observatoryId }: Viewer,
    { id: runId, shotId: id }: ParamsOf<typeof testShotPicture>,
  ): Promise<Uint8Array> {
    const picture = await pictureOfTestShot(database, { observatoryId, runId, id });
    if (!picture) throw notFound('picture');
    return picture;
  },
});

type SentPicture = NonNullable<BodyOf<typeof endTestShot>['picture']>;

function pngOf({ widthPx, heightPx, base64 }: SentPicture): Buffer {
  const levels = Buffer.from(base64, 'base64');
  if (levels.length !== widthPx * heightPx) throw refused('picture', 'The picture is not as large as it says');
  return greyPng({ widthPx, heightPx, levels });
}

// Frames that come from the site piece by piece: a file gets its name when it is whole and its checksum right.
import { createHash } from 'node:crypto';
import { createReadStream } from 'node:fs';
import { appendFile, mkdir, rename, rm } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import { pipeline } from 'node:stream/promises';
import type { BodyOf, copyFrame, ResponseOf } from '@meridiem/contract';
import type { Database } from '../../database/connection.ts';
import { notFound, ServiceError } from '../../errors.ts';
import { announce } from '../../plugins/live.ts';
import { sizeOf } from './frame-files.ts';
import type { AwaitedFrame } from './repository.ts';
import { frameOfStep, markCopied } from './repository.ts';

type Copied = ResponseOf<typeof copyFrame>;

/** @param onWhole told when an exposure's file is here whole */
export function createFrameCopies(
  database: Database,
  folder: string | null,
  onWhole: (exposureId: string) => Promise<void>,
) {
  // Pieces of one frame come one after the other; a runner that asks twice must not write twice.
  const underWay = new Map<string, Promise<unknown>>();

  async function take(stepId: string, piece: BodyOf<typeof copyFrame>['piece']): Promise<Copied> {
    const frame = await frameOfStep(database, stepId);
    if (!frame) throw notFound('frame of this step');
    if (!folder) return { bytes: 0, isWanted: false };
    const path = join(folder, frame.name);
    if ((await sizeOf(path)) === frame.sizeBytes) return whole(frame);
    const beside = `${path}.copy`;
    const bytes = (await sizeOf(beside)) ?? 0;
    if (!piece || piece.fromByte !== bytes) return { bytes, isWanted: true };
    const next = Buffer.from(piece.base64, 'base64');
    if (bytes + next.length > frame.sizeBytes)
      throw new ServiceError('NOT_POSSIBLE', 'The frame is longer than its report said');
    await mkdir(dirname(path), { recursive: true });
    await appendFile(beside, next);
    if (bytes + next.length < frame.sizeBytes) return { bytes: bytes + next.length, isWanted: true };
    if ((await sha256Of(beside)) !== frame.sha256) {
      await rm(beside, { force: true });
      return { bytes: 0, isWanted: true };
    }
    await rename(beside, path);
    return whole(frame);
  }

  async function whole({ exposureId, observatoryId, sizeBytes, isCopied }: AwaitedFrame): Promise<Copied> {
    if (!isCopied) {
      await markCopied(database, exposureId);
      await announce(database, observatoryId, 'ledger');
      await onWhole(exposureId);
    }
    return { bytes: sizeBytes, isWanted: false };
  }

  return (stepId: string, { piece }: BodyOf<typeof copyFrame>): Promise<Copied> => {
    const after = underWay.get(stepId) ?? Promise.resolve();
    const work = after.then(() => take(stepId, piece));
    const settled = work.catch(() => undefined);
    underWay.set(stepId, settled);
    void settled.then(() => underWay.get(stepId) === settled && underWay.delete(stepId));
    return work;
  };
}

async function sha256Of(path: string): Promise<string> {
  const hash = createHash('sha256');
  await pipeline(createReadStream(path), hash);
  return hash.digest('hex');
}

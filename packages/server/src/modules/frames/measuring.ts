// A file measured once and kept, until it is measured in another way or somebody asks for it again.
import type { ExposurePage, FrameFigures } from '@meridiem/contract';
import { MEASURING_METHOD, shotOffset } from '@meridiem/core';
import type { Database } from '../../database/connection.ts';
import type { FrameWorker } from '../../jobs/frame-worker.ts';
import type { SolvingBy } from '../../jobs/pointing.ts';
import type { Intended, Measured } from './measures-repository.ts';
import { intendedOf, storedMeasure, storeMeasure } from './measures-repository.ts';

export interface MeasuredFile {
  readonly exposureId: string;
  readonly path: string;
}

export interface HowMeasured {
  /** Whether what is kept is measured again. */
  readonly isAgain?: boolean;
  readonly isPageWaiting?: boolean;
}

export type FrameMeasuring = ReturnType<typeof createMeasuring>;

export const createMeasuring = (database: Database, frameWorker: FrameWorker, by: SolvingBy) => ({
  /** @returns null where the file is no picture */
  async measure(
    { exposureId, path }: MeasuredFile,
    { isAgain = false, isPageWaiting = true }: HowMeasured = {},
  ): Promise<Measured | null> {
    const kept = isAgain ? null : await storedMeasure(database, exposureId, MEASURING_METHOD);
    if (kept) return kept;
    const { positionAngleDeg: _, ...hint } = await intendedOf(database, exposureId);
    const figures = await frameWorker
      .measure({ path, ...hint, ...by }, isPageWaiting)
      .catch((): FrameFigures | null => null);
    if (!figures) return null;
    await storeMeasure(database, { exposureId, method: MEASURING_METHOD }, figures);
    return storedMeasure(database, exposureId, MEASURING_METHOD);
  },

  async offIntended(exposureId: string, figures: FrameFigures): Promise<ExposurePage['offIntended']> {
    return offsetFrom(await intendedOf(database, exposureId), figures);
  },
});

function offsetFrom(
  { near, positionAngleDeg }: Intended,
  { pointing, widthPx, heightPx }: FrameFigures,
): ExposurePage['offIntended'] {
  if (!near || positionAngleDeg === null || !pointing) return null;
  const { scaleArcsecPerPx } = pointing;
  const intended = { centre: near, positionAngleDeg, scaleArcsecPerPx, widthPx, heightPx };
  const off = shotOffset(intended, { centre: pointing, positionAngleDeg: pointing.positionAngleDeg });
  return off && { arcmin: off.arcmin, turnedDeg: off.turnedDeg };
}

// Calibration frames that a rig takes by itself after its night: which are missing, and those that were taken.
import type { CalibrationToTake, TakenCalibration } from '@meridiem/contract';
import { exposureKey } from '@meridiem/core';
import { notFound } from '../../errors.ts';
import { announce } from '../../plugins/live.ts';
import { areGuideDarksDue, calibrationToTake } from '../calibration/index.ts';
import { identify, realRigs, recordExposures, recordFrame } from '../ledger/index.ts';
import { heldRun } from './held-run.ts';
import { renewLease, rigRevisionNow } from './repository.ts';
import type { RunServiceParts } from './service.ts';

export const createCalibrationFrames = ({ database }: Pick<RunServiceParts, 'database'>) => ({
  async calibrationToTake(runId: string, { fence }: { readonly fence: number }): Promise<CalibrationToTake> {
    const { observatoryId, rigId, nightDate } = await heldRun(database, runId, fence);
    const sets = await calibrationToTake({ queries: database, observatoryId }, rigId, nightDate);
    const filters = await database.models.Filter.findAll({ where: { observatoryId } });
    const letterOf = (filterId: string | null) => filters.find(({ id }) => id === filterId)?.letter ?? null;
    return {
      sets: sets.map((set) => ({ ...set, filterLetter: letterOf(set.filterId) })),
      areGuideDarksDue: await areGuideDarksDue(database, observatoryId, rigId),
    };
  },

  /** What was really taken counts whoever minds the rig by now; a second report of the same changes nothing. */
  async recordCalibration(runId: string, { frame, ...taken }: TakenCalibration): Promise<{ goOn: boolean }> {
    return database.transaction(async (queries) => {
      const run = await renewLease(queries, runId);
      if (!run) throw notFound('run');
      const { observatoryId, rigId, nightDate } = run;
      const { id, startUtcMs, exposureSec } = taken;
      const goOn = run.state === 'running';
      const headerKey = exposureKey(rigId, taken);
      const like = { frameId: id, rigId, startUtcMs, exposureSec, dataSha256: null, pixelsSha256: null, headerKey };
      const identity = (await identify(queries, observatoryId, [like])).get(id)!;
      if (identity.is === 'known') return { goOn };
      const rigRevisionId = await rigRevisionNow(queries, rigId);
      const isSimulated = !(await realRigs(queries, observatoryId)).has(rigId);
      const exposure = {
        ...taken,
        rigRevisionId,
        nightDate,
        headerKey: identity.headerKey,
        isSimulated,
      };
      await recordExposures(queries, observatoryId, [{ exposure, measurement: null }]);
      await recordFrame(queries, observatoryId, id, frame);
      await announce(queries, observatoryId, 'ledger');
      return { goOn };
    });
  },
});

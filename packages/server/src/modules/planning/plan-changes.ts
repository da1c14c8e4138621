// A rig's night changed by hand, kept for good, published.
import type { BodyOf, changeByHand, publishPlan, ResponseOf } from '@meridiem/contract';
import { clockTimeInNight } from '@meridiem/core';
import { ServiceError } from '../../errors.ts';
import { announce } from '../../plugins/live.ts';
import type { Viewer } from '../../plugins/sessions.ts';
import { nightNamed } from '../nights/index.ts';
import { keepForGood, runsOfPlan, storeHandChanges } from './hand-changes.ts';
import { publishVersion } from './publishing.ts';
import { rigNamed } from './rig-planner.ts';
import type { PlanningUse } from './service.ts';
import { takeBackHandChanges } from './take-back-hand-changes.ts';

export function createPlanChanges({ database, clock, observatory: observatories, changes, planner }: PlanningUse) {
  changes.register('plan_wishes', { by: 'coordinator', takeBack: takeBackHandChanges });
  return {
    async changeByHand(
      viewer: Viewer,
      rigId: string,
      nightDate: string,
      body: BodyOf<typeof changeByHand>,
    ): Promise<{ ok: true }> {
      const observatory = await observatories.read(viewer.observatoryId);
      const night = nightNamed(observatory, nightDate);
      if (night.nightDate < observatory.tonight)
        throw new ServiceError('NOT_POSSIBLE', 'This night is over; its plan stays as it was');
      const { plan, rows } = await planner.survey(observatory, rigNamed(observatory, rigId), night);
      await database.transaction(async (queries) => {
        const rigNight = { observatoryId: viewer.observatoryId, rigId, nightDate: night.nightDate };
        await storeHandChanges(queries, viewer, rigNight, body, { rows, kept: runsOfPlan(plan.blocks), changes });
        await announce(queries, viewer.observatoryId, 'plan', [rigId]);
      });
      return { ok: true };
    },

    async keepHandChange(viewer: Viewer, wishId: string): Promise<{ words: string }> {
      const { timeZone } = await observatories.site(viewer.observatoryId);
      return database.transaction(async (queries) => {
        const { rigId, words } = await keepForGood(queries, viewer, wishId, { timeZone, changes });
        for (const topic of ['projects', 'plan'] as const)
          await announce(queries, viewer.observatoryId, topic, [rigId]);
        return { words };
      });
    },

    async publish(
      viewer: Viewer,
      nightDate: string,
      { rigId, reason }: BodyOf<typeof publishPlan>,
    ): Promise<ResponseOf<typeof publishPlan>> {
      const observatory = await observatories.read(viewer.observatoryId);
      const night = nightNamed(observatory, nightDate);
      const rig = rigNamed(observatory, rigId);
      if (night.nightDate < observatory.tonight)
        throw new ServiceError('NOT_POSSIBLE', 'This night is over; its plan stays as it was');
      const surveyed = await planner.survey(observatory, rig, night);
      if (surveyed.plan.blocks.length === 0)
        throw new ServiceError(
          'NOT_POSSIBLE',
          'There is nothing to publish: no goal can be exposed in what is left of this night',
        );
      const cutOffUtcMs = clockTimeInNight(night, observatory.cutOffClockMin, observatory.timeZone);
      return database.transaction((queries) =>
        publishVersion(queries, viewer, {
          night,
          surveyed,
          reason: reason ?? null,
          isFrozen: clock.nowUtcMs() >= cutOffUtcMs,
          timeZone: observatory.timeZone,
        }),
      );
    },
  };
}

// A night as it is watched: what was done, step by step; panels of private projects without names.
import type { readRunActions, readStepTimes, readWatch, ResponseOf } from '@meridiem/contract';
import { measuredCosts } from '@meridiem/core';
import { notFound } from '../../errors.ts';
import type { Viewer } from '../../plugins/sessions.ts';
import { RESERVED } from '../../privacy.ts';
import { actionsOf, hiddenNames, stepMedians } from './actions-repository.ts';
import { isActive, withSteps } from './current-run.ts';
import { ordersOf } from './orders-repository.ts';
import { testShotsOf } from './test-shots-repository.ts';
import type { RunServiceParts } from './service.ts';
import { newestRun } from './repository.ts';
import { readingsOf, stepsAtHand, watchedRig, watchedSteps } from './watch-repository.ts';

const MOST_ACTIONS = 300;

export const createWatching = ({ database, clock, observatory }: RunServiceParts) => ({
  async watch(viewer: Viewer, nightDate: string, rigId: string | null): Promise<ResponseOf<typeof readWatch>> {
    const [{ timeZone }, rig] = await Promise.all([
      observatory.site(viewer.observatoryId),
      watchedRig(database, viewer.observatoryId, { nightDate, rigId }),
    ]);
    const seen = { timeZone, nowUtcMs: clock.nowUtcMs() };
    if (!rig) return { ...seen, watched: null };
    const newest = await newestRun(database, rig.id, nightDate);
    const [steps, readings] = newest
      ? await Promise.all([watchedSteps(database, viewer, newest.id), readingsOf(database, newest.id)])
      : [[], []];
    const run = newest && withSteps(newest, isActive(newest) ? stepsAtHand(steps) : { now: null, next: null });
    return { ...seen, watched: { rigId: rig.id, rigName: rig.name, devices: rig.devices, run, steps, readings } };
  },

  stepTimes: async ({ observatoryId }: Viewer, rigId: string): Promise<ResponseOf<typeof readStepTimes>> => ({
    measured: measuredCosts(await stepMedians(database, observatoryId, rigId)),
  }),

  async actions(viewer: Viewer, runId: string): Promise<ResponseOf<typeof readRunActions>> {
    const run = await database.models.NightRun.findOne({ where: { id: runId, observatoryId: viewer.observatoryId } });
    if (!run) throw notFound('run');
    const actions = await actionsOf(database, runId, MOST_ACTIONS);
    const hidden = await hiddenNames(database, viewer);
    const shown = (words: string | null): string | null =>
      words && hidden.reduce((text, name) => text.replaceAll(name, RESERVED), words);
    return {
      endedAs: run.endedAs as ResponseOf<typeof readRunActions>['endedAs'],
      orders: await ordersOf(database, runId),
      testShots: await testShotsOf(database, runId),
      actions: actions.map((action) => ({ ...action, words: shown(action.words)!, remark: shown(action.remark) })),
    };
  },
});

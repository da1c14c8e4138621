// Nights asked for by a person: played, rehearsed by day, stopped.
import type { BodyOf, ResponseOf, playNight, rehearseNight } from '@meridiem/contract';
import type { Site } from '@meridiem/core';
import {
  luminaryDirection,
  nightDateAt,
  nightDatePlus,
  observingNight,
  RISE_SET_ALTITUDE_DEG,
  sunPassage,
} from '@meridiem/core';
import type { Queries } from '../../database/connection.ts';
import { refused, ServiceError } from '../../errors.ts';
import { announce } from '../../plugins/live.ts';
import type { Viewer } from '../../plugins/sessions.ts';
import { askToStop, insertRehearsalSteps, insertSteps, isRunUnderWay } from './repository.ts';
import type { RunServiceParts } from './service.ts';

export function createOrdering({ database, clock, observatory }: RunServiceParts) {
  return {
    async play(
      viewer: Viewer,
      nightDate: string,
      { rigId, speed }: BodyOf<typeof playNight>,
    ): Promise<{ runId: string }> {
      return database.transaction(async (queries) => {
        const plan = await playablePlan(queries, viewer, rigId, nightDate);
        await refuseHastyDevices(queries, rigId, speed);
        const { observatoryId, personId: requestedBy } = viewer;
        const run = await queries.models.NightRun.create({ observatoryId, planId: plan.id, rigId, speed, requestedBy });
        const steps = await insertSteps(queries, run.id, plan.id);
        if (steps === 0)
          throw new ServiceError(
            'NOT_POSSIBLE',
            'Everything in this plan has been played; publish a new version to go on',
          );
        await announce(queries, viewer.observatoryId, 'run', [rigId]);
        return { runId: run.id };
      });
    },

    /** Runs the published plan's chain by day: the first exposure of each filter of each stay, short, one after the other from now on. */
    async rehearse(
      viewer: Viewer,
      nightDate: string,
      { rigId, speed }: BodyOf<typeof rehearseNight>,
    ): Promise<ResponseOf<typeof rehearseNight>> {
      const site = await observatory.site(viewer.observatoryId);
      const nowUtcMs = clock.nowUtcMs();
      const expiresUtcMs = sunsetAfter(site, nowUtcMs);
      if (luminaryDirection(site, 'sun', nowUtcMs).altitudeDeg < RISE_SET_ALTITUDE_DEG || expiresUtcMs === null)
        throw new ServiceError('NOT_POSSIBLE', 'A rehearsal is for the day: the sun is down now');
      return database.transaction(async (queries) => {
        const plan = await playablePlan(queries, viewer, rigId, nightDate);
        const { observatoryId, personId: requestedBy } = viewer;
        const run = await queries.models.NightRun.create({
          observatoryId,
          planId: plan.id,
          rigId,
          speed,
          requestedBy,
          kind: 'rehearsal',
          expires: new Date(expiresUtcMs),
        });
        await insertRehearsalSteps(queries, run.id, plan.id, nowUtcMs);
        await announce(queries, viewer.observatoryId, 'run', [rigId]);
        return { runId: run.id, expiresUtcMs };
      });
    },

    async stop(viewer: Viewer, runId: string): Promise<{ ok: true }> {
      await database.transaction(async (queries) => {
        const run = await askToStop(queries, viewer.observatoryId, runId);
        if (!run) throw new ServiceError('NOT_POSSIBLE', 'This night is not playing any more');
        await announce(queries, viewer.observatoryId, 'run', [run.rigId]);
      });
      return { ok: true };
    },
  };
}

/** The simulated observatory's time can be hastened, no other. */
const FASTEST_SIMULATED = 600;

async function refuseHastyDevices({ models }: Queries, rigId: string, speed: number): Promise<void> {
  const rig = await models.Rig.findByPk(rigId);
  if (rig?.devices === 'address' && speed !== 1) throw refused('speed', 'Real devices take their own time: speed 1');
  if (rig?.devices === 'simulated' && speed > FASTEST_SIMULATED)
    throw refused('speed', `The simulated devices go at most ${FASTEST_SIMULATED} times as fast`);
}

/** The published plan of a rig's night, with the rig held so that one run begins at a time. */
async function playablePlan(
  queries: Queries,
  viewer: Viewer,
  rigId: string,
  nightDate: string,
): Promise<{ id: string }> {
  const { observatoryId } = viewer;
  await queries.models.Rig.findByPk(rigId, { lock: true });
  const plan = await queries.models.NightPlan.findOne({
    where: { rigId, nightDate, state: 'published', observatoryId },
  });
  if (!plan)
    throw new ServiceError('NOT_POSSIBLE', 'Publish the plan of this night first; only a published plan is played');
  if (await isRunUnderWay(queries, rigId))
    throw new ServiceError('NOT_POSSIBLE', 'A night is playing on this rig already');
  return plan;
}

/** The next sunset; null where the sun does not set within a day. */
function sunsetAfter(site: Site & { readonly timeZone: string }, utcMs: number): number | null {
  const first = nightDateAt(utcMs, site.timeZone);
  for (const nightDate of [first, nightDatePlus(first, 1)]) {
    const { duskUtcMs } = sunPassage(site, observingNight(nightDate, site.timeZone), RISE_SET_ALTITUDE_DEG);
    if (duskUtcMs !== null && duskUtcMs > utcMs) return duskUtcMs;
  }
  return null;
}

// A night carried out by one runner: every step's intent before its command, its outcome exactly once.
import { randomUUID } from 'node:crypto';
import type {
  beginStep,
  BodyOf,
  claimRun as claimNight,
  ClaimedRun,
  endRun,
  keepRun,
  reportActions,
  ResponseOf,
  StepOutcome,
} from '@meridiem/contract';
import { creditShare, exposureKey, imageScaleArcsec, measuredCosts } from '@meridiem/core';
import type { Queries } from '../../database/connection.ts';
import { ServiceError } from '../../errors.ts';
import { announce } from '../../plugins/live.ts';
import { withPartners } from '../joins/index.ts';
import {
  attribute,
  identify,
  ledgerChanged,
  realRigs,
  recordExposures,
  recordFrame,
  recordMeasurements,
  skiesOf,
} from '../ledger/index.ts';
import { heldRun } from './held-run.ts';
import { markCarriedOut, standingOrders } from './orders-repository.ts';
import type { RunRow } from './repository.ts';
import {
  askToStopRun,
  claimRun,
  endOldRehearsals,
  endRun as closeRun,
  endStep,
  holdRun,
  intendStep,
  leaveOpenSteps,
  opticsOf,
  renewLease,
  SILENT_SEC,
  stepFacts,
} from './repository.ts';
import { loseActions, stepMedians, storeActions } from './actions-repository.ts';
import { callForHands } from './alarms.ts';
import { tellOfFiles } from './files-told.ts';
import { tellOfNight } from './night-messages.ts';
import { deviceRunOf } from './device-run.ts';
import { DEVICE_LEASE_SEC, heldSec } from './lease.ts';
import { claimedSteps } from './run-steps.ts';
import { giveUpTestShots } from './test-shots-repository.ts';
import type { RunServiceParts } from './service.ts';
import { storeReading } from './watch-repository.ts';

export function createCarryingOut({ database, clock, observatory, devices }: RunServiceParts) {
  /** Where somebody changes the rig at the same time, the next night is learned from. */
  const learnFrom = async ({ observatoryId, rigId, kind }: RunRow): Promise<void> => {
    if (kind !== 'night') return;
    const measured = measuredCosts(await stepMedians(database, observatoryId, rigId));
    await observatory.learnTimes(observatoryId, rigId, measured).catch(() => undefined);
  };

  return {
    async claim({ holder, site, playing = [] }: BodyOf<typeof claimNight>): Promise<ClaimedRun | null> {
      await endOldRehearsals(database, clock.nowUtcMs());
      const claimed = await claimRun(database, { holder, site: site ?? null, playing });
      if (!claimed) return null;
      await loseActions(database, claimed.id);
      await announce(database, claimed.observatoryId, 'run', [claimed.rigId]);
      const optics = await opticsOf(database, claimed.rigId);
      const { id, fence, speed, nightDate, rigId, rigName } = claimed;
      const steps = await claimedSteps(database, id);
      // Limits are lifted in a rehearsal: no device moves in it.
      const deviceRun =
        claimed.kind === 'night' ? await deviceRunOf({ database, observatory, devices }, claimed) : null;
      if (deviceRun) {
        const atSiteSec = site ? heldSec(deviceRun, steps, clock.nowUtcMs()) : 0;
        await holdRun(database, id, { leaseSec: DEVICE_LEASE_SEC, heldSec: atSiteSec });
      }
      return {
        id,
        fence,
        speed,
        leaseSec: deviceRun ? (site ? null : DEVICE_LEASE_SEC) : SILENT_SEC,
        nightDate,
        rehearsal: claimed.kind === 'rehearsal',
        rig: { id: rigId, name: rigName, imageScaleArcsec: imageScaleArcsec({ ...optics!, binning: 1 }) },
        deviceRun,
        steps,
      };
    },

    async begin(runId: string, { fence, stepId }: BodyOf<typeof beginStep>): Promise<{ goOn: boolean }> {
      return database.transaction(async (queries) => {
        const run = await heldRun(queries, runId, fence);
        if (run.expiresUtcMs !== null && clock.nowUtcMs() >= run.expiresUtcMs) {
          await askToStopRun(queries, runId);
          return { goOn: false };
        }
        if (run.state !== 'running') return { goOn: false };
        await intendStep(queries, runId, stepId);
        await announce(queries, run.observatoryId, 'run', [run.rigId]);
        return { goOn: true };
      });
    },

    /** What was really taken counts whoever holds the lease by now; anything else is for the holder to say. */
    async finish(runId: string, outcome: StepOutcome): Promise<{ goOn: boolean }> {
      return database.transaction(async (queries) => {
        const held = await heldRun(queries, runId, outcome.fence).catch((error: unknown) => {
          if (outcome.outcome === 'done' && error instanceof ServiceError && error.code === 'LEASE_LOST') return null;
          throw error;
        });
        const run = held ?? (await renewLease(queries, runId))!;
        const fresh = await endStep(queries, runId, outcome);
        // What a rehearsal takes counts for nothing and stays out of the ledger.
        const counts = run.kind === 'night';
        if (fresh && outcome.exposure && counts) await storeExposure(queries, run, outcome.stepId, outcome.exposure);
        await announce(queries, run.observatoryId, 'run', [run.rigId]);
        return { goOn: held?.state === 'running' };
      });
    },

    async keep(
      runId: string,
      { fence, carriedOut = [], reading }: BodyOf<typeof keepRun>,
    ): Promise<ResponseOf<typeof keepRun>> {
      const run = await heldRun(database, runId, fence);
      if (carriedOut.length > 0) await markCarriedOut(database, runId, carriedOut);
      if (reading) await storeReading(database, run, reading);
      return { goOn: run.state === 'running', orders: await standingOrders(database, runId) };
    },

    /** Steps by devices, before their command and after; renews the lease. */
    async act(runId: string, { fence, actions }: BodyOf<typeof reportActions>): Promise<{ goOn: boolean }> {
      return database.transaction(async (queries) => {
        const run = await heldRun(queries, runId, fence);
        const fresh = await storeActions(queries, run, actions);
        for (const { kind, words } of fresh) if (kind === 'call') await callForHands(queries, run, words);
        await announce(queries, run.observatoryId, 'run', [run.rigId]);
        return { goOn: run.state === 'running' };
      });
    },

    async end(runId: string, { fence, end }: BodyOf<typeof endRun>): Promise<{ state: string }> {
      const ended = await database.transaction(async (queries) => {
        const run = await heldRun(queries, runId, fence);
        const state = run.state === 'stopping' || end === 'stopped' ? 'stopped' : 'finished';
        if (end && state === 'finished') await leaveOpenSteps(queries, runId);
        await giveUpTestShots(queries, runId);
        await closeRun(queries, runId, { state, endedAs: end ?? null });
        if (run.kind === 'night') await tellOfNight(queries, run, end ?? null);
        await tellOfFiles(queries, runId);
        for (const topic of ['run', 'plan', 'projects'] as const)
          await announce(queries, run.observatoryId, topic, [run.rigId]);
        return { run, state };
      });
      await learnFrom(ended.run);
      return { state: ended.state };
    },
  };
}

/** Whether a rig's exposures are made up, and whether they count: made-up ones never do beside real devices. */
async function realityOf(
  queries: Queries,
  observatoryId: string,
  rigId: string,
): Promise<{ isSimulated: boolean; counts: boolean }> {
  const real = await realRigs(queries, observatoryId);
  const isSimulated = !real.has(rigId);
  return { isSimulated, counts: !isSimulated || real.size === 0 };
}

/** The exposure of a step with its measurements and its one attribution, unless the ledger has it already: of files
 * imported while the night ran. */
async function storeExposure(
  queries: Queries,
  { observatoryId, rigId, nightDate }: RunRow,
  stepId: string,
  taken: NonNullable<StepOutcome['exposure']>,
): Promise<void> {
  const facts = (await stepFacts(queries, rigId, stepId))!;
  const { startUtcMs, exposureSec, gain, sensorC } = taken;
  const headerKey = exposureKey(rigId, taken);
  const frame = { frameId: stepId, rigId, startUtcMs, exposureSec, dataSha256: null, pixelsSha256: null, headerKey };
  const identity = (await identify(queries, observatoryId, [frame])).get(stepId)!;
  if (identity.is === 'known') return;
  const { rigRevisionId, filterId, offset, binning, region, projectId, panelId, goalId, goalExposureSec } = facts;
  const { isSimulated, counts } = await realityOf(queries, observatoryId, rigId);
  const id = randomUUID();
  const settings = { gain, sensorC, offset, binning, region };
  const exposure = {
    id,
    rigRevisionId,
    nightDate,
    kind: 'light',
    startUtcMs,
    exposureSec,
    filterId,
    ...settings,
  } as const;
  await recordExposures(queries, observatoryId, [
    {
      exposure: {
        ...exposure,
        mechanicalAngleDeg: taken.mechanicalAngleDeg,
        runStepId: stepId,
        headerKey: identity.headerKey,
        isSimulated,
      },
      measurement: null,
    },
  ]);
  if (taken.frame) await recordFrame(queries, observatoryId, id, taken.frame);
  const credit = creditShare(exposureSec, goalExposureSec);
  if (counts)
    await attribute(
      queries,
      observatoryId,
      await withPartners(queries, [
        { exposureId: id, startUtcMs, projectId, panelId, goalId, creditShare: credit, reason: 'taken for this goal' },
      ]),
    );
  const sky = (await skiesOf(queries, [id])).get(id);
  const { rateShare: ratePredicted, ...air } = sky ?? { rateShare: facts.rateShare };
  await recordMeasurements(queries, [
    { ...taken, ...air, ratePredicted, exposureId: id, method: 'runner', measuredUtcMs: Date.now() },
  ]);
  await ledgerChanged(queries, observatoryId, [goalId]);
}
